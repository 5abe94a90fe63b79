<script setup lang="ts">
/** The drawer of what is opened; each is fetched when it is first needed. */
const catalog = useCatalogStore()
const { panel, selected, heldPlace } = usePlan()
const term = computed(() => panel.value?.kind === 'term' ? catalog.term(panel.value.id) : undefined)
</script>

<template>
  <LazyHoldDrawer v-if="panel?.kind === 'tile' && heldPlace" :place="heldPlace" />
  <LazyCourseDrawer v-else-if="panel?.kind === 'tile' && selected && catalog.courses.has(selected.course)" :item="selected" />
  <LazyProblemDrawer v-else-if="panel?.kind === 'problem'" :at="panel.id" />
  <LazyTermDrawer v-else-if="term" :term="term" />
  <LazyWishesDrawer v-else-if="panel?.kind === 'wishes'" />
  <LazyDraftDrawer v-else-if="panel?.kind === 'draft'" />
</template>
