<script setup lang="ts">
import type { z } from 'zod'
import { clearHolds, placeHolds } from '#shared/contract/acts/office'
import type { readOfficePeople } from '#shared/contract/views/office'
import { call } from '~/composables/useApi'

/** Holds that stand: cleared singly or together, placed on one student or a whole list. */
const { holds } = defineProps<{ holds: z.output<typeof readOfficePeople.output>['holds'] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const mine = computed(() => holds.filter(one => !one.byRule))
const { marked, chosen, isAll } = useChosen(() => mine.value.map(one => one.id))
const { busy, problem, doing } = useDoing()
const isPlacing = ref(false)
const names = ref('')
const reason = ref('')
const contact = ref('')
const unknown = ref<string[]>([])
const listed = computed(() => [...new Set(names.value.toLowerCase().split(/[\s,;]+/).filter(Boolean))])
const lacking = computed(() => listed.value.length === 0
  ? 'Write at least one sign-in name'
  : listed.value.length > 500
    ? 'At most 500 at once'
    : reason.value.trim().length < 3 ? 'Say why first' : contact.value.trim().length < 3 && 'Say whom to see')
async function clear() {
  let cleared = 0
  if (!await doing(async () => void (cleared = (await call(clearHolds, { holds: chosen.value })).answer.cleared))) return
  announce(`${count(cleared, 'hold')} cleared.`)
  emit('changed')
}
async function place() {
  let placed = 0
  const done = await doing(async () => {
    const { answer } = await call(placeHolds, { usernames: listed.value, reason: reason.value, contact: contact.value })
    unknown.value = answer.unknown
    placed = answer.placed
  })
  if (!done || unknown.value.length > 0) return
  isPlacing.value = false
  names.value = ''
  announce(`${count(placed, 'hold')} placed.`)
  emit('changed')
}
</script>

<template>
  <section class="card holds" aria-label="Holds">
    <h2>Holds</h2>
    <FailedBox v-if="problem && !isPlacing" :problem="problem" />
    <p v-if="!holds.length" class="second">None. A hold keeps a student from registering until it is cleared.</p>
    <DataTable v-else label="Holds that stand">
      <thead>
        <tr>
          <th class="mark"><v-checkbox-btn v-model="isAll" density="compact" aria-label="Choose all holds" /></th>
          <th>Student</th>
          <th>Why</th>
          <th>Whom to see</th>
          <th>Since</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in holds" :key="one.id">
          <td class="mark">
            <v-checkbox-btn
              v-if="!one.byRule"
              v-model="marked"
              density="compact"
              :value="one.id"
              :aria-label="`Choose the hold on ${one.student.name}`"
            />
          </td>
          <td class="name"><NuxtLink :to="`/student/${one.student.id}/now`">{{ one.student.name }}</NuxtLink></td>
          <td class="why">{{ one.reason }} <span v-if="one.byRule" class="second small">goes when it is paid</span></td>
          <td>{{ one.contact }}</td>
          <td>{{ toLocal(one.placed, session.zone).toFormat('d LLL') }}</td>
        </tr>
      </tbody>
    </DataTable>
    <p class="acts">
      <ActButton :busy="busy" :off="!chosen.length && 'Choose holds first'" @click="clear">
        Clear {{ chosen.length ? count(chosen.length, 'hold') : 'holds' }}
      </ActButton>
      <ActButton @click="isPlacing = true">Place holds …</ActButton>
    </p>
    <AskDialog
      v-model="isPlacing"
      title="Place holds"
      :act="listed.length > 1 ? `Place ${listed.length} holds` : 'Place the hold'"
      :busy="busy"
      :off="lacking"
      @act="place"
    >
      <FailedBox v-if="problem" :problem="problem" />
      <p v-if="unknown.length" class="blocking strong" role="alert">
        Nothing is placed: {{ unknown.join(', ') }} {{ unknown.length === 1 ? 'is no student' : 'are no students' }}. Correct the list.
      </p>
      <v-textarea v-model="names" label="Sign-in names, one or a whole list" rows="3" auto-grow />
      <v-text-field
        v-model="reason"
        label="Why, as the student reads it"
        maxlength="200"
        placeholder="Library: an overdue field recorder"
      />
      <v-text-field v-model="contact" label="Whom to see" maxlength="120" placeholder="library@larkmoor.example" />
    </AskDialog>
  </section>
</template>

<style scoped>
.holds { padding: 10px 16px; }
.why { white-space: normal; }
.name { white-space: nowrap; }
.mark { width: 34px; }
.acts { display: flex; flex-wrap: wrap; gap: 8px; margin: 8px 0 2px; }
p { margin: 2px 0; }
</style>
