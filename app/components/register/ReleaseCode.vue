<script setup lang="ts">
import { enterReleaseCode } from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'

/** A code from the advisor in place of a sign-off, where the two could not meet. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const code = ref('')
const problem = ref<Problem | null>(null)
const busy = ref(false)
async function enter() {
  busy.value = true
  problem.value = await student.act(enterReleaseCode, { term: workingTerm.code, code: code.value })
  busy.value = false
  if (problem.value) return
  code.value = ''
  announce(`${workingTerm.term?.name} is released.`)
}
</script>

<template>
  <form class="card code" @submit.prevent="enter">
    <h2>A release code?</h2>
    <p class="small second">
      {{
        catalog.advising.releaseCode === 'besides'
          ? 'The college asks for one besides the sign-off; your advisor gives it to you.'
          : 'Your advisor can give you one in place of the sign-off, by telephone for instance.'
      }}
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <div class="row">
      <v-text-field v-model="code" label="Release code" placeholder="ABCD-2345" maxlength="9" autocomplete="off" />
      <ActButton type="submit" :busy="busy" :off="!code.trim() && 'Enter the code first'">Enter</ActButton>
    </div>
  </form>
</template>

<style scoped>
.code { padding: 12px 16px; }
p { margin: 2px 0 8px; }
.row { display: flex; gap: 10px; align-items: center; }
</style>
