<script setup lang="ts">
/** Under the week: how it is read, what has no hours in it, and the weeks of the term. */
defineProps<{ noSetTime: string, single: readonly string[] }>()
defineEmits<{ keep: [] }>()
const view = defineModel<'week' | 'list' | 'exams'>('view', { required: true })
const monday = defineModel<string>('monday', { required: true })
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
</script>

<template>
  <div class="strip">
    <div>
      <ViewChoice
        v-model="view"
        label="How to read the week"
        :choices="[['week', 'as a week'], ['list', 'as a list'], ['exams', 'exams']]"
      />
      <span>
        <b>No set time</b> {{ noSetTime }}<template v-if="single.length"> · <b>once</b> {{ single.join('; ') }}</template>
      </span>
      <WordLink v-if="student.isOwn" class="small" @click="$emit('keep')">Keep hours free …</WordLink>
      <WordLink v-if="monday" class="small" @click="monday = ''">Back to the typical week</WordLink>
    </div>
    <TermTrack v-if="workingTerm.term" v-model="monday" :term="workingTerm.term" />
  </div>
</template>

<style scoped>
.strip { display: grid; grid-template-columns: 1fr minmax(280px, 520px); gap: 20px; align-items: center; padding: 8px 0; }
.strip > div:first-child { display: flex; flex-wrap: wrap; gap: 4px 18px; align-items: center; }
@media (max-width: 700px) { .strip { grid-template-columns: minmax(0, 1fr); } }
@media print { .strip { display: none; } }
</style>
