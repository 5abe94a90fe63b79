<script setup lang="ts">
import { formatCredits, sayCheck } from '@ridgeway/words'
import { makeReleaseCode, signOff } from '#shared/contract/acts/student'
import { type Problem, toProblem } from '~/composables/useApi'

/** The advisor's bar under an opened advisee: what was asked, what changed since the sign-off, and the sign-off itself. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const note = ref('')
const problem = ref<Problem | null>(null)
const busy = ref(false)
const planned = computed(() => student.entries.filter(entry => entry.term === workingTerm.code))
const blockers = computed(() =>
  student.standing?.checks.filter(check => check.severity === 'blocker' && check.term === workingTerm.code) ?? [],
)
const changes = computed(() => {
  const copy = student.state?.signOff?.copy
  if (!copy) return []
  const now = new Set(planned.value.map(entry => entry.course))
  const before = new Set(copy.map(entry => entry.course))
  return [...[...now].filter(code => !before.has(code)).map(code => `${code} added`),
    ...[...before].filter(code => !now.has(code)).map(code => `${code} taken out`)]
})
const cannotSign = computed(() => planned.value.length === 0
  ? `Nothing is planned for ${workingTerm.term?.name}`
  : student.state?.plan.current ? '' : 'A sign-off is given for the current plan')
async function sign() {
  busy.value = true
  problem.value = await student.act(signOff, { term: workingTerm.code, note: note.value,
    seen: planned.value.map(({ course, credits }) => ({ course, credits })) })
  busy.value = false
  if (!problem.value) note.value = ''
}
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
</script>

<template>
  <FootBar label="Review">
    <FailedBox v-if="problem" :problem="problem" />
    <ProgramAnswer v-if="student.state?.programChange?.state === 'asked'" />
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
            {{ changes.length ? `Since then: ${changes.join(', ')}.` : 'Nothing has changed since.' }}</template
          >
          <template v-else-if="student.state?.signOffAskedAt"
            >{{ student.state.name }} asked for sign-off on {{ longDate(student.localDate(student.state.signOffAskedAt)) }}.</template
          >
          <template v-else>Sign-off has not been asked for.</template>
        </span>
      </div>
      <v-text-field v-model="note" class="note" label="Note to the student" maxlength="500" />
      <ActButton weight="full" :busy="busy" :off="cannotSign" @click="sign">
        {{ student.state?.signOff ? 'Sign off again' : `Sign off ${workingTerm.term?.name}` }}
      </ActButton>
      <span v-if="code" class="small" role="status">Tell {{ student.state?.name }} this code, it is shown once: <b>{{ code }}</b></span>
      <WordLink v-else-if="!student.state?.signOff" class="small" @click="makeCode">Release by a code</WordLink>
      <LiftRule />
    </div>
  </FootBar>
</template>

<style scoped>
.row { display: flex; gap: 16px; align-items: center; flex-wrap: wrap; }
.words { flex: 1 1 380px; }
.note { flex: 0 1 280px; }
</style>
