<script setup lang="ts" generic="T extends string">
/** One of several ways to read the same: exactly one is chosen. */
const { label, choices } = defineProps<{ label: string, choices: readonly (readonly [value: T, words: string])[] }>()
const chosen = defineModel<T>({ required: true })
</script>

<template>
  <v-btn-toggle v-model="chosen" class="view-choice" mandatory :aria-label="label" role="group" variant="plain">
    <v-btn
      v-for="[value, words] in choices"
      :key="value"
      :value="value"
      class="words-link"
      :ripple="false"
      :aria-pressed="chosen === value"
    >
      {{ words }}
    </v-btn>
  </v-btn-toggle>
</template>
