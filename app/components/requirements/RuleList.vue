<script setup lang="ts">
import { isOutOfReach, type ProgramReport } from '@ridgeway/core/requirements'
import { ruleTitle, sayOutOfReach, sayRule } from '@ridgeway/words'
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
          <span class="strong"
            >{{ ruleTitle(rule) }}<template v-if="report !== reports[0]"> ({{ report.title }})</template></span
          >
          <span :class="isOutOfReach(rule) ? 'blocking strong' : rule.state === 'open' ? 'strong' : 'second'">
            · {{ isOutOfReach(rule) ? 'cannot be reached' : rule.state }}</span
          >
          <br /><span class="small second">{{ sayRule(rule) }}</span
          ><template v-if="isOutOfReach(rule)"
            >{{ ' ' }}<span class="small blocking">{{ sayOutOfReach(rule) }}</span></template
          >
          <WordLink
            v-if="rule.reading.kind === 'milestone' && session.account?.role === 'advisor'"
            class="small"
            @click="record(report.code, rule.id, rule.state !== 'met')"
          >
            {{ rule.state === 'met' ? 'Take back' : 'Record as done' }}
          </WordLink>
        </li>
      </template>
    </ul>
  </div>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 4px 0; display: grid; gap: 5px; }
</style>
