<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { readCourseRules } from '@ridgeway/core/prerequisites'
import { factsOf } from '@ridgeway/core/record'
import { clockTime, describeOffering, formatCredits, sayCountsFor, sayDelivery, sayFinding, sayGrading, sayMoney } from '@ridgeway/words'
import { readSection } from '#shared/contract/views/find'

/** Everything of a bundle in one place, as it is for this student: read anew when it is opened. */
const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { data: sheet, problem, reload: load } = useView(readSection, () => id ? { term: workingTerm.code, sections: id } : null,
  { of: () => student.state?.id, again: () => student.state?.version })
const { sayWhen, sayDates, sayFit, saySeats, sayExam, besideOf, freeBlocks } = useFoundBundle()
onMounted(() => void week.ensure())
const course = computed(() => sheet.value && catalog.courses.get(sheet.value.course))
/** The course's rules as record and plan stand in the working term. */
const rules = computed(() => course.value && student.state && student.standing
  ? readCourseRules(course.value, workingTerm.code, factsOf(student.state.file, student.standing.items), student.rules)
  : null)
const sections = computed((): Section[] => sheet.value?.bundle.sections ?? [])
const fit = computed(() => sheet.value ? sayFit(sheet.value.bundle) : null)
const poolWords = (group: string | null) => group === null ? 'for everybody' : `kept for ${group}`
const kept = (section: Section) => [...section.onlyPrograms, ...section.onlyStandings, ...section.onlyCohorts]
const travel = computed(() => {
  const sites = [...new Set(sections.value.flatMap(section => section.meetings.map(meeting => meeting.site)))]
  return catalog.travel.filter(way => sites.includes(way.from) || sites.includes(way.to))
    .map(way => `${catalog.siteName(way.from)} to ${catalog.siteName(way.to)} ${way.minutes} min`).join(' · ')
})
async function pick() {
  const { course: code, bundle } = sheet.value!
  problem.value = await week.choose({ course: code, sectionIds: bundle.picked
    ? []
    : bundle.sections.map((section: Section) =>
        section.id) })
  if (!problem.value) {
    announce(bundle.picked ? `${code} taken out of the line-up.` : `${code}-${bundle.sections[0]!.label} picked.`)
    await load()
  }
}
</script>

<template>
  <v-card class="sheet" tag="article">
    <header>
      <h2 v-if="sheet">{{ sheet.course }}-{{ sections[0]!.label }} {{ course?.title }}</h2>
      <h2 v-else>Section</h2>
      <WordLink class="small" aria-keyshortcuts="Escape" @click="emit('close')">Close <span class="kbd">Esc</span></WordLink>
    </header>
    <FailedBox v-if="problem" :problem="problem" retry @retry="load" />
    <GreyShapes v-if="!sheet && !problem" label="Loading the section" :rows="5" />
    <template v-if="sheet">
      <p class="top">
        <span
          :class="{ blocking: fit?.blocks }"
        >
          <b>{{ fit?.words }}</b></span> · {{ saySeats(sheet.bundle) }} · {{ formatCredits(course?.credits ?? 0) }} cr
        <ActButton
          v-if="student.isOwn"
          weight="full"
          :off="sheet.bundle.registered && 'Registered already; exchange it under Register'"
          @click="pick"
        >
          {{ sheet.bundle.picked ? 'Take out of the line-up' : 'Pick this bundle' }}
        </ActButton>
      </p>
      <p
        v-for="(finding, i) in sheet.bundle.refusals"
        :key="i"
      >
        <span class="blocking">{{ sayFinding(finding).words }}</span> {{ sayFinding(finding).way }}
      </p>
      <p v-if="sheet.bundle.hits.length" class="blocking">It falls into hours that you keep free{{ sheet.bundle.hits[0]
        ? `: ${sheet.bundle.hits.join(', ')}` : '' }}.</p>
      <div
        class="week"
      >
        <WeekStrip
          :sections="sections"
          :beside="besideOf(sheet.bundle)"
          :free="freeBlocks"
        />
        <span>{{ sayWhen(sheet.bundle) }}<br /><span class="second">{{ sayDates(sheet.bundle) }}</span></span>
      </div>
      <dl>
        <template v-for="section in sections" :key="section.id">
          <dt>{{ section.part }} {{ section.label }}</dt>
          <dd>
            <p v-for="(meeting, i) in section.meetings" :key="i">
              {{ meeting.days.join(' ') }} {{ clockTime(meeting.start) }}–{{ clockTime(meeting.end) }}, {{ meeting.room }},
                {{ catalog.siteName(meeting.site) }}
              <span v-if="meeting.first === meeting.last" class="second">only on {{ longDate(meeting.first) }}</span>
            </p>
            <p v-if="section.meetings.length === 0">no set time</p>
            <p>{{ section.instructors.join(', ') }} · {{ sayDelivery(section.delivery) }} · number <b>{{ section.number }}</b></p>
            <p>Seats: {{ section.pools.map((pool) =>
              `${pool.taken + pool.held} of ${pool.capacity} taken ${poolWords(pool.forGroup)}`).join('; ') }}<template
              v-if="section.seatsWith !== null">, shared with the class that it meets with</template>. Waitlist: {{ section.waiting }} of
              {{ section.waitlistCapacity }}.</p>
            <p v-if="kept(section).length">Only for {{ kept(section).join(' or ') }} students.</p>
            <p v-if="section.group">Group {{ section.group }}: stays clear of the other courses of the group.</p>
            <p v-if="section.exam">Exam: {{ sayExam(section) }}</p>
            <p v-if="section.fee">Fee of the section: {{ sayMoney(section.fee) }}</p>
            <p v-if="section.topic"><b>Topic:</b> {{ section.topic }}</p>
            <p v-if="section.notes">{{ section.notes }}</p>
          </dd>
        </template>
        <dt>Requirements</dt>
        <dd>{{ sayCountsFor(sheet.countsFor) }}</dd>
        <dt>Graded</dt>
        <dd>{{ sections[0]!.gradingModes.map(sayGrading).join(', ') }}</dd>
        <template v-if="course?.prerequisite">
          <dt>Needs</dt><dd><RuleSentence :reason="rules?.before?.reason ?? null" :text="course.prerequisite" /></dd>
        </template>
        <template v-if="course?.corequisite">
          <dt>Goes with</dt><dd><RuleSentence :reason="rules?.beside?.reason ?? null" :text="course.corequisite" /></dd>
        </template>
        <template v-if="course?.fee"><dt>Course fee</dt><dd>{{ sayMoney(course.fee) }}</dd></template>
        <template v-if="travel"><dt>Ways</dt><dd>{{ travel }}</dd></template>
        <dt>The course</dt>
        <dd>{{ course?.description }} <span class="second">Offered {{ course ? describeOffering(course) : '' }}.</span></dd>
      </dl>
    </template>
  </v-card>
</template>

<style scoped>
.sheet { padding: 16px 22px 20px; display: grid; gap: 8px; overflow-y: auto; }
header { display: flex; justify-content: space-between; gap: 16px; align-items: baseline; }
.top { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.top .act { margin-left: auto; }
p { margin: 0; }
.week { display: flex; gap: 14px; align-items: center; }
dl { display: grid; grid-template-columns: 110px 1fr; gap: 7px 14px; margin: 4px 0 0; }
dt { color: var(--second); }
dd { margin: 0; display: grid; gap: 2px; }
@media (max-width: 600px) { dl { grid-template-columns: 1fr; gap: 2px; } dt { margin-top: 6px; } .top .act { margin-left: 0; } }
</style>
