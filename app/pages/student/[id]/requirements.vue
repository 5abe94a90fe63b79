<script setup lang="ts">
import { lineRef, type LineRef, parseLineRef } from '@ridgeway/core/record'
import { formatCredits } from '@ridgeway/words'
import { lazily } from '~/components/kit/lazily'

const ProgressPictures = lazily(() => import('~/components/requirements/ProgressPictures.vue'))
const LineDrawer = lazily(() => import('~/components/requirements/LineDrawer.vue'))
const student = useStudentStore()
const requirements = useRequirementsStore()
type View = 'area' | 'term' | 'pictures'
const VIEWS: [View, string][] = [['area', 'by area'], ['term', 'by suggested term'], ['pictures', 'as pictures']]
const view = ref<View>('area')
/** The opened line, with the course asked about in it: "PROGRAM/line" or "PROGRAM/line@item" in the address. */
const opened = useOpened()
const selected = computed({
  get: () => {
    const [line, item] = opened.value.split('@')
    return line?.includes('/') ? { ...parseLineRef(line as LineRef), item: item ?? null } : null
  },
  set: next => opened.value = next ? `${lineRef(next.program, next.line)}${next.item ? `@${next.item}` : ''}` : '',
})
providePlanCommands()
const pointed = ref<string | null>(null)
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.requirement .head, .requirement .block')

/** The pointer and the keyboard point at courses alike; letting go of one never hides what the other points at. */
function point(itemId: string, on: boolean) {
  if (on) pointed.value = itemId
  else if (pointed.value === itemId) pointed.value = null
}

const major = computed(() => requirements.reports[0])
const selectedLine = computed(() => {
  const line = selected.value && requirements.lineOf(selected.value.program, selected.value.line)
  return line && selected.value ? { program: selected.value.program, item: selected.value.item, line } : null
})
function select(program: string, line: string, item: string | null) {
  const now = selected.value
  selected.value = now?.line === line && now.program === program && now.item === item ? null : { program, line, item }
}
/** From the note at the top to the line itself. */
function show(program: string, line: string) {
  view.value = 'area'
  selected.value = { program, line, item: null }
  void nextTick(() => document.querySelector(`[data-line="${line}"]`)?.scrollIntoView({ block: 'center' }))
}
/** "open" in the address stands for the first line that is. */
onMounted(() => {
  if (opened.value === 'open') opened.value = requirements.openLines[0] ?? ''
})
const totals = computed(() => {
  const { met = 0, underWay = 0, covered = 0, open = 0 } = major.value ?? {}
  return Object.entries({ 'met': met, 'under way': underWay, covered, open })
})
</script>

<template>
  <div ref="field" class="page">
    <PageHead :title="`${major?.title} · catalog ${major?.catalogYear}`">
      <template #beside><ViewChoice v-model="view" label="Read the requirements" :choices="VIEWS" /></template>
      <span v-if="major"
        ><template v-for="([word, value], i) in totals" :key="word"
          >{{ i ? ' · ' : '' }}<b>{{ formatCredits(value) }}</b> {{ word }}</template
        > <span class="second">of {{ formatCredits(major.totalCredits) }} cr</span></span
      >
      <ActButton :to="`/student/${student.state!.id}/programs`">Try another program</ActButton>
      <WordLink :to="`/student/${student.state!.id}/standing`">Print</WordLink>
    </PageHead>
    <ProgramChangeNote />
    <LostNotice @show="show" />
    <template v-if="view === 'area'">
      <ProgramTree
        v-for="report in requirements.reports"
        :key="report.code"
        :report="report"
        :looking="student.looking"
        :main="report === major"
        :pointed="pointed"
        :selected="selected?.program === report.code ? selected.line : null"
        @select="(line, item) => select(report.code, line, item)"
        @point="point"
      />
      <BelowTree />
    </template>
    <SuggestedTerms v-else-if="view === 'term'" />
    <ProgressPictures v-else-if="major" :standing="student.standing!" :report="major" />
    <LineDrawer
      v-if="selectedLine && view === 'area'"
      :line="selectedLine.line"
      :program="selectedLine.program"
      :item-id="selectedLine.item"
      @close="selected = null"
      @item="selected = { ...selected!, item: $event }"
    />
  </div>
</template>
