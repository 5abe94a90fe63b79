<script setup lang="ts">
/** The opened student's file: loaded here once, shown by the waypoint inside. */
const route = useRoute()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const id = computed(() => Number(route.params.id))
watch([id, () => workingTerm.code], () => student.load(id.value), { immediate: true })
</script>

<template>
  <div>
    <div v-if="student.failed" class="page"><FailedBox :problem="student.failed" retry @retry="student.load(id)" /></div>
    <template v-else-if="student.state?.id === id && catalog.ready && student.standing">
      <NuxtPage />
      <ReviewBar v-if="session.account?.role === 'advisor'" />
    </template>
    <div v-else class="page" aria-busy="true" aria-label="Loading">
      <div class="grey-shape" style="height: 30px; width: 320px; margin: 6px 0 14px" />
      <div v-for="n in 6" :key="n" class="grey-shape" style="height: 52px; margin-bottom: 4px" />
    </div>
    <div class="visually-hidden" aria-live="polite">{{ student.notice }}</div>
  </div>
</template>
