<script setup lang="ts">
import { exceptionFor } from '@ridgeway/core/advising'
import { placeToMend } from '@ridgeway/core/next'
import type { Finding, RowDecision } from '@ridgeway/core/registration'
import { describeTimes, formatCredits, sayFinding, sayRefusals } from '@ridgeway/words'

/** One course of the line-up: its bundle, its checks spelled out, and what would become of it. */
const { row, position, last } = defineProps<{ row: RowDecision, position: number, last: boolean }>()
const emit = defineEmits<{ out: [course: string], move: [by: number] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { hueOfCourse } = useItems()
const { refusals, onceOpen, bundleOf, outcome } = useRunSheet()
const { open: openSection } = useInAddress('section')
const bundle = computed(() => bundleOf(row.course))
const refused = computed(() => onceOpen(row) === 'waitlist' ? [] : refusals(row))
const exceptionOf = (finding: Finding) => exceptionFor(finding, { course: row.course, term: workingTerm.code,
  sections: new Map(bundle.value?.sections.map(section => [section.label, section.id])) })
const credits = computed(() => row.credits || catalog.courses.get(row.course)?.credits || 0)
const fine = computed(() => row.findings.filter(one => one.ok && one.code !== 'load-cap').map(one => sayFinding(one).words).join(' '))
</script>

<template>
  <li>
    <span class="second number">{{ position }}</span>
    <CourseBlock
      class="block"
      :code="`${row.course}-${bundle?.sections[0]?.label ?? ''}`"
      :title="bundle ? describeTimes(bundle.sections) : ''"
      state="picked"
      :hue="hueOfCourse(row.course, workingTerm.code)"
      :corner="formatCredits(credits)"
    />
    <div class="checks">
      <template v-for="({ finding, words, way }, i) in sayRefusals(refused)" :key="i">
        <p>
          <b>{{ words }}</b>
        </p>
        <p>
          <WordLink class="small" :to="`/student/${student.state!.id}/${placeToMend(finding)}`">
            {{ way }}
          </WordLink> <AskException
            v-if="exceptionOf(finding)"
            :asked="exceptionOf(finding)!"
            :label="'label' in finding ? finding.label : ''"
          />
        </p>
      </template>
      <p v-if="refused.length === 0">{{ onceOpen(row) === 'waitlist' ? 'Full: it would wait for a seat.' : fine }}</p>
      <RowSetup :row="row" />
      <WordLink class="small" :aria-label="`All about ${row.course}`" @click="openSection(row.sectionIds.join('+'))">all about it</WordLink>
    </div>
    <div class="outcome">
      <b :class="{ blocking: outcome(row) === 'refused' || outcome(row) === 'too late' }">{{ outcome(row) }}</b>
      <span v-if="student.isOwn" class="order">
        <WordLink
          class="small"
          :off="position === 1 && 'It is served first already'"
          :aria-label="`Serve ${row.course} earlier`"
          @click="emit('move', -1)"
        >
          ↑
        </WordLink>
        <WordLink
          class="small"
          :off="last && 'It is served last already'"
          :aria-label="`Serve ${row.course} later`"
          @click="emit('move', 1)"
        >
          ↓
        </WordLink>
      </span>
      <WordLink
        v-if="student.isOwn"
        class="small"
        :aria-label="`Take ${row.course} out of the line-up`"
        @click="emit('out', row.course)"
      >
        take out
      </WordLink>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid; grid-template-columns: 22px 250px 1fr 112px; gap: 12px; padding: 9px 14px;
  border-top: 1px solid var(--line-soft); align-items: start;
}
li:first-child { border-top: 0; }
p { margin: 0 0 2px; }
.order { display: flex; gap: 10px; }
.outcome { display: grid; gap: 2px; justify-items: start; }
.block :deep(.title) { white-space: normal; }
@media (max-width: 800px) {
  li { grid-template-columns: 16px 1fr; }
  .checks, .outcome { grid-column: 2; }
}
</style>
