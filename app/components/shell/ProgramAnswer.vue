<script setup lang="ts">
import type { Problem } from '~/composables/useApi'

/** The advisor answers a wish to change programs; granting it makes it so at once. */
const student = useStudentStore()
const requirements = useRequirementsStore()
const words = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
const change = computed(() => student.state!.programChange!)
/** The first program as it is, and those that are new: at most three stand side by side. */
const compared = computed(() => {
  const now = student.state!.programIds
  return [now[0], ...change.value.programs.filter(id => !now.includes(id))].slice(0, 3)
})
async function decide(granted: boolean) {
  busy.value = true
  problem.value = await requirements.decideChange(change.value.id, granted, words.value)
  busy.value = false
}
</script>

<template>
  <div class="answer">
    <FailedBox v-if="problem" :problem="problem" />
    <div class="words">
      <b>{{ student.state!.name }} asks to be in {{ change.programs.map(requirements.title).join(', ') }}.</b> {{ change.note }}
      <NuxtLink
        :to="`/student/${student.state!.id}/programs?with=${compared.join(',')}`"
        >Compare</NuxtLink
      >
    </div>
    <v-text-field v-model="words" class="note" label="Words with the answer" maxlength="500" />
    <ActButton weight="full" :busy="busy" @click="decide(true)">Grant</ActButton>
    <ActButton :busy="busy" @click="decide(false)">Decline</ActButton>
  </div>
</template>

<style scoped>
.answer {
  display: flex; gap: 12px; align-items: center; flex-wrap: wrap; padding-bottom: 7px; margin-bottom: 7px;
  border-bottom: 1px solid var(--line-soft);
}
.words { flex: 1 1 380px; }
.note { flex: 0 1 240px; }
</style>
