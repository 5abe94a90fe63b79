<script setup lang="ts">
/** A line that tells how something stands; `blocking` for what stands in the way. It is read aloud when it changes. */
defineProps<{ blocking?: boolean }>()
</script>

<template>
  <v-alert class="notice" :class="{ blocking }" role="status" variant="flat"><slot /></v-alert>
</template>
