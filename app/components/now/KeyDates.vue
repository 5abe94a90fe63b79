<script setup lang="ts">
/** The days of the working term that are still to come, in order. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { today } = useNow()
const dates = computed(() => {
  const term = workingTerm.term
  if (!term) return []
  const opening = student.state?.opening
  return [
    ...opening
      ? [{ date: student.localDate(opening.from),
          words: `${term.name} opens for you, ${toLocal(opening.from, session.zone).toFormat('HH:mm')}` }]
      : [],
    { date: term.feesDue, words: 'Fees due' },
    { date: term.start, words: 'Classes begin' },
    { date: term.addBy, words: 'Last day to add' },
    { date: term.dropBy, words: 'Last day to drop without a record' },
    { date: term.withdrawBy, words: 'Last day to withdraw' },
    { date: term.end, words: 'Classes end' },
  ].filter(day => day.date >= today.value).sort((a, b) => a.date.localeCompare(b.date))
})
</script>

<template>
  <section class="card side">
    <h2>Key dates</h2>
    <ul>
      <li v-for="day in dates" :key="day.words">
        <span class="second">{{ longDate(day.date) }}</span
        ><span>{{ day.words }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.side { padding: 12px 16px; }
h2 { margin-bottom: 6px; }
ul { list-style: none; padding: 0; margin: 0; }
li { display: grid; grid-template-columns: 92px 1fr; }
</style>
