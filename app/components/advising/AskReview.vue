<script setup lang="ts">
import { differencesOf, isSame, readSelfCheck } from '@ridgeway/core/advising'
import { sayDifferences, saySelfCheck } from '@ridgeway/words'
import { askSignOff } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

/** The student asks for sign-off of the working term: what the plan answers by itself first, then a word to the advisor. */
const open = defineModel<boolean>({ required: true })
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const note = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const lines = computed(() => student.standing && workingTerm.term
  ? saySelfCheck(readSelfCheck(student.standing, workingTerm.code, workingTerm.term.fullTime))
  : [])
const signed = computed(() => {
  const copy = student.state?.signOff?.copy
  const found = copy && differencesOf(copy, student.entries.filter(entry => entry.term === workingTerm.code))
  return found && !isSame(found) ? sayDifferences(found) : ''
})
async function ask() {
  busy.value = true
  problem.value = await student.act(askSignOff, { term: workingTerm.code, note: note.value })
  busy.value = false
  if (problem.value) return
  open.value = false
  note.value = ''
  announce('Sign-off is asked for.')
}
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Ask ${student.state?.advisor?.name ?? 'an advisor'} to sign off ${workingTerm.term?.name}`"
    act="Ask for it"
    :busy="busy"
    @act="ask"
  >
    <p>Your plan answers by itself:</p>
    <ul class="check">
      <li v-for="line in lines" :key="line.words" :class="{ attention: !line.fine }">
        <span aria-hidden="true">{{ line.fine ? '✓' : '!' }}</span> {{ line.words }}
      </li>
    </ul>
    <p v-if="signed" class="second small">Since the last sign-off: {{ signed }}.</p>
    <p v-if="lines.some(line => !line.fine)" class="second small">
      You can ask all the same: say in a line what you mean to do about it.
    </p>
    <v-textarea v-model="note" label="A word to your advisor" rows="2" auto-grow maxlength="500" />
    <FailedBox v-if="problem" :problem="problem" />
  </AskDialog>
</template>

<style scoped>
p { margin: 0; }
.check { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
.check li { display: grid; grid-template-columns: 18px 1fr; }
.attention { color: var(--block); font-weight: 650; }
</style>
