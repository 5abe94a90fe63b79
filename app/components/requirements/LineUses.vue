<script setup lang="ts">
import type { CourseItem } from '@ridgeway/core/catalog'
import type { LineReport } from '@ridgeway/core/requirements'
import { sayBrokenPin, sayGrade } from '@ridgeway/words'

/** The courses that count for a line, each to be asked about and pinned, and the pins that could not be kept. */
const props = defineProps<{ line: LineReport, program: string, asked: string | null }>()
const emit = defineEmits<{ item: [itemId: string | null], pin: [itemId: string, course: string, line: string | null] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer or exam'
const how = ({ state, grade, earnedGrade, topic, term }: CourseItem) =>
  [`${state}${grade ? ` with ${sayGrade({ grade, earnedGrade })}` : ''}`, topic && `on ${topic}`, termName(term)].filter(Boolean).join(', ')
const broken = computed(() =>
  requirements.reports.find(report => report.code === props.program)?.brokenPins.filter(pin => pin.line === props.line.id) ?? [],
)
</script>

<template>
  <div>
    <ul>
      <li v-for="use in line.uses" :key="use.item.id">
        <WordLink :aria-expanded="asked === use.item.id" @click="emit('item', asked === use.item.id ? null : use.item.id)">
          {{ use.item.course }}
        </WordLink>
        <span class="small second how"
          >{{ how(use.item) }}<template v-if="use.substituted">, by substitution</template></span
        >
        <template v-if="student.mayEdit && !line.overlay">
          <WordLink
            v-if="requirements.pinOf(program, use.item.id) === line.id"
            class="small"
            @click="emit('pin', use.item.id, use.item.course, null)"
          >
            Unpin
          </WordLink>
          <WordLink v-else class="small" @click="emit('pin', use.item.id, use.item.course, line.id)">Pin here</WordLink>
        </template>
      </li>
    </ul>
    <p v-for="pinned in broken" :key="pinned.itemId" class="small blocking">
      {{ sayBrokenPin(pinned) }}
      <WordLink v-if="student.mayEdit" class="small" @click="emit('pin', pinned.itemId, pinned.course, null)">Unpin</WordLink>
    </p>
  </div>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 5px 0; display: grid; gap: 2px; }
p { margin: 3px 0; }
.words-link + .words-link, span + .words-link { margin-left: 8px; }
.how { margin-left: 6px; }
</style>
