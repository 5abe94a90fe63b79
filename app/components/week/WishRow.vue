<script setup lang="ts">
import type { Delivery } from '@ridgeway/core/catalog'
import type { Wish } from '@ridgeway/core/weeks'
import { clockTime, DAY_NAMES, sayWish } from '@ridgeway/words'

/** One wish: what it asks for, how much it weighs, and what it hides. */
const { wish, hidden, instructors } = defineProps<{ wish: Wish, hidden?: number | undefined, instructors: readonly string[] }>()
const emit = defineEmits<{ change: [wish: Wish], remove: [] }>()
const catalog = useCatalogStore()
const set = (values: object) => emit('change', { ...wish, ...values } as Wish)
const times = HALF_HOURS.map(value => ({ value, title: clockTime(value) }))
const days = DAYS.map(value => ({ value, title: DAY_NAMES[value] }))
const sites = computed(() => catalog.sites.filter(site => !site.online).map(site => ({ value: site.code, title: site.name })))
const DELIVERIES: Delivery[] = ['on site', 'online live', 'online any time', 'mixed']
const weights = computed(() => NEVER_HARD.includes(wish.kind) ? WEIGHTS.slice(1) : WEIGHTS)
const week = useWeekStore()
const groups = computed(() => [...new Set((week.courses ?? []).flatMap(one => one.bundles.flatMap(bundle =>
  bundle.sections.flatMap(section => section.group ? [section.group as string] : []))))].sort())
const words = computed(() => sayWish(wish, catalog.siteName))
</script>

<template>
  <li :aria-label="words">
    <span class="strong kind">{{ KINDS[wish.kind] }}</span>
    <span class="values">
      <v-select
        v-if="wish.kind === 'earliest' || wish.kind === 'latest'"
        :model-value="wish.at"
        :items="times"
        :label="wish.kind === 'earliest' ? 'Nothing before' : 'Nothing after'"
        @update:model-value="set({ at: $event })"
      />
      <v-select
        v-else-if="wish.kind === 'day off'"
        :model-value="wish.day"
        :items="days"
        label="Day"
        @update:model-value="set({ day: $event })"
      />
      <template v-else-if="wish.kind === 'keep free'">
        <v-select :model-value="wish.days" :items="days" label="Days" multiple @update:model-value="set({ days: $event })" />
        <v-select :model-value="wish.start" :items="times" label="From" @update:model-value="set({ start: $event })" />
        <v-select :model-value="wish.end" :items="times" label="To" @update:model-value="set({ end: $event })" />
      </template>
      <v-select
        v-else-if="wish.kind === 'avoid site'"
        :model-value="wish.site"
        :items="sites"
        label="Site"
        @update:model-value="set({ site: $event })"
      />
      <v-select
        v-else-if="wish.kind === 'avoid delivery'"
        :model-value="wish.delivery"
        :items="DELIVERIES"
        label="Nothing that is"
        @update:model-value="set({ delivery: $event })"
      />
      <v-select
        v-else-if="wish.kind === 'instructor'"
        :model-value="wish.name"
        :items="instructors"
        label="With"
        @update:model-value="set({ name: $event })"
      />
      <v-select
        v-else-if="wish.kind === 'group'"
        :model-value="wish.group"
        :items="groups"
        label="Group"
        @update:model-value="set({ group: $event })"
      />
      <v-select
        v-else-if="wish.kind === 'seats left'"
        :model-value="wish.least"
        :items="[1, 2, 3, 5, 10]"
        label="At least"
        @update:model-value="set({ least: $event })"
      />
    </span>
    <v-select class="weight" :model-value="wish.weight" :items="weights" label="How much" @update:model-value="set({ weight: $event })" />
    <span class="small second hides">{{ wish.weight === 'hard' && hidden !== undefined ? `hides ${count(hidden, 'week')}` : '' }}</span>
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
