<script setup lang="ts">
import { sayMoment, sayOperation, sayProposal, sayTerm } from '@ridgeway/words'

/** What happened in the file since the advisor last looked, newest first. */
const student = useStudentStore()
const advising = useAdvisingStore()
const session = useSessionStore()
const MOST = 9
const news = computed(() => {
  const { brief } = advising
  if (!brief) return null
  const plan = { entries: student.standingPlan.entries, placeholders: student.standingPlan.placeholders }
  const since = brief.lookedAt ?? ''
  return [
    ...brief.changes.map(({ at, by, operation }) => ({ at, words: sayOperation(operation, plan), by })),
    ...brief.answers.map(({ at, state, words, operations }) => ({ at, by: student.state!.name,
      words: `${state === 'accepted' ? 'took' : 'declined'}: ${operations.map(one => sayProposal(one, plan)).join(', ')}${
        words ? `, “${words}”` : ''}` })),
    ...student.unread.map(({ at, name, text }) => ({ at, words: `wrote: “${text}”`, by: name })),
    ...student.state!.registered.filter(row => row.credits > 0 && row.at > since && since !== '')
      .map(({ at, course }) => ({ at, words: `registered ${course}`, by: student.state!.name })),
  ].sort((a, b) => a.at < b.at ? 1 : -1)
})
const title = computed(() => advising.brief?.lookedAt
  ? `Since you last looked, ${sayMoment(advising.brief.lookedAt, session.zone)}`
  : 'What happened so far')
const finish = computed(() => {
  const before = advising.brief?.finishSeen
  const now = student.standing?.finish ?? null
  return before && before !== now ? `finish ${sayTerm(before)} → ${now ? sayTerm(now) : 'not all covered'}` : ''
})
</script>

<template>
  <section class="card" aria-label="Since you last looked">
    <h2>{{ title }}</h2>
    <GreyShapes v-if="!news" label="Loading what is new" :rows="3" />
    <p v-else-if="!news.length && !finish" class="second">{{
      advising.brief?.lookedAt ? 'Nothing has changed.' : 'Nobody has edited the plan yet.'
    }}</p>
    <ul v-else>
      <li v-if="finish" class="strong">{{ finish }}</li>
      <li v-for="(one, i) in news.slice(0, MOST)" :key="i">
        <span><b v-if="one.by !== student.state!.name">{{ one.by }} </b>{{ one.words }}</span>
        <span class="second small">{{ sayMoment(one.at, session.zone).split(',')[0] }}</span>
      </li>
    </ul>
    <p v-if="news && news.length > MOST" class="second small">and {{ news.length - MOST }} more</p>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 6px 0 0; padding: 0; }
li { display: flex; justify-content: space-between; gap: 10px; padding: 4px 0; border-top: 1px solid var(--line-soft); }
p { margin: 6px 0 0; }
</style>
