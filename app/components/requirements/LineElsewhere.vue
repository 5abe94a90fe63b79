<script setup lang="ts">
import type { LineReport } from '@ridgeway/core/requirements'
import { sayUseChange } from '@ridgeway/words'

/** Why a course counts for a line, and what would change if it counted elsewhere. */
const props = defineProps<{ line: LineReport, program: string, use: LineReport['uses'][number] }>()
const emit = defineEmits<{ pin: [itemId: string, course: string, line: string] }>()
const student = useStudentStore()
const requirements = useRequirementsStore()
const item = computed(() => props.use.item)
const changes = computed(() => props.line.overlay ? [] : requirements.changesFor(props.program, item.value.id))
const why = computed(() => {
  if (changes.value.every(change => change.cost > 0)) return 'Anywhere else, more of the program would stay open.'
  return changes.value.some(change => change.cost > 0)
    ? 'Of the lines that accept it, none would fill more.'
    : 'It would do as much elsewhere; the lines that accept fewer courses are served first.'
})
</script>

<template>
  <div>
    <h3>Why {{ item.course }} counts here</h3>
    <p v-if="line.overlay" class="small">An overlay looks across the program: the course counts in its own line and here again.</p>
    <p v-else-if="changes.length === 0" class="small">
      No other line of this program accepts it{{ item.grade ? ` with ${item.grade}` : '' }}.
    </p>
    <template v-else>
      <p class="small second">{{ why }}</p>
      <ul>
        <li v-for="change in changes" :key="change.lineId">
          <span class="small" :class="{ blocking: change.cost > 0 }">{{ sayUseChange(change) }}</span>
          <WordLink v-if="student.mayEdit" class="small" @click="emit('pin', item.id, item.course, change.lineId)">
            Pin to {{ change.title }}
          </WordLink>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
p { margin: 3px 0; }
ul { list-style: none; padding: 0; margin: 5px 0; display: grid; gap: 6px; }
li { display: flex; flex-direction: column; align-items: flex-start; }
</style>
