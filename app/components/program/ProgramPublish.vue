<script setup lang="ts">
import { sayProgramEffect } from '@ridgeway/words'
import { loadProgramFile, tryProgramText, type ProgramTried } from '#shared/contract/acts/college'
import type { ProgramDraft } from '~/composables/program/draft'
import { call } from '~/composables/useApi'

/** Whom the change touches, all who are in the program read with the old rules and the new; then it is put in force. */
const { draft } = defineProps<{ draft: ProgramDraft }>()
const emit = defineEmits<{ kept: [id: string] }>()
const catalog = useCatalogStore()
const { problem, doing } = useDoing()
const { busy: keeping, problem: refused, doing: keep } = useDoing()
const SHOWN = 40
const rows = shallowRef<ProgramTried['rows']>([])
const total = ref(0)
const done = ref(0)
/** What the answers are about; a change of the rules makes them old. */
const about = ref('')
const running = ref(false)
const despite = ref(false)
const isWhole = computed(() => about.value === draft.text.value && !running.value && done.value >= total.value)
const of = (kind: string) => rows.value.filter(row => row.effect.kind === kind).length
const moved = computed(() => [...rows.value].filter(row => row.effect.kind !== 'same' || row.effect.lines.length > 0)
  .sort((a, b) => ORDER.indexOf(a.effect.kind) - ORDER.indexOf(b.effect.kind)
    || (b.effect.open.after - b.effect.open.before) - (a.effect.open.after - a.effect.open.before)))
const later = computed(() => rows.value.filter(({ effect: { finish, lost } }) =>
  finish.before !== finish.after || lost.before !== lost.after))
const ORDER = ['loses', 'both', 'gains', 'same']
const failing = computed(() => draft.results.value.filter(one => one.problem !== null || one.mismatches.length > 0).length)
async function look() {
  const text = draft.text.value
  rows.value = []
  done.value = 0
  total.value = 0
  about.value = text
  running.value = true
  await doing(async () => {
    for (let after: number | null = 0; after !== null && running.value && about.value === text;) {
      const { answer }: { answer: ProgramTried | { ok: false } } = await call(tryProgramText, { text, after })
      if (!answer.ok || !running.value) break
      rows.value = [...rows.value, ...answer.rows]
      total.value = answer.total
      done.value = answer.done
      after = answer.next
    }
  })
  if (running.value && !problem.value) announce(`Everybody is read: ${of('loses')} lose, ${of('gains')} gain.`)
  running.value = false
}
onBeforeUnmount(() => running.value = false)
async function publish() {
  let id = ''
  const went = await keep(async () => {
    const { answer } = await call(loadProgramFile, { text: draft.text.value, keep: true, cases: draft.casesText.value,
      despite: despite.value, ...draft.isSame.value ? { seen: draft.seen.value } : {} })
    if (answer.ok) id = answer.id
  })
  if (!went || !id) return
  draft.clear()
  rows.value = []
  about.value = ''
  await Promise.all([catalog.load(true), draft.reload()])
  announce(`${id} is in force.`)
  emit('kept', id)
}
const off = computed(() => draft.problems.value.length > 0
  ? 'Mend what is wrong first'
  : !draft.program.value
      ? 'The program cannot be read'
      : !draft.isChanged.value
          ? 'Nothing is changed'
          : draft.isSame.value && (draft.data.value?.students ?? 0) > 0 && !isWhole.value
            ? 'See whom it touches first'
            : failing.value > 0 && !despite.value && `Not held any more: ${count(failing.value, 'worked case')}`)
</script>

<template>
  <section class="card publish" aria-label="Put in force">
    <h2>Whom it touches</h2>
    <p v-if="!draft.isSame.value && draft.program.value" class="second">
      A program of another catalog year: nobody is in it yet, and nobody is touched.
    </p>
    <template v-else>
      <p v-if="!rows.length && !running" class="second">
        {{ count(draft.data.value?.students ?? 0, 'student') }} in it. Each is read with the rules in force and with these.
      </p>
      <LongWork
        v-if="running"
        label="Reading everybody in the program"
        :share="total ? done / total : null"
        :stage="total ? `${done} of ${total}` : 'beginning'"
        @cancel="running = false"
      />
      <p v-if="rows.length">
        <b>{{ of('loses') }} lose, {{ of('gains') }} gain{{ of('both') ? `, ${of('both')} both` : '' }}</b>;
        {{ of('same') }} stay as they are; the soonest finish of {{ later.length }} moves.
        <span v-if="!running && done < total" class="second">Stopped at {{ done }} of {{ total }}.</span>
        <span v-if="about !== draft.text.value" class="blocking"> The rules were changed since; look again.</span>
      </p>
      <FailedBox v-if="problem" :problem="problem" />
      <ul v-if="moved.length">
        <li v-for="row in moved.slice(0, SHOWN)" :key="row.id">
          <NuxtLink :to="`/student/${row.id}/requirements`">{{ row.name }}</NuxtLink> <span class="strong">{{ row.effect.kind }}</span>
          <span class="second small"> · {{ sayProgramEffect(row.effect, 3) }}</span>
        </li>
        <li v-if="moved.length > SHOWN" class="second">and {{ moved.length - SHOWN }} more</li>
      </ul>
      <ActButton
        :off="!draft.program.value ? 'Mend what is wrong first' : !draft.isChanged.value && 'Nothing is changed'"
        :busy="running"
        @click="look"
        >See whom it touches</ActButton
      >
    </template>
    <v-checkbox v-if="failing" v-model="despite" density="compact" hide-details :label="`Despite ${count(failing, 'worked case')}`" />
    <FailedBox v-if="refused" :problem="refused" />
    <p>
      <ActButton weight="full" :off="off" :busy="keeping" @click="publish">Put it in force</ActButton>
    </p>
  </section>
</template>

<style scoped>
.publish { padding: 8px 16px 12px; }
ul { list-style: none; margin: 6px 0; padding: 0; display: grid; gap: 4px; max-height: 320px; overflow-y: auto; }
p { margin: 6px 0; }
</style>
