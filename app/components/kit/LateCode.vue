<script setup lang="ts">
/** Stands where a part of the page will stand whose code is not here yet, or with an error, did not come at all. */
defineProps<{ error?: unknown }>()
const isOnline = useOnline()
const reload = () => location.reload()
</script>

<template>
  <NoticeLine class="late" :blocking="Boolean(error)">
    {{ error ? 'This part of the page did not come; nothing you did is lost.' : 'This part of the page is on its way.' }}
    <WordLink v-if="isOnline" @click="reload">Load the page again</WordLink>
    <template v-else-if="error">Load the page again when there is a connection.</template>
    <template v-else>It comes as soon as there is a connection.</template>
  </NoticeLine>
</template>

<style scoped>
/* Also where what comes is a drawer at the foot of a long page. */
.late { position: sticky; bottom: calc(8px + var(--review-bar, 0px)); z-index: 5; }
</style>
