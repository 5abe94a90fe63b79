import { EMPTY_PLAN, operationsBetween, type Plan } from '@ridgeway/core/planning'
import { linesOfProgram } from '@ridgeway/core/requirements'
import { type ReadPlan, readPlanCsv, readPlanJson } from '@ridgeway/formats'
import type { z } from 'zod'
import { changePlan, comment as addComment, makePlan } from '#shared/contract/acts/student'
import { type PlanHead, readPlan } from '#shared/contract/views/student'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** The student's plans as a whole: making, renaming, deleting and comparing them, files, and what is written beside them. */
export const usePlansStore = defineStore('plans', () => {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  /** The plan that was deleted last, while it can be brought back. */
  const deleted = shallowRef<PlanHead | null>(null)

  /** One thing at a time: a second press while the first is on its way does nothing more. */
  const busy = ref(false)
  async function attempt(work: () => Promise<unknown>): Promise<Problem | null> {
    if (busy.value) return null
    busy.value = true
    try {
      await work()
      return null
    }
    catch (error) {
      return toProblem(error)
    }
    finally {
      busy.value = false
    }
  }

  /** Makes a plan and opens it, unless another file is opened by then. */
  async function makeAndOpen(wish: z.input<typeof makePlan['input']>) {
    const of = student.state?.id
    const head = await student.send(makePlan, wish)
    if (student.state?.id === of) await student.openPlan(head.id)
  }
  /** Makes a plan, empty or as a copy, and opens it. */
  const make = (name: string, copyOf: number | null) => attempt(() => makeAndOpen({ name, copyOf }))
  const change = (id: number, wish: { name?: string, current?: true, deleted?: boolean }) => student.send(changePlan, wish, id)
  const rename = (id: number, name: string) => attempt(() => change(id, { name }))
  const makeCurrent = (id: number) => attempt(() => change(id, { current: true }))
  const remove = (plan: PlanHead) =>
    attempt(async () => {
      await change(plan.id, { deleted: true })
      deleted.value = plan
      if (student.state?.plan.id === plan.id) await student.openPlan(null)
    })
  const restore = () =>
    attempt(async () => {
      if (!deleted.value) return
      await change(deleted.value.id, { deleted: false })
      deleted.value = null
    })

  async function read(id: number): Promise<Plan | null> {
    if (id === student.state?.plan.id) return student.plan
    try {
      return (await look(readPlan, {}, { id: student.state!.id, plan: id })).plan
    }
    catch {
      return null
    }
  }

  /** A file as a plan, or what is wrong with it. */
  function readFile(name: string, text: string): ReadPlan {
    const lines = new Set(student.rules.programs.flatMap(program => linesOfProgram(program).map(line => `${program.code}/${line.id}`)))
    const known = { courses: catalog.courses, terms: catalog.terms, lines }
    return /\.csv$/i.test(name)
      ? readPlanCsv(text, name.replace(/\.csv$/i, '').slice(0, 60) || 'From a file', known)
      : readPlanJson(text, known)
  }
  /** Keeps a plan that was read as one more plan, whole or not at all, and opens it. */
  const keep = (name: string, plan: Plan) =>
    attempt(() => makeAndOpen({ name, copyOf: null, operations: operationsBetween(EMPTY_PLAN, plan) }))

  /** What is being written and not yet sent, about each course, term or plan: turning to another keeps it. */
  const unsent = ref<Record<string, string>>({})
  const comment = (about: { term: string | null, entry: string | null }, text: string) =>
    student.act(addComment, { ...about, text })

  return { busy, deleted, unsent, make, rename, makeCurrent, remove, restore, read, readFile, keep, comment }
})
