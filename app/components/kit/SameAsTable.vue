<script setup lang="ts">
/** A picture's figures as a table, folded away until somebody wants them. */
const { title = 'The same as a table' } = defineProps<{ title?: string }>()
const open = ref(false)
const id = useId()
</script>

<template>
  <div class="same">
    <WordLink class="small" :aria-expanded="open" :aria-controls="id" @click="open = !open">{{ open ? '▾' : '▸' }} {{ title }}</WordLink>
    <DataTable v-if="open" :id="id" :label="title"><slot /></DataTable>
  </div>
</template>
