<script setup lang="ts">
import { formatCredits, formatGpa, sayMoment, sayNeed, shortTermName } from '@ridgeway/words'

const advising = useAdvisingStore()
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const { filters, search, choices, rows, all, views, keepView, openView, dropView, csv } = useAdviseeTable()
watch(() => workingTerm.code, code => code && advising.load(), { immediate: true })
useIntervalFn(() => document.visibilityState === 'visible' && void advising.load(), 15_000)
/** Where many files were read anew, their requirements follow: the table is asked for again until they are there. */
const toRead = computed(() => all.value.filter(row => !row.isWhole).length)
useIntervalFn(() => toRead.value > 0 && void advising.load(), 700)
onMounted(() => advising.leaveQueue())
const headers = [
  // Pressed once, who needs most comes first, as the table stands by itself.
  { title: 'Needs you for', key: 'need', value: 'urgency', sort: (a: number, b: number) => b - a },
  { title: 'Student', key: 'name' },
  { title: 'Since you looked', key: 'since', sortable: false },
  { title: 'Program', key: 'program' },
  { title: 'GPA', key: 'gpa', align: 'end' as const },
  { title: 'Planned', key: 'planned', sortable: false, align: 'end' as const },
  { title: 'Finish', key: 'finish' },
  { title: 'Opens', key: 'opensAt' },
  { title: 'Sign-off', key: 'signedOff' },
]
const about = computed(() => advising.advisees
  ? [workingTerm.term?.name, `${all.value.filter(row => row.urgency > 0).length} of ${all.value.length} need something`,
      `${count(all.value.filter(row => row.asked).length, 'sign-off')} asked for`,
      toRead.value > 0 && `${toRead.value} still read …`].filter(Boolean).join(' · ')
  : '')
const open = (_: unknown, { item }: { item: { id: number } }) => navigateTo(`/student/${item.id}/brief`)
const sinceOf = (row: (typeof rows.value)[number]) => row.since === null
  ? '–'
  : [row.since.edits && count(row.since.edits, 'edit'), row.since.comments && count(row.since.comments, 'comment')].filter(Boolean)
      .join(', ') || 'nothing new'
/** Those who need somebody; where the table is narrowed, whoever is left in it. */
const isNarrow = computed(() => filters.value.length > 0 || search.value !== '')
const queue = computed(() => rows.value.filter(row => row.urgency > 0 || isNarrow.value).map(row => row.id))
const signing = ref(false)
const naming = ref(false)
const viewName = ref('')
const away = ref(false)
function keep() {
  keepView(viewName.value.trim())
  naming.value = false
  viewName.value = ''
}
const download = () => saveFile(`advisees-${workingTerm.code}.csv`, 'text/csv', csv())
</script>

<template>
  <div class="page">
    <PageHead title="Advisees" :about="about">
      <ActButton weight="full" :off="!queue.length && 'Nobody here needs you now'" @click="advising.begin(queue)">
        Work through {{ queue.length || '' }}
      </ActButton>
      <ActButton @click="signing = true">Sign off several</ActButton>
      <ActButton to="/advisees/hours">Meetings</ActButton>
      <ActButton @click="away = true">Away …</ActButton>
      <ActButton :off="!rows.length && 'Nothing to export'" @click="download">CSV</ActButton>
    </PageHead>
    <div v-if="advising.advisees" class="bar">
      <v-text-field v-model="search" class="finder" label="Find a student" bg-color="surface" />
      <FilterChips v-model="filters" label="Narrow the table" :choices="choices" />
      <span v-if="views.length" class="second small">Views:</span>
      <span v-for="view in views" :key="view.name" class="small">
        <WordLink class="small" @click="openView(view)">{{ view.name }}</WordLink>
        <WordLink class="small" :aria-label="`Forget the view ${view.name}`" @click="dropView(view.name)"> ×</WordLink>
      </span>
      <WordLink v-if="filters.length || search" class="small" @click="naming = true">keep this view …</WordLink>
    </div>
    <FailedBox v-if="advising.failed && !advising.advisees" :problem="advising.failed" retry @retry="advising.load()" />
    <GreyShapes v-else-if="!advising.advisees" label="Loading the advisees" :rows="8" :height="40" />
    <v-data-table v-else class="card advisees" :headers="headers" :items="rows" :items-per-page="25" hover @click:row="open">
      <template #[`item.need`]="{ item }">
        <span v-if="!item.needs.length" class="second">nothing</span>
        <span v-for="(need, i) in item.needs" :key="need.code" :class="{ strong: i === 0, blocking: need.code === 'blockers' }"
          >{{ i ? ' · ' : '' }}{{ sayNeed(need, session.zone) }}</span
        >
      </template>
      <template #[`item.name`]="{ item }"
        ><NuxtLink :to="`/student/${item.id}/brief`" @click.stop>{{ item.name }}</NuxtLink
        ><span v-if="item.advisor" class="second small"><br />for {{ item.advisor }}</span></template
      >
      <template #[`item.since`]="{ item }"><span class="second">{{ sinceOf(item) }}</span></template>
      <template #[`item.gpa`]="{ item }">{{ formatGpa(item.gpa) }}</template>
      <template #[`item.planned`]="{ item }"
        >{{ formatCredits(item.planned.reduce((sum, one) => sum + one.credits, 0)) }} cr</template
      >
      <template #[`item.finish`]="{ item }">{{
        !item.isWhole ? '…' : item.finish && catalog.term(item.finish) ? shortTermName(catalog.term(item.finish)!) : '–'
      }}</template>
      <template #[`item.opensAt`]="{ item }">{{ item.opensAt ? sayMoment(item.opensAt, session.zone) : 'not set' }}</template>
      <template #[`item.signedOff`]="{ item }">{{ item.signedOff ? 'given' : item.asked ? 'asked' : '–' }}</template>
      <template #no-data
        ><p class="second none">
          {{ search ? `Nobody of yours is called "${search}" here.` : 'Nobody is left. Take a condition off to see more.' }}
        </p></template
      >
    </v-data-table>
    <SignSeveral v-model="signing" />
    <AwayDialog v-model="away" />
    <AskDialog v-model="naming" title="Keep this view" act="Keep it" :off="!viewName.trim() && 'Give it a name'" @act="keep">
      <v-text-field v-model="viewName" label="Name" maxlength="40" autofocus />
    </AskDialog>
  </div>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; margin-bottom: 8px; }
.finder { width: 180px; flex: none; }
.bar :deep(.v-chip-group) { padding: 0; flex: 0 1 auto; }
.none { padding: 16px; margin: 0; }
.advisees :deep(td:nth-child(2)), .advisees :deep(td:nth-child(8)) { white-space: nowrap; }
</style>
