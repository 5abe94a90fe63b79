<script setup lang="ts">
import { EXCEPTION_KINDS } from '@ridgeway/core/advising'
import { sayExceptionKind } from '@ridgeway/words'
import { setAdvising } from '#shared/contract/acts/college'
import { call, toProblem, type Problem } from '~/composables/useApi'

/** The office says what a change after sign-off comes to, how release codes are used, and who decides about which exceptions. */
const catalog = useCatalogStore()
const open = ref(false)
const busy = ref(false)
const problem = ref<Problem | null>(null)
const fresh = ref({ ...catalog.advising })
watch(open, now => now && (fresh.value = { ...catalog.advising, programs: catalog.advising.programs ?? 'in order',
  entitled: { ...catalog.advising.entitled } }))
const CHANGED = [{ value: 'shown', title: 'it is shown to student and advisor' },
  { value: 'closed', title: 'what was not signed off cannot be registered' }]
const PROGRAMS = [{ value: 'in order', title: 'in their order: the first never loses to a later one' },
  { value: 'in sum', title: 'as one: what fills most in all of them together' }]
const CODES = [{ value: 'instead', title: 'in place of a sign-off' }, { value: 'besides', title: 'besides a sign-off, always' }]
const WHO = [{ value: 'advisor', title: 'the advisor' }, { value: 'office', title: 'the office' }, { value: 'either', title: 'either' }]
const titleOf = (list: readonly { value: string, title: string }[], value: string) => list.find(one => one.value === value)?.title ?? ''
async function keep() {
  busy.value = true
  try {
    await call(setAdvising, { ...fresh.value, releaseDays: Number(fresh.value.releaseDays), silentDays: Number(fresh.value.silentDays) })
    await catalog.load(true)
    problem.value = null
    open.value = false
    announce('It is kept.')
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
</script>

<template>
  <section class="card advising" aria-label="How advising works">
    <h2>How advising works here</h2>
    <p>
      When a term changes after sign-off, {{ titleOf(CHANGED, catalog.advising.changedAfter) }}. A release code is used
      {{ titleOf(CODES, catalog.advising.releaseCode) }}, for {{ count(catalog.advising.releaseDays, 'day') }}. An advisor is told after
      {{ count(catalog.advising.silentDays, 'silent day') }}. A student's programs are read
      {{ titleOf(PROGRAMS, catalog.advising.programs ?? 'in order') }}. <WordLink @click="open = true">change …</WordLink>
    </p>
    <AskDialog v-model="open" title="How advising works here" act="Keep it" :busy="busy" @act="keep">
      <FailedBox v-if="problem" :problem="problem" />
      <v-select v-model="fresh.programs" :items="PROGRAMS" label="Several programs of one student are read" />
      <v-select v-model="fresh.changedAfter" :items="CHANGED" label="When a term changes after sign-off" />
      <v-select v-model="fresh.releaseCode" :items="CODES" label="A release code is used" />
      <span class="two">
        <v-text-field v-model.number="fresh.releaseDays" type="number" min="1" max="120" label="A code is good for days" />
        <v-text-field v-model.number="fresh.silentDays" type="number" min="1" max="365" label="Silent after days" />
      </span>
      <p class="second small">Who decides about</p>
      <div class="two">
        <v-select
          v-for="kind in EXCEPTION_KINDS"
          :key="kind"
          v-model="fresh.entitled[kind]"
          :items="WHO"
          :label="sayExceptionKind(kind)"
        />
      </div>
    </AskDialog>
  </section>
</template>

<style scoped>
.advising { padding: 10px 16px; }
p { margin: 2px 0; }
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 10px; }
</style>
