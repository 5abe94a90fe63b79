import type { RowDecision } from '@ridgeway/core/registration'
import { chooseBundles, register as registerRows, type RunResult } from '#shared/contract/acts/student'
import type { FileView } from '#shared/contract/define'
import { type BundleView, dryRun, readWeek } from '#shared/contract/views/student'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** Bundles and decisions of the working term, and the run itself. */
export const useWeekStore = defineStore('week', () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const courses = shallowRef<{ course: string, bundles: BundleView[] }[] | null>(null)
  const sheet = shallowRef<{ at: string, rows: RowDecision[] } | null>(null)
  const result = shallowRef<RunResult | null>(null)
  const failed = ref<Problem | null>(null)
  const running = ref(false)

  /** A press without its answer is still to be told of. */
  const clearFailure = () => {
    if (!pending) failed.value = null
  }
  const at = () => ({ id: student.state!.id })

  /** Whose week of which term is kept here. */
  let keptFor = ''
  /** A page shows these views of the opened file; what is kept of another student or term goes. */
  function open(...views: FileView[]) {
    const key = `${student.state?.id} ${workingTerm.code}`
    if (key !== keptFor) {
      courses.value = null
      sheet.value = null
    }
    // A result is told where it came about; who comes back later looks at what stands now.
    result.value = null
    keptFor = key
    student.showing.clear()
    for (const view of views) student.showing.add(view)
  }
  /** Reads the week unless it is kept: while it is shown it is read again whenever it changes. */
  const ensure = () => courses.value ? Promise.resolve() : load()

  async function load() {
    student.showing.add('week')
    try {
      courses.value = (await look(readWeek, { term: workingTerm.code }, at())).courses
      clearFailure()
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }

  async function loadSheet() {
    student.showing.add('sheet')
    try {
      sheet.value = await look(dryRun, { term: workingTerm.code }, at())
      clearFailure()
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }
  /** An act answers with what it changed; what is open and was not answered is read. */
  watch(() => student.changed, ({ week, sheet: rows }) => {
    if (week) courses.value = week.courses
    else if (student.showing.has('week')) void load()
    if (rows) sheet.value = rows
    else if (student.showing.has('sheet')) void loadSheet()
  })

  /** Chooses bundles, all of them or none; no sections take a course's choice out. */
  async function choose(...choices: { course: string, sectionIds: number[] }[]): Promise<Problem | null> {
    try {
      await student.send(chooseBundles, { term: workingTerm.code, choices })
      return null
    }
    catch (error) {
      const problem = toProblem(error)
      await load()
      return problem
    }
  }

  /** The press whose answer was lost: sent again it is the same press, and acts once. */
  let pending: { student: number, term: string, key: string, rowIds: number[] } | null = null

  async function register(rowIds: number[]) {
    const press = { student: student.state!.id, term: workingTerm.code, rowIds }
    const isSame = pending?.student === press.student && pending.term === press.term && pending.rowIds.join() === rowIds.join()
    await send(isSame ? pending! : { ...press, key: crypto.randomUUID() })
  }
  async function send(press: NonNullable<typeof pending>) {
    const { term, key, rowIds } = press
    running.value = true
    try {
      result.value = await student.send(registerRows, { term, key, rowIds })
      pending = null
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
      pending = failed.value.status === 0 || failed.value.status >= 500 ? press : null
    }
    running.value = false
  }
  /** After a failure: the press that has no answer once more, or else the dry run. */
  async function retry() {
    if (pending && pending.student === student.state?.id) await send(pending)
    else await loadSheet()
  }

  return { courses, sheet, result, failed, running, open, load, ensure, loadSheet, choose, register, retry }
})
