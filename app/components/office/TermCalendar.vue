<script setup lang="ts">
import type { Term, Weekday } from '@ridgeway/core/catalog'
import { DAY_NAMES } from '@ridgeway/words'
import { type CalendarOfTerm, setCalendar } from '#shared/contract/acts/office'
import { call } from '~/composables/useApi'

/** A term day by day: days without classes, days that follow another weekday, and its sessions; taken from a calendar file or written. */
const { term } = defineProps<{ term: Term }>()
const emit = defineEmits<{ changed: [] }>()
const isOpen = defineModel<boolean>({ required: true })
const { busy, problem, doing } = useDoing()
const FOLLOWS = (Object.keys(DAY_NAMES) as Weekday[]).map(value => ({ value, title: `a ${DAY_NAMES[value]}` }))
type Draft = Omit<CalendarOfTerm, 'sessions'> & { sessions: (Omit<CalendarOfTerm['sessions'][number], 'deadlines'>
  & { addBy: string, dropBy: string, withdrawBy: string })[] }
const standing = computed((): CalendarOfTerm => ({ noClass: term.noClass, movedDays: term.movedDays,
  sessions: term.sessions.map(({ code, name, start, end, deadlines }) => ({ code, name, start, end, deadlines: deadlines ?? null })) }))
const draft = ref<Draft>(toDraft())
function toDraft(): Draft {
  const { noClass, movedDays, sessions } = structuredClone(toRaw(standing.value))
  return { noClass, movedDays, sessions: sessions.map(({ deadlines, ...one }) => ({ ...one, addBy: deadlines?.addBy ?? '',
    dropBy: deadlines?.dropBy ?? '', withdrawBy: deadlines?.withdrawBy ?? '' })) }
}
/** Days of a file that are not here yet, to be chosen from. */
const offered = ref<{ date: string, name: string, chosen: boolean }[]>([])
const fromFile = ref('')
watch(isOpen, (now) => {
  if (!now) return
  draft.value = toDraft()
  offered.value = []
  fromFile.value = ''
})
async function take(file: File) {
  offered.value = []
  try {
    const { readWholeDays } = await import('@ridgeway/formats/calendar')
    const days = readWholeDays(await file.text(), term)
    const known = new Set(draft.value.noClass.map(one => one.date))
    offered.value = days.filter(one => !known.has(one.date)).map(one => ({ ...one, chosen: true }))
    fromFile.value = days.length === 0
      ? `The file names no whole day in ${term.name}.`
      : offered.value.length === 0 ? 'All of its days are here already.' : 'Choose which of its days have no classes.'
  }
  catch (error) {
    fromFile.value = (error as Error).message
  }
}
function addOffered() {
  const chosen = offered.value.filter(one => one.chosen).map(({ date, name }) => ({ date, name }))
  draft.value.noClass = [...draft.value.noClass, ...chosen].sort((a, b) => a.date < b.date ? -1 : 1)
  offered.value = []
  fromFile.value = `${count(chosen.length, 'day')} taken.`
}
const lacking = computed(() => {
  const { noClass, movedDays, sessions } = draft.value
  const isBare = [...noClass, ...movedDays].some(one => !one.date) || noClass.some(one => !one.name.trim())
  if (isBare) return 'Each day needs its date and a name'
  if (sessions.some(one => !one.code || !one.name.trim() || !one.start || !one.end)) return 'Each session needs a code, a name and its days'
  return sessions.some(one => [one.addBy, one.dropBy, one.withdrawBy].filter(Boolean).length % 3 !== 0)
    ? 'A session has all three deadlines of its own, or none'
    : false
})
async function keep() {
  if (lacking.value) return
  const sessions = draft.value.sessions.map(({ addBy, dropBy, withdrawBy, ...one }) => ({ ...one,
    deadlines: addBy ? { addBy, dropBy, withdrawBy } : null }))
  if (!await doing(async () => void await call(setCalendar, { ...draft.value, sessions, term: term.code, seen: standing.value }))) return
  isOpen.value = false
  announce(`The calendar of ${term.name} is kept.`)
  emit('changed')
}
</script>

<template>
  <AskDialog v-model="isOpen" :title="`Calendar of ${term.name}`" act="Keep this" :busy="busy" :off="lacking" :width="760" @act="keep">
    <p class="second small">It holds at once: classes of everybody meet on the days that are left. Days are in the college's zone.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <section aria-label="Days without classes" class="part">
      <h3>Days without classes</h3>
      <p v-if="!draft.noClass.length" class="second">None yet.</p>
      <div v-for="(one, i) in draft.noClass" :key="i" class="day" role="group" :aria-label="`Day without classes ${i + 1}`">
        <v-text-field v-model="one.date" type="date" label="Day" :min="term.start" :max="term.end" />
        <v-text-field v-model="one.name" label="Name" maxlength="60" />
        <WordLink :aria-label="`Take ${one.name || 'this day'} out`" @click="draft.noClass.splice(i, 1)">take out</WordLink>
      </div>
      <p><WordLink @click="draft.noClass.push({ date: '', name: '' })">+ day without classes</WordLink></p>
      <FileDrop label="Or from a calendar file (.ics)" accept=".ics,text/calendar" :most="2_000_000" @file="take" />
      <p v-if="fromFile" role="status">{{ fromFile }}</p>
      <div v-if="offered.length" class="offered">
        <v-checkbox
          v-for="one in offered"
          :key="one.date"
          v-model="one.chosen"
          :label="`${longDate(one.date)} · ${one.name}`"
          density="compact"
          hide-details
        />
        <ActButton @click="addOffered">Take {{ count(offered.filter(one => one.chosen).length, 'day') }}</ActButton>
      </div>
    </section>
    <section aria-label="Days that follow another weekday" class="part">
      <h3>Days that follow another weekday</h3>
      <div v-for="(one, i) in draft.movedDays" :key="i" class="day" role="group" :aria-label="`Moved day ${i + 1}`">
        <v-text-field v-model="one.date" type="date" label="Day" :min="term.start" :max="term.end" />
        <v-select v-model="one.follows" :items="FOLLOWS" label="Meets as" />
        <WordLink :aria-label="`Take moved day ${i + 1} out`" @click="draft.movedDays.splice(i, 1)">take out</WordLink>
      </div>
      <p><WordLink @click="draft.movedDays.push({ date: '', follows: 'M' })">+ moved day</WordLink></p>
    </section>
    <section aria-label="Sessions" class="part">
      <h3>Sessions</h3>
      <div v-for="(one, i) in draft.sessions" :key="i" class="session" role="group" :aria-label="`Session ${i + 1}`">
        <v-text-field v-model="one.code" label="Code" maxlength="10" />
        <v-text-field v-model="one.name" label="Name" maxlength="40" />
        <v-text-field v-model="one.start" type="date" label="First day" />
        <v-text-field v-model="one.end" type="date" label="Last day" />
        <WordLink
          v-if="draft.sessions.length > 1"
          :aria-label="`Take ${one.name || 'this session'} out`"
          @click="draft.sessions.splice(i, 1)"
          >take out</WordLink
        >
        <span v-else />
        <v-text-field v-model="one.addBy" type="date" label="Its own last day to add" class="own" />
        <v-text-field v-model="one.dropBy" type="date" label="to drop" />
        <v-text-field v-model="one.withdrawBy" type="date" label="to withdraw" />
      </div>
      <p>
        <WordLink
          @click="draft.sessions.push({ code: '', name: '', start: term.start, end: term.end, addBy: '', dropBy: '', withdrawBy: '' })"
          >+ session</WordLink
        >
      </p>
    </section>
  </AskDialog>
</template>

<style scoped>
.part { border-top: 1px solid var(--line-soft); padding-top: 8px; display: grid; gap: 8px; }
h3 { margin: 0; }
p { margin: 0; }
.day { display: grid; grid-template-columns: 170px minmax(0, 1fr) auto; gap: 8px; align-items: center; }
.session { display: grid; grid-template-columns: 100px minmax(0, 1fr) 160px 160px auto; gap: 8px; align-items: center; }
.session .own { grid-column: 2; }
.offered { display: grid; gap: 2px; justify-items: start; }
@media (max-width: 700px) { .day, .session { grid-template-columns: minmax(0, 1fr); } .session .own { grid-column: auto; } }
</style>
