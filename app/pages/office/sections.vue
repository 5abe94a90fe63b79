<script setup lang="ts">
import type { SeatOrder } from '#shared/contract/views/college'
/** Sections of the working term with their seats, live; what needs the office first. One that is chosen opens below. */
const staff = useStaffStore()
const workingTerm = useWorkingTermStore()
const { value: chosen, open, close } = useInAddress('section')
const search = ref('')
const sought = ref('')
const seats = useSeatsStore()
const columns = ref({ page: 1, itemsPerPage: 15, sortBy: [] as { key: string, order?: boolean | 'asc' | 'desc' }[] })
/** What the table shows of the list is asked of the server: there may be thousands. */
const asked = computed(() => {
  const { page, itemsPerPage, sortBy: [by] } = columns.value
  return { text: sought.value, by: (by?.key ?? 'need') as SeatOrder, from: (page - 1) * itemsPerPage, most: itemsPerPage,
    ...(by ? { down: by.order === 'desc' ? '1' as const : '0' as const } : {}) }
})
watchDebounced(search, (text) => {
  sought.value = text ?? ''
  columns.value = { ...columns.value, page: 1 }
}, { debounce: 150 })
watch([() => workingTerm.code, asked], ([code, part]) => {
  staff.seatsAsked = part
  if (code) void staff.loadSeats()
}, { immediate: true })
// Another term has another list.
watch(() => workingTerm.code, () => columns.value = { ...columns.value, page: 1 })
// The rows' seats come by themselves; sums, needs and who plans what are read again now and then.
useIntervalFn(() => staff.loadSeats(), 10_000)
useSeatStream(() => workingTerm.code)
const headers = [
  { title: 'Needs you for', key: 'need' },
  { title: 'Course', key: 'course' },
  { title: 'Section', key: 'label' },
  { title: 'Part', key: 'part' },
  ...[['Seats', 'capacity'], ['Taken', 'taken'], ['Held', 'held'], ['Left', 'left'], ['Waiting', 'waiting'], ['Planned by', 'planned']].map(
    ([title, key]) => ({ title: title!, key: key!, align: 'end' as const })),
]
const rows = computed(() => (staff.seats?.rows ?? []).map((row) => {
  const now = seats.sumOf(workingTerm.code, row.id, row.pools) ?? row
  return { ...row, ...now, left: now.capacity - now.taken - now.held }
}))
const about = computed(() => {
  if (!staff.seats) return workingTerm.term?.name ?? ''
  const { taken, capacity, sections, needing } = staff.seats
  return [workingTerm.term?.name, `${taken} of ${capacity} seats taken in ${sections} sections`, `${needing} need something`].join(' · ')
})
</script>

<template>
  <div class="page">
    <PageHead title="Sections" :about="about">
      <WordLink to="/office/demand">Demand</WordLink>
      <v-text-field v-model="search" class="finder" label="Find a section" bg-color="surface" />
    </PageHead>
    <FailedBox v-if="staff.failed" :problem="staff.failed" retry @retry="staff.loadSeats()" />
    <GreyShapes v-if="!staff.seats && !staff.failed" />
    <EmptyState v-else-if="staff.seats && !staff.seats.sections">
      {{ workingTerm.term?.name }} has no sections yet. Bring sections.csv in under <WordLink to="/office/college">College</WordLink>.
    </EmptyState>
    <v-data-table-server
      v-else-if="staff.seats"
      v-model:page="columns.page"
      v-model:items-per-page="columns.itemsPerPage"
      v-model:sort-by="columns.sortBy"
      class="card"
      :headers="headers"
      :items="rows"
      :items-length="staff.seats.found"
      :items-per-page-options="[15, 50, 100, 500]"
      no-data-text="No section of the term has these words."
    >
      <template #[`item.need`]="{ item }"><span :class="{ strong: item.urgency > 9 }">{{ item.need || 'nothing' }}</span></template>
      <template #[`item.label`]="{ item }"
        ><WordLink :aria-label="`Open ${item.course}-${item.label}`" @click="open(String(item.id))">{{ item.label }}</WordLink></template
      >
      <template #[`item.left`]="{ item }"
        ><span :class="{ strong: item.left === 0 }">{{
          item.cancelled ? 'cancelled' : item.left === 0 ? 'full' : item.left
        }}</span></template
      >
    </v-data-table-server>
    <SectionDrawer v-if="chosen" :key="chosen" :section="Number(chosen)" @close="close" @changed="staff.loadSeats()" />
  </div>
</template>

<style scoped>
.finder { width: 220px; flex: none; }
</style>
