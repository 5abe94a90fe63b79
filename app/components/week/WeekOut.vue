<script setup lang="ts">
import { endFeed, renewFeed } from '#shared/contract/acts/student'
import type { BundleView } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** The week out of Ridgeway: a calendar file, a feed at a secret address, on paper, or shown to the advisor. */
const { chosen } = defineProps<{ chosen: readonly BundleView[] }>()
const student = useStudentStore()
const week = useWeekStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const workingTerm = useWorkingTermStore()
const feedOpen = ref(false)
const shareOpen = ref(false)
const note = ref('')
const address = ref('')
const problem = ref<Problem | null>(null)
const origin = computed(() => location.origin)

async function file() {
  const { writeCalendar } = await import('@ridgeway/formats/calendar')
  const text = writeCalendar({ name: `${student.state!.name}, ${workingTerm.term!.name}`, zone: session.zone, sites: catalog.sites,
    courses: catalog.courses, at: session.instant, terms: [{ term: workingTerm.term!,
      sections: chosen.flatMap(bundle => bundle.sections.map(section => ({ section, state: bundle.registered
        ? 'registered' as const
        : 'picked' as const }))) }] })
  saveFile(`${workingTerm.term!.name.replace(' ', '-').toLowerCase()}.ics`, 'text/calendar', text)
  announce('The calendar file is saved.')
}
async function renew() {
  try {
    address.value = `${origin.value}${(await student.send(renewFeed, {})).path}`
    announce('A new address is made.')
  }
  catch (error) {
    problem.value = toProblem(error)
  }
}
async function end() {
  problem.value = await student.act(endFeed, {})
  address.value = ''
}
async function share() {
  problem.value = await week.share(true, note.value)
  if (problem.value) return
  announce(`${student.state!.advisor?.name ?? 'Your advisor'} can look at this week now.`)
  shareOpen.value = false
}
const print = () => window.print()
</script>

<template>
  <span class="out">
    <v-menu>
      <template #activator="{ props: menu }"><ActButton v-bind="menu">Take it along ▾</ActButton></template>
      <v-list aria-label="Take the week along">
        <v-list-item title="Calendar file (.ics)" subtitle="classes, exams and deadlines" @click="file" />
        <v-list-item
          title="Calendar feed"
          :subtitle="student.state!.feedSince ? 'on: calendar programs read it again' : 'an address that calendar programs read'"
          @click="feedOpen = true"
        />
        <v-list-item title="Print" subtitle="the week and the list" @click="print" />
        <v-list-item
          :title="week.shared ? 'Share anew with my advisor' : 'Share with my advisor'"
          :subtitle="student.state!.advisor?.name ?? ''"
          @click="shareOpen = true"
        />
      </v-list>
    </v-menu>
    <AskDialog
      v-model="feedOpen"
      title="Calendar feed"
      :act="student.state!.feedSince ? 'Make a new address' : 'Make an address'"
      @act="renew"
    >
      <FailedBox v-if="problem" :problem="problem" />
      <p>Whoever knows the address can read your classes, exams and deadlines, and nothing else. A new address ends the one before.</p>
      <p
        v-if="student.state!.feedSince"
        class="second"
      >
        The present one was made {{ toLocal(student.state!.feedSince, session.zone).toFormat('d LLL yyyy, HH:mm') }}. <WordLink
        class="blocking" @click="end">End the feed</WordLink>
      </p>
      <v-text-field
        v-if="address"
        :model-value="address"
        label="The address: it is shown only now"
        readonly
        @focus="($event.target as HTMLInputElement).select()"
      />
    </AskDialog>
    <AskDialog v-model="shareOpen" title="Share this week" act="Share" @act="share">
      <FailedBox v-if="problem" :problem="problem" />
      <p>
        {{ student.state!.advisor?.name ?? 'Your advisor' }} sees the week as it is picked now, to look at. What you change later is told
        beside it.
      </p>
      <v-text-field v-model="note" label="A word with it (if you like)" maxlength="500" />
    </AskDialog>
  </span>
</template>

<style scoped>
p { margin: 0; }
</style>
