<script setup lang="ts">
/** Sections of the working term with their seats, live; what needs the office first. One that is chosen opens below. */
const staff = useStaffStore()
const workingTerm = useWorkingTermStore()
const { value: chosen, open, close } = useInAddress('section')
const search = ref('')
watch(() => workingTerm.code, code => code && staff.loadSeats(), { immediate: true })
// The seats themselves come by themselves; who plans what is read again now and then.
useIntervalFn(() => staff.loadSeats(), 30_000)
useSeatStream(() => workingTerm.code)
const headers = [
  { title: 'Needs you for', key: 'need', value: 'urgency' },
  { title: 'Course', key: 'course' },
  { title: 'Section', key: 'label' },
  { title: 'Part', key: 'part' },
  { title: 'Seats', key: 'capacity', align: 'end' as const },
  { title: 'Taken', key: 'taken', align: 'end' as const },
  { title: 'Held', key: 'held', align: 'end' as const },
  { title: 'Left', key: 'left', align: 'end' as const },
  { title: 'Waiting', key: 'waiting', align: 'end' as const },
  { title: 'Planned by', key: 'planned', align: 'end' as const },
]
const seats = useSeatsStore()
const rows = computed(() => (staff.seats ?? []).map((row) => {
  const now = seats.sumOf(workingTerm.code, row.id, row.pools) ?? row
  return { ...row, ...now, left: now.capacity - now.taken - now.held }
}))
const totals = computed(() =>
  rows.value.reduce((sum, row) => ({ capacity: sum.capacity + row.capacity, taken: sum.taken + row.taken }), { capacity: 0, taken: 0 }),
)
const about = computed(() =>
  [workingTerm.term?.name, `${totals.value.taken} of ${totals.value.capacity} seats taken in ${rows.value.length} sections`,
    `${rows.value.filter(row => row.urgency > 9).length} need something`].join(' · '),
)
</script>

<template>
  <div class="page">
    <PageHead title="Sections" :about="about">
      <WordLink to="/office/demand">Demand</WordLink>
      <v-text-field v-model="search" class="finder" label="Find a section" bg-color="surface" />
    </PageHead>
    <FailedBox v-if="staff.failed" :problem="staff.failed" retry @retry="staff.loadSeats()" />
    <GreyShapes v-if="!staff.seats && !staff.failed" />
    <EmptyState v-else-if="staff.seats && !rows.length">
      {{ workingTerm.term?.name }} has no sections yet. Bring sections.csv in under <WordLink to="/office/college">College</WordLink>.
    </EmptyState>
    <v-data-table
      v-else-if="staff.seats"
      class="card"
      :headers="headers"
      :items="rows"
      :search="search"
      :items-per-page="15"
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
    </v-data-table>
    <SectionDrawer v-if="chosen" :key="chosen" :section="Number(chosen)" @close="close" @changed="staff.loadSeats()" />
  </div>
</template>

<style scoped>
.finder { width: 220px; flex: none; }
</style>
