<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import { bookMeeting, cancelMeeting } from '#shared/contract/acts/advising'
import { readSlots } from '#shared/contract/views/advising'
import type { Problem } from '~/composables/useApi'

/** Meetings with the advisor: those that are booked, to be moved or cancelled, and the free times of the next weeks by day. */
const student = useStudentStore()
const session = useSessionStore()
const problem = ref<Problem | null>(null)
const busy = ref('')
const about = ref('')
/** The meeting that is to be moved; 0 for a new one. */
const moving = ref(0)
const { data: known, problem: unread, reload: load } = useView(readSlots, () => ({}),
  { of: () => student.state?.id, again: () => student.state?.version })
const days = computed(() => {
  const by = new Map<string, { start: string, place: string, minutes: number }[]>()
  for (const slot of known.value?.slots ?? []) {
    const day = toLocal(slot.start, session.zone).toFormat('ccc d LLL')
    by.set(day, [...by.get(day) ?? [], slot])
  }
  return [...by]
})
/** Days that are shown before the later ones are asked for. */
const MOST = 8
const showsAll = ref(false)
async function book(start: string) {
  busy.value = start
  problem.value = await student.act(bookMeeting, { start, about: about.value, moves: moving.value || null })
  busy.value = ''
  if (!problem.value) {
    announce(moving.value ? 'The meeting is moved.' : 'The meeting is booked.')
    moving.value = 0
    about.value = ''
  }
  await load()
}
async function cancel(id: number) {
  problem.value = await student.act(cancelMeeting, { id })
  if (!problem.value) announce('The meeting is cancelled.')
  await load()
}
async function save() {
  const { writeMeetings } = await import('@ridgeway/formats/calendar')
  saveFile('advising.ics', 'text/calendar', writeMeetings(`Advising, ${student.state!.name}`, (student.state?.meetings ?? [])
    .map(one => ({ ...one, with: student.isOwn ? one.advisorName : one.name })), session.instant))
}
</script>

<template>
  <section class="card meetings" aria-label="Meetings">
    <h2>{{ student.isOwn ? `Meet ${known?.advisor ?? 'your advisor'}` : `Meetings with ${student.state?.name}` }}</h2>
    <FailedBox v-if="problem ?? unread" :problem="(problem ?? unread)!" />
    <ul v-if="student.state?.meetings.length" class="booked" aria-label="Booked">
      <li v-for="one in student.state.meetings" :key="one.id">
        <b>{{ sayMoment(one.start, session.zone) }}</b>, {{ one.minutes }} minutes, {{ one.place }}
        <span class="second">· {{ student.isOwn ? one.advisorName : one.name }}{{ one.about ? ` · ${one.about}` : '' }}</span>
        <span class="acts">
          <WordLink :aria-pressed="moving === one.id" @click="moving = moving === one.id ? 0 : one.id">move</WordLink>
          <WordLink @click="cancel(one.id)">cancel</WordLink>
        </span>
      </li>
    </ul>
    <p v-if="student.state?.meetings.length"><WordLink class="small" @click="save">Save as a calendar file</WordLink></p>
    <GreyShapes v-if="!known" label="Loading the free times" :rows="3" />
    <p v-else-if="!days.length" class="second">
      {{ known.advisor ? `${known.advisor} has no free time in the next three weeks. Write a comment beside your plan, or a mail.`
        : 'No advisor is assigned yet; ask the registrar’s office.' }}
    </p>
    <template v-else>
      <p class="second">{{ moving ? 'Choose the time to which it is moved.' : 'Choose a free time; it is booked at once.' }}</p>
      <v-text-field v-if="!moving" v-model="about" class="about" label="What it is about" maxlength="300" />
      <div v-for="[day, slots] in showsAll ? days : days.slice(0, MOST)" :key="day" class="day">
        <span class="strong">{{ day }}</span>
        <span class="slots">
          <ActButton
            v-for="slot in slots"
            :key="slot.start"
            :busy="busy === slot.start"
            :title="`${slot.minutes} minutes, ${slot.place}`"
            :aria-label="`${moving ? 'Move to' : 'Book'} ${sayMoment(slot.start, session.zone)}, ${slot.place}`"
            @click="book(slot.start)"
          >
            {{ toLocal(slot.start, session.zone).toFormat('HH:mm') }}
          </ActButton>
        </span>
      </div>
      <RestLink v-model="showsAll" :rest="days.length - MOST" are="later days" less="The next days only" />
    </template>
  </section>
</template>

<style scoped>
.meetings { padding: 12px 16px; }
.booked { list-style: none; padding: 0; margin: 6px 0; }
.booked li { padding: 5px 0; border-top: 1px solid var(--line-soft); }
.acts { display: inline-flex; gap: 12px; margin-left: 12px; }
p { margin: 4px 0; }
.about { max-width: 420px; margin: 6px 0; }
.day {
  display: grid; grid-template-columns: 96px 1fr; gap: 8px;
  padding: 5px 0; border-top: 1px solid var(--line-soft); align-items: center;
}
.slots { display: flex; flex-wrap: wrap; gap: 6px; }
</style>
