<script setup lang="ts">
import { type ExceptionAsked, exceptionKey } from '@ridgeway/core/advising'
import { sayException } from '@ridgeway/words'
import { askException } from '#shared/contract/acts/advising'
import type { Problem } from '~/composables/useApi'

/** Where a rule refuses something that somebody can lift: the student asks for it there, with a reason; what was asked is told. */
const { asked, label = '' } = defineProps<{ asked: ExceptionAsked, label?: string }>()
const student = useStudentStore()
const open = ref(false)
const reason = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const known = computed(() => student.state?.asked.find(one => exceptionKey(one.asked) === exceptionKey(asked)))
const said = computed(() => sayException(asked, label))
async function send() {
  busy.value = true
  problem.value = await student.act(askException, { asked: { ...asked }, reason: reason.value })
  busy.value = false
  if (problem.value) return
  open.value = false
  reason.value = ''
  announce('It is asked for; the answer will stand under Now.')
}
</script>

<template>
  <span v-if="known?.state === 'asked'" class="small second">asked for: {{ said }}</span>
  <template v-else-if="student.isOwn">
    <span v-if="known?.state === 'declined'" class="small second">not granted by {{ known.by }}: {{ known.words }} </span>
    <WordLink class="small" :aria-label="`Ask for an exception: ${said}`" @click="open = true">ask for an exception …</WordLink>
  </template>
  <AskDialog
    v-model="open"
    title="Ask for an exception"
    act="Ask for it"
    :busy="busy"
    :off="reason.trim().length < 3 && 'Give a reason; it is what your advisor decides on'"
    @act="send"
  >
    <p>You ask for: <b>{{ said }}</b>.</p>
    <v-textarea v-model="reason" label="Why it should be granted" rows="2" auto-grow maxlength="300" />
    <FailedBox v-if="problem" :problem="problem" />
  </AskDialog>
</template>

<style scoped>
p { margin: 0; }
</style>
