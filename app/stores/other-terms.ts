import { acceptTerms, register as registerRows, type RunResult } from '#shared/contract/acts/student'
import { type OtherTerm, readOtherTerms } from '#shared/contract/views/student'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** Run sheets of the terms besides the working term: each has its own gates, and its own result. */
export const useOtherTermsStore = defineStore('other-terms', () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const sheets = shallowRef<OtherTerm[]>([])
  const results = ref<Record<string, RunResult>>({})
  const problems = ref<Record<string, Problem>>({})

  const isOf = useFileAndTerm()
  const readings = useReadings<OtherTerm[]>(answer => sheets.value = answer)
  async function load() {
    const { state } = student
    if (!state) return
    const of = isOf.value
    try {
      await readings.read(() => look(readOtherTerms, { term: workingTerm.code }, { id: state.id }), () => of === isOf.value)
    }
    catch {
      // What stands beside is read again with the next change; the page's own sheet tells of a lost connection.
    }
  }
  watch(isOf, () => {
    sheets.value = []
    results.value = {}
    problems.value = {}
  })
  const willRegister = ({ rows }: OtherTerm) => rows.filter(row => (row.once ?? row.outcome) !== 'refused')
  /** Those whose gates are open and of which a press would do something. */
  const open = computed(() => sheets.value.filter(sheet => sheet.gates.every(gate => gate.open) && willRegister(sheet).length > 0))

  /** Presses of which the answer was lost are sent again as the same press. */
  const pending = new Map<string, string>()
  async function register() {
    const of = isOf.value
    for (const { term, rows } of open.value) {
      // Whoever has turned to another file meanwhile presses nothing there.
      if (of !== isOf.value) return
      const rowIds = rows.map(row => row.rowId)
      const what = `${term} ${rowIds.join()}`
      const key = pending.get(what) ?? crypto.randomUUID()
      pending.set(what, key)
      try {
        const result = await student.send(registerRows, { term, key, rowIds })
        pending.delete(what)
        if (of !== isOf.value) return
        results.value = { ...results.value, [term]: result }
        problems.value = Object.fromEntries(Object.entries(problems.value).filter(([code]) => code !== term))
      }
      catch (error) {
        const problem = toProblem(error)
        if (problem.status > 0 && problem.status < 500) pending.delete(what)
        if (of !== isOf.value) return
        problems.value = { ...problems.value, [term]: problem }
      }
    }
    await load()
  }
  async function accept(term: string) {
    const of = isOf.value
    const problem = await student.act(acceptTerms, { term })
    if (problem && of === isOf.value) problems.value = { ...problems.value, [term]: problem }
    await load()
  }
  return { sheets, results, problems, open, willRegister, load, register, accept }
})
