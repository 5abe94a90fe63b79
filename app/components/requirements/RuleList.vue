<script setup lang="ts">
import type { ProgramReport } from '@ridgeway/core/requirements'
import type { Problem } from '~/composables/useApi'

/** Rules about the program as a whole: total, averages, levels, credits taken here, milestones. */
defineProps<{ reports: ProgramReport[] }>()
const requirements = useRequirementsStore()
const session = useSessionStore()
const problem = ref<Problem | null>(null)
async function record(program: string, milestone: string, done: boolean) {
  problem.value = await requirements.recordMilestone(program, milestone, done)
}
</script>

<template>
  <div>
    <h3>Also asked</h3>
    <FailedBox v-if="problem" :problem="problem" />
    <ul>
      <template v-for="report in reports" :key="report.code">
        <li v-for="rule in report.rules" :key="`${report.code}/${rule.id}`" :data-rule="rule.id">
          <span class="strong">{{ rule.title }}<template v-if="report !== reports[0]"> ({{ report.title }})</template></span>
          <span :class="rule.unreachable ? 'blocking strong' : rule.state === 'open' ? 'strong' : 'second'"> · {{ rule.unreachable ? 'cannot be reached' : rule.state }}</span>
          <br><span class="small second">{{ rule.words }}</span><template v-if="rule.unreachable">{{ ' ' }}<span class="small blocking">{{ rule.unreachable }}</span></template>
          <button v-if="rule.kind === 'milestone' && session.account?.role === 'advisor'" class="words-link small" type="button" @click="record(report.code, rule.id, rule.state !== 'met')">{{ rule.state === 'met' ? 'Take back' : 'Record as done' }}</button>
        </li>
      </template>
    </ul>
  </div>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 4px 0; display: grid; gap: 5px; }
</style>
