<script setup lang="ts">
import { invite } from '#shared/contract/acts/college'
import { call, toProblem, type Problem } from '~/composables/useApi'

/** Somebody gets a link by which they choose their password: the first one, or a new one. */
const username = ref('')
const made = shallowRef<{ name: string, link: string, until: string } | null>(null)
const problem = ref<Problem | null>(null)
const busy = ref(false)
const session = useSessionStore()
const { copy, copied } = useClipboard({ legacy: true })
async function send() {
  busy.value = true
  try {
    const { answer } = await call(invite, { username: username.value })
    made.value = { name: answer.name, link: `${location.origin}/welcome#${answer.code}`, until: answer.until }
    problem.value = null
    username.value = ''
  }
  catch (error) {
    made.value = null
    problem.value = toProblem(error)
  }
  busy.value = false
}
</script>

<template>
  <section class="card invite" aria-label="Invite somebody">
    <h2>Invite somebody to sign in</h2>
    <p class="second">People come in by people.csv, without a password. A link lets one of them choose it, or a new one.</p>
    <form @submit.prevent="send">
      <v-text-field v-model="username" label="Their sign-in name" maxlength="40" autocomplete="off" />
      <ActButton type="submit" :busy="busy" :off="username.trim() ? '' : 'Write a sign-in name'">Make a link</ActButton>
    </form>
    <FailedBox v-if="problem" :problem="problem" />
    <div v-if="made" role="status">
      <p>
        For <b>{{ made.name }}</b
        >, good once, until {{ toLocal(made.until, session.zone).toFormat('ccc d LLL yyyy, HH:mm') }}. It is shown
        only here; send it to them.
      </p>
      <p class="link"><code>{{ made.link }}</code> <ActButton @click="copy(made.link)">{{ copied ? 'Copied' : 'Copy' }}</ActButton></p>
    </div>
  </section>
</template>

<style scoped>
.invite { padding: 12px 16px; display: grid; gap: 8px; align-content: start; }
form { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 10px; align-items: center; }
p { margin: 2px 0; }
.link { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
code { overflow-wrap: anywhere; }
</style>
