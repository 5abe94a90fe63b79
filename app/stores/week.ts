import type { RowDecision } from '@ridgeway/core/registration'
import { chooseBundle, register as registerRows, type RunResult } from '#shared/contract/acts/student'
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

  const at = () => ({ id: student.state!.id })

  async function load() {
    student.showing.add('week')
    try {
      courses.value = (await look(readWeek, { term: workingTerm.code }, at())).courses
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }

  async function loadSheet() {
    student.showing.add('sheet')
    try {
      sheet.value = await look(dryRun, { term: workingTerm.code }, at())
      failed.value = null
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

  async function choose(course: string, sectionIds: number[]): Promise<Problem | null> {
    try {
      await student.send(chooseBundle, { term: workingTerm.code, course, sectionIds })
      return null
    }
    catch (error) {
      const problem = toProblem(error)
      await load()
      return problem
    }
  }

  /** The key of the press that waits for its answer: a retry after a lost answer sends the same one. */
  let pendingKey: string | null = null

  async function register(rowIds: number[]) {
    running.value = true
    pendingKey ??= crypto.randomUUID()
    try {
      result.value = await student.send(registerRows, { term: workingTerm.code, key: pendingKey, rowIds })
      pendingKey = null
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
      if (failed.value.status !== 0 && failed.value.status < 500) pendingKey = null
    }
    running.value = false
  }

  function clear() {
    student.showing.clear()
    courses.value = null
    sheet.value = null
    result.value = null
  }
  return { courses, sheet, result, failed, running, load, loadSheet, choose, register, clear }
})
