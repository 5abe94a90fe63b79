<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import { type OpeningsEffect, setOpenings } from '#shared/contract/acts/office'
import { readOpenings } from '#shared/contract/views/college'
import { call } from '~/composables/useApi'

/** Who is let in when: all openings of a term, each with how many students it is the first for; a change says first whose moves. */
const { term } = defineProps<{ term: string }>()
const emit = defineEmits<{ changed: [] }>()
const catalog = useCatalogStore()
const session = useSessionStore()
const { data, problem: unread, reload } = useView(readOpenings, () => ({}))
const { busy, problem, doing } = useDoing()
interface Draft { date: string, time: string, program: string | null, credits: number, words: string }
const seen = computed(() => (data.value ?? []).filter(one => one.term === term).sort((a, b) => a.from < b.from ? -1 : 1)
  .map(({ term: _, ...one }) => one))
const drafts = ref<Draft[]>([])
const effect = shallowRef<OpeningsEffect | null>(null)
const toDraft = (one: (typeof seen.value)[number]): Draft => {
  const local = toLocal(one.from, session.zone)
  return { date: local.toISODate()!, time: local.toFormat('HH:mm'), program: one.program, credits: Number(formatCredits(one.earnedMin)),
    words: one.words }
}
watch(seen, now => drafts.value = now.map(toDraft))
const openings = computed(() => drafts.value.map(one => ({ from: fromLocal(`${one.date}T${one.time}`, session.zone), program: one.program
  || null,
earnedMin: Math.round(Number(one.credits) * 100), words: one.words.trim() })))
const lacking = computed(() => openings.value.some(one => one.from === '')
  ? 'Each opening needs a day and a time'
  : openings.value.some(one => one.words === '') && 'Say who each opening is for')
const isChanged = computed(() => JSON.stringify(openings.value) !== JSON.stringify(seen.value))
const programs = computed(() => [{ value: null, title: 'every program' },
  ...[...new Map([...catalog.programs.values()].map(one => [one.code, one.title]))].map(([value, title]) => ({ value, title }))])
async function send(keep: boolean) {
  return doing(async () => {
    effect.value = (await call(setOpenings, { term, openings: openings.value, seen: seen.value, keep })).answer
  })
}
const check = () => lacking.value ? undefined : send(false)
watchDebounced(openings, () => void check(), { debounce: 300 })
async function keep() {
  if (!await send(true)) return
  announce('The openings are kept.')
  await reload()
  emit('changed')
}
const add = () => {
  const last = drafts.value.at(-1)
  drafts.value.push({ date: last?.date ?? '', time: last?.time ?? '08:00', program: null, credits: 0, words: '' })
}
const moved = computed(() => effect.value
  ? [effect.value.gained && `${count(effect.value.gained, 'student')} let in`, effect.value.lost && `${effect.value.lost} shut out`,
      effect.value.earlier && `${effect.value.earlier} earlier`, effect.value.later
      && `${effect.value.later} later`].filter(Boolean).join(', ')
  : '')
</script>

<template>
  <section class="card openings" aria-label="Openings">
    <h2>Who may register from when</h2>
    <FailedBox v-if="problem ?? unread" :problem="(problem ?? unread)!" retry @retry="reload" />
    <p v-if="data && !drafts.length" class="second">
      Nobody can register for this term yet. Add the first opening; who has earned more credits is often let in earlier.
    </p>
    <div v-for="(one, i) in drafts" :key="i" class="opening" role="group" :aria-label="`Opening ${i + 1}`">
      <v-text-field v-model="one.date" type="date" label="Day" />
      <v-text-field v-model="one.time" type="time" label="Time" />
      <v-text-field v-model.number="one.credits" type="number" min="0" max="400" label="Credits from" />
      <v-select v-model="one.program" :items="programs" label="Program" />
      <v-text-field v-model="one.words" label="Who they are, as students read it" maxlength="120" class="words" />
      <span class="effect second"
        ><b>{{ effect && !lacking ? effect.openings[i]?.students ?? '…' : '…' }}</b> first let in here</span
      >
      <WordLink :aria-label="`Take opening ${i + 1} out`" @click="drafts.splice(i, 1)">take out</WordLink>
    </div>
    <p><WordLink @click="add">+ opening</WordLink></p>
    <p v-if="effect" role="status" :class="{ blocking: effect.without > 0 }">
      {{ effect.without ? `${count(effect.without, 'student')} would not be let in at all.` : 'Every student is let in.' }}
      <template v-if="isChanged"> <b>{{ moved ? `Against what stands: ${moved}.` : 'Nobody\'s first moment moves.' }}</b></template>
    </p>
    <p class="acts">
      <ActButton weight="full" :busy="busy" :off="lacking || (!isChanged && 'Nothing is changed yet')" @click="keep">
        Keep these openings
      </ActButton>
      <WordLink v-if="isChanged" @click="drafts = seen.map(toDraft)">Leave them as they are</WordLink>
    </p>
    <p class="second small">
      Times are those of the college. A student's opening is the earliest that fits: by credits earned and program.
    </p>
  </section>
</template>

<style scoped>
.openings { padding: 10px 16px; }
.opening {
  display: grid; grid-template-columns: 1.2fr .9fr .9fr 1.4fr; gap: 8px; padding: 8px 0; border-top: 1px solid var(--line-soft);
  align-items: center;
}
.words { grid-column: 1 / 3; }
.acts { display: flex; gap: 14px; align-items: center; }
p { margin: 4px 0; }
@media (max-width: 700px) { .opening { grid-template-columns: 1fr 1fr; } }
</style>
