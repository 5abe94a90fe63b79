import { lastToAdd, nameOf } from '@ridgeway/core/catalog'
import { readAccount } from '@ridgeway/core/money'
import { nextSteps } from '@ridgeway/core/next'
import {
  applyAll, type Catalog, movesFor, type Plan, type PlanCheck, type PlanOperation, projectPlan, readPace,
  readStanding, type Standing, withReports,
} from '@ridgeway/core/planning'
import { readCredit } from '@ridgeway/core/record'
import { chosenCredits, groupsOf, offersAsBundles } from '@ridgeway/core/registration'
import { fromInstant } from '@ridgeway/core/weeks'
import type { z } from 'zod'
import { markRead as readComments } from '#shared/contract/acts/advising'
import type { Act, FileView } from '#shared/contract/define'
import { readStudent, type StudentState } from '#shared/contract/views/student'
import { call, type Changed, look, toProblem, type Problem } from '~/composables/useApi'

/** A failure that goes away by itself. */
const isPassing = ({ status }: Problem) => status === 0 || status >= 500

/** The opened student: own file, or an advisee's. Everything shown is read from here by the core, at once after each move. */
export const useStudentStore = defineStore('student', () => {
  const catalog = useCatalogStore()
  const session = useSessionStore()
  const workingTerm = useWorkingTermStore()
  const { instant, today } = useNow()

  const seats = useSeatsStore()
  /** Who else has the file open. */
  const here = ref<Record<string, string>>({})
  const state = shallowRef<StudentState | null>(null)
  const failed = ref<Problem | null>(null)
  /** The plan to look at; null for the current one. */
  const wanted = ref<number | null>(null)
  const sync = usePlanSync(state, () => session.account?.id ?? 0, () => reload())
  const { saving, notice } = sync
  /** An advisor can try changes on the plan that are only suggested then. */
  const suggestion = useSuggesting(sync)
  const { plan, done, undone, edit, undo, redo } = suggestion
  const { lines: suggesting } = suggestion
  const entries = computed(() => plan.value.entries)
  const file = computed(() =>
    state.value && { ...state.value.file, entries: entries.value, placeholders: plan.value.placeholders, wishes: plan.value.wishes },
  )

  /** The term that the file was read for; while another is read, what is about a term is still of this one. */
  const readTerm = ref('')
  /** The file that the address named, asked for before its page was there to ask. */
  let early: { key: string, done: Promise<void> } | null = null
  let wasOpened = false
  const keyOf = (id: number) => `${id} ${workingTerm.code}`
  function loadEarly(id: number) {
    if (!wasOpened) early = { key: keyOf(id), done: load(id) }
  }
  /** A page opens the file: it takes what was asked for early, once; whoever asks after that gets a new reading. */
  function open(id: number): Promise<void> {
    const asked = early
    early = null
    wasOpened = true
    return asked?.key === keyOf(id) ? asked.done : load(id)
  }

  /** The file that is to be on the page; an answer about another one, however late it comes, is none. */
  let opened = 0
  async function load(id: number): Promise<void> {
    opened = id
    if (!workingTerm.code) return
    if (state.value?.id !== id) {
      wanted.value = null
      suggestion.stop()
      here.value = {}
    }
    return read(id)
  }
  const readings = useReadings(take)
  async function read(id: number): Promise<void> {
    const plan = wanted.value
    const term = workingTerm.code
    // Another term, or another plan of the file, was turned to meanwhile: what was asked for before says nothing any more.
    const stillAsked = () => id === opened && term === workingTerm.code && (state.value?.id !== id || wanted.value === plan)
    try {
      await readings.read(() => look(readStudent, { term, ...(plan === null ? {} : { plan }) }, { id }), stillAsked)
    }
    catch (error) {
      const problem = toProblem(error)
      // The plan looked at is gone: back to the current one.
      if (problem.code === 'plan-unknown' && wanted.value !== null) {
        wanted.value = null
        notice.value = problem.title
        return load(id)
      }
      // What is on the screen stays there while the server cannot be reached; what is no longer open is taken away.
      if (state.value?.id === id && isPassing(problem)) {
        if (problem.status > 0) notice.value = problem.title
      }
      else {
        failed.value = problem
        state.value = null
      }
    }
  }
  function take(fresh: StudentState) {
    state.value = fresh
    readTerm.value = workingTerm.code
    sync.open(fresh)
    failed.value = null
  }
  /** Looks at another plan; null goes back to the current one. */
  async function openPlan(id: number | null) {
    suggestion.stop()
    const target = id === state.value?.plans.find(one => one.current)?.id ? null : id
    if (target === wanted.value) return
    wanted.value = target
    preview.value = null
    await reload()
  }

  const reload = () => state.value ? read(opened) : Promise.resolve()

  /** The catalog as it reads for this student: with the programs of their own catalog years. */
  const rules = computed<Catalog>(() => ({
    courses: catalog.courses,
    programs: state.value?.programIds.flatMap(id => catalog.programs.get(id) ?? []) ?? [],
    terms: catalog.terms,
    ...catalog.rules,
  }))
  const firstReading = computed<Standing | null>(() =>
    state.value && catalog.ready ? readStanding(file.value!, rules.value, today.value) : null,
  )
  const { settled, looking } = useSettled(() => firstReading.value?.asked ?? null, () => firstReading.value?.reports ?? [])
  /** The reading that every view shows: with what was found since where a program's best use was not proved at once. */
  const standing = computed<Standing | null>(() =>
    settled.value && firstReading.value
      ? withReports(firstReading.value, settled.value, file.value!, rules.value, today.value)
      : firstReading.value,
  )
  /** Operations that are looked at and not done: a draft before it is taken. */
  const preview = shallowRef<PlanOperation[] | null>(null)
  const previewed = computed<Plan | null>(() => {
    const next = preview.value && applyAll(plan.value, preview.value)
    return next && typeof next !== 'string' ? next : null
  })
  /** The plan as it stands, and its reading, while something else is looked at: a draft, a suggestion. */
  const standingPlan = computed(() => sync.plan.value)
  const before = computed<Standing | null>(() => {
    if (!suggesting.value) return preview.value ? standing.value : null
    const { entries: own, placeholders, wishes } = standingPlan.value
    return file.value && readStanding({ ...file.value, entries: own, placeholders, wishes }, rules.value, today.value)
  })
  /** What the board shows: the plan, or the plan with what is previewed. */
  const shown = computed<Standing | null>(() =>
    previewed.value && file.value
      ? readStanding({ ...file.value, entries: previewed.value.entries, placeholders: previewed.value.placeholders,
          wishes: previewed.value.wishes }, rules.value, today.value)
      : standing.value,
  )
  /** When each planned course can stand without moving the finish, and which chain decides it. */
  const projection = computed(() =>
    state.value && standing.value
      ? projectPlan({
          file: file.value!,
          items: standing.value.items,
          catalog: rules.value,
          today: today.value,
        })
      : null,
  )
  const moves = (check: PlanCheck) => file.value ? movesFor(check, file.value, rules.value, today.value) : []

  /** How fast it has gone, and how fast the rest must go for the wished or planned finish. */
  const pace = computed(() =>
    standing.value && readPace({
      earning: readCredit(standing.value.items, rules.value).earning,
      terms: catalog.terms,
      today: today.value,
      total: standing.value.reports[0]?.totalCredits ?? 0,
      behind: standing.value.earned
        + standing.value.items.filter(item => item.state === 'under way').reduce((sum, item) => sum + item.credits, 0),
      finish: plan.value.wishes.latestFinish ?? standing.value.finish,
    }),
  )

  /** Courses planned for the working term without a bundle or a registration. */
  const unpicked = computed(() => {
    const registered = new Set(state.value?.registered.map(row => row.course))
    const chosen = new Set(state.value?.lineUp.map(row => row.course))
    return entries.value.filter(entry => entry.term === workingTerm.code && !chosen.has(entry.course) && !registered.has(entry.course)).map(
      entry => entry.course,
    )
  })

  /** Whom seats and sections can be kept for, as far as this student is concerned. */
  const groups = computed(() => state.value ? groupsOf(state.value.file, state.value.file.record, rules.value) : [])
  /** Credits that a course would be taken for in a term. */
  const creditsIn = (course: string, term: string) => chosenCredits(
    state.value?.lineUp.find(row => row.course === course)?.credits
    ?? entries.value.find(entry => entry.course === course && entry.term === term)?.credits, catalog.courses.get(course))

  // Where somebody waits, their place moves with the list: only those who wait there read it again, not all in the same moment.
  let soon: ReturnType<typeof setTimeout> | undefined
  watch(() => state.value?.waitlisted.map(wait => `${wait.section} ${seats.told.waiting[wait.section] ?? 0}`).join(), (now, before) => {
    if (!now || !before || now === before) return
    clearTimeout(soon)
    soon = setTimeout(() => void reload(), 300 + Math.random() * 1500)
  })

  /** How the account of the working term stands, and how it is paid. */
  const paysBy = computed(() => catalog.policy.plans.find(plan => plan.code === state.value?.account.plan) ?? catalog.policy.plans[0])
  const account = computed(() => state.value && workingTerm.term && paysBy.value
    ? readAccount(state.value.account.entries, { feesDue: workingTerm.term.feesDue, plan: paysBy.value, policy: catalog.policy,
        date: today.value })
    : null)
  /** What is to pay next, for the list of what is to do. */
  const feesDue = computed(() => {
    const next = account.value?.next
    return next
      ? { cents: next.open, by: next.due, overdue: next.due < today.value,
          voidAfter: today.value <= lastToAdd(workingTerm.term!) ? account.value!.voidAfter : null }
      : null
  })

  /** When the registration of the term was voided, and nothing was charged since. */
  const voidedOn = computed(() => {
    const last = state.value?.account.entries.filter(entry => entry.kind === 'charge' || entry.kind === 'void').at(-1)
    return last?.kind === 'void' ? last.date : null
  })

  /** Cancelled sections whose course still stands in the plan. */
  const gone = computed(() => state.value?.gone.filter(one => entries.value.some(entry => entry.course === one.course
    && entry.term === workingTerm.code)) ?? [])

  /** What is waited for; a bundle that is offered is one offer. */
  const waits = computed(() => offersAsBundles(state.value?.waitlisted ?? []))

  /** Comments of others that whoever looks has not read. */
  const unread = computed(() => {
    const me = session.account?.id ?? 0
    return state.value?.comments.filter(one => one.author !== me && one.id > (state.value?.read[me] ?? 0)) ?? []
  })

  /** Notes that comments up to one were read; a failure is no matter, they are only shown as new once more. */
  async function markRead(upTo: number) {
    const now = state.value
    const me = session.account?.id ?? 0
    if (!now || !mayEdit.value || upTo <= (now.read[me] ?? 0)) return
    state.value = { ...now, read: { ...now.read, [me]: upTo } }
    await call(readComments, { upTo }, { id: now.id }).catch(() => {})
  }

  const steps = computed(() => {
    const student = state.value
    const term = workingTerm.term
    if (!student || !term || !standing.value) return []
    const registered = new Set(student.registered.filter(row => row.term === term.code).map(row => row.course))
    return nextSteps({
      term: nameOf(term),
      gates: student.gates,
      checks: standing.value.checks,
      unpicked: unpicked.value,
      lineUp: student.lineUp.filter(row => !registered.has(row.course)).map(({ course }) => ({ course,
        refusal: student.refused.find(one => one.course === course)?.finding ?? null })),
      moved: student.moved,
      plannedInTerm: standing.value.items.filter(item => item.term === term.code && item.state !== 'completed').length,
      openCredits: standing.value.unplaced,
      offers: waits.value.filter(w => w.offerUntil && w.offerUntil > instant.value).map(w => ({ ...w,
        hoursLeft: Math.floor((Date.parse(w.offerUntil!) - Date.parse(instant.value)) / 3_600_000) }),
      ),
      gone: gone.value,
      feesDue: feesDue.value,
      voidedOn: voidedOn.value,
      advisor: student.advisor?.name ?? null,
      returned: student.returned,
      suggestions: student.suggestions.length,
      answered: student.asked.filter(one => one.state === 'declined'),
      meeting: student.meetings[0] ?? null,
      unread: isOwn.value ? unread.value.length : 0,
    })
  })

  /** Gates as they are at this second: the opening opens by itself. */
  const gates = computed(() =>
    state.value?.gates.map((gate) => {
      if (gate.kind !== 'opening' || gate.open || gate.from === null || gate.from > instant.value) return gate
      return { ...gate, open: true }
    }) ?? [],
  )

  /** In a crowd what an act changed is read when fewer people register; until then the file is behind, and news do not hurry it. */
  const behind = usePutOff(() => reload().then(() => {
    changed.value = {}
  }))
  usePlanNews(() => session.account && state.value ? { id: state.value.id, term: workingTerm.code } : null, (news) => {
    const now = state.value
    if (!now) return
    here.value = news.here
    const version = news.plans[now.plan.id] ?? 0
    // What else is open on the page is as old as the file or the plan was; what is put off is read when its time has come.
    const isPutOff = behind.isBehind.value
    if (!isPutOff && news.version > now.version) void reload().then(() => changed.value = {})
    else if (!isPutOff && version > sync.version.value) void sync.pull(version).then(() => changed.value = {})
    if (catalog.ready && news.catalog > catalog.stamp) void catalog.load(true).then(() => reload())
  }, seats.take, async () => {
    await reload()
    return session.account !== null && (failed.value === null || isPassing(failed.value))
  })

  /** The views of the file that are open besides the file itself, and what an act answered about them. */
  const showing = new Set<FileView>()
  const changed = shallowRef<Changed>({})

  /**
   * Does an act on the opened file, or on the one that was open when it was begun; one press, one answer, which holds the views that it
   * changed. Throws what went wrong.
   */
  async function send<Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>, input: z.input<Input>,
    onPlan?: number, id = state.value!.id): Promise<z.output<Output>> {
    const plan = wanted.value
    const term = workingTerm.code
    const { answer, views, later } = await call(act, input, { id, ...(onPlan ? { plan: onPlan } : {}),
      shown: { term, show: ['student', ...showing], ...(plan === null ? {} : { plan }) } })
    if (id !== state.value?.id) return answer
    if (later) {
      behind.putOff(later)
      return answer
    }
    if (behind.isBehind.value) behind.doNow()
    const isSame = term === workingTerm.code && plan === wanted.value
    if (isSame && views.student?.plan.id === state.value.plan.id) {
      if (readings.given(views.student)) void reload()
    }
    else if (act.changes.includes('student')) await reload()
    if (act.changes.includes('week')) changed.value = term === workingTerm.code ? views : {}
    return answer
  }
  /** As `send`; gives what went wrong, or null. */
  async function act<Input extends z.ZodType>(declared: Act<Input>, input: z.input<Input>, onPlan?: number,
    id?: number): Promise<Problem | null> {
    try {
      await send(declared, input, onPlan, id)
      return null
    }
    catch (error) {
      const problem = toProblem(error)
      // What it was decided on has moved on: here it is.
      if (problem.status === 409) await reload()
      return problem
    }
  }

  const mayEdit = computed(() => session.account?.role !== 'office')
  const isAdvising = computed(() => session.account?.role === 'advisor')
  const isOwn = computed(() => session.account?.id === state.value?.id)
  const localDate = (moment: string) => fromInstant(moment, session.zone).date

  return { state, readTerm, failed, plan, entries, file, rules, openPlan, saving, notice, done, undone, standing, looking, projection,
    moves, unpicked, unread, markRead, waits, groups, creditsIn, account, paysBy, feesDue, steps, gates, mayEdit, isOwn, isAdvising,
    load, open, loadEarly, reload, edit, undo, redo, act, send, showing,
    changed, localDate, isBehind: behind.isBehind, catchUp: behind.doNow,
    version: sync.version, preview, previewed, shown, before, standingPlan, suggestion, suggesting, here, pace }
})
