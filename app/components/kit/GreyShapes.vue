<script setup lang="ts">
/** What comes, in grey and in its own shape, while it is on its way. `heights` are those of its rows in pixels. */
const { label = 'Loading', rows = 6, height = 52 } = defineProps<{ label?: string, rows?: number, height?: number }>()
</script>

<template>
  <div class="grey-shapes" role="status" aria-busy="true" :aria-label="label">
    <v-skeleton-loader v-for="n in rows" :key="n" type="image" :height="height" :loading="true" boilerplate />
  </div>
</template>

<style scoped>
.grey-shapes { display: grid; gap: 4px; }
</style>
