<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { sayFinding } from '@ridgeway/words'

/** Another bundle in place of a registered course, of the same course or of one that is lined up: both or neither. */
const { course } = defineProps<{ course: string }>()
const open = defineModel<boolean>({ required: true })
const week = useWeekStore()
const { problem, busy, refused, exchange } = useChanges()
const { saySeats } = useBundleWords()
const chosen = ref<string | null>(null)
watch(open, () => chosen.value = null)
const bundles = computed(() => (week.courses ?? []).flatMap(one => one.bundles.filter(bundle => one.course === course
  ? !bundle.registered
  : bundle.picked && !bundle.registered)))
const choices = computed(() => bundles.value.map(bundle => ({ value: bundle.id,
  title: `${bundle.course}-${bundle.sections[0]!.label} ${bundle.times}`, props: { subtitle: saySeats(bundle) } })))
const refusals = computed(() => refused.value?.findings.filter(finding => !finding.ok).map(finding => sayFinding(finding).words) ?? [])
async function act() {
  const bundle = bundles.value.find(one => one.id === chosen.value)
  if (bundle && await exchange([course], bundle.course, bundle.sections.map((section: Section) => section.id))) open.value = false
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Exchange ${course}`"
    act="Exchange: both or neither"
    :busy="busy"
    :off="!chosen && 'Choose what you want instead'"
    @act="act"
  >
    <p>{{ course }} is given up only when the other is registered; where that is refused you keep what you have.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="refusals.length" class="blocking" role="alert">Nothing is changed: {{ refusals.join(' ') }}</p>
    <v-select v-model="chosen" :items="choices" label="Instead" no-data-text="No other section, and nothing in the line-up" />
  </AskDialog>
</template>
