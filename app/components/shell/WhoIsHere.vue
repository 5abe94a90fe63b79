<script setup lang="ts">
/** Who else has the opened file open now. */
const student = useStudentStore()
const names = computed(() => Object.values(student.here))
watch(() => names.value.join(', '), (now, before) => {
  if (now && now !== before) announce(`${now} ${names.value.length === 1 ? 'is' : 'are'} here too.`)
})
</script>

<template>
  <span v-if="names.length" class="here small"><span class="dot" aria-hidden="true" />{{ names.join(', ') }} here too</span>
</template>

<style scoped>
.here { display: inline-flex; align-items: center; gap: 5px; color: var(--act); }
.dot { width: 7px; height: 7px; border-radius: 50%; background: var(--act); }
</style>
