<script setup lang="ts">
/** Under a list of which only the first are shown: how many more there are, and a way to see them and to put them away again. */
const { are = 'more', less = 'Fewer' } = defineProps<{
  /** How many are not among the first. */
  rest: number
  /** What they are: "earlier", "later days". */
  are?: string
  /** What puts them away again. */
  less?: string
}>()
const all = defineModel<boolean>({ required: true })
</script>

<template>
  <WordLink v-if="rest > 0" class="small" :aria-expanded="all" @click="all = !all">{{ all ? less : `${rest} ${are}` }}</WordLink>
</template>
