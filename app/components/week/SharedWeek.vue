<script setup lang="ts">
/** The week as the student shared it with the advisor, as a picture, and what is picked otherwise since. */
const week = useWeekStore()
const student = useStudentStore()
const session = useSessionStore()
const { blocksOf, labelOf, picked } = useArrangement()
const arrangement = computed(() => week.shared && { choices: week.shared.choices })
const changed = computed(() => Object.keys({ ...week.shared?.choices, ...picked.value })
  .filter(course => week.shared && week.shared.choices[course] !== picked.value[course]))
const say = (course: string) => {
  const before = week.shared!.choices[course]
  const now = picked.value[course]
  return !now
    ? `${course} taken out`
    : !before
        ? `${labelOf(course, now)} put in`
        : `${labelOf(course, before)} is now ${labelOf(course, now)}`
}
const who = computed(() => student.isOwn
  ? `You shared this week with ${student.state!.advisor?.name ?? 'your advisor'}`
  : `${student.state!.name} shared this week`)
</script>

<template>
  <section v-if="week.shared && arrangement" class="card shared" aria-label="Shared week">
    <WeekPicture :blocks="blocksOf(arrangement).map(block => ({ ...block, changed: false }))" />
    <div>
      <p>
        <b>
          {{ who }}</b> on {{ toLocal(week.shared.at, session.zone).toFormat('d LLL, HH:mm') }}<template v-if="week.shared.note">: “{{
          week.shared.note }}”</template>
      </p>
      <p class="second">{{ Object.entries(week.shared.choices).map(([course, id]) => labelOf(course, id)).join(', ') }}</p>
      <p v-if="changed.length" class="blocking">Since then: {{ changed.map(say).join(', ') }}.</p>
      <p v-else class="second">Nothing is picked otherwise since.</p>
      <WordLink v-if="student.isOwn" class="small" @click="week.share(false)">Stop sharing</WordLink>
    </div>
  </section>
</template>

<style scoped>
.shared { display: flex; gap: 16px; padding: 10px 14px; margin: 6px 0; align-items: center; }
p { margin: 0 0 2px; }
@media (max-width: 600px) { .shared { flex-direction: column; align-items: start; } }
</style>
