<script setup lang="ts">
import { newEntryId } from '@ridgeway/core/record'
import { type Groups, readGroups } from '#shared/contract/views/find'

/** Groups whose sections keep clear of each other: all courses planned and all sections picked in one press, with one undo. */
const student = useStudentStore()
const together = useTogetherStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const open = ref(false)
const asked = computed(() => student.isOwn && workingTerm.term?.scheduled ? { term: workingTerm.code } : null)
const { data, problem } = useView(readGroups, () => asked.value, { of: () => student.state?.id, again: () => student.state?.version })
const groups = computed(() => asked.value && data.value ? data.value.groups : [])
const chosenIds = computed(() => new Set(student.state?.lineUp.flatMap(row => row.sectionIds)))
const isTaken = (group: Groups['groups'][number]) => group.courses.every(one => one.sectionIds.every(id => chosenIds.value.has(id)))
const offBecause = (group: Groups['groups'][number]) => {
  if (!group.open) return 'Part of this group is kept for other students'
  if (group.seats === 0) return 'One of its sections is full'
  return isTaken(group) && 'Your picks are this group already'
}
const isRegistered = (course: string) => student.state?.registered.some(row => row.course === course
  && row.term === workingTerm.code) ?? false
const sayGroup = (group: Groups['groups'][number]) => group.courses.map(one => `${one.course}-${one.label} ${one.times}`).join(', ')
async function take(group: Groups['groups'][number]) {
  const term = workingTerm.code
  const courses = group.courses.filter(one => !isRegistered(one.course))
  const missing = courses.filter(one => !student.entries.some(entry => entry.course === one.course && entry.term === term))
  await together.take(
    missing.map(({ course }) => ({ kind: 'place' as const, entry: newEntryId(course, term), course, term,
      credits: catalog.courses.get(course)!.credits })),
    courses.map(({ course, sectionIds }) => ({ course, sectionIds })),
    `Group ${group.group}: ${count(courses.length, 'course')} picked${missing.length > 0
      ? `, ${missing.length} of them planned with it`
      : ''}.`,
  )
}
</script>

<template>
  <section v-if="groups.length" class="card groups" aria-label="Groups">
    <FailedBox v-if="problem" :problem="problem" />
    <WordLink class="small" :aria-expanded="open" @click="open = !open">
      {{ open ? '▾' : '▸' }} {{ count(groups.length, 'group') }} of sections that keep clear of each other: {{ groups.map(one =>
      one.group).join(', ') }}
    </WordLink>
    <ul v-if="open">
      <li v-for="group in groups" :key="group.group" :class="{ second: !group.open || group.seats === 0 }">
        <b>{{ group.group }}</b>
        <span class="small">{{ sayGroup(group) }}</span>
        <span class="small second">{{ group.open ? `${group.seats} left` : 'kept for others' }}</span>
        <ActButton
          :off="offBecause(group)"
          @click="take(group)"
        >
          Take {{ group.group }}
        </ActButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.groups { padding: 5px 14px; margin: 0 0 10px; }
ul { list-style: none; margin: 4px 0 0; padding: 0; display: grid; gap: 4px; }
li { display: grid; grid-template-columns: 70px minmax(0, 1fr) 100px auto; gap: 12px; align-items: center; }
@media (max-width: 700px) { li { grid-template-columns: 1fr auto; } li > .small { grid-column: 1 / -1; } }
@media print { .groups { display: none; } }
</style>
