<script setup lang="ts">
/** Nothing is here yet: what to do first. */
</script>

<template>
  <div class="card empty-state"><slot /></div>
</template>

<style scoped>
.empty-state { padding: 16px; }
.empty-state :deep(p) { margin: 0; }
</style>
