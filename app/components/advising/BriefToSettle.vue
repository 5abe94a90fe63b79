<script setup lang="ts">
import { sayException, sayCheck, sayFinding, saySelfCheck } from '@ridgeway/words'

/** What is to be settled with the student: what blocks, what is asked, what was said and not answered; each leads to its place. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const path = computed(() => `/student/${student.state!.id}`)
/** Refusals and later problems can be many. */
const MOST_OF_A_KIND = 3
interface Item { title: string, words: string, to: string | null, way: string, blocking: boolean }
/** The first of one kind, and how many more there are, where they stand. */
const cut = (all: Item[], are: string): Item[] => all.length > MOST_OF_A_KIND + 1
  ? [...all.slice(0, MOST_OF_A_KIND), { ...all[MOST_OF_A_KIND]!, title: `${all.length - MOST_OF_A_KIND} more ${are}`, words: '' }]
  : all
/** What the self-check found when sign-off was asked for. */
const checked = computed(() => {
  const answers = student.state?.signOffAsked?.answers
  if (!answers) return ''
  const found = saySelfCheck(answers).filter(line => !line.fine).map(line => line.words)
  return found.join(', ') || 'the self-check was in order'
})
const items = computed<Item[]>(() => {
  const { state, standing } = student
  if (!state || !standing) return []
  const blockers = standing.checks.filter(check => check.severity === 'blocker')
  const here = blockers.filter(check => check.term === workingTerm.code)
  const asked = state.signOffAsked
  return [
    ...here.map(check => ({ title: sayCheck(check), words: 'blocks this term', to: `${path.value}/plan?open=problem:${check.id}`,
      way: 'suggest a mend', blocking: true })),
    ...state.asked.filter(one => one.state === 'asked').map(one => ({ title: `asks for ${sayException(one.asked)}`,
      words: `“${one.reason}”`, to: null, way: 'answered below', blocking: true })),
    ...state.programChange?.state === 'asked'
      ? [{ title: 'asks to change program', words: state.programChange.note, to: null, way: 'answered below', blocking: false }]
      : [],
    ...asked
      ? [{ title: 'asks for sign-off', words: [asked.note && `“${asked.note}”`, checked.value].filter(Boolean).join(' · '),
          to: `${path.value}/plan`, way: 'look', blocking: false }]
      : [],
    ...cut(state.refused.map(({ course, finding }) => ({ title: `${course} would be refused`, words: sayFinding(finding).words,
      to: `${path.value}/register`, way: 'look', blocking: true })), 'would be refused'),
    ...state.holds.map(hold => ({ title: 'hold', words: `${hold.reason}; ${hold.contact}`, to: null, way: '', blocking: true })),
    ...cut(blockers.filter(check => check.term !== workingTerm.code).map(check => ({ title: sayCheck(check), words: 'later',
      to: `${path.value}/plan?open=problem:${check.id}`, way: 'look', blocking: false })), 'to mend later'),
    ...student.unread.length > 0
      ? [{ title: count(student.unread.length, 'comment'), words: 'not read yet', to: `${path.value}/plan`, way: 'read', blocking: false }]
      : [],
    ...state.programConfirmed ? [] : [{ title: 'program not confirmed', words: '', to: null, way: '', blocking: true }],
  ]
})
</script>

<template>
  <section class="card" aria-label="To settle today">
    <h2>To settle today</h2>
    <p v-if="!items.length" class="second">Nothing stands open.</p>
    <ol v-else>
      <li v-for="(item, i) in items" :key="i">
        <span class="order" :class="{ blocking: item.blocking }">{{ i + 1 }}</span>
        <div>
          <p class="strong">{{ item.title }}</p>
          <p class="second small">{{ item.words }}</p>
        </div>
        <WordLink v-if="item.to" class="small" :to="item.to">{{ item.way }}</WordLink>
        <span v-else class="second small">{{ item.way }}</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol { list-style: none; margin: 6px 0 0; padding: 0; }
li { display: grid; grid-template-columns: 20px 1fr auto; gap: 6px; padding: 4px 0; border-top: 1px solid var(--line-soft); }
p { margin: 0; }
.order { font-weight: 700; }
</style>
