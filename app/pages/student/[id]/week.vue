<script setup lang="ts">
import type { Section, Weekday } from '@ridgeway/core/catalog'
import type { BundleView } from '#shared/contract/views/student'
import { lazily } from '~/components/kit/lazily'

const ArrangeDrawer = lazily(() => import('~/components/week/ArrangeDrawer.vue'))
const student = useStudentStore()
const week = useWeekStore()
const workingTerm = useWorkingTermStore()
const { hueOfCourse } = useItems()
const arrange = useArrangeStore()
const opened = useOpened()
const { open: openSection } = useInAddress('section')
const { open: openFind } = useInAddress('find')
const ghost = ref<BundleView | null>(null)
const monday = ref('')
const view = ref<'week' | 'list' | 'exams'>('week')
const keepOpen = ref(false)
const drawn = ref<{ day: Weekday, start: number, end: number } | null>(null)
const { problem, words, offersUndo, takeOut, undo } = useTakeOut()
const { problem: backupProblem, toggle: toggleBackup } = useBackups()
const free = useKeepFree()
watch([() => student.state?.id, () => workingTerm.code], () => {
  monday.value = ''
  week.open('week')
  void week.load()
}, { immediate: true })

const { standIns } = useArrangement()
const together = useTogetherStore()
const { chosen, bars, noSetTime, single, allDays } = useRibbon(() => week.courses, () => ghost.value,
  () => arrange.looked && standIns(arrange.looked), () => monday.value)
const dates = computed(() => monday.value && workingTerm.term ? daysOfWeek(monday.value, workingTerm.term) : null)
const title = computed(() => monday.value ? `Week of ${longDate(monday.value)}` : 'Typical week')
const about = computed(() => {
  const { term } = workingTerm
  return term ? `${term.name} · ${longDate(term.start)} – ${longDate(term.end)}` : ''
})
const noSetTimeSaid = computed(() =>
  noSetTime.value.map(({ bundle, state }) => `${bundle.course}-${bundle.sections[0]!.label} (${state})`).join(', ') || 'nothing',
)
const failed = computed(() => problem.value ?? backupProblem.value ?? together.problem ?? week.failed)
function keep(block: { day: Weekday, start: number, end: number } | null) {
  drawn.value = block
  keepOpen.value = true
}
async function pick(bundle: BundleView) {
  ghost.value = null
  if (bundle.picked) return takeOut(bundle.course)
  problem.value = await week.choose({ course: bundle.course, sectionIds: bundle.sections.map((section: Section) => section.id) })
  if (!problem.value) announce(`${bundle.course} picked.`)
}
</script>

<template>
  <div class="page">
    <PageHead :title="title" :about="about">
      <WeekHours :chosen="chosen" />
      <ActButton v-if="student.isOwn" @click="opened = 'arrangements'">Arrangements</ActButton>
      <WeekOut v-if="student.isOwn" :chosen="chosen" />
      <ActButton weight="full" :to="`/student/${student.state!.id}/register`">To Register</ActButton>
    </PageHead>
    <FailedBox v-if="failed" :problem="failed" :retry="!problem && !backupProblem && !together.problem" @retry="week.load()" />
    <GreyShapes v-if="!week.courses && !week.failed" label="Loading the week" :rows="5" :height="56" />
    <template v-else-if="week.courses">
      <SharedWeek />
      <PickChanges />
      <SmallestChange />
      <PlanDifference />
      <WeekRibbon
        v-if="view === 'week'"
        :bars="bars"
        :free="free.blocks.value"
        :dates="dates"
        :all-days="allDays"
        :may-keep="student.isOwn"
        @keep="keep"
        @release="free.release"
        @move="free.move"
        @open="openSection"
      />
      <WeekList v-else-if="view === 'list'" :chosen="chosen" @open="openSection" />
      <ExamList v-else :chosen="chosen" />
      <WeekFoot v-model:view="view" v-model:monday="monday" :no-set-time="noSetTimeSaid" :single="single" @keep="keep(null)" />
      <EmptyState v-if="week.courses.length === 0">
        Nothing is planned for {{ workingTerm.term?.name }} yet.
        <NuxtLink :to="`/student/${student.state!.id}/requirements`">See what is open</NuxtLink> and place a course, or
        <WordLink @click="openFind('1')">find sections</WordLink>; they then stand here.
      </EmptyState>
      <GroupPicker />
      <WeekColumns
        :courses="week.courses"
        :hue-of="course => hueOfCourse(course, workingTerm.code)"
        @pick="pick"
        @ghost="ghost = $event"
        @open="openSection($event.id)"
        @backup="toggleBackup"
        @find="openFind('1')"
      />
      <WeekList class="on-paper" :chosen="chosen" />
    </template>
    <ArrangeDrawer v-if="week.courses && opened === 'arrangements'" @close="opened = ''" />
    <KeepFreeDialog v-model="keepOpen" :drawn="drawn" />
    <UndoNotice v-model="offersUndo" :words="words" @undo="undo" />
    <UndoNotice v-model="together.offersUndo" :words="together.words" @undo="together.undo" />
    <UndoNotice v-model="free.offersUndo.value" :words="free.words.value" @undo="free.undo" />
  </div>
</template>

<style scoped>
.on-paper { display: none; }
@media print {
  .page :deep(.page-head .act), .page :deep(.columns) { display: none; }
  .on-paper { display: block; margin-top: 16px; }
}
</style>
