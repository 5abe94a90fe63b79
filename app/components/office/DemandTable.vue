<script setup lang="ts">
import type { CourseDemand } from '@ridgeway/core/demand'
import { writeTable } from '@ridgeway/formats'
import { sayDelayed } from '@ridgeway/words'

/** Every course of the term with who asks for it and what there is; those that hold up most finishes first. */
const { courses } = defineProps<{ courses: readonly CourseDemand[] }>()
const emit = defineEmits<{ open: [course: string] }>()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const search = ref('')
const program = ref<string | null>(null)
const programs = computed(() => [...new Set(courses.flatMap(one => one.byProgram.map(of => of.program)))].filter(Boolean).sort())
const headers = computed(() => [
  { title: 'Course', key: 'course' },
  { title: program.value ? `Students in ${program.value}` : 'Students', key: 'students', align: 'end' as const },
  { title: 'Registered', key: 'registered', align: 'end' as const },
  { title: 'Waiting', key: 'waiting', align: 'end' as const },
  { title: 'Seats', key: 'seats', align: 'end' as const },
  { title: 'Left', key: 'left', align: 'end' as const },
  { title: 'Short', key: 'short', align: 'end' as const },
  { title: 'Behind it', key: 'behind', align: 'end' as const, nowrap: true },
  { title: 'What the lack costs', key: 'cost', value: 'late' },
])
const rows = computed(() => courses.map((one, order) => ({ ...one, order, title: catalog.courses.get(one.course)?.title ?? '',
  late: -one.delayed.terms, words: sayDelayed(one),
  students: program.value ? one.byProgram.find(of => of.program === program.value)?.students ?? 0 : one.students }))
  .filter(one => !program.value || one.students > 0))
const save = () => saveFile(`demand-${workingTerm.code}.csv`, 'text/csv', writeTable(courses.map(one => ({
  course: one.course, title: catalog.courses.get(one.course)?.title ?? '', students: String(one.students),
  registered: String(one.registered), waiting: String(one.waiting), seats: String(one.seats), left: String(one.left),
  short: String(one.short), courses_behind: String(one.behind), finishes_delayed: String(one.delayed.students),
  terms_delayed: String(one.delayed.terms), programs: one.byProgram.map(of => `${of.program} ${of.students}`).join('; '),
}))))
</script>

<template>
  <section class="card" aria-label="Courses">
    <header>
      <v-text-field v-model="search" class="finder" label="Find a course" />
      <v-select v-model="program" class="finder" :items="programs" label="Students of one program" clearable />
      <span class="spacer" />
      <WordLink @click="save">Save as CSV</WordLink>
    </header>
    <v-data-table :headers="headers" :items="rows" :search="search" :items-per-page="15">
      <template #[`item.course`]="{ item }"
        ><WordLink :aria-label="`Open ${item.course}`" @click="emit('open', item.course)">{{ item.course }}</WordLink>
        <span class="second small title">{{ item.title }}</span></template
      >
      <template #[`item.short`]="{ item }"
        ><span :class="{ strong: item.short > 0 }">{{ item.short || '–' }}</span></template
      >
      <template #[`item.behind`]="{ item }">{{ item.behind || '–' }}</template>
      <template #[`item.cost`]="{ item }">{{ item.words || (item.short > 0 ? 'nobody finishes later' : '') }}</template>
    </v-data-table>
    <p class="second small foot">
      Short: students without a seat beyond the seats that are left. Behind it: courses that wait for it. What the lack costs: by how
      much finishes move when the course can only be taken the next time that it is given, by prerequisites, the terms in which courses
      are given, and the credits still ahead.
    </p>
  </section>
</template>

<style scoped>
header { display: flex; gap: 12px; align-items: center; padding: 10px 16px 4px; flex-wrap: wrap; }
.finder { max-width: 230px; min-width: 160px; }
.title { margin-left: 7px; }
.foot { margin: 0; padding: 4px 16px 10px; }
</style>
