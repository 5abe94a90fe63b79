<script setup lang="ts">
import type { Problem } from '~/composables/useApi'

defineProps<{ problem: Problem, retry?: boolean }>()
defineEmits<{ retry: [] }>()
</script>

<template>
  <div class="card failed" role="alert">
    <p class="strong">{{ problem.title }}</p>
    <p v-if="problem.detail">{{ problem.detail }}</p>
    <button v-if="retry" class="act" type="button" @click="$emit('retry')">Try again</button>
  </div>
</template>

<style scoped>
.failed { border-color: var(--block); background: var(--block-tint); padding: 10px 14px; margin: 8px 0; }
p { margin: 0 0 4px; }
</style>
