<script setup lang="ts">
/**
 * A drawer from below, about what is selected: at most two fifths of the height, so that what it is about stays in sight, and scrolling
 * inside. It takes the focus when it opens or turns to something else, gives it back when it closes, and Esc closes it.
 */
const { title, about = '' } = defineProps<{
  title: string
  /** What it is about: when that changes, the drawer has turned to something else. */
  about?: string
}>()
const emit = defineEmits<{ close: [] }>()
const panel = useTemplateRef<HTMLElement>('panel')
useReturn(panel, () => title, () => about)
useCloses(() => emit('close'))
const { height } = useElementSize(panel)
useEdgeHeight('--drawer', () => height.value)
</script>

<template>
  <section ref="panel" class="card drawer" tabindex="-1" role="region" :aria-label="title">
    <header class="drawer-head">
      <h2>{{ title }} <slot name="beside" /></h2>
      <WordLink class="small" aria-keyshortcuts="Escape" @click="emit('close')">Close <span class="kbd">Esc</span></WordLink>
    </header>
    <slot />
  </section>
</template>

<style scoped>
.drawer {
  position: sticky; bottom: calc(8px + var(--review-bar, 0px)); margin-top: 10px; padding: 0 16px 12px;
  box-shadow: 0 -4px 18px rgb(35 38 44 / 12%); max-height: 40vh; overflow: auto; z-index: 5; scroll-padding-top: 44px;
}
.drawer:focus { outline: none; }
.drawer-head {
  position: sticky; top: 0; z-index: 1; display: flex; justify-content: space-between; align-items: baseline; gap: 16px;
  padding: 11px 0 7px; background: var(--surface);
}
@media (max-width: 700px) { .drawer { max-height: 55vh; } }
</style>
