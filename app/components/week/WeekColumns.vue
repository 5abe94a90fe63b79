<script setup lang="ts">
import type { BundleView } from '#shared/contract/views/student'

/** The columns of bundles, one stop for the keyboard: arrows walk within a course and across to the next. */
defineProps<{ courses: readonly { course: string, bundles: BundleView[] }[], hueOf: (course: string) => string }>()
defineEmits<{
  pick: [bundle: BundleView]
  ghost: [bundle: BundleView | null]
  open: [bundle: BundleView]
  backup: [bundle: BundleView]
  find: []
}>()
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.row')
</script>

<template>
  <div ref="field" class="columns">
    <BundleColumn
      v-for="{ course, bundles } in courses"
      :key="course"
      :course="course"
      :bundles="bundles"
      :hue="hueOf(course)"
      @pick="$emit('pick', $event)"
      @ghost="$emit('ghost', $event)"
      @open="$emit('open', $event)"
      @backup="$emit('backup', $event)"
    />
    <WordLink v-if="courses.length" class="more" @click="$emit('find')">+ find another course</WordLink>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: repeat(auto-fill, minmax(226px, 1fr)); gap: 10px; align-items: start; }
.more { justify-self: start; padding: 8px; }
</style>
