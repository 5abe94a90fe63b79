<script setup lang="ts">
/** A change of programs that was asked for, and what became of it. */
const student = useStudentStore()
const requirements = useRequirementsStore()
const change = computed(() => student.state?.programChange)
const names = computed(() => change.value?.programs.map(requirements.title).join(' with '))
</script>

<template>
  <p v-if="change?.state === 'asked'" class="small">
    A change to {{ names }} was asked for on {{ longDate(student.localDate(change.askedAt)) }} and waits for the advisor.
  </p>
  <p v-else-if="change?.state === 'declined'" class="small">The change to {{ names }} was declined: {{ change.words }}</p>
</template>
