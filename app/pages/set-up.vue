<script setup lang="ts">
import { setUp } from '#shared/contract/acts/college'
import { call, toProblem, type Problem } from '~/composables/useApi'

/** The beginning of an empty installation: the college's name and zone, and the first person of its office. */
definePageMeta({ layout: 'alone' })
useHead({ title: 'Set up · Ridgeway' })
const zones = Intl.supportedValuesOf('timeZone')
const values = reactive({ code: '', college: '', zone: Intl.DateTimeFormat().resolvedOptions().timeZone, name: '', username: '', email: '',
  password: '' })
const problem = ref<Problem | null>(null)
const busy = ref(false)
async function begin() {
  busy.value = true
  try {
    await call(setUp, values)
    // What the page knows is of a time without a college: it is read anew.
    await navigateTo('/office/college', { external: true })
  }
  catch (error) {
    problem.value = toProblem(error)
    busy.value = false
  }
}
</script>

<template>
  <div>
    <h1>Begin with your college</h1>
    <p class="second">
      This Ridgeway holds no college yet. Say what it is called and who runs its office; terms, courses, sections and people come in the
      next step, as tables.
    </p>
    <form @submit.prevent="begin">
      <v-text-field v-model="values.code" label="Code that the start of the server printed" autocomplete="off" required />
      <v-text-field v-model="values.college" label="Name of the college" maxlength="120" required />
      <v-autocomplete v-model="values.zone" :items="zones" label="Time zone of its clocks" />
      <h2>The first person of the registrar's office</h2>
      <v-text-field v-model="values.name" label="Your name" autocomplete="name" maxlength="80" required />
      <v-text-field v-model="values.username" label="Name to sign in with" autocomplete="username" maxlength="40" required />
      <v-text-field v-model="values.email" label="Mail address" type="email" autocomplete="email" maxlength="120" required />
      <v-text-field
        v-model="values.password"
        label="Password, at least 10 characters"
        type="password"
        autocomplete="new-password"
        maxlength="200"
        required
      />
      <FailedBox v-if="problem" :problem="problem" />
      <ActButton weight="full" type="submit" :busy="busy">{{ busy ? 'Setting up …' : 'Set up the college' }}</ActButton>
    </form>
  </div>
</template>
