<script setup lang="ts">
/** A bar that stays at the foot of the page while it scrolls: what is to be decided about all of it. */
defineProps<{ label: string }>()
</script>

<template>
  <section class="foot-bar" :aria-label="label"><slot /></section>
</template>

<style scoped>
.foot-bar { position: sticky; bottom: 0; background: var(--surface); border-top: 2px solid var(--act); padding: 9px 20px; z-index: 6; }
/* At a large zoom the bar would cover the page. */
@media (max-height: 420px), (max-width: 420px) and (max-height: 700px) { .foot-bar { position: static; } }
</style>
