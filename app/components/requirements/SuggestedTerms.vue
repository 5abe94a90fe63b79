<script setup lang="ts">
/** The sequence that the department suggests, each course as the student has it. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { hueOf, doneOf } = useItems()
const suggested = computed(() => {
  const program = student.state && catalog.programs.get(student.state.programIds[0] ?? '')
  const major = student.standing?.reports[0]
  const itemOf = (code: string) => student.standing?.items.find(item => item.course === code && major?.couldCount[item.id])
  return program?.suggested.map(step => ({ name: step.name, courses: step.courses.map(code => ({ code, item: itemOf(code) })) })) ?? []
})
</script>

<template>
  <section class="card tree">
    <p v-if="suggested.length === 0" class="line-row second">This program has no suggested sequence.</p>
    <div v-for="step in suggested" :key="step.name" class="line-row">
      <span class="line-title">{{ step.name }}</span>
      <div class="bar">
        <CourseBlock
          v-for="{ code, item } in step.courses"
          :key="code"
          class="sized"
          compact
          :code="code"
          :state="item?.state ?? 'open'"
          :hue="item ? hueOf(item) : undefined"
          :corner="item?.grade ?? ''"
          :done="item ? doneOf(item) : 0"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.tree { margin-bottom: 12px; overflow: hidden; }
.line-row {
  display: grid; grid-template-columns: 160px 1fr; gap: 12px; align-items: center; padding: 5px 14px;
  border-top: 1px solid var(--line-soft);
}
.line-row:first-child { border-top: 0; }
.bar { display: flex; flex-wrap: wrap; gap: 4px; }
.sized { width: 110px; }
@media (max-width: 700px) { .line-row { grid-template-columns: 1fr; gap: 2px; } }
</style>
