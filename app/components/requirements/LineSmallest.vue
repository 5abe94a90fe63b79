<script setup lang="ts">
import type { LineReport, SmallestSet } from '@ridgeway/core/requirements'
import { saySmallestSet } from '@ridgeway/words'
import SmallestWorker from '~/workers/smallest.worker?worker'

/** What would have to change for an open line to be met: the smallest set of courses, worked out when asked, and placed in one press. */
const props = defineProps<{ line: LineReport, program: string }>()
const emit = defineEmits<{ placed: [words: string] }>()
const student = useStudentStore()
const requirements = useRequirementsStore()
const commands = usePlanCommands()
/** Nothing was found where it is null. */
const found = shallowRef<{ set: SmallestSet | null } | null>(null)
const worker = shallowRef<Worker | null>(null)
const places = computed(() => requirements.placesFor(found.value?.set?.courses ?? []))
function stop() {
  worker.value?.terminate()
  worker.value = null
}
watch([() => props.line.id, () => props.line.open], () => {
  stop()
  found.value = null
})
onBeforeUnmount(stop)
function ask() {
  const about = requirements.smallestOf(props.program, props.line.id)
  if (!about) return
  const made = new SmallestWorker()
  worker.value = made
  made.onmessage = ({ data }: MessageEvent<SmallestSet | null>) => {
    stop()
    found.value = { set: data }
  }
  made.postMessage(about)
}
async function placeAll() {
  for (const { code, term } of [...places.value]) if (term) await commands.place(code, term, found.value?.set?.credits[code]).done
  emit('placed', commands.said.value)
}
</script>

<template>
  <div v-if="line.open > 0 && !line.setAside" class="smallest">
    <LongWork v-if="worker" label="Working it out" stage="trying what could still be taken" :share="null" @cancel="stop" />
    <WordLink v-else-if="!found" class="small" @click="ask">What is the least that would meet it?</WordLink>
    <span v-else-if="found.set" class="small" role="status">
      {{ saySmallestSet(found.set) }}
      <WordLink v-if="student.mayEdit && places.every(place => place.term)" class="small" @click="placeAll">
        {{ places.length === 1 ? `Place it in ${places[0]!.term!.name}` : 'Place all in their earliest terms' }}
      </WordLink>
    </span>
    <span v-else class="small second" role="status">
      We found no set of courses that meets this requirement. Ask your advisor about an exception.
    </span>
  </div>
</template>

<style scoped>
.smallest { margin: 3px 0; }
</style>
