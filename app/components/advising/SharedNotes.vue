<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'

/** Notes that those who advise shared with the student. */
const student = useStudentStore()
const session = useSessionStore()
const notes = computed(() => student.state?.notes ?? [])
/** Notes that are shown before the earlier ones are asked for. */
const MOST = 5
const showsAll = ref(false)
</script>

<template>
  <section v-if="notes.length" class="card notes" aria-label="Notes from your advisor">
    <h2>Notes from your advisor</h2>
    <div v-for="note in showsAll ? notes : notes.slice(0, MOST)" :key="note.id">
      <p class="second small">{{ sayMoment(note.at, session.zone) }}, {{ note.by }}</p>
      <p class="text">{{ note.text }}</p>
    </div>
    <RestLink v-model="showsAll" :rest="notes.length - MOST" are="earlier" less="The latest only" />
  </section>
</template>

<style scoped>
.notes { padding: 10px 16px; margin: 10px 0; }
p { margin: 2px 0; }
.text { white-space: pre-line; }
</style>
