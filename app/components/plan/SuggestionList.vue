<script setup lang="ts">
import { effectOf, standingWith } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import { sayEffect, sayProposal } from '@ridgeway/words'
import { answerSuggestions } from '#shared/contract/acts/advising'
import type { Suggestion } from '#shared/contract/views/advising'
import { toProblem, type Problem } from '~/composables/useApi'

/** What is suggested for the opened plan, drawn on the board beside what stands; the student takes it or not, one by one or all. */
const student = useStudentStore()
const { today } = useNow()
const problem = ref<Problem | null>(null)
const busy = ref(false)
const told = ref('')
const words = ref('')
const mine = computed(() => student.state?.suggestions.filter(one => one.plan === student.state?.plan.id) ?? [])
const elsewhere = computed(() => (student.state?.suggestions.length ?? 0) - mine.value.length)
const shown = ref(true)
const operations = computed(() => mine.value.flatMap(one => one.operations))
const wouldFit = (list: readonly PlanOperation[]) => student.file !== null
  && standingWith(student.file, student.standingPlan, list, student.rules, today.value) !== null
/** They stand on the board while this does: hatched where they would go, struck where they would leave. */
const draft = useDraftStore()
watch([shown, operations, () => student.suggesting, () => draft.looked], () => {
  if (student.suggesting || draft.looked) return
  student.preview = shown.value && operations.value.length > 0 && wouldFit(operations.value) ? operations.value : null
}, { immediate: true })
onBeforeUnmount(() => student.preview = null)
const effect = computed(() => student.standing && student.shown && student.preview
  ? sayEffect(effectOf(student.standing, student.shown)).join(' · ')
  : '')
const say = ({ operations: list }: Suggestion) => list.map(one => sayProposal(one, {
  entries: [...student.standingPlan.entries, ...student.previewed?.entries ?? []],
  placeholders: [...student.standingPlan.placeholders, ...student.previewed?.placeholders ?? []] })).join(', ')
async function answer(list: readonly Suggestion[], take: boolean) {
  busy.value = true
  problem.value = null
  try {
    const { left } = await student.send(answerSuggestions, { ids: list.map(one => one.id), take, words: words.value })
    told.value = left.length > 0
      ? `${count(left.length, 'suggestion')} could not be taken: ${left.map(one => one.why).join('; ')}.`
      : take ? `${count(list.length, 'suggestion')} taken into the plan.` : `${count(list.length, 'suggestion')} declined.`
    announce(told.value)
    words.value = ''
  }
  catch (error) {
    problem.value = toProblem(error)
    await student.reload()
  }
  busy.value = false
}
</script>

<template>
  <section v-if="(mine.length || elsewhere || told) && !student.suggesting" class="suggestions" aria-label="Suggestions">
    <FailedBox v-if="problem" :problem="problem" />
    <NoticeLine>
      <p v-if="told" class="small">{{ told }}</p>
      <template v-if="mine.length">
        <p>
          <span
            ><b>{{ mine[0]!.by }} suggests {{ count(mine.length, 'change') }}</b>{{ mine[0]!.why ? `: “${mine[0]!.why}”` : '' }}</span
          >
          <span v-if="effect" class="second"> {{ effect }}</span>
          <WordLink class="small" :aria-pressed="shown" @click="shown = !shown">
            {{ shown ? 'hide on the board' : 'show on the board' }}
          </WordLink>
        </p>
        <ol class="lines">
          <li v-for="one in mine" :key="one.id">
            {{ say(one) }}
            <template v-if="student.isOwn">
              <WordLink class="small" :aria-label="`Take: ${say(one)}`" @click="answer([one], true)">take</WordLink>
              <WordLink class="small" :aria-label="`Decline: ${say(one)}`" @click="answer([one], false)">decline</WordLink>
            </template>
          </li>
        </ol>
        <form v-if="student.isOwn" @submit.prevent="answer(mine, true)">
          <ActButton weight="full" type="submit" :busy="busy">Take all</ActButton>
          <ActButton :busy="busy" @click="answer(mine, false)">Decline all</ActButton>
          <v-text-field v-model="words" label="A word with the answer" maxlength="300" bg-color="surface" />
        </form>
      </template>
      <p v-else-if="elsewhere" class="small">{{ count(elsewhere, 'suggestion') }} stand beside another of the plans.</p>
    </NoticeLine>
  </section>
</template>

<style scoped>
.suggestions { margin-bottom: 6px; }
p { margin: 0; display: flex; flex-wrap: wrap; gap: 2px 12px; align-items: baseline; }
.lines { margin: 4px 0; padding-left: 20px; }
.lines li { margin: 1px 0; }
.lines :deep(.words-link) { margin-left: 8px; }
form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
form > :deep(.v-input) { flex: 0 1 340px; }
</style>
