<script setup lang="ts">
/** The map in rows, for who reads rather than looks. */
const catalog = useCatalogStore()
const { titleOf } = useItems()
const { map, sayState } = useCourseMap()
const opens = (code: string) => map.value.ways.filter(way => way.from === code).map(way => way.to).join(', ')
</script>

<template>
  <SameAsTable class="card table" title="The map as a table">
    <thead>
      <tr>
        <th>Course</th>
        <th>Where you stand</th>
        <th>Needs first</th>
        <th>Opens</th>
        <th>Waiting in all</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="course in map.courses" :key="course.code">
        <td>{{ course.code }} {{ titleOf(course.code) }}</td>
        <td>{{ sayState(course.code) }}</td>
        <td>{{ catalog.courses.get(course.code)?.prerequisite || 'nothing' }}</td>
        <td>{{ opens(course.code) }}</td>
        <td>{{ course.opens }}</td>
      </tr>
    </tbody>
  </SameAsTable>
</template>

<style scoped>
.table { padding: 8px 14px; margin-top: 8px; }
td, th { padding: 3px 10px 3px 0; border-top: 1px solid var(--line-soft); vertical-align: top; }
</style>
