<script setup lang="ts">
import { shiftDate } from '@ridgeway/core/catalog'
import type { z } from 'zod'
import { endDeputy, nameDeputy } from '#shared/contract/acts/advising'
import { readDeputies } from '#shared/contract/views/advising'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** While an advisor is away another one does everything for their advisees; both see for how long. */
const open = defineModel<boolean>({ required: true })
const { today } = useNow()
const known = shallowRef<z.output<typeof readDeputies.output> | null>(null)
const deputy = ref<number | null>(null)
const from = ref('')
const until = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
async function attempt(work: () => Promise<unknown>) {
  busy.value = true
  problem.value = null
  try {
    await work()
    known.value = await look(readDeputies, {})
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
watch(open, (now) => {
  if (!now) return
  from.value = today.value
  until.value = shiftDate(today.value, 7)
  void attempt(async () => {})
})
const choices = computed(() => known.value?.advisors.map(one => ({ value: one.id, title: one.name })) ?? [])
const lacking = computed(() => !deputy.value ? 'Choose who stands in' : !from.value || !until.value ? 'Say from when until when' : '')
const name = () => attempt(async () => {
  await call(nameDeputy, { deputy: deputy.value!, from: from.value, until: until.value })
  announce('Your deputy is named.')
  deputy.value = null
})
const end = (id: number) => attempt(() => call(endDeputy, { id }))
</script>

<template>
  <AskDialog v-model="open" title="While you are away" act="Name the deputy" :busy="busy" :off="lacking" @act="name">
    <p class="second small">
      Your deputy sees and does everything for your advisees as you do, from the first day to the last. You keep your own access.
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <ul v-if="known?.mine.length || known?.for.length" class="small">
      <li v-for="one in known.mine" :key="one.id">
        {{ one.name }} stands in for you, {{ longDate(one.from) }} to {{ longDate(one.until) }}
        <WordLink class="small" :aria-label="`End ${one.name} as deputy`" @click="end(one.id)">end it</WordLink>
      </li>
      <li v-for="one in known.for" :key="one.name + one.from">
        You stand in for {{ one.name }}, {{ longDate(one.from) }} to {{ longDate(one.until) }}
      </li>
    </ul>
    <v-autocomplete v-model="deputy" :items="choices" label="Who stands in" />
    <span class="row">
      <v-text-field v-model="from" type="date" label="From" />
      <v-text-field v-model="until" type="date" label="Until, this day included" />
    </span>
  </AskDialog>
</template>

<style scoped>
p, ul { margin: 0; }
.row { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
</style>
