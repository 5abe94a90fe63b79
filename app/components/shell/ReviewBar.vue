<script setup lang="ts">
import { differencesOf, isSame } from '@ridgeway/core/advising'
import { formatCredits, sayCheck, sayDifferences } from '@ridgeway/words'
import { returnPlan, withdrawSignOff } from '#shared/contract/acts/advising'
import { makeReleaseCode, signOff } from '#shared/contract/acts/student'
import { type Problem, toProblem } from '~/composables/useApi'

/** The advisor's bar under an opened advisee: what was asked, what changed since the sign-off, and what is decided about the term. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const note = ref('')
const problem = ref<Problem | null>(null)
const busy = ref('')
const planned = computed(() => student.standingPlan.entries.filter(entry => entry.term === workingTerm.code))
const blockers = computed(() =>
  (student.before ?? student.standing)?.checks.filter(check => check.severity === 'blocker' && check.term === workingTerm.code) ?? [],
)
const changes = computed(() => {
  const found = student.state?.signOff && differencesOf(student.state.signOff.copy, planned.value)
  return found && !isSame(found) ? sayDifferences(found) : ''
})
const cannotSign = computed(() => planned.value.length === 0
  ? `Nothing is planned for ${workingTerm.term?.name}`
  : student.state?.plan.current ? '' : 'A sign-off is given for the current plan')
async function does(what: string, work: () => Promise<Problem | null>, said: string) {
  busy.value = what
  problem.value = await work()
  busy.value = ''
  if (problem.value) return false
  note.value = ''
  announce(said)
  return true
}
const sign = () => does('sign', () => student.act(signOff, { term: workingTerm.code, note: note.value,
  seen: planned.value.map(({ course, credits }) => ({ course, credits })) }), `${workingTerm.term?.name} is signed off.`)
/** Returning and withdrawing are said with words. */
const asking = ref<'' | 'return' | 'withdraw'>('')
const words = ref('')
async function send() {
  const act = asking.value === 'return' ? returnPlan : withdrawSignOff
  if (await does(asking.value, () => student.act(act, { term: workingTerm.code, words: words.value }), asking.value === 'return'
    ? 'The plan is given back.'
    : 'The sign-off is withdrawn.')) {
    asking.value = ''
    words.value = ''
  }
}
/** In place of a sign-off, or where the institution asks for one besides. */
const catalog = useCatalogStore()
const mayGiveCode = computed(() => !student.state?.signOff || catalog.advising.releaseCode === 'besides')
const code = ref('')
watch([() => student.state?.id, () => workingTerm.code], () => code.value = '')
async function makeCode() {
  problem.value = null
  try {
    code.value = (await student.send(makeReleaseCode, { term: workingTerm.code })).code
    announce(`The code is ${code.value}.`)
  }
  catch (error) {
    problem.value = toProblem(error)
  }
}
const route = useRoute()
const atBrief = computed(() => route.path.endsWith('/brief'))
useKey('sign off', sign, () => atBrief.value && cannotSign.value === '' && busy.value === '')
useKey('return', () => asking.value = 'return', () => atBrief.value && student.state?.signOffAsked !== null)
</script>

<template>
  <FootBar label="Review">
    <FailedBox v-if="problem" :problem="problem" />
    <ProgramAnswer v-if="student.state?.programChange?.state === 'asked'" />
    <AskedList />
    <div class="row">
      <div class="words">
        <b>{{ workingTerm.term?.name }}: {{ planned.map(entry => entry.course).join(', ') || 'nothing planned' }}</b> ·
        {{ formatCredits(planned.reduce((s, e) => s + e.credits, 0)) }} cr
        <span v-if="blockers.length" class="blocking"> · {{ count(blockers.length, 'problem') }}: {{ sayCheck(blockers[0]!) }}</span>
        <br />
        <span class="second small">
          <template v-if="!student.state?.plan.current">This is not the current plan; a sign-off is given for the current one.</template>
          <template v-else-if="student.state?.signOff"
            >Signed off by {{ student.state.signOff.by }}, {{ longDate(student.localDate(student.state.signOff.at)) }}.
            {{ changes ? `Since then: ${changes}.` : 'Nothing has changed since.' }}</template
          >
          <template v-else-if="student.state?.signOffAsked"
            >{{ student.state.name }} asked for sign-off on {{ longDate(student.localDate(student.state.signOffAsked.at))
            }}{{ student.state.signOffAsked.note ? `: “${student.state.signOffAsked.note}”` : '.' }}</template
          >
          <template v-else-if="student.state?.returned">Given back: “{{ student.state.returned.words }}”</template>
          <template v-else>Sign-off has not been asked for.</template>
        </span>
      </div>
      <v-text-field v-model="note" class="note" label="Note to the student" maxlength="500" />
      <ActButton weight="full" :busy="busy === 'sign'" :off="cannotSign" aria-keyshortcuts="s" @click="sign">
        {{ student.state?.signOff ? 'Sign off again' : `Sign off ${workingTerm.term?.name}` }}
      </ActButton>
      <WordLink v-if="student.state?.signOffAsked" class="small" aria-keyshortcuts="r" @click="asking = 'return'">Return …</WordLink>
      <WordLink v-if="student.state?.signOff" class="small" @click="asking = 'withdraw'">Withdraw …</WordLink>
      <span v-if="code" class="small" role="status">Tell {{ student.state?.name }} this code, it is shown once: <b>{{ code }}</b></span>
      <WordLink v-else-if="mayGiveCode" class="small" @click="makeCode">Release by a code</WordLink>
      <LiftRule />
    </div>
    <AskDialog
      :model-value="asking !== ''"
      :title="asking === 'return' ? `Give the plan back to ${student.state?.name}` : `Withdraw the sign-off for ${workingTerm.term?.name}`"
      :act="asking === 'return' ? 'Give it back' : 'Withdraw it'"
      :busy="busy === asking"
      :off="words.trim().length < 3 && 'Say why, in a few words'"
      @update:model-value="$event || (asking = '')"
      @act="send"
    >
      <p v-if="asking === 'withdraw'" class="second small">
        The gate closes for what is not registered yet; what is registered stays.
      </p>
      <v-textarea
        v-model="words"
        :label="asking === 'return' ? 'What is to be changed' : 'Why it is withdrawn'"
        rows="2"
        auto-grow
        maxlength="500"
      />
    </AskDialog>
  </FootBar>
</template>

<style scoped>
.row { display: flex; gap: 8px 16px; align-items: center; flex-wrap: wrap; }
.words { flex: 1 1 380px; }
.note { flex: 0 1 240px; }
p { margin: 0; }
</style>
