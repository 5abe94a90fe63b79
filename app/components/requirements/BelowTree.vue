<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'

/** Below the lines: what counts for nothing or beyond the need, and the rules over the whole. */
const student = useStudentStore()
const requirements = useRequirementsStore()
const unused = computed(() => student.standing?.items.filter(item => student.standing!.offPath.includes(item.id)) ?? [])
const beyond = computed(() => requirements.reports[0]?.beyond ?? 0)
</script>

<template>
  <section class="card below">
    <div>
      <UnusedCourses :items="unused" />
      <template v-if="beyond > 0">
        <h3 class="more">Credits beyond what is needed</h3>
        <p>{{ formatCredits(beyond) }} cr of the courses in use are more than their lines ask; they count towards the total only.</p>
      </template>
    </div>
    <RuleList :reports="requirements.reports" />
  </section>
</template>

<style scoped>
.below { display: grid; grid-template-columns: 1fr 1fr; gap: 20px; padding: 10px 14px; }
p { margin: 2px 0; }
.more { margin-top: 10px; }
@media (max-width: 700px) { .below { grid-template-columns: 1fr; gap: 2px; } }
</style>
