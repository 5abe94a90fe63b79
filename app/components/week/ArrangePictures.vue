<script setup lang="ts">
/** The best weeks side by side, the one that the ribbon shows marked; stepped through, and taken whole. */
const emit = defineEmits<{ take: [withBackups: boolean] }>()
const arrange = useArrangeStore()
const { changesOf, labelOf, blocksOf, sayWeek, sayChoice, distinctionOf, backupsOf, backupLabels } = useArrangement()
const weeks = computed(() => arrange.weeks ?? [])
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.one')
const changes = computed(() => arrange.looked ? changesOf(arrange.looked) : [])
const alone = computed(() => weeks.value.length < 2 && 'There is only this one')
const said = computed(() => {
  if (changes.value.length === 0) return 'This is the week as it is picked.'
  return `Would choose ${changes.value.map(([course, id]) => sayChoice(course, id)).join(', ')}.`
})
/** What tells the first ones from each other. */
const first = computed(() => weeks.value.slice(0, 4))
const distinction = (i: number) => i < first.value.length ? distinctionOf(weeks.value[i]!, first.value) : ''
/** Another week, held against the one that is looked at. */
const beside = ref<number | null>(null)
watch(weeks, () => beside.value = null)
const differences = computed(() => {
  const other = beside.value === null ? null : weeks.value[beside.value]
  const mine = arrange.looked
  return other && mine
    ? Object.keys(mine.choices).filter(course => mine.choices[course] !== other.choices[course])
        .map(course => ({ course, here: labelOf(course, mine.choices[course]!), there: labelOf(course, other.choices[course]!) }))
    : []
})
const backups = computed(() => arrange.looked ? backupLabels(backupsOf(arrange.looked)) : [])
const withBackups = ref(true)
const isTaken = computed(() => changes.value.length === 0 && (!withBackups.value || backups.value.length === 0))
watch(() => arrange.at, async () => {
  await nextTick()
  field.value?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
})
</script>

<template>
  <div class="head">
    <ActButton aria-keyshortcuts="[" :off="alone" @click="arrange.step(-1)">‹ <span class="kbd">[</span></ActButton>
    <span>{{ arrange.at + 1 }} of {{ weeks.length }}{{ weeks.length === 50 ? ' best' : '' }}</span>
    <ActButton aria-keyshortcuts="]" :off="alone" @click="arrange.step(1)"><span class="kbd">]</span> ›</ActButton>
    <ActButton weight="full" :off="isTaken && 'It is picked already'" @click="emit('take', withBackups)">Take this week</ActButton>
  </div>
  <p class="small">{{ said }}</p>
  <v-checkbox
    v-if="backups.length"
    v-model="withBackups"
    class="with-backups"
    :label="`With ${count(backups.length, 'backup')} that ${backups.length === 1 ? 'fits' : 'fit'} beside the rest: ${backups.join(', ')}`"
  />
  <CompareWeeks v-if="weeks.length > 1" v-model="beside" :differences="differences" :at="arrange.at" :of="first.length" />
  <div ref="field" class="pictures" role="group" aria-label="The best weeks">
    <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a picture of a week is a mark of our own, pressed as a whole -->
    <button
      v-for="(one, i) in weeks"
      :key="i"
      type="button"
      class="one mark"
      :aria-pressed="i === arrange.at"
      :aria-label="`Week ${i + 1}: ${sayWeek(one)}, ${count(changesOf(one).length, 'exchange')}`"
      @click="arrange.at = i"
    >
      <WeekPicture :blocks="blocksOf(one)" />
      <span class="small">{{ sayWeek(one) }}</span>
      <span v-if="distinction(i)" class="small strong">{{ distinction(i) }}</span>
    </button>
  </div>
</template>

<style scoped>
.head { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
p { margin: 4px 0; }
.pictures { display: flex; gap: 8px; overflow-x: auto; padding: 3px 3px 8px; }
.one {
  flex: none; width: 164px; padding: 6px; border: 1px solid var(--line); border-radius: 6px; background: var(--surface);
  text-align: left; cursor: pointer;
}
.one[aria-pressed=true] { border-color: var(--act); box-shadow: 0 0 0 1px var(--act); }
.small { display: block; margin-top: 3px; }
.with-backups :deep(.v-label) { font-size: 13px; line-height: 1.35; }
</style>
