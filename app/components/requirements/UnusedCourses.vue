<script setup lang="ts">
import type { CourseItem } from '@ridgeway/core/catalog'
import type { UseChange } from '@ridgeway/core/requirements'
import { formatCredits, sayGrade, sayUseChange } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** Courses without a use, each with the reason, and what would change if it had one. */
defineProps<{ items: CourseItem[] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const opened = ref<string | null>(null)
const problem = ref<Problem | null>(null)

const titleOf = (item: CourseItem) => catalog.courses.get(item.course)?.title ?? 'of another college'
const why = (item: CourseItem) => {
  if (!catalog.courses.has(item.course)) return 'it is in no catalog here, and counts where a substitution names it'
  const fits = requirements.reports.some(report => (report.couldCount[item.id]?.length ?? 0) > 0)
  const kept = requirements.reports.some(report => report.notShared?.itemIds.includes(item.id))
  if (requirements.reports.every(report => report.earning.every(other => other.id !== item.id)))
    return 'another course or attempt has its credit'
  return kept ? 'a sharing rule keeps it out' : fits ? 'the lines that accept it are full' : 'no line accepts it'
}
const couldCount = (item: CourseItem) =>
  requirements.reports.filter(report => !report.notShared?.itemIds.includes(item.id) && (report.couldCount[item.id]?.length ?? 0) > 0)
const changes = computed(() =>
  opened.value === null
    ? []
    : requirements.reports.flatMap(report =>
        requirements.changesFor(report.code, opened.value!).map((change): UseChange & { program: string } => ({ ...change,
          program: report.code }),
        ),
      ),
)
async function pin(itemId: string, program: string, line: string) {
  problem.value = await requirements.pinUse(program, itemId, line)
}
</script>

<template>
  <div>
    <h3>Counts for nothing</h3>
    <p v-if="items.length === 0" class="second">Every course has a use.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <div v-for="item in items" :key="item.id" class="one">
      <p>
        <b>{{ item.course }}</b> {{ titleOf(item) }}, {{ formatCredits(item.credits) }} cr, {{ item.state
        }}<template v-if="item.grade"> ({{ sayGrade(item) }})</template>: {{ why(item) }}.
        <WordLink
          v-if="couldCount(item).length"
          class="small"
          :aria-expanded="opened === item.id"
          @click="opened = opened === item.id ? null : item.id"
        >
          What if it counted?
        </WordLink>
      </p>
      <ul v-if="opened === item.id" class="small">
        <li v-for="change in changes" :key="change.program + change.lineId" :class="{ blocking: change.cost > 0 }">
          {{ sayUseChange(change) }}
          <WordLink v-if="student.mayEdit" class="small" @click="pin(item.id, change.program, change.lineId)">
            Pin to {{ change.title }}
          </WordLink>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
p { margin: 2px 0; }
ul { margin: 2px 0 6px; padding-left: 18px; }
</style>
