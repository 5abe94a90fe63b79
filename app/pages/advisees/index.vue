<script setup lang="ts">
import { formatCredits, formatGpa } from '@ridgeway/words'

const staff = useStaffStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const search = ref('')
const needOnly = ref(true)
watch(() => workingTerm.code, code => code && staff.loadAdvisees(), { immediate: true })
const rows = computed(() =>
  (staff.advisees ?? []).filter(row =>
    row.name.toLowerCase().includes(search.value.toLowerCase()) && (!needOnly.value || row.urgency > 0 || search.value !== ''),
  ),
)
const headers = [
  { title: 'Needs you for', key: 'need', value: 'urgency' },
  { title: 'Student', key: 'name' },
  { title: 'Program', key: 'program' },
  { title: 'Earned', key: 'earned', align: 'end' as const },
  { title: 'GPA', key: 'gpa', align: 'end' as const },
  { title: 'Planned', key: 'planned', align: 'end' as const },
  { title: 'Opens', key: 'opensAt' },
  { title: 'Sign-off', key: 'signedOff' },
]
const asked = computed(() => staff.advisees?.filter(row => row.asked).length ?? 0)
const about = computed(() =>
  staff.advisees
    ? [workingTerm.term?.name, `${count(asked.value, 'sign-off')} asked for`,
        `${staff.advisees.filter(row => row.urgency > 0).length} of ${staff.advisees.length} need something`].join(' · ')
    : '',
)
const open = (_: unknown, { item }: { item: { id: number } }) => navigateTo(`/student/${item.id}/plan`)
</script>

<template>
  <div class="page">
    <PageHead title="Advisees" :about="about">
      <v-text-field v-model="search" class="finder" label="Find a student" bg-color="surface" />
      <ActButton @click="needOnly = !needOnly">
        {{ needOnly ? 'Show everybody' : 'Only who needs me' }}
      </ActButton>
    </PageHead>
    <FailedBox v-if="staff.failed" :problem="staff.failed" retry @retry="staff.loadAdvisees()" />
    <GreyShapes v-else-if="!staff.advisees" label="Loading the advisees" :rows="8" :height="40" />
    <v-data-table v-else class="card" :headers="headers" :items="rows" :items-per-page="25" hover @click:row="open">
      <template #[`item.need`]="{ item }"
        ><span :class="{ strong: item.asked, blocking: item.blockers > 0 }">{{ item.need || 'nothing' }}</span></template
      >
      <template #[`item.name`]="{ item }"
        ><NuxtLink :to="`/student/${item.id}/plan`" @click.stop>{{ item.name }}</NuxtLink></template
      >
      <template #[`item.earned`]="{ item }">{{ formatCredits(item.earned) }}</template>
      <template #[`item.gpa`]="{ item }"
        ><span :class="{ blocking: item.gpa !== null && item.gpa < 200 }">{{ formatGpa(item.gpa) }}</span></template
      >
      <template #[`item.planned`]="{ item }">{{ formatCredits(item.planned) }} cr</template>
      <template #[`item.opensAt`]="{ item }">{{
        item.opensAt ? toLocal(item.opensAt, session.zone).toFormat('ccc d LLL, HH:mm') : 'not set'
      }}</template>
      <template #[`item.signedOff`]="{ item }">{{ item.signedOff ? 'given' : item.asked ? 'asked' : '–' }}</template>
      <template #no-data
        ><p class="second" style="padding: 16px">
          {{ search ? `Nobody of yours is called "${search}".` : 'Nobody needs you right now. Show everybody to look around.' }}
        </p></template
      >
    </v-data-table>
  </div>
</template>

<style scoped>
.finder { width: 220px; flex: none; }
</style>
