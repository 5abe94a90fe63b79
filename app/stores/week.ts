import type { RowDecision } from '@ridgeway/core/registration'
import type { BundleView, RunResult } from '~~/server/services/registration'
import { toProblem, type Problem } from '~/composables/useApi'

/** Bundles and decisions of the working term, and the run itself. */
export const useWeekStore = defineStore('week', () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const courses = shallowRef<{ course: string, bundles: BundleView[] }[] | null>(null)
  const sheet = shallowRef<{ at: string, rows: RowDecision[] } | null>(null)
  const result = shallowRef<RunResult | null>(null)
  const failed = ref<Problem | null>(null)
  const running = ref(false)

  const address = () => `/api/students/${student.state!.id}`

  async function load() {
    try {
      const query = { term: workingTerm.code }
      const read = await $fetch<{ courses: { course: string, bundles: BundleView[] }[] }>(`${address()}/week`, { query })
      courses.value = read.courses
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }

  async function loadSheet() {
    try {
      sheet.value = await $fetch<{ at: string, rows: RowDecision[] }>(`${address()}/dry-run`, { query: { term: workingTerm.code } })
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }

  async function choose(course: string, sectionIds: number[]): Promise<Problem | null> {
    try {
      await $fetch(`${address()}/line-up`, { method: 'PUT', body: { term: workingTerm.code, course, sectionIds } })
      await Promise.all([student.reload(), load()])
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
      result.value = await $fetch<RunResult>(`${address()}/registrations`, { method: 'POST',
        body: { term: workingTerm.code, key: pendingKey, rowIds } })
      pendingKey = null
      failed.value = null
      await student.reload()
      await Promise.all([load(), loadSheet()])
    }
    catch (error) {
      failed.value = toProblem(error)
      if (failed.value.status !== 0 && failed.value.status < 500) pendingKey = null
    }
    running.value = false
  }

  function clear() {
    courses.value = null
    sheet.value = null
    result.value = null
  }
  return { courses, sheet, result, failed, running, load, loadSheet, choose, register, clear }
})
