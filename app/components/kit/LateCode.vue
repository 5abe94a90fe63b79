<script setup lang="ts">
/**
 * Stands where a part of the page will stand whose code is not here yet, or with an error, did not come at all. It closes as that part
 * would; the rest of what that part is given is not for here.
 */
defineOptions({ inheritAttrs: false })
const { modelValue = true } = defineProps<{
  error?: unknown
  /** Whether that part is to be seen, where it opens and closes. */
  modelValue?: boolean
}>()
const given = useAttrs() as { 'onClose'?: () => void, 'onUpdate:modelValue'?: (shown: boolean) => void }
const show = given['onUpdate:modelValue']
const close = given.onClose ?? (show && (() => show(false)))
if (close) useCloses(close, () => modelValue)
const isOnline = useOnline()
const reload = () => location.reload()
</script>

<template>
  <NoticeLine v-if="modelValue" class="late" :blocking="Boolean(error)">
    {{ error ? 'This part of the page did not come; nothing you did is lost.' : 'This part of the page is on its way.' }}
    <WordLink v-if="isOnline" @click="reload">Load the page again</WordLink>
    <template v-else-if="error">Load the page again when there is a connection.</template>
    <template v-else>It comes as soon as there is a connection.</template>
    {{ ' ' }}<WordLink v-if="close" aria-keyshortcuts="Escape" @click="close()">Close <span class="kbd">Esc</span></WordLink>
  </NoticeLine>
</template>

<style scoped>
/* Also where what comes is a drawer at the foot of a long page. */
.late { position: sticky; bottom: calc(8px + var(--review-bar, 0px)); z-index: 5; }
</style>
