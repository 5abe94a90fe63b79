<script setup lang="ts">
import type { LineReport } from '@ridgeway/core/requirements'
import { saySmallestSet } from '@ridgeway/words'

/** What would have to change for an open line to be met: the smallest set of courses, worked out when asked, and placed in one press. */
const props = defineProps<{ line: LineReport, program: string }>()
const emit = defineEmits<{ placed: [words: string] }>()
const student = useStudentStore()
const requirements = useRequirementsStore()
const commands = usePlanCommands()
const asked = ref(false)
watch([() => props.line.id, () => props.line.open], () => asked.value = false)
const found = computed(() => asked.value ? requirements.smallestFor(props.program, props.line.id) : null)
async function placeAll() {
  const words: string[] = []
  for (const { code, term } of found.value!.places) {
    if (!term) continue
    await commands.place(code, term).done
    words.push(commands.said.value)
  }
  emit('placed', words.at(-1) ?? '')
}
</script>

<template>
  <p v-if="line.open > 0 && !line.setAside" class="smallest">
    <WordLink v-if="!asked" class="small" @click="asked = true">What is the least that would meet it?</WordLink>
    <span v-else-if="found" class="small" role="status">
      {{ saySmallestSet(found.set) }}
      <WordLink v-if="student.mayEdit && found.places.every(place => place.term)" class="small" @click="placeAll">
        {{ found.places.length === 1 ? 'Place it' : 'Place all' }}
        {{ found.places.length === 1 ? `in ${found.places[0]!.term!.name}` : 'in their earliest terms' }}
      </WordLink>
    </span>
    <span v-else class="small second" role="status">No set of courses that can still be taken meets it.</span>
  </p>
</template>

<style scoped>
p { margin: 3px 0; }
</style>
