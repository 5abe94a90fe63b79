<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import type { NextStep } from '@ridgeway/core/next'
import { formatCredits, formatGpa, sayStep } from '@ridgeway/words'
import { askSignOff, confirmProgram } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { instant, today } = useNow()
const problem = ref<Problem | null>(null)
const busy = ref('')

const major = computed(() => student.standing?.reports[0])
const opensIn = computed(() => student.state?.opening ? timeLeft(instant.value, student.state.opening.from) : '')
const dates = computed(() => {
  const term = workingTerm.term
  if (!term) return []
  const opening = student.state?.opening
  return [
    ...(opening
      ? [{ date: student.localDate(opening.from),
          words: `${term.name} opens for you, ${toLocal(opening.from, session.zone).toFormat('HH:mm')}` }]
      : []),
    { date: term.feesDue, words: 'Fees due' },
    { date: term.start, words: 'Classes begin' },
    { date: term.addBy, words: 'Last day to add' },
    { date: term.dropBy, words: 'Last day to drop without a record' },
    { date: term.withdrawBy, words: 'Last day to withdraw' },
    { date: term.end, words: 'Classes end' },
  ].filter(day => day.date >= today.value).sort((a, b) => a.date.localeCompare(b.date))
})
/** The chart is drawn when everything that can be acted on stands, and who goes on at once is not held up by it. */
const CHART_AFTER_MS = 700
const isIdle = ref(false)
let waiting: ReturnType<typeof setTimeout> | undefined
onMounted(() => waiting = setTimeout(() => requestIdleCallback(() => isIdle.value = true, { timeout: 2000 }), CHART_AFTER_MS))
onBeforeUnmount(() => clearTimeout(waiting))
const loads = computed(() =>
  student.standing?.loads.filter(load => load.credits > 0).map((load) => {
    const term = catalog.term(load.term)!
    const phase = termPhase(term, today.value)
    return { ...load, term, kind: phase === 'past' ? 'taken' as const : phase === 'under way' ? 'under way' as const : 'planned' as const }
  }) ?? [],
)
const inTheWay = computed(() => student.steps.filter(step => step.blocking).length)
const finish = computed(() => student.standing?.finish ? catalog.term(student.standing.finish)?.name : null)
const LABELS = { 'confirm program': 'Confirm', 'ask sign-off': 'Ask for sign-off', 'accept terms': 'Read and accept' }

async function act(step: NextStep) {
  if (!step.act) return
  if (step.act === 'accept terms') return navigateTo(`/student/${student.state!.id}/register`)
  busy.value = step.id
  problem.value = step.act === 'confirm program'
    ? await student.act(confirmProgram, {})
    : await student.act(askSignOff, { term: workingTerm.code })
  busy.value = ''
}
const linkOf = (step: NextStep) =>
  step.place === 'now' ? null : { path: `/student/${student.state!.id}/${step.place}`, query: step.about ? { about: step.about } : {} }
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Next on your path</h1>
      <span class="second"
        >{{ workingTerm.term?.name
        }}{{ inTheWay ? ` · ${count(inTheWay, 'thing stands', 'things stand')} in the way` : '' }}</span
      >
    </div>
    <FailedBox v-if="problem" :problem="problem" />
    <div class="columns">
      <section aria-label="To do">
        <ol v-if="student.steps.length" class="card steps">
          <li v-for="(step, index) in student.steps" :key="step.id" :class="{ blocked: step.blocking }">
            <span class="order">{{ index + 1 }}</span>
            <div>
              <p class="strong">{{ sayStep(step).title }}</p>
              <p class="second">{{ sayStep(step).words }}</p>
            </div>
            <ActButton
              v-if="step.act && student.isOwn"

              :class="{ full: step.blocking }"
              :busy="busy === step.id"
              @click="act(step)"
            >
              {{ LABELS[step.act] }}
            </ActButton>
            <WordLink v-else-if="linkOf(step)" :to="linkOf(step)!">{{
              { now: '', requirements: 'See what fills it', plan: 'Open the plan', week: 'Choose a section', register: 'Open Register' }[
                step.place
              ]
            }}</WordLink>
          </li>
        </ol>
        <EmptyState v-else>Nothing to do for {{ workingTerm.term?.name }}. Everything is in place.</EmptyState>
        <section class="card chart-card" aria-label="Credits by term">
          <h2>
            Credits by term
            <span class="second small">{{
              finish ? `finish ${finish}` : student.standing ? `${formatCredits(student.standing.unplaced)} cr to place` : ''
            }}</span>
          </h2>
          <!-- Its place is kept while the drawing code comes, which what is to be done does not wait for. -->
          <div v-if="loads.length" class="chart-place"><LazyCreditChart v-if="isIdle" :loads="loads" /></div>
          <p v-else class="second">The chart begins with the first course.</p>
        </section>
      </section>
      <aside>
        <GateList :gates="student.gates" :opens-in="opensIn" />
        <section class="card side">
          <h2>Standing</h2>
          <dl>
            <dt>Program</dt>
            <dd>{{ major?.title }} · {{ major?.catalogYear }}</dd>
            <dt>Credits earned</dt>
            <dd>{{ formatCredits(student.standing!.earned) }}</dd>
            <dt>GPA</dt>
            <dd :class="{ blocking: student.standing!.gpa.value !== null && student.standing!.gpa.value < 200 }">
              {{ formatGpa(student.standing!.gpa.value) }}
            </dd>
            <dt>Requirements met</dt>
            <dd>{{ formatCredits(major?.met ?? 0) }} of {{ formatCredits(major?.totalCredits ?? 0) }} cr</dd>
            <dt>Finish</dt>
            <dd>{{ finish ?? 'not yet covered' }}</dd>
          </dl>
        </section>
        <section class="card side">
          <h2>Key dates</h2>
          <ul>
            <li v-for="day in dates" :key="day.words">
              <span class="date">{{ longDate(day.date) }}</span
              ><span>{{ day.words }}</span>
            </li>
          </ul>
        </section>
        <section v-if="student.state?.advisor" class="card side">
          <h2>Your advisor</h2>
          <p>
            {{ student.state.advisor.name }}<br /><a :href="`mailto:${student.state.advisor.email}`">{{ student.state.advisor.email }}</a>
          </p>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 16px; }
.steps { list-style: none; padding: 0; margin: 0; }
.steps li {
  display: grid; grid-template-columns: 26px 1fr auto; gap: 10px; align-items: center; padding: 9px 14px;
  border-top: 1px solid var(--line-soft); border-left: 4px solid transparent;
}
.steps li:first-child { border-top: 0; }
.steps li.blocked { border-left-color: var(--block); }
.steps p { margin: 0; }
.order { color: var(--second); font-weight: 700; text-align: right; }
aside { display: grid; gap: 12px; align-content: start; }
.side { padding: 12px 16px; }
.side h2, .chart-card h2 { margin-bottom: 6px; }
dl { display: grid; grid-template-columns: auto 1fr; gap: 3px 12px; margin: 0; }
dt { color: var(--second); }
dd { margin: 0; text-align: right; font-weight: 650; }
ul { list-style: none; padding: 0; margin: 0; }
.date { color: var(--second); }
.side li { display: grid; grid-template-columns: 92px 1fr; }
.side p { margin: 0; }
/* As high as the chart, its key and the way to its table. */
.chart-place { min-height: 190px; }
.chart-card { padding: 12px 16px; margin-top: 12px; }
@media (max-width: 800px) {
  .columns { grid-template-columns: minmax(0, 1fr); }
  .steps li { grid-template-columns: 18px 1fr; }
  .steps li > :last-child { grid-column: 2; justify-self: start; }
}
</style>
