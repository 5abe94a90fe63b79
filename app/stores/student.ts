import {
  applyOperation, fromInstant, inverseOperation, movesFor, nextSteps, projectPlan, readStanding, type Catalog, type PlanCheck, type PlanEntry, type PlanOperation, type Standing,
} from '@ridgeway/core'
import type { StudentState } from '~~/server/services/students'
import { toProblem, type Problem } from '~/composables/useApi'

interface Done { forward: PlanOperation[], back: PlanOperation[] }

/** The opened student: own file, or an advisee's. Everything shown is read from here by the core, at once after each move. */
export const useStudentStore = defineStore('student', () => {
  const catalog = useCatalogStore()
  const session = useSessionStore()
  const workingTerm = useWorkingTermStore()
  const { instant, today } = useNow()

  const state = shallowRef<StudentState | null>(null)
  const failed = ref<Problem | null>(null)
  const entries = shallowRef<PlanEntry[]>([])
  const waiting = shallowRef<PlanOperation[]>([])
  const saving = ref<'saved' | 'saving' | 'kept here'>('saved')
  const notice = ref('')
  const done = shallowRef<Done[]>([])
  const undone = shallowRef<Done[]>([])

  async function load(id: number) {
    if (!workingTerm.code) return
    try {
      const fresh = await $fetch<StudentState>(`/api/students/${id}`, { query: { term: workingTerm.code } })
      if (state.value?.id !== id) {
        done.value = []
        undone.value = []
        waiting.value = []
      }
      state.value = fresh
      entries.value = waiting.value.reduce<PlanEntry[]>((list, operation) => {
        const next = applyOperation(list, operation)
        return typeof next === 'string' ? list : next
      }, fresh.file.entries)
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }

  const reload = () => state.value ? load(state.value.id) : Promise.resolve()

  /** The catalog as it reads for this student: with the programs of their own catalog years. */
  const rules = computed<Catalog>(() => ({
    courses: catalog.courses, programs: state.value?.programIds.flatMap(id => catalog.programs.get(id) ?? []) ?? [], terms: catalog.terms, ...catalog.rules,
  }))
  const standing = computed<Standing | null>(() => state.value && catalog.ready ? readStanding({ ...state.value.file, entries: entries.value }, rules.value, today.value) : null)
  /** When each planned course can stand without moving the finish, and which chain decides it. */
  const projection = computed(() => state.value && standing.value
    ? projectPlan({
        items: standing.value.items, entries: entries.value, courses: catalog.courses, terms: catalog.terms, scale: catalog.rules.scale, today: today.value,
        facts: { programs: state.value.file.programs, placements: state.value.file.placements, permissions: state.value.file.permissions },
      })
    : null)
  const moves = (check: PlanCheck) => state.value ? movesFor(check, { ...state.value.file, entries: entries.value }, rules.value, today.value) : []

  /** Courses planned for the working term without a bundle or a registration. */
  const unpicked = computed(() => {
    const registered = new Set(state.value?.registered.map(row => row.course))
    const chosen = new Set(state.value?.lineUp.map(row => row.course))
    return entries.value.filter(entry => entry.term === workingTerm.code && !chosen.has(entry.course) && !registered.has(entry.course)).map(entry => entry.course)
  })

  /** Fees in cents for what is registered in the working term. */
  const fees = computed(() => {
    const rows = state.value?.registered.filter(row => row.term === workingTerm.code && row.credits > 0) ?? []
    const credits = rows.reduce((sum, row) => sum + row.credits, 0)
    const extra = rows.reduce((sum, row) => sum + (catalog.courses.get(row.course)?.fee ?? 0), 0)
    return { credits, extra, total: credits * catalog.creditPrice / 100 + extra }
  })

  const steps = computed(() => {
    const student = state.value
    const term = workingTerm.term
    if (!student || !term || !standing.value) return []
    return nextSteps({
      term: term.code, termName: term.name, gates: student.gates, checks: standing.value.checks, unpicked: unpicked.value, lineUp: student.lineUp.length,
      plannedInTerm: standing.value.items.filter(item => item.term === term.code && item.state !== 'completed').length, openCredits: standing.value.open,
      offers: student.waitlisted.filter(w => w.offerUntil && w.offerUntil > instant.value).map(w => ({ ...w, hoursLeft: Math.floor((Date.parse(w.offerUntil!) - Date.parse(instant.value)) / 3_600_000) })),
      feesDue: fees.value.total > 0 ? { amount: money(fees.value.total), by: term.feesDue } : null, advisor: student.advisor?.name ?? null,
    })
  })

  /** Gates as they are at this second: the opening opens by itself. */
  const gates = computed(() => state.value?.gates.map((gate) => {
    const from = state.value?.opening?.from
    if (gate.kind !== 'opening' || gate.open || !from || from > instant.value) return gate
    return { ...gate, open: true, words: 'open now', way: '' }
  }) ?? [])

  async function edit(operations: PlanOperation[], remember = true): Promise<string | null> {
    let next = entries.value
    const back: PlanOperation[] = []
    for (const operation of operations) {
      const applied = applyOperation(next, operation)
      if (typeof applied === 'string') return applied
      back.unshift(...inverseOperation(next, operation))
      next = applied
    }
    entries.value = next
    if (remember) {
      done.value = [...done.value, { forward: operations, back }]
      undone.value = []
    }
    waiting.value = [...waiting.value, ...operations]
    await send()
    return null
  }

  let sending = false
  /** Sends what waits; what cannot be sent now is kept and sent when the connection is back. */
  async function send() {
    if (sending || waiting.value.length === 0 || !state.value) return
    sending = true
    saving.value = 'saving'
    const batch = waiting.value.slice(0, 50)
    try {
      const saved = await $fetch(`/api/students/${state.value.id}/plan`, { method: 'POST', body: { baseVersion: state.value.plan.version, operations: batch } })
      waiting.value = waiting.value.slice(batch.length)
      state.value = { ...state.value, plan: { ...state.value.plan, version: saved.version }, file: { ...state.value.file, entries: saved.entries } }
      if (waiting.value.length === 0) entries.value = saved.entries
      if (saved.skipped.length > 0) notice.value = `Not done, because somebody else changed the plan: ${saved.skipped.map(skip => skip.why).join('; ')}.`
      saving.value = 'saved'
    }
    catch (error) {
      const problem = toProblem(error)
      saving.value = 'kept here'
      if (problem.status >= 400 && problem.status < 500) {
        waiting.value = []
        notice.value = `${problem.title} ${problem.detail}`
        await reload()
        saving.value = 'saved'
      }
    }
    sending = false
    if (saving.value === 'saved' && waiting.value.length > 0) await send()
  }
  useEventListener('online', send)
  useIntervalFn(() => saving.value === 'kept here' && send(), 5000)

  async function undo() {
    const last = done.value.at(-1)
    if (!last) return
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, last]
    await edit(last.back, false)
  }

  async function redo() {
    const last = undone.value.at(-1)
    if (!last) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, last]
    await edit(last.forward, false)
  }

  /** An act of one press: asks, confirms, accepts, signs off; then the file is read again. */
  async function act(path: 'sign-off-request' | 'sign-off' | 'terms' | 'program', body: Record<string, unknown> = {}): Promise<Problem | null> {
    try {
      await $fetch(`/api/students/${state.value!.id}/${path}`, { method: 'POST', body })
      await reload()
      return null
    }
    catch (error) {
      return toProblem(error)
    }
  }

  const mayEdit = computed(() => session.account?.role !== 'office')
  const isOwn = computed(() => session.account?.id === state.value?.id)
  const localDate = (moment: string) => fromInstant(moment, session.zone).date

  return { state, failed, entries, saving, notice, done, undone, standing, projection, moves, unpicked, fees, steps, gates, mayEdit, isOwn, load, reload, edit, undo, redo, act, localDate }
})
