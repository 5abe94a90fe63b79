<script setup lang="ts">
import { travelPerWeek, weeklyMinutes } from '@ridgeway/core/weeks'
import type { BundleView } from '#shared/contract/views/student'

/** What a week takes: classes, work outside them, travel between sites, and hours kept free for something else. */
const { chosen } = defineProps<{ chosen: readonly BundleView[] }>()
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const sections = computed(() => chosen.flatMap(bundle => bundle.sections))
const hours = (minutes: number) => Math.round(minutes / 6) / 10
const credits = computed(() => chosen.reduce((sum, bundle) => sum + student.creditsIn(bundle.course, workingTerm.code), 0) / 100)
const classes = computed(() => chosen.reduce((sum, bundle) => sum + weeklyMinutes(bundle.sections), 0))
const travel = computed(() => workingTerm.term ? travelPerWeek(sections.value, workingTerm.term, catalog.travel) : 0)
const kept = computed(() => week.wishes.reduce((sum, wish) => sum + (wish.kind === 'keep free'
  ? wish.days.length * (wish.end - wish.start)
  : 0), 0))
const parts = computed(() => [[classes.value, 'class'], [credits.value * 120, 'work outside it'], [travel.value, 'travel'], [kept.value,
  'kept free']]
  .filter(([minutes]) => (minutes as number) > 0) as [number, string][])
const words = computed(() => `${credits.value} cr · ${parts.value.map(([minutes, what]) => `${hours(minutes)} h ${what}`).join(' + ')}${
  parts.value.length > 1 ? ` = ${hours(parts.value.reduce((sum, [minutes]) => sum + minutes, 0))} h a week` : ''}`)
</script>

<template>
  <span
    v-if="chosen.length"
    class="hours-sum"
    title="Two hours of work for each hour of class and credit; travel is that between sites, on the average of the term's weeks"
  >
    {{ words }}
  </span>
</template>

<style scoped>
/* It is what gives way where the head has no room: what can be done stays in its line. */
.hours-sum { flex: 0 1 auto; width: min-content; min-width: 230px; flex-grow: 1; text-align: right; line-height: 1.25; }
</style>
