<script setup lang="ts">
import type { Problem } from '~/composables/useApi'

/** What went wrong, what is safe, and where it helps, another try. */
defineProps<{ problem: Problem, retry?: boolean }>()
defineEmits<{ retry: [] }>()
</script>

<template>
  <v-alert class="failed" role="alert" variant="flat">
    <p class="strong">{{ problem.title }}</p>
    <p v-if="problem.detail">{{ problem.detail }}</p>
    <ActButton v-if="retry" @click="$emit('retry')">Try again</ActButton>
  </v-alert>
</template>

<style scoped>
.failed { margin: 8px 0; }
p { margin: 0 0 4px; }
</style>
