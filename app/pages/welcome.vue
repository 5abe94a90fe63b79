<script setup lang="ts">
import type { Problem } from '~/composables/useApi'

/** An invitation is taken: somebody chooses the password to sign in with. The code stands behind the hash, which no server logs. */
definePageMeta({ layout: 'alone' })
useHead({ title: 'Welcome · Ridgeway' })
const session = useSessionStore()
const route = useRoute()
const password = ref('')
const again = ref('')
const problem = ref<Problem | null>(null)
const busy = ref(false)
const code = computed(() => route.hash.slice(1))
const broken: Problem = { code: 'no-code', title: 'This link is not whole.',
  detail: 'Open it as it was sent to you, or ask the registrar\'s office for a new one.', status: 0 }
const lacking = computed(() => password.value.length < 10
  ? 'Use at least 10 characters'
  : again.value !== password.value ? 'Write the same password twice' : '')
async function take() {
  busy.value = true
  problem.value = await session.welcome(code.value, password.value)
  busy.value = false
  if (!problem.value) await navigateTo(session.home, { external: true })
}
</script>

<template>
  <div>
    <h1>Welcome to Ridgeway</h1>
    <FailedBox
      v-if="!code"
      :problem="broken"
    />
    <template v-else>
      <p class="second">Choose the password with which you will sign in. The link works once.</p>
      <form @submit.prevent="take">
        <v-text-field
          v-model="password"
          label="Password, at least 10 characters"
          type="password"
          autocomplete="new-password"
          maxlength="200"
        />
        <v-text-field v-model="again" label="The same once more" type="password" autocomplete="new-password" maxlength="200" />
        <FailedBox v-if="problem" :problem="problem" />
        <ActButton weight="full" type="submit" :busy="busy" :off="lacking">Keep it and sign in</ActButton>
      </form>
    </template>
  </div>
</template>
