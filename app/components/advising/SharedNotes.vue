<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'

/** Notes that those who advise shared with the student. */
const student = useStudentStore()
const session = useSessionStore()
const notes = computed(() => student.state?.notes.slice(0, 5) ?? [])
</script>

<template>
  <section v-if="notes.length" class="card notes" aria-label="Notes from your advisor">
    <h2>Notes from your advisor</h2>
    <div v-for="note in notes" :key="note.id">
      <p class="second small">{{ sayMoment(note.at, session.zone) }}, {{ note.by }}</p>
      <p class="text">{{ note.text }}</p>
    </div>
  </section>
</template>

<style scoped>
.notes { padding: 10px 16px; margin: 10px 0; }
p { margin: 2px 0; }
.text { white-space: pre-line; }
</style>
