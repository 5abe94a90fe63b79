<script setup lang="ts">
/** A plain table in our density; rows and cells come as they are. */
defineProps<{ label?: string }>()
</script>

<template>
  <v-table class="data-table" :aria-label="label"><slot /></v-table>
</template>
