<script setup lang="ts">
import { startCrowd, stopCrowd } from '#shared/contract/acts/college'
import { readCrowd } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** The crowd: so many generated students who press Register from the next opening on, so that a minute of it can be lived through. */
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const size = ref('150')
const pace = ref('10')
const problem = ref<Problem | null>(null)
const busy = ref(false)
const state = shallowRef<{ waiting: number, done: number, registered: number, from: string | null } | null>(null)
async function read() {
  if (!workingTerm.code) return
  state.value = await look(readCrowd, { term: workingTerm.code }).catch(() => state.value)
}
useIntervalFn(() => void read(), 1500, { immediateCallback: true })
const isOff = computed(() => [size, pace].some(one => !/^[1-9]\d{0,3}$/.test(one.value.trim())))
async function run(work: () => Promise<unknown>) {
  busy.value = true
  try {
    await work()
    problem.value = null
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
  await read()
}
const start = () => run(() => call(startCrowd, { term: workingTerm.code, size: Number(size.value), pace: Number(pace.value), seed: 1 }))
const stop = () => run(() => call(stopCrowd, { term: workingTerm.code }))
const said = computed(() => {
  if (!state.value?.from) return 'Nobody of the crowd is lined up.'
  const { waiting, done, registered, from } = state.value
  const when = toLocal(from, session.zone).toFormat('ccc d LLL, HH:mm:ss')
  return `${count(waiting, 'student')} will press from ${when} on; ${done} have pressed and got ${count(registered, 'course')}.`
})
</script>

<template>
  <section class="card crowd" aria-labelledby="crowd">
    <h2 id="crowd">A crowd beside you</h2>
    <p class="second">
      Generated students choose sections for what they plan for {{ workingTerm.term?.name }} and press Register from its next opening on.
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <form @submit.prevent="start">
      <v-text-field v-model="size" label="Students" inputmode="numeric" />
      <v-text-field v-model="pace" label="Presses a second" inputmode="numeric" />
      <ActButton type="submit" :busy="busy" :off="isOff && 'Enter two whole numbers'">Line them up</ActButton>
      <WordLink v-if="state?.waiting" @click="stop">Send them home</WordLink>
    </form>
    <p role="status">{{ said }}</p>
  </section>
</template>

<style scoped>
.crowd { padding: 18px 22px; margin-top: 12px; }
form { margin-top: 14px; display: flex; flex-wrap: wrap; gap: 10px; align-items: center; }
form :deep(.v-text-field) { flex: 0 1 150px; }
p { margin: 6px 0; }
</style>
