<script setup lang="ts">
import { sayCatalogProblem } from '@ridgeway/words'

const staff = useStaffStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const search = ref('')
// Before there is a calendar, there is one thing to do here.
watch(() => catalog.ready && catalog.terms.length === 0, isEmpty => isEmpty && navigateTo('/office/college', { replace: true }),
  { immediate: true })
watch(() => workingTerm.code, code => code && Promise.all([staff.loadSeats(), staff.loadOpenings()]), { immediate: true })
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
    <PageHead title="Office" :about="about">
      <WordLink to="/office/college">The college's tables</WordLink>
      <v-text-field v-model="search" class="finder" label="Find a section" bg-color="surface" />
    </PageHead>
    <FailedBox v-if="staff.failed" :problem="staff.failed" retry @retry="staff.loadSeats()" />
    <v-data-table
      class="card"
      :headers="headers"
      :items="rows"
      :search="search"
      :items-per-page="15"
      :loading="!staff.seats"
    >
      <template #[`item.need`]="{ item }"><span :class="{ strong: item.urgency > 9 }">{{ item.need || 'nothing' }}</span></template>
      <template #[`item.left`]="{ item }"
        ><span :class="{ strong: item.left === 0 }">{{
          item.cancelled ? 'cancelled' : item.left === 0 ? 'full' : item.left
        }}</span></template
      >
    </v-data-table>
    <div class="beneath">
      <WhoAdvises />
      <RegistrationSwitch />
      <section class="card openings">
        <h2>Openings</h2>
        <p v-for="opening in staff.openings" :key="opening.term + opening.from">
          <b>{{ catalog.term(opening.term)?.name }}</b> · {{ toLocal(opening.from, session.zone).toFormat('ccc d LLL yyyy, HH:mm') }} ·
          {{ opening.words }}
        </p>
      </section>
      <section v-if="catalog.problems.length" class="card openings" aria-label="Problems of the catalog">
        <h2>The catalog has {{ count(catalog.problems.length, 'problem') }}</h2>
        <p v-for="(problem, i) in catalog.problems" :key="i" class="blocking">{{ sayCatalogProblem(problem) }}</p>
      </section>
      <HowAdvisingWorks />
      <ProgramFiles />
    </div>
  </div>
</template>

<style scoped>
.finder { width: 220px; flex: none; }
.beneath { margin-top: 12px; display: grid; gap: 12px; }
.openings { padding: 10px 16px; }
.openings p { margin: 2px 0; }
</style>
