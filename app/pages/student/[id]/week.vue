<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { weeklyMinutes } from '@ridgeway/core/weeks'
import type { BundleView } from '#shared/contract/views/student'

const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { hueOfCourse } = useItems()
const arrange = useArrangeStore()
const opened = useOpened()
const ghost = ref<BundleView | null>(null)
const { problem, words, offersUndo, takeOut, undo } = useTakeOut()
watch([() => student.state?.id, () => workingTerm.code], () => {
  week.open('week')
  void week.load()
}, { immediate: true })

const { chosen, bars, noSetTime } = useRibbon(() => week.courses, () => ghost.value, () => arrange.looked?.choices ?? null)
const hours = computed(() => Math.round(chosen.value.reduce((sum, bundle) => sum + weeklyMinutes(bundle.sections), 0) / 60 * 10) / 10)
const credits = computed(() => chosen.value.reduce((sum, bundle) => sum + (catalog.courses.get(bundle.course)?.credits ?? 0), 0) / 100)
const about = computed(() => {
  const { term } = workingTerm
  return term ? `${term.name} · ${longDate(term.start)} – ${longDate(term.end)}` : ''
})
const noSetTimeSaid = computed(() =>
  noSetTime.value.map(({ bundle, state }) => `${bundle.course}-${bundle.sections[0]!.label} (${state})`).join(', ') || 'nothing',
)

async function pick(bundle: BundleView) {
  ghost.value = null
  if (bundle.picked) return takeOut(bundle.course)
  problem.value = await week.choose({ course: bundle.course, sectionIds: bundle.sections.map((section: Section) => section.id) })
  if (!problem.value) announce(`${bundle.course} picked.`)
}
</script>

<template>
  <div class="page">
    <PageHead title="Typical week" :about="about">
      <span v-if="chosen.length">{{ credits }} cr · {{ hours }} h class · {{ Math.round(credits * 2) }} h work outside it</span>
      <ActButton v-if="student.isOwn" @click="opened = 'arrangements'">Arrangements</ActButton>
      <ActButton weight="full" :to="`/student/${student.state!.id}/register`">To Register</ActButton>
    </PageHead>
    <FailedBox v-if="week.failed || problem" :problem="(problem ?? week.failed)!" :retry="!problem" @retry="week.load()" />
    <GreyShapes v-if="!week.courses && !week.failed" label="Loading the week" :rows="5" :height="56" />
    <template v-else-if="week.courses">
      <SmallestChange />
      <WeekRibbon :bars="bars" />
      <div class="strip">
        <span
          ><b>No set time</b>
          {{ noSetTimeSaid }}</span
        >
        <TermTrack v-if="workingTerm.term" :term="workingTerm.term" />
      </div>
      <EmptyState v-if="week.courses.length === 0">
        Nothing is planned for {{ workingTerm.term?.name }} yet.
        <NuxtLink :to="`/student/${student.state!.id}/requirements`">See what is open</NuxtLink> and place a course; its sections then
        stand here.
      </EmptyState>
      <div class="columns">
        <BundleColumn
          v-for="{ course, bundles } in week.courses"
          :key="course"
          :course="course"
          :bundles="bundles"
          :hue="hueOfCourse(course, workingTerm.code)"
          @pick="pick"
          @ghost="ghost = $event"
        />
      </div>
    </template>
    <LazyArrangeDrawer v-if="week.courses && opened === 'arrangements'" @close="opened = ''" />
    <UndoNotice v-model="offersUndo" :words="words" @undo="undo" />
  </div>
</template>

<style scoped>
.strip { display: grid; grid-template-columns: 1fr minmax(280px, 520px); gap: 20px; align-items: center; padding: 8px 0; }
.columns { display: grid; grid-template-columns: repeat(auto-fill, minmax(236px, 1fr)); gap: 10px; align-items: start; }
@media (max-width: 700px) { .strip { grid-template-columns: 1fr; } }
</style>
