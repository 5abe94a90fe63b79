<script setup lang="ts">
import type { NextStep } from '@ridgeway/core/next'
import { sayStep } from '@ridgeway/words'
import type { PlanComment } from '#shared/contract/views/student'
import { confirmProgram } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

/** What to do next, most pressing first; each step leads to its place or is done on the spot. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const problem = ref<Problem | null>(null)
const busy = ref('')
const LABELS = { 'confirm program': 'Confirm', 'ask sign-off': 'Ask for sign-off', 'accept terms': 'Read and accept' }
const PLACES = { now: '', requirements: 'See what fills it', plan: 'Open the plan', week: 'Choose a section', register: 'Open Register',
  account: 'Open the account', meetings: 'Open the meetings' }
const asking = ref(false)

async function act(step: NextStep) {
  if (!step.act) return
  if (step.act === 'accept terms') return navigateTo(`/student/${student.state!.id}/register`)
  if (step.act === 'ask sign-off') {
    asking.value = true
    return
  }
  busy.value = step.id
  problem.value = await student.act(confirmProgram, {})
  busy.value = ''
  if (!problem.value) announce('Your program is confirmed.')
}
/** What is to be opened where the step leads. */
function openedBy(step: NextStep): string {
  if (step.code === 'mend' || step.code === 'off path') return `problem:${step.id}`
  if (step.code === 'read comments') return placeOf(student.unread[0])
  if (step.place === 'requirements') return step.about
  const entry = step.code === 'refused' && student.entries.find(one => one.course === step.course && one.term === workingTerm.code)
  return step.place === 'plan' && entry ? `tile:${entry.id}` : ''
}
/** Where a comment stands: beside its course, its term, or what is said of the plan as a whole. */
const placeOf = (one?: PlanComment) => one?.entry ? `tile:${one.entry}` : one?.term ? `term:${one.term}` : 'wishes'
function linkOf(step: NextStep) {
  if (step.place === 'now') return null
  const open = openedBy(step)
  return { path: `/student/${student.state!.id}/${step.place}`, query: open ? { open } : {} }
}
</script>

<template>
  <section aria-label="To do">
    <FailedBox v-if="problem" :problem="problem" />
    <ol v-if="student.steps.length" class="card steps">
      <li v-for="(step, index) in student.steps" :key="step.id" :class="{ blocked: step.blocking }">
        <span class="order">{{ index + 1 }}</span>
        <div>
          <p class="strong">{{ sayStep(step, session.zone).title }}</p>
          <p class="second">{{ sayStep(step, session.zone).words }}</p>
        </div>
        <ActButton
          v-if="step.act && student.isOwn"
          :weight="step.blocking ? 'full' : 'edge'"
          :busy="busy === step.id"
          @click="act(step)"
        >
          {{ LABELS[step.act] }}
        </ActButton>
        <WordLink v-else-if="linkOf(step)" :to="linkOf(step)!">{{ PLACES[step.place] }}</WordLink>
      </li>
    </ol>
    <AskReview v-model="asking" />
    <EmptyState v-if="!student.steps.length">Nothing to do for {{ workingTerm.term?.name }}. Everything is in place.</EmptyState>
  </section>
</template>

<style scoped>
.steps { list-style: none; padding: 0; margin: 0; }
li {
  display: grid; grid-template-columns: 26px 1fr auto; gap: 10px; align-items: center; padding: 9px 14px;
  border-top: 1px solid var(--line-soft); border-left: 4px solid transparent;
}
li:first-child { border-top: 0; }
li.blocked { border-left-color: var(--block); }
p { margin: 0; }
.order { color: var(--second); font-weight: 700; text-align: right; }
@media (max-width: 800px) {
  li { grid-template-columns: 18px 1fr; }
  li > :last-child { grid-column: 2; justify-self: start; }
}
</style>
