<script setup lang="ts">
import { isOutOfReach } from '@ridgeway/core/requirements'
import { formatCredits, ruleTitle, sayLost, sayOutOfReach } from '@ridgeway/words'

const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const route = useRoute()
const { hueOf, doneOf } = useItems()
type View = 'area' | 'term' | 'pictures'
const VIEWS: [View, string][] = [['area', 'by area'], ['term', 'by suggested term'], ['pictures', 'as pictures']]
const view = ref<View>('area')
const selected = ref<{ program: string, line: string, item: string | null } | null>(null)
const pointed = ref<string | null>(null)
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.requirement .head, .requirement .block')

/** The pointer and the keyboard point at courses alike; letting go of one never hides what the other points at. */
function point(itemId: string, on: boolean) {
  if (on) pointed.value = itemId
  else if (pointed.value === itemId) pointed.value = null
}

const reports = computed(() => requirements.reports)
const major = computed(() => reports.value[0])
const selectedLine = computed(() => {
  const line = selected.value && requirements.lineOf(selected.value.program, selected.value.line)
  return line && selected.value ? { program: selected.value.program, item: selected.value.item, line } : null
})
function select(program: string, line: string, item: string | null) {
  const same = selected.value?.line === line && selected.value.program === program && selected.value.item === item
  selected.value = same ? null : { program, line, item }
}
/** From the note at the top to the line itself. */
function show(program: string, line: string) {
  view.value = 'area'
  selected.value = { program, line, item: null }
  void nextTick(() => document.querySelector(`[data-line="${line}"]`)?.scrollIntoView({ block: 'center' }))
}
onMounted(() => {
  const about = String(route.query.about ?? '')
  for (const report of reports.value) {
    const line = requirements.allLines(report).find(l => l.id === about || (about === 'open' && l.state === 'open' && !l.setAside))
    if (line) {
      selected.value = { program: report.code, line: line.id, item: null }
      break
    }
  }
})
const suggested = computed(() => {
  const program = student.state && catalog.programs.get(student.state.programIds[0] ?? '')
  return program?.suggested.map(step => ({ name: step.name,
    courses: step.courses.map(code => ({ code, item: student.standing?.items.find(item =>
      item.course === code && major.value?.couldCount[item.id],
    ) })) }),
  ) ?? []
})
const totals = computed(() =>
  major.value && [
    { value: major.value.met, word: 'met' },
    { value: major.value.underWay, word: 'under way' },
    { value: major.value.covered, word: 'covered' },
    { value: major.value.open, word: 'open' },
  ],
)
const unusedBelow = computed(() => student.standing?.items.filter(item => student.standing!.offPath.includes(item.id)) ?? [])
/** Named once at the top: nothing else on the page matters as much. */
const lost = computed(() =>
  reports.value.flatMap(report => [
    ...Object.entries(requirements.unreachable[report.code] ?? {}).map(([line, lost]) => ({ program: report.code, line,
      title: requirements.lineOf(report.code, line)?.title ?? line, words: sayLost(lost) }),
    ),
    ...report.rules.filter(isOutOfReach).map(rule => ({ program: report.code, line: '', title: ruleTitle(rule),
      words: sayOutOfReach(rule) }),
    ),
  ]),
)
const change = computed(() => student.state?.programChange)
</script>

<template>
  <div ref="field" class="page">
    <div class="page-head">
      <h1>{{ major?.title }} · catalog {{ major?.catalogYear }}</h1>
      <ViewChoice v-model="view" label="Read the requirements" :choices="VIEWS" />
      <span class="spacer" />
      <span v-if="totals"
        ><template v-for="(part, i) in totals" :key="part.word"
          >{{ i ? ' · ' : '' }}<b>{{ formatCredits(part.value) }}</b> {{ part.word }}</template
        > <span class="second">of {{ formatCredits(major!.totalCredits) }} cr</span></span
      >
      <ActButton :to="`/student/${student.state!.id}/programs`">Try another program</ActButton>
      <WordLink :to="`/student/${student.state!.id}/standing`">Print</WordLink>
    </div>
    <p v-if="change?.state === 'asked'" class="small">
      A change to {{ change.programs.map(requirements.title).join(' with ') }} was asked for on
      {{ longDate(student.localDate(change.askedAt)) }} and waits for the advisor.
    </p>
    <p v-else-if="change?.state === 'declined'" class="small">
      The change to {{ change.programs.map(requirements.title).join(' with ') }} was declined: {{ change.words }}
    </p>
    <div v-if="lost.length" class="card lost" role="alert">
      <p v-for="one in lost" :key="one.program + one.line + one.title">
        <b>{{ one.title }} cannot be reached any more.</b> {{ one.words }}
        <WordLink v-if="one.line" @click="show(one.program, one.line)">Show it</WordLink>
      </p>
    </div>

    <template v-if="view === 'area'">
      <ProgramTree
        v-for="(report, i) in reports"
        :key="report.code"
        :report="report"
        :looking="requirements.looking[i]!"
        :main="report === major"
        :pointed="pointed"
        :selected="selected?.program === report.code ? selected.line : null"
        @select="(line, item) => select(report.code, line, item)"
        @point="point"
      />
      <section class="card below">
        <div>
          <UnusedCourses :items="unusedBelow" />
          <template v-if="major && major.beyond > 0">
            <h3 class="more">Credits beyond what is needed</h3>
            <p>
              {{ formatCredits(major.beyond) }} cr of the courses in use are more than their lines ask; they count towards the total only.
            </p>
          </template>
        </div>
        <RuleList :reports="reports" />
      </section>
    </template>

    <section v-else-if="view === 'term'" class="card tree">
      <p v-if="suggested.length === 0" class="line-row second">This program has no suggested sequence.</p>
      <div v-for="step in suggested" :key="step.name" class="line-row">
        <span class="line-title">{{ step.name }}</span>
        <div class="bar">
          <CourseBlock
            v-for="{ code, item } in step.courses"
            :key="code"
            class="sized"
            compact
            :code="code"
            :state="item?.state ?? 'open'"
            :hue="item ? hueOf(item) : undefined"
            :corner="item?.grade ?? ''"
            :done="item ? doneOf(item) : 0"
          />
        </div>
      </div>
    </section>

    <LazyProgressPictures v-else-if="major" :standing="student.standing!" :report="major" />

    <LazyLineDrawer
      v-if="selectedLine && view === 'area'"
      :line="selectedLine.line"
      :program="selectedLine.program"
      :item-id="selectedLine.item"
      @close="selected = null"
      @item="selected = { ...selected!, item: $event }"
    />
  </div>
</template>

<style scoped>
.by button[aria-pressed='true'] { color: var(--ink); text-decoration: underline; }
.link { text-decoration: none; }
.lost { border-color: var(--block); background: var(--block-tint); padding: 8px 14px; margin-bottom: 10px; }
.lost p { margin: 2px 0; }
.tree { margin-bottom: 12px; overflow: hidden; }
.line-row {
  display: grid; grid-template-columns: 160px 1fr; gap: 12px; align-items: center; padding: 5px 14px;
  border-top: 1px solid var(--line-soft);
}
.line-row:first-child { border-top: 0; }
.bar { display: flex; flex-wrap: wrap; gap: 4px; }
.sized { width: 110px; }
.below { display: grid; grid-template-columns: 1fr 1fr; gap: 20px; padding: 10px 14px; }
.below p { margin: 2px 0; }
.more { margin-top: 10px; }
@media (max-width: 700px) { .line-row, .below { grid-template-columns: 1fr; gap: 2px; } }
</style>
