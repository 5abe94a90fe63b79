<script setup lang="ts">
/** A plain table in our density; rows and cells come as they are. */
defineProps<{ label?: string }>()
const table = useTemplateRef<{ $el: HTMLElement }>('table')
const wrapper = () => table.value?.$el.querySelector<HTMLElement>('.v-table__wrapper')
// What scrolls is reached by keyboard, too.
useResizeObserver(() => table.value?.$el, () => {
  const box = wrapper()
  if (!box) return
  if (box.scrollWidth > box.clientWidth || box.scrollHeight > box.clientHeight) box.tabIndex = 0
  else box.removeAttribute('tabindex')
})
</script>

<template>
  <v-table ref="table" class="data-table" :aria-label="label"><slot /></v-table>
</template>
