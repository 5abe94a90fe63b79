<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { joinWords, sayFinding } from '@ridgeway/words'

/**
 * Another bundle in place of registered courses: of one of them, or of a course that is lined up. Both or neither; where it is full, the
 * exchange can wait for a seat.
 */
const { course } = defineProps<{ course: string }>()
const open = defineModel<boolean>({ required: true })
const week = useWeekStore()
const { registered } = useRunSheet()
const { problem, busy, refused, exchange } = useChanges()
const { saySeats, free } = useBundleWords()
const chosen = ref<string | null>(null)
const others = ref<string[]>([])
const waits = ref(false)
watch(open, () => {
  chosen.value = null
  others.value = []
  waits.value = false
})
const drops = computed(() => [course, ...others.value])
const bundles = computed(() => (week.courses ?? []).flatMap(one => one.bundles.filter(bundle => drops.value.includes(one.course)
  ? !bundle.registered
  : bundle.picked && !bundle.registered)))
const choices = computed(() => bundles.value.map(bundle => ({ value: bundle.id,
  title: `${bundle.course}-${bundle.sections[0]!.label} ${bundle.times}`, props: { subtitle: saySeats(bundle) } })))
const besides = computed(() => registered.value.filter(row => row.course !== course).map(row => row.course))
const bundle = computed(() => bundles.value.find(one => one.id === chosen.value))
const isFull = computed(() => bundle.value !== undefined && free(bundle.value) === 0)
const refusals = computed(() => refused.value?.findings.filter(finding => !finding.ok).map(finding => sayFinding(finding).words) ?? [])
async function act() {
  const one = bundle.value
  if (one && await exchange(drops.value, one.course, one.sections.map((section: Section) => section.id), isFull.value && waits.value))
    open.value = false
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Exchange ${joinWords(drops, 'and')}`"
    :act="isFull && waits ? 'Wait, and exchange when a seat is offered' : 'Exchange: both or neither'"
    :busy="busy"
    :off="!chosen && 'Choose what you want instead'"
    @act="act"
  >
    <p>{{ joinWords(drops, 'and') }} {{ drops.length > 1 ? 'are' : 'is' }} given up only when the other is registered; where that is refused
      you keep what you have.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="refusals.length" class="blocking" role="alert">Nothing is changed: {{ refusals.join(' ') }}</p>
    <v-select v-model="chosen" :items="choices" label="Instead" no-data-text="No other section, and nothing in the line-up" />
    <v-checkbox
      v-if="isFull"
      v-model="waits"
      label="It is full: wait for a seat, and exchange by itself when one is offered"
    />
    <v-select
      v-if="besides.length"
      v-model="others"
      :items="besides"
      label="Give up with it"
      multiple
      chips
    />
  </AskDialog>
</template>

<style scoped>
p { margin: 0; }
</style>
