<script setup lang="ts">
import { DateTime } from 'luxon'
import type { Problem } from '~/composables/useApi'

const session = useSessionStore()
const { local, instant } = useNow()
const moment = ref(local.value.toFormat('yyyy-LL-dd\'T\'HH:mm'))
const problem = ref<Problem | null>(null)
const said = ref('')
async function move(to: DateTime) {
  problem.value = to.isValid
    ? await session.setClock(to.toUTC().toISO()!)
    : { code: 'bad-moment', status: 0, title: 'This is not a date and time.', detail: 'Fill in both, for example 2026-11-09 08:00.' }
  said.value = problem.value ? '' : `The college's clock shows ${to.toFormat('cccc d LLLL yyyy, HH:mm')}.`
}
const jump = (change: { minutes?: number, days?: number }) => move(DateTime.fromISO(instant.value, { zone: session.zone }).plus(change))
const opening = computed(() => local.value.set({ year: 2026, month: 11, day: 9, hour: 7, minute: 59, second: 50, millisecond: 0 }))
/** The days of the working term by which something happens, as moments to go to. */
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const days = computed(() => {
  const term = workingTerm.term
  if (!term) return []
  const at = (date: string, hour: number, days = 0) => DateTime.fromISO(date, { zone: session.zone }).plus({ days }).set({ hour,
    minute: 0 })
  return [
    { words: 'Fees are due', to: at(term.feesDue, 9) }, { words: 'What is unpaid is voided', to: at(term.feesDue, 9,
      catalog.policy.graceDays + 1) },
    { words: 'Classes begin', to: at(term.start, 8) }, { words: 'Last day to add', to: at(term.addBy, 9) },
    { words: 'Last day to drop', to: at(term.dropBy, 9) }, { words: 'The last day to drop is over', to: at(term.dropBy, 9, 1) },
    { words: 'Last day to withdraw', to: at(term.withdrawBy, 9) }, { words: 'Classes end', to: at(term.end, 17) },
    { words: 'Grades are there', to: at(term.end, 9, 4) },
  ]
})
</script>

<template>
  <div class="page" style="max-width: 680px">
    <div class="page-head"><h1>The demo's clock</h1></div>
    <section class="card clock">
      <p class="now">
        {{ local.toFormat('cccc d LLLL yyyy') }} <b>{{ local.toFormat('HH:mm:ss') }}</b> <span class="second">{{ session.zone }}</span>
      </p>
      <p class="second">
        This page stands in for time itself: it moves the clock of the whole demonstration college, for everybody, so that an opening can
        be lived through. It does not exist outside the demonstration.
      </p>
      <FailedBox v-if="problem" :problem="problem" />
      <p class="said" role="status">{{ said }}</p>
      <div class="jumps">
        <ActButton @click="move(opening)">Ten seconds before the 08:00 opening</ActButton>
        <ActButton @click="jump({ minutes: 10 })">Ten minutes on</ActButton>
        <ActButton @click="jump({ days: 1 })">A day on</ActButton>
        <ActButton @click="jump({ days: -1 })">A day back</ActButton>
      </div>
      <h2>{{ workingTerm.term?.name }}, day by day</h2>
      <ul class="days">
        <li v-for="day in days" :key="day.words">
          <span class="second">{{ day.to.toFormat('d LLL yyyy') }}</span> <WordLink @click="move(day.to)">{{ day.words }}</WordLink>
        </li>
      </ul>
      <form @submit.prevent="move(DateTime.fromISO(moment, { zone: session.zone }))">
        <v-text-field v-model="moment" type="datetime-local" label="Set to" />
        <ActButton weight="full" type="submit">Set the clock</ActButton>
      </form>
      <p><NuxtLink :to="session.home">Back to my start page</NuxtLink></p>
    </section>
    <TheCrowd v-if="workingTerm.code" />
  </div>
</template>

<style scoped>
.clock { padding: 18px 22px; }
.now { font-size: 17px; }
.now b { font-size: 24px; margin: 0 8px; }
.jumps { display: flex; flex-wrap: wrap; gap: 8px; margin: 12px 0; }
.days { list-style: none; padding: 0; margin: 6px 0 16px; columns: 2; }
.days li { display: grid; grid-template-columns: 96px 1fr; break-inside: avoid; }
form { display: flex; gap: 10px; align-items: center; max-width: 420px; }
.said { color: var(--act); font-weight: 650; min-height: 1.4em; }
</style>
