<script setup lang="ts">
import { setRegistration } from '#shared/contract/acts/college'
import { call, toProblem, type Problem } from '~/composables/useApi'

/** Closes registration of a term for everybody while something is put right, and opens it again; students read why. */
const catalog = useCatalogStore()
const { today } = useNow()
const terms = computed(() => catalog.terms.filter(term => term.scheduled && term.end >= today.value))
const closing = ref('')
const because = ref('')
const open = ref(false)
const busy = ref(false)
const problem = ref<Problem | null>(null)
async function set(term: string, words: string | null) {
  busy.value = true
  try {
    await call(setRegistration, { term, because: words })
    await catalog.load(true)
    problem.value = null
    open.value = false
    because.value = ''
    announce(words === null ? `${catalog.term(term)?.name} is open again.` : `${catalog.term(term)?.name} is closed.`)
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
function ask(term: string) {
  closing.value = term
  open.value = true
}
</script>

<template>
  <section class="card switch" aria-labelledby="registration">
    <h2 id="registration">Registration</h2>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-for="term in terms" :key="term.code">
      <b>{{ term.name }}</b> ·
      <template v-if="term.closedBecause">
        <span class="blocking">closed: {{ term.closedBecause }}</span> ·
        <WordLink :aria-label="`Open ${term.name} again`" @click="set(term.code, null)">open it again</WordLink>
      </template>
      <template v-else>
        open by its openings, until {{ longDate(term.addBy) }} ·
        <WordLink :aria-label="`Close ${term.name}`" @click="ask(term.code)">close it …</WordLink>
      </template>
    </p>
    <AskDialog
      v-model="open"
      :title="`Close registration for ${catalog.term(closing)?.name}`"
      act="Close it for everybody"
      :busy="busy"
      :off="because.trim().length < 3 && 'Say why first'"
      @act="set(closing, because)"
    >
      <p>Nobody registers for it until it is opened again; drops and line-ups go on. Students read this:</p>
      <v-text-field v-model="because" label="Why" maxlength="300" placeholder="Rooms of Stonegate Works are being moved" />
    </AskDialog>
  </section>
</template>

<style scoped>
.switch { padding: 10px 16px; }
p { margin: 2px 0; }
</style>
