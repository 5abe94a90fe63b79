<script setup lang="ts">
import { reassignAdvisor } from '#shared/contract/acts/advising'
import { call, toProblem } from '~/composables/useApi'

/** The office finds a student by name: opens the file, or gives them another advisor, which holds at once. */
const text = ref('')
const { problem, people: found, reload: load } = usePeople(text)
const changing = ref<{ id: number, name: string } | null>(null)
const advisor = ref<number | null>(null)
const reason = ref('')
const busy = ref(false)
const choices = computed(() => found.value?.advisors.map(one => ({ value: one.id, title: one.name })) ?? [])
async function change() {
  busy.value = true
  try {
    await call(reassignAdvisor, { advisor: advisor.value!, reason: reason.value }, { id: changing.value!.id })
    announce(`${changing.value!.name} has another advisor.`)
    changing.value = null
    advisor.value = null
    reason.value = ''
    problem.value = null
    await load()
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
const lacking = computed(() => {
  if (!advisor.value) return 'Choose an advisor'
  return reason.value.trim().length < 3 ? 'Give a reason; it stays in the history' : ''
})
</script>

<template>
  <section class="card students" aria-label="Students">
    <h2>Students</h2>
    <v-text-field v-model="text" class="finder" label="Find a student by name" bg-color="surface" />
    <FailedBox v-if="problem && !changing" :problem="problem" />
    <p v-if="found && !found.students.length" class="second">Nobody is called that.</p>
    <ul>
      <li v-for="one in found?.students ?? []" :key="one.id">
        <NuxtLink :to="`/student/${one.id}/now`">{{ one.name }}</NuxtLink>
        <span class="second">
          · {{ one.advisor ? `advised by ${one.advisor}` : 'no advisor'
          }}{{ one.asked ? ` · asks for ${count(one.asked, 'exception')}` : '' }}</span
        >
        <WordLink :aria-label="`Another advisor for ${one.name}`" @click="changing = one">another advisor …</WordLink>
      </li>
    </ul>
    <AskDialog
      :model-value="changing !== null"
      :title="`Another advisor for ${changing?.name ?? ''}`"
      act="Give them this advisor"
      :busy="busy"
      :off="lacking"
      @update:model-value="$event || (changing = null)"
      @act="change"
    >
      <p class="second small">It holds at once, in open pages too. Who it was stays in the history.</p>
      <FailedBox v-if="problem" :problem="problem" />
      <v-autocomplete v-model="advisor" :items="choices" label="Advisor" />
      <v-text-field v-model="reason" label="Why" maxlength="300" />
    </AskDialog>
  </section>
</template>

<style scoped>
.students { padding: 10px 16px; }
.finder { max-width: 300px; margin-top: 6px; }
ul { list-style: none; padding: 0; margin: 6px 0 0; }
li { padding: 3px 0; }
li > :deep(.words-link) { margin-left: 10px; }
p { margin: 4px 0; }
</style>
