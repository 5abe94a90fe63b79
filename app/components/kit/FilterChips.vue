<script setup lang="ts" generic="T extends string">
/** Conditions that can be put on and taken off, each with how many it leaves. */
const { label, choices } = defineProps<{ label: string, choices: readonly { value: T, words: string, count?: number }[] }>()
const chosen = defineModel<T[]>({ required: true })
</script>

<template>
  <v-chip-group v-model="chosen" class="filter-chips" multiple :aria-label="label" role="group">
    <v-chip
      v-for="choice in choices"
      :key="choice.value"
      :value="choice.value"
      size="small"
      variant="outlined"
      tag="button"
      :aria-pressed="chosen.includes(choice.value)"
    >
      {{ choice.words }}<span v-if="choice.count !== undefined" class="second">&nbsp;{{ choice.count }}</span>
    </v-chip>
  </v-chip-group>
</template>
