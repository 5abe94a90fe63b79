<script setup lang="ts">
/** The grades: what each is worth, whether it counts in averages, and whether it earns credit. */
export interface GradeRow { grade: string, points: number, inGpa: boolean, earns: boolean, standsFor: number }
const grades = defineModel<GradeRow[]>({ required: true })
const points = (row: GradeRow, key: 'points' | 'standsFor', text: string) => row[key] = Math.round(Number(text) * 100)
const add = () => grades.value.push({ grade: '', points: 0, inGpa: true, earns: true, standsFor: 0 })
</script>

<template>
  <section class="card part" aria-label="Grades">
    <h2>Grades</h2>
    <DataTable label="Grades">
      <thead>
        <tr>
          <th>Grade</th>
          <th>Points</th>
          <th>In averages</th>
          <th>Earns credit</th>
          <th>Stands for</th>
          <th><span class="visually-hidden">Take out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in grades" :key="i">
          <td><v-text-field v-model="row.grade" density="compact" maxlength="3" :aria-label="`Grade ${i + 1}`" /></td>
          <td>
            <v-text-field
              :model-value="row.points / 100"
              density="compact"
              type="number"
              step="0.01"
              min="0"
              :aria-label="`Points of ${row.grade}`"
              @update:model-value="points(row, 'points', $event)"
            />
          </td>
          <td><v-checkbox-btn v-model="row.inGpa" density="compact" :aria-label="`${row.grade} counts in averages`" /></td>
          <td><v-checkbox-btn v-model="row.earns" density="compact" :aria-label="`${row.grade} earns credit`" /></td>
          <td>
            <v-text-field
              v-if="row.earns"
              :model-value="row.standsFor / 100"
              density="compact"
              type="number"
              step="0.01"
              min="0"
              :aria-label="`What ${row.grade} stands for where a minimum is asked`"
              @update:model-value="points(row, 'standsFor', $event)"
            />
          </td>
          <td><WordLink class="small" :aria-label="`Take out ${row.grade}`" @click="grades.splice(i, 1)">take out</WordLink></td>
        </tr>
      </tbody>
    </DataTable>
    <p><WordLink @click="add">+ grade</WordLink></p>
    <p class="second small">Stands for: the points with which it answers a minimum grade, such as a pass that is worth a C.</p>
  </section>
</template>

<style scoped>
.part { padding: 10px 16px; }
td:first-child { min-width: 76px; }
td:last-child { white-space: nowrap; }
p { margin: 4px 0; }
</style>
