<script setup lang="ts">
const student = useStudentStore()
const about = computed(() => student.state?.advisor
  ? `${student.state.advisor.name}${student.state.deputy ? `, for whom ${student.state.deputy} stands in now` : ''}`
  : '')
</script>

<template>
  <div class="page">
    <PageHead title="Meetings" :about="about">
      <WordLink :to="`/student/${student.state!.id}/now`">Back to Now</WordLink>
    </PageHead>
    <MeetingCard />
  </div>
</template>
