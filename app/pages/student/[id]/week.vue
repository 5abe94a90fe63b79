<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { weeklyMinutes } from '@ridgeway/core/weeks'
import type { BundleView } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { hueOf } = useItems()
const ghost = ref<BundleView | null>(null)
const problem = ref<Problem | null>(null)
const said = ref('')
watch([() => student.state?.id, () => workingTerm.code], () => {
  week.open('week')
  void week.load()
}, { immediate: true })

const hueOfCourse = (code: string) =>
  hueOf(student.standing?.items.find(item => item.course === code && item.term === workingTerm.code) ?? { id: '' })
const chosen = computed(() => week.courses?.flatMap(({ bundles }) => bundles.filter(bundle => bundle.picked || bundle.registered)) ?? [])
const shown = computed(() => [
  ...chosen.value.map(bundle => ({ bundle, state: bundle.registered ? 'registered' as const : 'picked' as const })),
  ...(ghost.value && !chosen.value.some(bundle => bundle.id === ghost.value?.id)
    ? [{ bundle: ghost.value, state: 'considering' as const }]
    : []),
])
const hours = computed(() => Math.round(chosen.value.reduce((sum, bundle) => sum + weeklyMinutes(bundle.sections), 0) / 60 * 10) / 10)
const credits = computed(() => chosen.value.reduce((sum, bundle) => sum + (catalog.courses.get(bundle.course)?.credits ?? 0), 0) / 100)
const bars = computed(() =>
  shown.value.flatMap(({ bundle, state }) =>
    bundle.sections.flatMap((section: Section) =>
      section.meetings.map(meeting => ({
        key: `${section.id}-${state}`,
        label: `${section.course}-${section.label}`,
        where: section.delivery === 'online live'
          ? 'online, live'
          : `${meeting.room}${meeting.site === 'larkmoor' ? '' : `, ${catalog.siteName(meeting.site)}`}`,
        part: section.part === 'lecture' ? '' : section.part,
        session: section.session,
        meeting,
        state,
        hue: hueOfCourse(section.course),
        clashes: state === 'considering' && !bundle.decision.findings.every(f => f.ok || f.code !== 'clash'),
      })),
    ),
  ),
)
const noSetTime = computed(() =>
  shown.value.filter(({ bundle }) => bundle.sections.every((section: Section) => section.meetings.length === 0)),
)

const noSetTimeSaid = computed(() =>
  noSetTime.value.map(({ bundle, state }) => `${bundle.course}-${bundle.sections[0]!.label} (${state})`).join(', ') || 'nothing',
)

async function pick(bundle: BundleView) {
  problem.value = await week.choose(bundle.course, bundle.picked ? [] : bundle.sections.map((section: Section) => section.id))
  if (!problem.value) said.value = `${bundle.course} ${bundle.picked ? 'taken out of the line-up' : 'picked'}.`
  ghost.value = null
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Typical week</h1>
      <span class="second"
        >{{ workingTerm.term?.name }} · {{ workingTerm.term && longDate(workingTerm.term.start) }} –
        {{ workingTerm.term && longDate(workingTerm.term.end) }}</span
      >
      <span class="spacer" />
      <span v-if="chosen.length">{{ credits }} cr · {{ hours }} h class · {{ Math.round(credits * 2) }} h work outside it</span>
      <ActButton weight="full" style="text-decoration: none" :to="`/student/${student.state!.id}/register`">To Register</ActButton>
    </div>
    <FailedBox v-if="week.failed || problem" :problem="(problem ?? week.failed)!" :retry="!problem" @retry="week.load()" />
    <div class="visually-hidden" role="status">{{ said }}</div>
    <GreyShapes v-if="!week.courses && !week.failed" label="Loading the week" :rows="5" :height="56" />
    <template v-else-if="week.courses">
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
          :hue="hueOfCourse(course)"
          @pick="pick"
          @ghost="ghost = $event"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.strip { display: grid; grid-template-columns: 1fr minmax(280px, 520px); gap: 20px; align-items: center; padding: 8px 0; }
.columns { display: grid; grid-template-columns: repeat(auto-fill, minmax(236px, 1fr)); gap: 10px; align-items: start; }
@media (max-width: 700px) { .strip { grid-template-columns: 1fr; } }
</style>
