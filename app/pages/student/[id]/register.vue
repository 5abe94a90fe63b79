<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import { acceptTerms, orderRows } from '#shared/contract/acts/student'

const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { rows, opensIn } = provideRunSheet()
const { bars } = useRibbon(() => week.courses, () => null)
const { problem, words, offersUndo, takeOut, undo } = useTakeOut()
watch([() => student.state?.id, () => workingTerm.code], () => {
  week.open('sheet', 'week')
  void week.loadSheet()
  void week.ensure()
}, { immediate: true })
/** A sign-off is all that is missing of an advisor. */
const asksForCode = computed(() => student.isOwn && student.gates.some(gate => gate.kind === 'sign-off' && !gate.open))
const about = computed(() =>
  week.sheet
    ? `${formatCredits(rows.value.reduce((sum, row) => sum + row.credits, 0))} cr · dry run ${
      toLocal(week.sheet.at, session.zone).toFormat('H:mm')}`
    : '',
)
const accept = async () => {
  problem.value = await student.act(acceptTerms, { term: workingTerm.code })
}
/** The row is served earlier or later; all others keep their order. */
async function move(from: number, by: number) {
  const courses = rows.value.map(row => row.course)
  const [course] = courses.splice(from, 1)
  courses.splice(from + by, 0, course!)
  const others = student.state!.lineUp.map(row => row.course).filter(code => !courses.includes(code))
  problem.value = await student.act(orderRows, { term: workingTerm.code, courses: [...courses, ...others] })
  if (!problem.value) announce(`${course} is served as ${ordinal(from + by + 1)}.`)
}
function retry() {
  problem.value = null
  void week.retry()
}
</script>

<template>
  <div class="page">
    <PageHead :title="`Line-up for ${workingTerm.term?.name}`" :about="about">
      <template #beside><WordLink class="small" @click="week.loadSheet()">Run it again</WordLink></template>
    </PageHead>
    <FailedBox v-if="problem || week.failed" :problem="(problem ?? week.failed)!" retry @retry="retry" />
    <div class="columns">
      <div>
        <ResultSheet v-if="week.result" :result="week.result" />
        <ol v-if="rows.length" class="card sheet" aria-label="Run sheet">
          <SheetRow
            v-for="(row, index) in rows"
            :key="row.rowId"
            :row="row"
            :position="index + 1"
            :last="index === rows.length - 1"
            @out="takeOut"
            @move="move(index, $event)"
          />
        </ol>
        <EmptyState v-else-if="week.sheet">
          The line-up is empty. <NuxtLink :to="`/student/${student.state!.id}/week`">Choose sections in Week</NuxtLink>, then register them
          here.
        </EmptyState>
        <GreyShapes v-else label="Loading the line-up" :rows="3" :height="58" />
        <SmallestChange />
        <PressBar />
        <section v-if="!student.state!.termsAcceptedAt && student.isOwn" class="card terms">
          <h2>Terms of registration</h2>
          <p>{{ catalog.termsText }}</p>
          <ActButton @click="accept">Accept for {{ workingTerm.term?.name }}</ActButton>
        </section>
        <OtherTerms />
        <TermSoFar />
        <section v-if="bars.length" class="week" aria-labelledby="the-week">
          <h2 id="the-week">The week that it makes</h2>
          <WeekRibbon :bars="bars" />
        </section>
      </div>
      <aside>
        <GateList :gates="student.gates" :opens-in="opensIn" />
        <ReleaseCode v-if="asksForCode" />
        <CostCard />
      </aside>
    </div>
    <UndoNotice v-model="offersUndo" :words="words" @undo="undo" />
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 16px; }
.sheet { list-style: none; padding: 0; margin: 0; }
aside { display: grid; gap: 12px; align-content: start; }
.week { margin-top: 14px; }
.terms { padding: 12px 16px; }
.terms p { margin: 2px 0; }
@media (max-width: 800px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
