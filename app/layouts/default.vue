<script setup lang="ts">
import type { Look } from '~/composables/kit/theme'
import { readEverything } from '#shared/contract/views/student'
import { lazily } from '~/components/kit/lazily'
import { look, toProblem, type Problem } from '~/composables/useApi'

const session = useSessionStore()
const catalog = useCatalogStore()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const route = useRoute()
const { local } = useNow()
/** A file's page, also while the file is on its way: what stands in the head then stands there from the first. */
const atFile = computed(() => route.path.startsWith('/student/'))
const atOffice = computed(() => /^\/office(\/|$)/.test(route.path) && session.account?.role === 'office' && catalog.terms.length > 0)
const inFile = computed(() => atFile.value && student.state !== null)
const { open: openFind } = useInAddress('find')
const termName = computed(() => workingTerm.term?.name ?? (catalog.ready ? 'no terms yet' : '…'))
const termMenu = ref(false)
const keysShown = ref(false)
/** What is rarely opened is fetched when it is. */
const KeyHelp = lazily(() => import('~/components/kit/KeyHelp.vue'))
const keysWanted = ref(false)
watch(keysShown, shown => keysWanted.value ||= shown)
onMounted(() => catalog.load())
const advising = useAdvisingStore()
/** A student's own file says it; others ask now and then. */
const others = computed(() => session.account !== null && session.account.role !== 'student')
const unread = computed(() => others.value ? advising.unreadMessages : student.isOwn ? student.state?.messages ?? 0 : 0)
onMounted(() => others.value && void advising.loadMessages())
useIntervalFn(() => others.value && document.visibilityState === 'visible' && void advising.loadMessages(), 30_000)

/** A page says what it is and of whom, in the browser's tabs and history too. */
const PAGES: Record<string, string> = {
  'now': 'Now', 'requirements': 'Requirements', 'plan': 'Plan', 'week': 'Week', 'register': 'Register', 'map': 'Prerequisite map',
  'standing': 'Standing', 'plan-sheet': 'Plan sheet', 'compare': 'Compare plans', 'programs': 'Other programs', 'advisees': 'Advisees',
  'office': 'Office', 'college': 'The college\'s tables', 'terms': 'Terms', 'sections': 'Sections', 'demand': 'Demand',
  'program': 'Program', 'settings': 'Settings', 'people': 'People',
  'ledger': 'What happened', 'server': 'This server', 'progress': 'Progress of everybody', 'tokens': 'API access',
  'messages': 'Messages', 'brief': 'Brief', 'meetings': 'Meetings', 'hours': 'Meetings',
  'clock': 'The demo\'s clock', 'kit': 'Parts', 'not-yours': 'Not open to you',
}
useHead({
  title: () => [PAGES[route.path.split('/').at(-1)!], inFile.value && student.state?.name, 'Ridgeway'].filter(Boolean).join(' · '),
})
useKey('help', () => keysShown.value = true)
useKey('working term', () => termMenu.value = true)
/** The look goes round: as the system has it, light, dark. */
const LOOKS: Record<Look, string> = { system: 'as the system', light: 'light', dark: 'dark' }
const theme = useLook()
function nextLook() {
  const all = Object.keys(LOOKS) as Look[]
  theme.value = all[(all.indexOf(theme.value) + 1) % all.length]!
}
const main = useTemplateRef<HTMLElement>('main')
useFocusKept(main)
// A key leads to another page, and what had the focus is not on it.
watch(() => route.path, () => nextTick(() => document.activeElement === document.body && main.value?.focus({ preventScroll: true })))
const problem = ref<Problem | null>(null)
/** A student takes everything that is kept about them out, as one file. */
async function takeOut() {
  try {
    const everything = await look(readEverything, {}, { id: session.account!.id })
    saveFile(`${session.account!.username}-everything.json`, 'application/json', JSON.stringify(everything, null, 2))
    announce('The file is saved.')
  }
  catch (error) {
    problem.value = toProblem(error)
  }
}
async function leave() {
  problem.value = await session.signOut()
  // The page is left whole, so that nothing of this person is on it when the next one signs in.
  if (!problem.value) await navigateTo('/sign-in', { external: true })
}
</script>

<template>
  <div>
    <a class="skip" href="#main">Skip to the page</a>
    <header class="shell">
      <div class="who">
        <NuxtLink :to="session.home" class="home"><RidgewayMark /></NuxtLink>
        <span class="person" :class="{ other: inFile && !student.isOwn }">{{ inFile ? student.state?.name : session.account?.name }}</span>
        <span v-if="inFile && !student.isOwn" class="small second">{{
          student.isAdvising ? 'advised by you' : 'seen by the office'
        }}</span>
        <WhoIsHere v-if="inFile" />
      </div>
      <div class="middle"><TheRidge v-if="inFile" /><OfficeRidge v-else-if="atOffice" /></div>
      <div class="tools">
        <v-menu v-model="termMenu">
          <template #activator="{ props: menu }">
            <ActButton v-bind="menu" class="term"
              ><span class="visually-hidden">Working term: </span>{{ termName }} ▾</ActButton
            >
          </template>
          <v-list aria-label="Choose the working term">
            <v-list-item
              v-for="term in workingTerm.choices"
              :key="term.code"
              :active="term.code === workingTerm.code"
              :title="term.name"
              :subtitle="term.scheduled ? 'sections published' : ''"
              @click="workingTerm.set(term.code)"
            />
          </v-list>
        </v-menu>
        <div class="row">
          <ActButton
            v-if="atFile"
            class="find-button"
            aria-keyshortcuts="/"
            @click="openFind('1')"
          >
            Find <span class="kbd">/</span>
          </ActButton>
          <WordLink class="small" to="/messages"
            >Messages<b v-if="unread" class="unread"> {{ unread }}</b
            ><span class="visually-hidden">{{ unread ? ' new' : '' }}</span></WordLink
          >
          <NuxtLink v-if="session.demo" to="/clock" class="clock" :title="`The college's time. Click to move the demo's clock.`">{{
            local.toFormat('ccc d LLL, HH:mm')
          }}</NuxtLink>
          <v-menu>
            <template #activator="{ props: menu }">
              <ActButton v-bind="menu" class="account">
                {{
                  session.account?.name
                    .split(' ')
                    .map(word => word[0])
                    .join('')
                }}
                ▾<span class="visually-hidden">Your account</span>
              </ActButton>
            </template>
            <v-list>
              <v-list-item :title="session.account?.name" :subtitle="session.account?.role" />
              <v-list-item title="API access" @click="navigateTo('/tokens')" />
              <v-list-item v-if="session.account?.role === 'student'" title="Everything about you, as a file" @click="takeOut" />
              <v-list-item title="Look" :subtitle="LOOKS[theme]" @click="nextLook" />
              <v-list-item title="Help" subtitle="this page, keys, words" @click="keysShown = true" />
              <v-list-item title="Sign out" @click="leave" />
            </v-list>
          </v-menu>
        </div>
      </div>
    </header>
    <div v-if="problem" class="page-notice"><FailedBox :problem="problem" /></div>
    <PageNews />
    <main id="main" ref="main" tabindex="-1"><slot /></main>
    <TheFind v-if="inFile" />
    <KeyHelp v-if="keysWanted" v-model="keysShown" />
  </div>
</template>

<style scoped>
.unread { margin-left: 5px; }
.shell {
  display: flex; align-items: stretch; gap: 20px; background: var(--surface); border-bottom: 1px solid var(--line);
  padding: 0 max(20px, (100% - 1560px) / 2); min-height: 92px;
}
.who { display: flex; flex-direction: column; justify-content: center; gap: 4px; min-width: 132px; }
.home { color: inherit; text-decoration: none; }
.person { font-size: 13px; color: var(--second); }
.person.other { color: var(--act); font-weight: 700; }
.middle { flex: 1; min-width: 0; }
.tools { display: flex; flex-direction: column; justify-content: center; align-items: flex-end; gap: 8px; }
.term {
  min-width: 124px; justify-content: start; background: var(--paper); border: 1px solid var(--line); color: var(--ink);
  padding: 3px 10px; font-weight: 700; white-space: nowrap;
}
.row { display: flex; gap: 10px; align-items: center; }
.clock { font-size: 13px; color: var(--second); text-decoration: none; white-space: nowrap; border-bottom: 1px dotted var(--second); }
.account {
  border: 1px solid var(--line); border-radius: 14px; padding: 1px 9px; background: var(--paper); color: var(--ink);
  white-space: nowrap; font-size: 13px; font-weight: 400;
}
/* One way to search, as quiet as the rest of the header. */
.find-button {
  border: 1px solid var(--line); background: var(--paper); color: var(--ink); padding: 1px 9px; font-weight: 400;
  font-size: 13px;
}
.skip { position: absolute; left: -9999px; }
.skip:focus { left: 8px; top: 8px; z-index: 9; background: var(--surface); padding: 6px 10px; }
.page-notice { padding: 0 20px; max-width: 1600px; margin: 0 auto; }
main:focus { outline: none; }
@media (max-width: 960px) {
  .shell { flex-wrap: wrap; gap: 4px 10px; padding: 6px 12px 0; min-height: 0; }
  .who { flex: 1; gap: 0; }
  .middle { order: 3; flex-basis: 100%; }
  .tools { flex-direction: row; align-items: center; }
  .clock { display: none; }
}
</style>
