import type { RowDecision } from '@ridgeway/core/registration'
import type { z } from 'zod'
import { chooseBundles, keepInMind, keepWishes as sendWishes, register as registerRows, type RunResult, setRow, shareWeek }
  from '#shared/contract/acts/student'
import type { Wish } from '@ridgeway/core/weeks'
import { sayTerm } from '@ridgeway/words'
import type { FileView } from '#shared/contract/define'
import { type BundleView, dryRun, type Place, readPlace, readWeek, type Sheet, type Week } from '#shared/contract/views/student'
import { look, toProblem, type Problem } from '~/composables/useApi'
import { sectionsOf } from './seats'

/** Milliseconds until the first look at the place in line, and after which a press without an answer asks again. */
const PLACE_MS = 1500
const ASK_AGAIN_MS = [1000, 2000, 4000, 8000]

/** A bundle for a course with its backups in order; no sections take the course's choice out. Backups left out stay as they are. */
export interface Chosen { course: string, sectionIds: number[], backups?: number[][] }

/** Bundles and decisions of the working term, and the run itself. */
export const useWeekStore = defineStore('week', () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const seats = useSeatsStore()
  const catalog = useCatalogStore()
  const readCourses = shallowRef<{ course: string, bundles: BundleView[] }[] | null>(null)
  /** What was read, with the seats as they are now. */
  const courses = computed(() => readCourses.value?.map(({ course, bundles }) => ({ course,
    bundles: seats.bundles(bundles, student.groups, catalog.courses.get(course)?.parts ?? []) })) ?? null)
  const wishes = shallowRef<Wish[]>([])
  const shortlist = shallowRef<Week['shortlist']>([])
  const shared = shallowRef<Week['shared']>(null)
  const readRows = shallowRef<Sheet | null>(null)
  const sheet = computed(() => readRows.value && { ...readRows.value, rows: readRows.value.rows.map(rowNow) })
  const result = shallowRef<RunResult | null>(null)
  const failed = ref<Problem | null>(null)
  const running = ref(false)

  /** A press without its answer is still to be told of. */
  const clearFailure = () => {
    if (!pending) failed.value = null
  }
  const isOf = useFileAndTerm()
  /** The opened file and term: what is begun for them is done for them, whatever is opened meanwhile. */
  const at = () => ({ id: student.state!.id, term: workingTerm.code })

  /** Whose week of which term is kept here. */
  let keptFor = ''
  /** What is kept of another student or term goes. */
  function turnToOpened() {
    if (isOf.value !== keptFor) {
      readCourses.value = null
      readRows.value = null
      wishes.value = []
      shortlist.value = []
      shared.value = null
    }
    keptFor = isOf.value
  }
  /** A page shows these views of the opened file. */
  function open(...views: FileView[]) {
    turnToOpened()
    // A result is told where it came about; who comes back later looks at what stands now.
    result.value = null
    student.showing.clear()
    for (const view of views) student.showing.add(view)
  }
  /** Reads the week unless it is kept: while it is shown it is read again whenever it changes. */
  function ensure() {
    turnToOpened()
    return courses.value ? Promise.resolve() : load()
  }

  function take(week: Week) {
    readCourses.value = week.courses
    shortlist.value = week.shortlist
    shared.value = week.shared
    // What is still on its way is newer.
    if (!unsent.has(isOf.value)) wishes.value = week.wishes
  }
  const weeks = useReadings(take)
  const sheets = useReadings<Sheet>(answer => readRows.value = answer)
  /** Reads something of the opened file and term; an answer about others, however late it comes, is none, and neither is a failure. */
  async function read<T>({ read: readAnew }: ReturnType<typeof useReadings<T>>, ask: (of: ReturnType<typeof at>) => Promise<T>) {
    const of = isOf.value
    const isStill = () => of === isOf.value
    try {
      await readAnew(() => ask(at()), isStill)
      if (isStill()) clearFailure()
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }
  function load() {
    student.showing.add('week')
    return read(weeks, ({ id, term }) => look(readWeek, { term }, { id }))
  }
  function loadSheet() {
    student.showing.add('sheet')
    return read(sheets, ({ id, term }) => look(dryRun, { term }, { id }))
  }
  /** A row of the run sheet with the seats as they are now; one that has another way when it is full is read again. */
  function rowNow(row: RowDecision): RowDecision {
    // Until the sections of the course are there, nobody can tell which other one has a seat.
    const bundles = readCourses.value?.find(one => one.course === row.course)?.bundles
    const parts = catalog.courses.get(row.course)?.parts
    if (!bundles || !parts) return row
    const own = readRows.value!.sections.filter(section => row.sectionIds.includes(section.id))
    const all = [...new Map([...own, ...sectionsOf(bundles)].map(section => [section.id, section])).values()]
    return seats.decide(row, all, student.groups, parts)
  }
  const turned = computed(() => sheet.value?.rows.filter((row,
    i) => (row.once ?? row.outcome) !== (readRows.value!.rows[i]!.once ?? readRows.value!.rows[i]!.outcome)).length ?? 0)
  let soon: ReturnType<typeof setTimeout> | undefined
  // Many look at the same seats: they do not all ask in the same moment.
  watch(turned, (now, before) => {
    clearTimeout(soon)
    if (now > before && !running.value && student.state?.lineUp.some(row => row.backups.length > 0 || row.waitIfFull))
      soon = setTimeout(() => void loadSheet(), 500 + Math.random() * 3000)
  })

  /** An act answers with what it changed; what is open and was not answered is read. */
  watch(() => student.changed, ({ week, sheet: rows }) => {
    if (week ? weeks.given(week) : student.showing.has('week')) void load()
    if (rows ? sheets.given(rows) : student.showing.has('sheet')) void loadSheet()
  })

  /** Chooses bundles, all of them or none. */
  const choose = (...choices: Chosen[]) => chooseAt(at(), choices)
  async function chooseAt({ id, term }: ReturnType<typeof at>, choices: Chosen[]): Promise<Problem | null> {
    const of = isOf.value
    try {
      await student.send(chooseBundles, { term, choices }, undefined, id)
      return null
    }
    catch (error) {
      if (of === isOf.value) await load()
      return toProblem(error)
    }
  }

  /** Wishes that are not kept yet, by file and term: each is kept as it is changed, the last of them last, however fast they change. */
  const unsent = new Map<string, Wish[]>()
  async function keepWishes(next: Wish[]) {
    wishes.value = next
    const of = isOf.value
    const { id, term } = at()
    const isOnItsWay = unsent.has(of)
    unsent.set(of, next)
    if (isOnItsWay) return
    let problem: Problem | null = null
    for (let sent: Wish[] | undefined; !problem && sent !== unsent.get(of);) {
      sent = unsent.get(of)
      problem = await student.act(sendWishes, { term, wishes: sent as never }, undefined, id)
    }
    unsent.delete(of)
    if (!problem || of !== isOf.value) return
    failed.value = problem
    await load()
  }
  const setUp = (course: string, values: Omit<Parameters<typeof sendRow>[0], 'term' | 'course'>) => sendRow({ term: workingTerm.code,
    course, ...values })
  const sendRow = (input: z.input<typeof setRow['input']>) => student.act(setRow, input)
  const remember = (course: string, sectionIds: number[], keep: boolean) =>
    student.act(keepInMind, { term: workingTerm.code, course, sectionIds, keep })
  const share = (shares: boolean, note = '') => student.act(shareWeek, { term: workingTerm.code, share: shares, note })

  /** The press whose answer was lost: sent again it is the same press, and acts once. */
  let pending: { student: number, term: string, key: string, rowIds: number[] } | null = null

  async function register(rowIds: number[]) {
    if (running.value) return
    const { id, term } = at()
    const press = { student: id, term, rowIds }
    const isSame = pending?.student === press.student && pending.term === press.term && pending.rowIds.join() === rowIds.join()
    await send(isSame ? pending! : { ...press, key: crypto.randomUUID() })
  }
  async function send(press: NonNullable<typeof pending>) {
    const { student: id, term, key, rowIds } = press
    const of = `${id} ${term}`
    running.value = true
    clearTimeout(asksAgain)
    const watching = watchPlace(id, key)
    try {
      const done = await student.send(registerRows, { term, key, rowIds }, undefined, id)
      pending = null
      asked = 0
      if (of === isOf.value) {
        result.value = done
        if (student.isBehind) leaveOut(done)
        failed.value = null
      }
      // On the page of another term there is no room for all of it.
      else if (id === student.state?.id)
        student.notice = `${sayTerm(term)}: ${registeredOf(done)} of ${count(done.rows.length, 'course')} registered.`
    }
    catch (error) {
      const problem = toProblem(error)
      if (of === isOf.value) failed.value = problem
      pending = problem.status === 0 || problem.status >= 500 ? press : null
      // Whoever pressed learns what became of it: the same press asks again by itself, at longer and longer intervals.
      if (pending) asksAgain = setTimeout(() => void pressAgain(), ASK_AGAIN_MS[Math.min(asked++, ASK_AGAIN_MS.length - 1)])
    }
    watching.abort()
    place.value = null
    running.value = false
  }
  /** What was registered is not lined up any more, though the run sheet is read again only later. */
  function leaveOut({ rows }: RunResult) {
    const done = new Set(rows.filter(row => row.outcome !== 'refused').map(row => row.rowId))
    if (readRows.value) readRows.value = { ...readRows.value, rows: readRows.value.rows.filter(row => !done.has(row.rowId)) }
  }
  let asksAgain: ReturnType<typeof setTimeout> | undefined
  let asked = 0
  /** Where a press stands in line while it has no answer; null when it is not known. */
  const place = shallowRef<Place | null>(null)
  function watchPlace(id: number, key: string): AbortController {
    const watching = new AbortController()
    // Between two looks it comes nearer as it did lately.
    const nearer = setInterval(() => {
      const { before, seconds } = place.value ?? {}
      if (before && seconds && seconds > 1)
        place.value = { ...place.value!, before: Math.round(before * (seconds - 1) / seconds), seconds: seconds - 1 }
    }, 1000)
    const ask = async () => {
      const now = await look(readPlace, { key }, { id }).catch(() => null)
      if (watching.signal.aborted) return
      if (now) place.value = now
      // The server says how often: with many in line, looking at it must not take the time of serving.
      timer = setTimeout(ask, now?.again ?? ASK_AGAIN_MS.at(-1))
    }
    let timer = setTimeout(ask, PLACE_MS)
    watching.signal.addEventListener('abort', () => {
      clearTimeout(timer)
      clearInterval(nearer)
    })
    return watching
  }
  /** The press that has no answer once more, whatever the page is about by then. */
  const pressAgain = async () => {
    if (pending && !running.value) await send(pending)
  }
  /** After a failure: the press that has no answer once more, or else the dry run. */
  const retry = () => pending && isOf.value === `${pending.student} ${pending.term}` ? pressAgain() : loadSheet()

  return { courses, wishes, shortlist, shared, keepWishes, setUp, remember, share, sheet, result, failed, running, place, at, open, load,
    ensure, loadSheet, choose, chooseAt, register, retry }
})
