<script setup lang="ts">
import { erasePerson } from '#shared/contract/acts/office'
import { call } from '~/composables/useApi'

/** Erases a person for good; their sign-in name is written twice, so that nobody else is. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ erased: [] }>()
const username = ref('')
const again = ref('')
const { busy, problem, doing } = useDoing()
const lacking = computed(() => username.value.trim() === ''
  ? 'Write the sign-in name'
  : username.value.trim() !== again.value.trim() && 'Write the same name twice')
watch(open, () => {
  username.value = again.value = ''
  problem.value = null
})
async function erase() {
  if (!await doing(async () => void await call(erasePerson, { username: username.value, again: again.value }))) return
  open.value = false
  announce('The person is erased.')
  emit('erased')
}
</script>

<template>
  <AskDialog v-model="open" title="Erase a person" act="Erase for good" :busy="busy" :off="lacking" @act="erase">
    <p>
      The record, plans, messages, meetings and everything else about the person go, and cannot be brought back. Seats, money and what
      happened stay in the ledger, without words and without a name. Who is registered, owes something or advises somebody cannot be erased.
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <v-text-field v-model="username" label="Sign-in name" maxlength="40" autocomplete="off" />
    <v-text-field v-model="again" label="The same name again" maxlength="40" autocomplete="off" />
  </AskDialog>
</template>

<style scoped>
p { margin: 2px 0; }
</style>
