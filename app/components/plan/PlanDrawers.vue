<script setup lang="ts">
import { lazily } from '../kit/lazily'

/** The drawer of what is opened; each is fetched when it is first needed. */
const HoldDrawer = lazily(() => import('./HoldDrawer.vue'))
const CourseDrawer = lazily(() => import('./CourseDrawer.vue'))
const ProblemDrawer = lazily(() => import('./ProblemDrawer.vue'))
const TermDrawer = lazily(() => import('./TermDrawer.vue'))
const WishesDrawer = lazily(() => import('./WishesDrawer.vue'))
const DraftDrawer = lazily(() => import('./DraftDrawer.vue'))
const catalog = useCatalogStore()
const { panel, selected, heldPlace, close } = usePlan()
const term = computed(() => panel.value?.kind === 'term' ? catalog.term(panel.value.id) : undefined)
</script>

<template>
  <HoldDrawer v-if="panel?.kind === 'tile' && heldPlace" :place="heldPlace" @close="close" />
  <CourseDrawer v-else-if="panel?.kind === 'tile' && selected && catalog.courses.has(selected.course)" :item="selected" @close="close" />
  <ProblemDrawer v-else-if="panel?.kind === 'problem'" :at="panel.id" @close="close" />
  <TermDrawer v-else-if="term" :term="term" @close="close" />
  <WishesDrawer v-else-if="panel?.kind === 'wishes'" @close="close" />
  <DraftDrawer v-else-if="panel?.kind === 'draft'" @close="close" />
</template>
