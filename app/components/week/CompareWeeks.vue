<script setup lang="ts">
/** The week that is looked at, held against another: what each has instead. */
const { differences, at, of } = defineProps<{ differences: readonly { here: string, there: string }[], at: number, of: number }>()
/** The place of the other week; null while nothing is compared. */
const beside = defineModel<number | null>({ required: true })
const others = computed(() => Array.from({ length: of }, (_, i) => i).filter(i => i !== at))
</script>

<template>
  <p class="small">
    <WordLink class="small" @click="beside = beside === null ? others[0] ?? null : null">
      {{ beside === null ? 'Compare with another' : 'Compare no more' }}
    </WordLink>
    <template v-if="beside !== null">
      <span role="status">
        Week {{ at + 1 }} beside week {{ beside + 1 }}:
        {{ differences.map(one => `${one.here} instead of ${one.there}`).join(', ') || 'the same' }}.
      </span>
      <WordLink
        v-for="i in others"
        :key="i"
        class="small other"
        :aria-pressed="beside === i"
        @click="beside = i"
      >
        week {{ i + 1 }}
      </WordLink>
    </template>
  </p>
</template>

<style scoped>
p { margin: 2px 0; }
.other { margin-left: 8px; }
</style>
