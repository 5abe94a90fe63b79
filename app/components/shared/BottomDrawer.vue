<script setup lang="ts">
/** The drawer that says more about what is selected; it stands in the page, at its foot, and Esc closes it. */
defineProps<{ title: string }>()
const emit = defineEmits<{ close: [] }>()
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape' && !event.defaultPrevented) emit('close')
})
</script>

<template>
  <section class="card drawer" :aria-label="title">
    <slot />
    <button class="words-link close" type="button" @click="emit('close')">Close <span class="kbd">Esc</span></button>
  </section>
</template>

<style scoped>
.drawer {
  position: sticky; bottom: calc(8px + var(--review-bar, 0px)); margin-top: 10px; padding: 12px 16px;
  box-shadow: 0 -4px 18px rgb(35 38 44 / 12%); max-height: 46vh; overflow: auto; z-index: 5;
}
.close { position: absolute; right: 14px; top: 10px; font-size: 12.5px; }
</style>
