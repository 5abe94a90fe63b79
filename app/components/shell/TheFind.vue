<script setup lang="ts">
import { lazily } from '../kit/lazily'

/**
 * Find over any page of a student's file, opened with a slash; and the sheet of a section, wherever one was pressed.
 * The address closes them on a step back; a dialog that stopped that step would leave the address behind.
 */
const FindPanel = lazily(() => import('../find/FindPanel.vue'))
const SectionSheet = lazily(() => import('../find/SectionSheet.vue'))
const student = useStudentStore()
const { value: opened, open, close } = useInAddress('find')
const { value: section, open: openSection, close: closeSection } = useInAddress('section')
const isFindOpen = computed({ get: () => opened.value !== '' && student.state !== null, set: now => now ? open('1') : close() })
const isSheetOpen = computed({ get: () => section.value !== '' && student.state !== null, set: now => now || closeSection() })
useKey('find', () => open('1'), () => student.state !== null)
useGivesBack(isFindOpen)
useGivesBack(isSheetOpen)
</script>

<template>
  <v-dialog v-model="isFindOpen" class="find-dialog" aria-label="Find" :transition="false" :close-on-back="false" scrollable>
    <FindPanel @close="close()" @section="openSection($event.id)" />
  </v-dialog>
  <v-dialog v-model="isSheetOpen" max-width="820" aria-label="Section" :transition="false" :close-on-back="false" scrollable>
    <SectionSheet :id="section" @close="closeSection()" />
  </v-dialog>
</template>

<style>
/* It slides in from the right; what was there stays in sight at the edge. */
.find-dialog > .v-overlay__content.v-overlay__content {
  margin: 0; inset: 0 0 0 auto; width: min(100%, max(calc(100% - 150px), 320px)); max-width: 1160px; height: 100%; max-height: 100%;
  border-left: 2px solid var(--act); background: var(--surface); overflow-y: auto; display: block;
}
@media (max-width: 700px) { .find-dialog > .v-overlay__content.v-overlay__content { width: calc(100% - 14px); } }
</style>
