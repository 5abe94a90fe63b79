<script setup lang="ts">
import type { OfficeHours } from '@ridgeway/core/advising'
import { clockTime, sayMoment } from '@ridgeway/words'
import type { z } from 'zod'
import { keepOfficeHours } from '#shared/contract/acts/advising'
import { readHours } from '#shared/contract/views/advising'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** An advisor's office hours, and who comes when; each meeting leads to the brief. */
const session = useSessionStore()
const known = shallowRef<z.output<typeof readHours.output> | null>(null)
const problem = ref<Problem | null>(null)
const busy = ref(false)
const DAYS = [['M', 'Monday'], ['T', 'Tuesday'], ['W', 'Wednesday'], ['R', 'Thursday'], ['F', 'Friday'], ['S', 'Saturday'], ['U', 'Sunday']]
  .map(([value, title]) => ({ value, title }))
const fresh = reactive({ day: 'M' as OfficeHours['day'], start: '10:00', end: '12:00', length: 15, place: '' })
const minutes = (text: string) => Number(text.slice(0, 2)) * 60 + Number(text.slice(3))
async function attempt(work: () => Promise<unknown>) {
  busy.value = true
  problem.value = null
  try {
    await work()
    known.value = await look(readHours, {})
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
onMounted(() => attempt(async () => {}))
const keep = (hours: OfficeHours[]) => attempt(async () => {
  await call(keepOfficeHours, { hours })
  announce('Your office hours are kept.')
})
const add = () => keep([...known.value?.hours ?? [], { ...fresh, start: minutes(fresh.start), end: minutes(fresh.end) }])
const remove = (index: number) => keep(known.value!.hours.filter((_, i) => i !== index))
const dayName = (day: string) => DAYS.find(one => one.value === day)?.title ?? day
async function save() {
  const { writeMeetings } = await import('@ridgeway/formats/calendar')
  saveFile('advising.ics', 'text/calendar', writeMeetings('Advising', known.value!.meetings.map(one => ({ ...one,
    with: one.name, about: [one.about, `${location.origin}/student/${one.student}/brief`].filter(Boolean).join('\n') })),
  session.instant))
}
</script>

<template>
  <div class="page">
    <PageHead title="Meetings" :about="known ? `${count(known.meetings.length, 'meeting')} booked` : ''">
      <ActButton :off="!known?.meetings.length && 'Nothing is booked'" @click="save">Save as a calendar file</ActButton>
      <WordLink to="/advisees">Back to the advisees</WordLink>
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="attempt(async () => {})" />
    <div class="columns">
      <section class="card" aria-label="Booked meetings">
        <h2>Who comes</h2>
        <p v-if="known && !known.meetings.length" class="second">Nobody has booked a meeting.</p>
        <ul>
          <li v-for="one in known?.meetings ?? []" :key="one.id">
            <b>{{ sayMoment(one.start, session.zone) }}</b>, {{ one.minutes }} minutes, {{ one.place }} ·
            <NuxtLink :to="`/student/${one.student}/brief`">{{ one.name }}</NuxtLink>
            <span v-if="one.about" class="second"> · {{ one.about }}</span>
          </li>
        </ul>
      </section>
      <section class="card" aria-label="Office hours">
        <h2>Office hours</h2>
        <ul>
          <li v-for="(one, i) in known?.hours ?? []" :key="i">
            {{ dayName(one.day) }} {{ clockTime(one.start) }} to {{ clockTime(one.end) }}, {{ one.length }} minutes each, {{ one.place }}
            <WordLink class="small" :aria-label="`Take out ${dayName(one.day)} ${clockTime(one.start)}`" @click="remove(i)">
              take out
            </WordLink>
          </li>
        </ul>
        <form @submit.prevent="add">
          <v-select v-model="fresh.day" :items="DAYS" label="Day" />
          <v-text-field v-model="fresh.start" type="time" label="From" />
          <v-text-field v-model="fresh.end" type="time" label="To" />
          <v-text-field v-model.number="fresh.length" type="number" min="5" max="240" label="Minutes each" />
          <v-text-field v-model="fresh.place" label="Where" maxlength="80" />
          <ActButton weight="full" type="submit" :busy="busy" :off="!fresh.place.trim() && 'Say where'">Add</ActButton>
        </form>
        <p class="second small">Meetings that are booked stay when the hours change. Days without classes have none.</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; align-items: start; }
.card { padding: 12px 16px; }
ul { list-style: none; padding: 0; margin: 6px 0; }
li { padding: 5px 0; border-top: 1px solid var(--line-soft); }
form { display: grid; grid-template-columns: repeat(2, 1fr); gap: 8px; margin-top: 8px; }
p { margin: 6px 0 0; }
@media (max-width: 900px) { .columns { grid-template-columns: 1fr; } }
</style>
