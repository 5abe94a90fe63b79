<script setup lang="ts">
import { lineRef } from '@ridgeway/core/record'
import type { LineReport } from '@ridgeway/core/requirements'
import { describeLine, formatCredits, sayLost } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** What a line asks, what counts and why, and what could fill it: placed straight into a term. */
const props = defineProps<{ line: LineReport, program: string, itemId: string | null }>()
const emit = defineEmits<{ close: [], item: [itemId: string | null] }>()
const requirements = useRequirementsStore()
const session = useSessionStore()
const workingTerm = useWorkingTermStore()
const said = ref('')
const problem = ref<Problem | null>(null)
watch(() => [props.line.id, props.itemId], () => {
  said.value = ''
  problem.value = null
})

const find = useFindStore()
const { open: openFind } = useInAddress('find')
function findSections() {
  find.scope = 'sections'
  find.clear()
  find.set({ lines: [lineRef(props.program, props.line.id)] })
  openFind('1')
}
const unreachable = computed(() => requirements.unreachable[props.program]?.[props.line.id])
const { isOwn } = storeToRefs(useStudentStore())
const isAdvisor = computed(() => session.account?.role === 'advisor')
/** The one course asked about. */
const asked = computed(() => props.line.uses.find(use => use.item.id === props.itemId))

async function pin(itemId: string, course: string, line: string | null) {
  problem.value = await requirements.pinUse(props.program, itemId, line)
  if (problem.value) return
  const now = line ? requirements.lineOf(props.program, line) : undefined
  said.value = !line
    ? `${course} is not pinned any more.`
    : now?.uses.some(use => use.item.id === itemId)
      ? `${course} is pinned to ${now.title}.`
      : `${course} is pinned, but the pin could not be kept: less would be filled that way.`
  if (line && line !== props.line.id) emit('item', null)
}
const { sayWithoutLine } = useWithout()
/** The exception that is about to be taken back, with what that comes to. */
const ending = ref<number | null>(null)
async function takeBack() {
  problem.value = await requirements.takeBack(ending.value!)
  ending.value = null
}
</script>

<template>
  <SidePanel :title="line.title" :about="`${line.id} ${itemId}`" @close="$emit('close')">
    <FailedBox v-if="problem" :problem="problem" />
    <div class="parts">
      <div class="rule">
        <p>{{ describeLine(line.rule) }}</p>
        <p v-if="unreachable" class="blocking strong">{{ sayLost(unreachable) }}</p>
        <p v-for="exception in line.exceptions" :key="exception.id" class="small exception">
          <b>{{
            exception.kind === 'waiver'
              ? `Waived${exception.course ? `: ${exception.course}` : exception.amount ? `: ${formatCredits(exception.amount)} of it` : ''}`
              : `${exception.course} counts here${exception.instead ? ` for ${exception.instead}` : ''}`
          }}</b>, granted by {{ exception.by }}: {{ exception.reason }}
          <WordLink v-if="isAdvisor" class="small" @click="ending = exception.id">Take back</WordLink>
        </p>
        <LineUses :line="line" :program="program" :asked="asked?.item.id ?? null" @item="$emit('item', $event)" @pin="pin" />
        <p v-if="line.open === 0 && line.needed > 0" class="second small">
          {{ line.state === 'met' ? 'Nothing more is needed.' : 'Nothing more is needed, once these are passed.' }}
        </p>
        <LineSmallest :line="line" :program="program" @placed="said = $event" />
        <p
          v-if="line.open > 0 && workingTerm.term?.scheduled"
        >
          <WordLink class="small" @click="findSections">Find sections in {{ workingTerm.term.name }} that count for it</WordLink>
        </p>
        <p class="said" role="status">{{ said }}</p>
      </div>

      <LineElsewhere v-if="asked" :line="line" :program="program" :use="asked" class="elsewhere" @pin="pin" />
      <LineCandidates :line="line" @placed="said = $event" />
      <GrantForm v-if="isAdvisor || (isOwn && line.open > 0)" :line="line" :program="program" @done="said = $event" />
    </div>
    <TakeBackDialog
      :open="ending !== null"
      :effect="ending === null ? [] : sayWithoutLine(ending)"
      @close="ending = null"
      @act="takeBack"
    />
  </SidePanel>
</template>

<style scoped>
.parts { display: flex; gap: 28px; flex-wrap: wrap; }
.rule { flex: 1 1 260px; max-width: 380px; }
.elsewhere { flex: 1 1 300px; max-width: 460px; }
p { margin: 3px 0; }
.exception { border-left: 3px solid var(--act); padding-left: 8px; }
.said { color: var(--act); font-weight: 650; min-height: 1.3em; }
</style>
