<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'

/** One screen for a quarter of an hour: what is new, what is to be settled, how it stands, a suggestion, notes. */
const student = useStudentStore()
const advising = useAdvisingStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const problem = ref<Awaited<ReturnType<typeof advising.loadBrief>>>(null)
const load = async () => problem.value = await advising.loadBrief(student.state!.id)
watch([() => student.state?.id, () => student.state?.version, () => student.version], () => student.state && load(), { immediate: true })
const meeting = computed(() => student.state?.meetings[0])
const about = computed(() => [
  workingTerm.term?.name,
  meeting.value && `meets you ${sayMoment(meeting.value.start, session.zone)}, ${meeting.value.place}`,
  advising.brief?.lookedAt ? `you last looked ${sayMoment(advising.brief.lookedAt, session.zone)}` : 'you have not looked before',
].filter(Boolean).join(' · '))
useKey('next in the queue', () => void advising.step(1), () => advising.at >= 0)
useKey('previous in the queue', () => void advising.step(-1), () => advising.at > 0)
const print = () => window.print()
</script>

<template>
  <div class="page brief">
    <PageHead :title="`Brief for ${student.state!.name}`" :about="about">
      <ActButton @click="print">Print</ActButton>
      <template v-if="advising.at >= 0">
        <span class="second small" role="status">{{ advising.at + 1 }} of {{ advising.queue.length }}</span>
        <ActButton :off="advising.at === 0 && 'This is the first one'" aria-keyshortcuts="k" @click="advising.step(-1)">
          Before <span class="kbd">k</span>
        </ActButton>
        <ActButton aria-keyshortcuts="j" @click="advising.step(1)">
          {{ advising.at === advising.queue.length - 1 ? 'Finish' : 'Next' }} <span class="kbd">j</span>
        </ActButton>
      </template>
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="load" />
    <div class="cards">
      <BriefNews />
      <BriefToSettle />
      <BriefStanding />
      <BriefTerms class="wide" />
      <BriefNotes />
    </div>
  </div>
</template>

<style scoped>
.cards { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 12px; align-items: stretch; }
.wide { grid-column: span 2; }
.cards :deep(.card) { padding: 12px 16px; }
@media (max-width: 900px) {
  .cards { grid-template-columns: minmax(0, 1fr); }
  .wide { grid-column: auto; }
}
@media print {
  .brief :deep(.act), .brief :deep(form) { display: none; }
  .cards { gap: 8px; }
}
</style>

<style>
@media print { html:has(.brief) .shell, html:has(.brief) .foot-bar, html:has(.brief) .skip { display: none !important; } }
</style>
