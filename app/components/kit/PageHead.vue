<script setup lang="ts">
/** The head of a page: its title, what it is about now, and to the right what can be done. */
defineProps<{ title: string, about?: string }>()
</script>

<template>
  <div class="page-head">
    <h1>{{ title }}</h1>
    <span v-if="about" class="second">{{ about }}</span>
    <slot name="beside" />
    <span class="spacer" />
    <slot />
  </div>
</template>
