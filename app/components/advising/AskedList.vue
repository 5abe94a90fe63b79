<script setup lang="ts">
import { mayGrant } from '@ridgeway/core/advising'
import { sayException, sayMoment } from '@ridgeway/words'
import { answerException, takeBackAsked } from '#shared/contract/acts/advising'
import type { AskedException } from '#shared/contract/views/advising'
import type { Problem } from '~/composables/useApi'

/** Exceptions that the student asks for: the student sees how they stand, who may grant one answers it here. */
const student = useStudentStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const problem = ref<Problem | null>(null)
const busy = ref(0)
const words = ref<Record<number, string>>({})
const until = ref<Record<number, string>>({})
const waiting = computed(() => student.state?.asked.filter(one => one.state === 'asked') ?? [])
const may = ({ asked }: AskedException) => mayGrant(asked.kind, session.account?.role ?? '', catalog.advising)
async function answer(one: AskedException, granted: boolean) {
  busy.value = one.id
  problem.value = await student.act(answerException, { id: one.id, granted, words: words.value[one.id] ?? '',
    until: until.value[one.id] || null })
  busy.value = 0
  if (!problem.value) announce(granted ? 'It is granted.' : 'It is declined.')
}
async function takeBack(one: AskedException) {
  problem.value = await student.act(takeBackAsked, { id: one.id })
  if (!problem.value) announce('It is taken back.')
}
</script>

<template>
  <section v-if="waiting.length || problem" class="asked-list" aria-label="Exceptions asked for">
    <FailedBox v-if="problem" :problem="problem" />
    <div v-for="one in waiting" :key="one.id" class="one">
      <p>
        <b>{{ student.isOwn ? 'You ask for' : `${student.state?.name} asks for` }} {{ sayException(one.asked) }}</b>
        <span class="second small"> {{ sayMoment(one.at, session.zone) }}</span><br />“{{ one.reason }}”
      </p>
      <form v-if="may(one)" @submit.prevent="answer(one, true)">
        <v-text-field v-model="words[one.id]" label="A word with the answer" maxlength="300" />
        <v-text-field v-if="'term' in one.asked" v-model="until[one.id]" class="until" type="date" label="Until, if not the whole term" />
        <ActButton weight="full" type="submit" :busy="busy === one.id">Grant it</ActButton>
        <ActButton
          :off="(words[one.id] ?? '').trim().length < 3 && 'Say why, so that the student knows what to do'"
          @click="answer(one, false)"
        >
          Decline
        </ActButton>
      </form>
      <p v-else-if="!student.isOwn" class="second small">
        {{ session.account?.role === 'advisor' ? 'The registrar’s office' : 'The advisor' }} decides about this.
      </p>
      <p v-else class="second small">Not answered yet. <WordLink class="small" @click="takeBack(one)">Take it back</WordLink></p>
    </div>
  </section>
</template>

<style scoped>
.asked-list { display: grid; gap: 8px; margin-bottom: 8px; }
p { margin: 0; }
form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-top: 4px; }
form > :deep(.v-input) { flex: 1 1 220px; max-width: 380px; }
form > :deep(.until) { flex: 0 1 210px; }
</style>
