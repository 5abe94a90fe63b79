<script setup lang="ts">
import type { Wish } from '@ridgeway/core/weeks'
import { clockTime, DAY_NAMES, sayWish } from '@ridgeway/words'

/** One wish: what it asks for, how much it weighs, and what it hides. */
const { wish, instructors } = defineProps<{
  wish: Wish
  hidden?: number | undefined
  /** Counting was stopped: it hides at least so many. */
  atLeast?: boolean | undefined
  instructors: readonly string[]
}>()
const emit = defineEmits<{ change: [wish: Wish], remove: [] }>()
const catalog = useCatalogStore()
const week = useWeekStore()
const set = (values: object) => emit('change', { ...wish, ...values } as Wish)
const valueOf = (key: string) => (wish as unknown as Record<string, string>)[key]
const weights = computed(() => NEVER_HARD.includes(wish.kind) ? WEIGHTS.slice(1) : WEIGHTS)
const groups = computed(() => [...new Set((week.courses ?? []).flatMap(one => one.bundles.flatMap(bundle =>
  bundle.sections.flatMap(section => section.group ? [section.group as string] : []))))].sort())
/** What can be chosen in a field. */
const choices = computed((): Record<WishField['of'], readonly unknown[]> => ({
  times: HALF_HOURS.map(value => ({ value, title: clockTime(value) })),
  days: DAYS.map(value => ({ value, title: DAY_NAMES[value] })),
  sites: catalog.sites.filter(site => !site.online).map(site => ({ value: site.code, title: site.name })),
  deliveries: ['on site', 'online live', 'online any time', 'mixed'],
  instructors,
  groups: groups.value,
  seats: [1, 2, 3, 5, 10],
}))
const words = computed(() => sayWish(wish, catalog.siteName))
</script>

<template>
  <li :aria-label="words">
    <span class="strong kind">{{ KINDS[wish.kind] }}</span>
    <span class="values">
      <v-select
        v-for="field in WISH_FIELDS[wish.kind]"
        :key="field.key"
        :model-value="valueOf(field.key)"
        :items="choices[field.of]"
        :label="field.label"
        :multiple="field.multiple ?? false"
        @update:model-value="set({ [field.key]: $event })"
      />
    </span>
    <v-select class="weight" :model-value="wish.weight" :items="weights" label="How much" @update:model-value="set({ weight: $event })" />
    <span class="small second hides">
      {{ wish.weight === 'hard' && hidden !== undefined ? `hides ${atLeast ? 'at least ' : ''}${count(hidden, 'week')}` : '' }}
    </span>
    <WordLink class="small" :aria-label="`Take out: ${words}`" @click="emit('remove')">take out</WordLink>
  </li>
</template>

<style scoped>
li { display: grid; grid-template-columns: 110px minmax(110px, 1fr) 132px 88px auto; gap: 8px; align-items: center; padding: 5px 0; }
.values { display: flex; gap: 6px; }
.values > * { min-width: 0; flex: 1; }
@media (max-width: 700px) {
  li { grid-template-columns: 1fr auto auto; }
  .values, .weight { grid-row: 2; }
  .values { grid-column: 1; }
  .weight { grid-column: 2 / -1; width: 132px; }
}
</style>
