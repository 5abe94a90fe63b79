<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { clockTime } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'

/** The exams of what is chosen, day by day, with those that fall together. */
const { chosen } = defineProps<{ chosen: readonly BundleView[] }>()
const catalog = useCatalogStore()
const all = computed(() => chosen.flatMap(bundle => bundle.sections.flatMap((section: Section) => section.exam
  ? [{ section,
      ...section.exam }]
  : []))
  .sort((a, b) => a.date.localeCompare(b.date) || a.start - b.start))
const days = computed(() => [...new Set(all.value.map(exam => exam.date))].map(date => ({ date, exams: all.value.filter(exam =>
  exam.date === date) })))
const without = computed(() => chosen.filter(bundle => bundle.sections.every((section: Section) => !section.exam)).map(bundle =>
  bundle.course))
const clashOf = (exam: (typeof all.value)[number]) => all.value.find(other => other !== exam && other.date === exam.date
  && other.start < exam.end && exam.start < other.end)
const weekday = (date: string) => new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', { weekday: 'long', timeZone: 'UTC' })
</script>

<template>
  <section class="card exams" aria-label="Exams">
    <p v-if="days.length === 0" class="second">Nothing that is chosen has an exam outside its classes.</p>
    <div v-for="{ date, exams } in days" :key="date" class="day">
      <h2>{{ weekday(date) }}, {{ longDate(date) }}</h2>
      <p v-for="exam in exams" :key="exam.section.id">
        <b>{{ clockTime(exam.start) }}–{{ clockTime(exam.end) }}</b> {{ exam.section.course }}-{{ exam.section.label }}
        {{ catalog.courses.get(exam.section.course)?.title }}, {{ catalog.siteName(exam.section.meetings[0]?.site ?? '') }}
        <span v-if="clashOf(exam)" class="blocking">clashes with {{ clashOf(exam)!.section.course }}</span>
        <span v-else-if="exams.length > 2" class="second">one of {{ exams.length }} on this day</span>
      </p>
    </div>
    <p v-if="without.length" class="second">Last test in class: {{ without.join(', ') }}</p>
  </section>
</template>

<style scoped>
.exams { padding: 12px 16px; display: grid; gap: 10px; }
p { margin: 2px 0; }
</style>
