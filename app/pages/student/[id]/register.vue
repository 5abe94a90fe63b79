<script setup lang="ts">
import { acceptTerms } from '#shared/contract/acts/student'
import type { Finding, RefusalCode, RowDecision } from '@ridgeway/core/registration'
import { describeTimes, formatCredits, sayFinding, sayGate } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { instant } = useNow()
const { hueOf } = useItems()
const problem = ref<Problem | null>(null)
watch([() => student.state?.id, () => workingTerm.code], () => {
  week.open('sheet', 'week')
  void week.loadSheet()
  void week.ensure()
}, { immediate: true })

const opensIn = computed(() => student.state?.opening ? timeLeft(instant.value, student.state.opening.from) : '')
const isOpen = computed(() => student.state?.opening !== null && opensIn.value === '')
// The moment the opening passes, the sheet is read again: what was refused for the hour alone is not any more.
watch(isOpen, (open, before) => {
  if (!open || before !== false) return
  said.value = `${workingTerm.term?.name} is open for you now.`
  void Promise.all([student.reload(), week.loadSheet()])
})
/** What happens by itself, for who cannot see it happen. */
const said = ref('')
watch(() => week.result, (result) => {
  const done = result?.rows.filter(row => row.outcome === 'register').length
  if (result) said.value = `${count(done!, 'course')} of ${result.rows.length} registered.`
})

const hueOfCourse = (code: string) =>
  hueOf(student.standing?.items.find(item => item.course === code && item.term === workingTerm.code) ?? { id: '' })
const bundleOf = (code: string) => week.courses?.find(c => c.course === code)?.bundles.find(b => b.picked || b.registered)
const rows = computed(() => week.sheet?.rows ?? [])
const refusals = (row: RowDecision) => row.findings.filter(finding => !finding.ok && finding.code !== 'gate')
const gatesClosed = computed(() => student.gates.filter(gate => !gate.open))
/** A term that has closed opens no more; every other gate still can. */
const tooLate = computed(() => gatesClosed.value.find(gate => gate.kind === 'closing'))
const willRegister = computed(() => tooLate.value ? [] : rows.value.filter(row => refusals(row).length === 0))
const outcome = (row: RowDecision) => tooLate.value ? 'too late' : refusals(row).length === 0 ? 'will register' : 'refused'
const mayPress = computed(() => student.isOwn && gatesClosed.value.length === 0 && willRegister.value.length > 0 && !week.running)
const registered = computed(() => {
  const mine = student.state?.registered.filter(row => row.term === workingTerm.code) ?? []
  return [...new Set(mine.map(row => row.course))].map(course => ({ course,
    labels: mine.filter(row => row.course === course).map(row => row.label),
    credits: mine.filter(row => row.course === course).reduce((s, row) => s + row.credits, 0),
    at: mine.find(row => row.course === course)!.at }),
  )
})
const cost = computed(() => {
  const list = [...registered.value.map(row => ({ course: row.course, credits: row.credits })),
    ...willRegister.value.map(row => ({ course: row.course, credits: row.credits }))]
  const credits = list.reduce((sum, row) => sum + row.credits, 0)
  const extra = list.reduce((sum, row) => sum + (catalog.courses.get(row.course)?.fee ?? 0), 0)
  return { credits, extra, tuition: credits * catalog.creditPrice / 100 }
})
const IN_PLAN: readonly RefusalCode[] = ['prerequisite', 'corequisite', 'already-passed', 'taken-elsewhere', 'exclusion', 'load-cap']
/** Where a refusal is mended; a partner's where the partner's is. */
const linkFor = (finding: Finding): 'plan' | 'week' =>
  finding.code === 'partner-refused' && finding.because[0]
    ? linkFor(finding.because[0])
    : IN_PLAN.includes(finding.code)
      ? 'plan'
      : 'week'

const press = () => week.register(rows.value.map(row => row.rowId))
const takeOut = async (course: string) => {
  problem.value = await week.choose(course, [])
}
const accept = async () => {
  problem.value = await student.act(acceptTerms, { term: workingTerm.code })
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Line-up for {{ workingTerm.term?.name }}</h1>
      <span v-if="week.sheet" class="second"
        >{{ formatCredits(rows.reduce((s, r) => s + r.credits, 0)) }} cr · dry run
        {{ toLocal(week.sheet.at, session.zone).toFormat('H:mm') }}</span
      >
      <WordLink class="small" @click="week.loadSheet()">Run it again</WordLink>
    </div>
    <div class="visually-hidden" role="status">{{ said }}</div>
    <FailedBox
      v-if="problem || week.failed"
      :problem="(problem ?? week.failed)!"
      retry
      @retry="
        problem = null;
        week.retry()
      "
    />
    <div class="columns">
      <div>
        <ResultSheet v-if="week.result" :result="week.result" />
        <ol v-if="rows.length" class="card sheet" aria-label="Run sheet">
          <li v-for="(row, index) in rows" :key="row.rowId">
            <span class="second number">{{ index + 1 }}</span>
            <CourseBlock
              class="block"
              :code="`${row.course}-${bundleOf(row.course)?.sections[0]?.label ?? ''}`"
              :title="bundleOf(row.course) ? describeTimes(bundleOf(row.course)!.sections) : ''"
              state="picked"
              :hue="hueOfCourse(row.course)"
              :corner="formatCredits(row.credits || catalog.courses.get(row.course)?.credits || 0)"
            />
            <div class="checks">
              <template v-for="(finding, i) in refusals(row)" :key="i">
                <p>
                  <b>{{ sayFinding(finding).words }}</b>
                </p>
                <p>
                  <WordLink class="small" :to="`/student/${student.state!.id}/${linkFor(finding)}`">{{
                    sayFinding(finding).way
                  }}</WordLink>
                </p>
              </template>
              <p v-if="refusals(row).length === 0">
                {{
                  row.findings
                    .filter(f => f.ok && f.code !== 'load-cap')
                    .map(f => sayFinding(f).words)
                    .join(' ')
                }}
              </p>
            </div>
            <div class="outcome">
              <b :class="{ blocking: outcome(row) !== 'will register' }">{{ outcome(row) }}</b>
              <WordLink
                v-if="student.isOwn"
                class="small"
                :aria-label="`Take ${row.course} out of the line-up`"
                @click="takeOut(row.course)"
              >
                take out
              </WordLink>
            </div>
          </li>
        </ol>
        <EmptyState v-else-if="week.sheet">
          The line-up is empty. <NuxtLink :to="`/student/${student.state!.id}/week`">Choose sections in Week</NuxtLink>, then register them
          here.
        </EmptyState>
        <GreyShapes v-else label="Loading the line-up" :rows="3" :height="58" />

        <div class="press">
          <ActButton weight="full" class="big" :disabled="!mayPress" @click="press">
            {{ week.running ? 'Registering…' : `Register ${count(willRegister.length, 'course')}` }}
          </ActButton>
          <span v-if="opensIn" class="opens" role="timer"
            >Opens in <b>{{ opensIn }}</b> <template v-if="gatesClosed.length > 1">
              · also closed:
              {{
                gatesClosed
                  .filter(gate => gate.kind !== 'opening')
                  .map(gate => sayGate(gate).title.toLowerCase())
                  .join(', ')
              }}</template
            ><template v-else-if="willRegister.length">
              · one press at {{ toLocal(student.state!.opening!.from, session.zone).toFormat('HH:mm') }} is enough</template
            ></span
          >
          <span v-else-if="tooLate">{{ sayGate(tooLate).way }}</span>
          <span v-else-if="gatesClosed.length"
            >Closed: {{ gatesClosed.map(gate => sayGate(gate).title.toLowerCase()).join(', ') }}. {{ sayGate(gatesClosed[0]!).way }}</span
          >
          <span v-else-if="rows.length && willRegister.length === 0">Nothing in the line-up would be registered; each row says why.</span>
          <span v-else-if="rows.length > willRegister.length" class="second"
            >{{ count(rows.length - willRegister.length, 'row') }} would be refused and stay here.</span
          >
        </div>
        <section v-if="!student.state!.termsAcceptedAt && student.isOwn" class="card terms">
          <h2>Terms of registration</h2>
          <p>{{ catalog.termsText }}</p>
          <ActButton @click="accept">Accept for {{ workingTerm.term?.name }}</ActButton>
        </section>
        <h2 class="so-far">This term so far</h2>
        <p v-if="registered.length + student.state!.waitlisted.length === 0" class="second">Nothing is registered yet.</p>
        <div class="blocks">
          <CourseBlock
            v-for="row in registered"
            :key="row.course"
            class="block"
            :code="`${row.course}-${row.labels.join(' + ')}`"
            :title="`registered ${toLocal(row.at, session.zone).toFormat('d LLL, HH:mm')}`"
            state="registered"
            :hue="hueOfCourse(row.course)"
            :corner="`${formatCredits(row.credits)} cr`"
          />
          <CourseBlock
            v-for="wait in student.state!.waitlisted"
            :key="wait.section"
            class="block"
            :code="`${wait.course}-${wait.label}`"
            :title="
              wait.offerUntil && wait.offerUntil > instant
                ? `seat offer, ${timeLeft(instant, wait.offerUntil)} left`
                : `waitlist, place ${wait.place}`
            "
            state="waitlist"
            :hue="hueOfCourse(wait.course)"
          />
        </div>
      </div>
      <aside>
        <GateList :gates="student.gates" :opens-in="opensIn" />
        <section class="card cost">
          <h2>Cost {{ willRegister.length ? 'with this line-up' : 'of this term' }}</h2>
          <dl>
            <dt>{{ formatCredits(cost.credits) }} cr × {{ money(catalog.creditPrice) }}</dt>
            <dd>{{ money(cost.tuition) }}</dd>
            <dt>Course fees</dt>
            <dd>{{ money(cost.extra) }}</dd>
          </dl>
          <dl class="total">
            <dt>Due by {{ workingTerm.term && longDate(workingTerm.term.feesDue) }}</dt>
            <dd>{{ money(cost.tuition + cost.extra) }}</dd>
          </dl>
          <p class="second small">Unpaid after that date, the registration is voided.</p>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 16px; }
.sheet { list-style: none; padding: 0; margin: 0; }
.sheet li {
  display: grid; grid-template-columns: 22px 230px 1fr 92px; gap: 12px; padding: 9px 14px;
  border-top: 1px solid var(--line-soft); align-items: start;
}
.sheet li:first-child { border-top: 0; }
.checks p { margin: 0 0 2px; }
.outcome { display: grid; gap: 2px; justify-items: start; }
.press { display: flex; align-items: center; gap: 16px; margin: 14px 0; flex-wrap: wrap; }
.big { padding: 10px 22px; font-size: 16px; min-height: 44px; }
.opens b { font-size: 18px; }
.so-far { margin: 14px 0 6px; }
.blocks { display: flex; flex-wrap: wrap; gap: 10px; }
.block { width: 230px; }
.block :deep(.title) { white-space: normal; }
aside { display: grid; gap: 12px; align-content: start; }
.cost, .terms { padding: 12px 16px; }
dl { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 6px 0; }
dd { margin: 0; text-align: right; }
.total { border-top: 1px solid var(--line); padding-top: 6px; font-weight: 700; }
p { margin: 2px 0; }
@media (max-width: 800px) {
  .columns { grid-template-columns: minmax(0, 1fr); }
  .sheet li { grid-template-columns: 16px 1fr; }
  .checks, .outcome { grid-column: 2; }
  .block { width: 100%; }
  .big { width: 100%; }
  /* In a corridor at 7:59 the button is always in reach. */
  .press {
    position: sticky; bottom: 0; background: var(--paper); border-top: 1px solid var(--line); padding: 8px 0;
    gap: 4px 12px; z-index: 4;
  }
}
</style>
