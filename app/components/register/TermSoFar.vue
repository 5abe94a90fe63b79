<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'

/** What is registered in the working term, and what is waited for. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { instant } = useNow()
const { hueOfCourse } = useItems()
const { registered } = useRunSheet()
const waits = computed(() => student.state!.waitlisted.map((wait) => {
  const left = wait.offerUntil ? timeLeft(instant.value, wait.offerUntil) : ''
  return { ...wait, words: left ? `seat offer, ${left} left` : `waitlist, place ${wait.place}` }
}))
</script>

<template>
  <section aria-labelledby="so-far">
    <h2 id="so-far">This term so far</h2>
    <p v-if="registered.length + waits.length === 0" class="second">Nothing is registered yet.</p>
    <div class="blocks">
      <CourseBlock
        v-for="row in registered"
        :key="row.course"
        class="block"
        :code="`${row.course}-${row.labels.join(' + ')}`"
        :title="`registered ${toLocal(row.at, session.zone).toFormat('d LLL, HH:mm')}`"
        state="registered"
        :hue="hueOfCourse(row.course, workingTerm.code)"
        :corner="`${formatCredits(row.credits)} cr`"
      />
      <CourseBlock
        v-for="wait in waits"
        :key="wait.section"
        class="block"
        :code="`${wait.course}-${wait.label}`"
        :title="wait.words"
        state="waitlist"
        :hue="hueOfCourse(wait.course, workingTerm.code)"
      />
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 14px 0 6px; }
p { margin: 2px 0; }
.blocks { display: flex; flex-wrap: wrap; gap: 10px; }
.block { width: 230px; }
@media (max-width: 800px) { .block { width: 100%; } }
</style>
