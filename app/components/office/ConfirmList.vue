<script setup lang="ts">
import type { z } from 'zod'
import { confirmPrograms } from '#shared/contract/acts/office'
import type { readOfficePeople } from '#shared/contract/views/office'
import { call } from '~/composables/useApi'

/** Students whose programs nobody confirmed yet: confirmed singly or together. */
const { students } = defineProps<{ students: z.output<typeof readOfficePeople.output>['unconfirmed'] }>()
const emit = defineEmits<{ changed: [] }>()
const catalog = useCatalogStore()
const { marked, chosen, isAll } = useChosen(() => students.map(one => one.id))
const { busy, problem, doing } = useDoing()
const titles = (programs: readonly string[]) => programs.map(id => catalog.programs.get(id)?.title ?? id).join(', ')
async function confirm() {
  let confirmed = 0
  if (!await doing(async () => void (confirmed = (await call(confirmPrograms, { students: chosen.value })).answer.confirmed))) return
  announce(`Confirmed for ${count(confirmed, 'student')}.`)
  emit('changed')
}
</script>

<template>
  <section class="card confirms" aria-label="Programs to confirm">
    <h2>Programs to confirm</h2>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="!students.length" class="second">None. Students confirm their program under Now before they register for the first time.</p>
    <template v-else>
      <DataTable label="Programs that are not confirmed">
        <thead>
          <tr>
            <th class="mark"><v-checkbox-btn v-model="isAll" density="compact" aria-label="Choose all students" /></th>
            <th>Student</th>
            <th>Program</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in students" :key="one.id">
            <td class="mark"><v-checkbox-btn v-model="marked" density="compact" :value="one.id" :aria-label="`Choose ${one.name}`" /></td>
            <td><NuxtLink :to="`/student/${one.id}/now`">{{ one.name }}</NuxtLink></td>
            <td class="program">{{ titles(one.programs) || 'none yet' }}</td>
          </tr>
        </tbody>
      </DataTable>
      <p class="acts">
        <ActButton :busy="busy" :off="!chosen.length && 'Choose students first'" @click="confirm">
          Confirm for {{ chosen.length ? count(chosen.length, 'student') : 'those chosen' }}
        </ActButton>
      </p>
    </template>
  </section>
</template>

<style scoped>
.confirms { padding: 10px 16px; }
.program { white-space: normal; }
.mark { width: 34px; }
.acts { margin: 8px 0 2px; }
p { margin: 2px 0; }
</style>
