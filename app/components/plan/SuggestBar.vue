<script setup lang="ts">
import { effectOf } from '@ridgeway/core/advising'
import { sayEffect, sayProposal } from '@ridgeway/words'
import { suggest, takeBackSuggestions } from '#shared/contract/acts/advising'
import type { Problem } from '~/composables/useApi'

/** What the advisor suggests: tried on the board without changing the plan, sent line by line, and what stands open already. */
const student = useStudentStore()
const why = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const lines = computed(() => student.suggesting ?? [])
const effect = computed(() => student.before && student.standing && lines.value.length > 0
  ? sayEffect(effectOf(student.before, student.standing)).join(' · ')
  : '')
const say = (line: (typeof lines.value)[number]) =>
  line.map(one => sayProposal(one, { entries: [...student.standingPlan.entries, ...student.plan.entries],
    placeholders: [...student.standingPlan.placeholders, ...student.plan.placeholders] })).join(', ')
const open = computed(() => {
  const sets = new Map<string, { by: string, count: number }>()
  for (const { set, by } of student.state?.suggestions ?? []) sets.set(set, { by, count: (sets.get(set)?.count ?? 0) + 1 })
  return [...sets].map(([set, one]) => ({ set, ...one }))
})
async function send() {
  busy.value = true
  problem.value = await student.act(suggest, { plan: student.state!.plan.id, why: why.value, lines: lines.value.map(line => [...line]) })
  busy.value = false
  if (problem.value) return
  student.suggestion.stop()
  why.value = ''
  announce('The suggestion is sent.')
}
/** From the brief one comes to try at once. */
const route = useRoute()
onMounted(() => route.query.suggest && student.isAdvising && !student.suggesting && student.suggestion.start())
async function takeBack(set: string) {
  problem.value = await student.act(takeBackSuggestions, { set })
  if (!problem.value) announce('It is taken back.')
}
</script>

<template>
  <section v-if="student.isAdvising" class="suggest" aria-label="Suggestion">
    <FailedBox v-if="problem" :problem="problem" />
    <NoticeLine v-if="student.suggesting">
      <p>
        <b>You are trying changes on {{ student.state?.name }}'s plan. Nothing is changed until {{ student.state?.name }} takes it.</b>
        <span v-if="!lines.length"> Move, add or take out courses on the board.</span>
        <span v-if="effect"> {{ effect }}</span>
      </p>
      <ol v-if="lines.length" class="lines small">
        <li v-for="(line, i) in lines" :key="i">
          {{ say(line) }}
          <WordLink
            v-if="i > 0"
            class="small"
            title="Both are taken together, or neither"
            :aria-label="`Together with the line before: ${say(line)}`"
            @click="student.suggestion.join(i)"
          >
            with the one before
          </WordLink>
          <WordLink class="small" :aria-label="`Leave out: ${say(line)}`" @click="student.suggestion.drop(i)">leave out</WordLink>
        </li>
      </ol>
      <form @submit.prevent="send">
        <v-text-field v-model="why" label="Why, in a line" maxlength="500" bg-color="surface" />
        <ActButton weight="full" type="submit" :busy="busy" :off="!lines.length && 'Change something on the board first'">
          Send {{ lines.length ? count(lines.length, 'suggestion') : 'it' }}
        </ActButton>
        <WordLink @click="student.suggestion.stop()">Leave it</WordLink>
      </form>
    </NoticeLine>
    <p v-else class="small">
      <ActButton @click="student.suggestion.start()">Suggest changes</ActButton>
      <span v-for="one in open" :key="one.set" class="second">
        {{ count(one.count, 'suggestion') }} of {{ one.by }} not answered yet ·
        <WordLink class="small" @click="takeBack(one.set)">take back</WordLink>
      </span>
    </p>
  </section>
</template>

<style scoped>
.suggest { margin-bottom: 6px; }
p { margin: 0; display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }
.lines { margin: 4px 0; padding-left: 20px; columns: 2; }
form { display: flex; gap: 10px; align-items: center; margin-top: 4px; }
form > :deep(.v-input) { flex: 0 1 420px; }
</style>
