<script setup lang="ts">
/** What concerns whatever page is open: the lost connection, and what somebody else changed meanwhile. */
const student = useStudentStore()
const session = useSessionStore()
const route = useRoute()
const away = useAway()
const inFile = computed(() => route.path.startsWith('/student/') && student.state !== null)
/** The board tells it beside what was done there last. */
const news = computed(() => inFile.value && !route.path.endsWith('/plan') ? student.notice : '')
/** On the plan itself its own bar says it. */
const trying = computed(() => inFile.value && student.suggesting !== null && !route.path.endsWith('/plan'))
const waits = computed(() =>
  inFile.value && student.saving === 'kept here'
    ? 'What you changed in the plan is kept on this device and sent when it can be.'
    : 'What stands here is as it was read last.',
)
const TRY_MS = 5000
useIntervalFn(() => away.value && session.load().catch(() => {}), TRY_MS)
watch(news, announce)
watch(away, (lost) => {
  announce(lost ? 'Ridgeway cannot be reached.' : 'Ridgeway can be reached again.')
  if (!lost && inFile.value) void student.reload()
})
</script>

<template>
  <div v-if="away || news || trying" class="page-news">
    <NoticeLine v-if="away" blocking>
      <b>Ridgeway cannot be reached.</b> {{ waits }} It is tried again every few seconds.
    </NoticeLine>
    <NoticeLine v-if="trying">
      You are trying changes on {{ student.state?.name }}'s plan; what stands here is as they would make it. Nothing is changed.
      <WordLink :to="`/student/${student.state?.id}/plan`">To the plan, to send them</WordLink> ·
      <WordLink @click="student.suggestion.stop()">Leave them</WordLink>
    </NoticeLine>
    <NoticeLine v-if="news">{{ news }} <WordLink @click="student.notice = ''">Seen</WordLink></NoticeLine>
  </div>
</template>

<style scoped>
.page-news { padding: 8px 20px 0; max-width: 1600px; margin: 0 auto; display: grid; gap: 6px; }
</style>
