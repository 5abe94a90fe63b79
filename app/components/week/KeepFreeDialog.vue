<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'
import type { BusyRead } from '@ridgeway/formats/calendar'
import { clockTime, DAY_NAMES, sayWish } from '@ridgeway/words'

/** Hours kept free: what is kept, more by hand, or taken from a calendar file. */
const open = defineModel<boolean>({ required: true })
const { drawn } = defineProps<{ drawn: { day: Weekday, start: number, end: number } | null }>()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { blocks, keep, keepAll, release } = useKeepFree()
const days = ref<Weekday[]>(['M'])
const start = ref(780)
const end = ref(1020)
const name = ref('')
watch(() => drawn, (block) => {
  if (!block) return
  days.value = [block.day]
  start.value = block.start
  end.value = block.end
  name.value = ''
}, { immediate: true })
const times = Array.from({ length: 36 }, (_, i) => 360 + i * 30).map(value => ({ value, title: clockTime(value) }))
const dayChoices = DAYS.map(value => ({ value, title: DAY_NAMES[value] }))
const off = computed(() => days.value.length === 0 ? 'Choose a day' : start.value >= end.value ? 'The end comes after the begin' : '')
const read = shallowRef<BusyRead | null>(null)
const failed = ref('')
async function take(file: File) {
  const { readBusy } = await import('@ridgeway/formats/calendar')
  try {
    read.value = readBusy(await file.text(), workingTerm.term!, session.zone)
    failed.value = ''
  }
  catch (error) {
    read.value = null
    failed.value = (error as Error).message
  }
}
async function keepRead() {
  await keepAll(read.value!.blocks)
  read.value = null
}
/** The hours stand in the week at once, and what is said of them there; the form has nothing to wait for. */
function add() {
  void keep({ days: days.value, start: start.value, end: end.value, ...name.value.trim() ? { name: name.value.trim() } : {} })
  name.value = ''
  open.value = false
}
</script>

<template>
  <AskDialog v-model="open" title="Hours kept free" act="Keep them free" :off="off" @act="add">
    <ul v-if="blocks.length">
      <li
        v-for="block in blocks"
        :key="block.id"
      >
        {{ sayWish(block) }} <WordLink class="small" :aria-label="`Let go: ${sayWish(block)}`" @click="release(block.id)">let go</WordLink>
      </li>
    </ul>
    <v-select v-model="days" :items="dayChoices" label="Days" multiple />
    <div class="row">
      <v-select v-model="start" :items="times" label="From" />
      <v-select v-model="end" :items="times" label="To" />
    </div>
    <v-text-field v-model="name" label="What for (if you like)" maxlength="40" />
    <FileDrop label="Or from a calendar file (.ics)" accept=".ics,text/calendar" :most="2_000_000" @file="take" />
    <p v-if="failed" class="blocking" role="alert">{{ failed }}</p>
    <div v-if="read" role="status">
      <p>{{ count(read.blocks.length, 'block') }} come back in {{ workingTerm.term?.name }}.
        <template
          v-if="read.once + read.wholeDays"
        >
          Left out: {{ read.once }} that happen once, {{ read.wholeDays }} of whole days.</template></p>
      <ul>
        <li
          v-for="(block, i) in read.blocks"
          :key="i"
        >
          {{ block.days.join(' ') }} {{ clockTime(block.start) }}–{{ clockTime(block.end) }} {{ block.name }}
        </li>
      </ul>
      <ActButton v-if="read.blocks.length" @click="keepRead">Keep {{ count(read.blocks.length, 'block') }} free</ActButton>
    </div>
  </AskDialog>
</template>

<style scoped>
.row { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
ul { margin: 0; padding-left: 18px; }
p { margin: 0 0 4px; }
</style>
