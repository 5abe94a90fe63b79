import type { RowDecision } from '@ridgeway/core/registration'
import type { RunResult } from '#shared/contract/acts/student'
import type { InjectionKey } from 'vue'

export type RunSheet = ReturnType<typeof createRunSheet>
const SHEET: InjectionKey<RunSheet> = Symbol('run sheet')

/** How many courses a run registered. */
export const registeredOf = ({ rows }: Pick<RunResult, 'rows'>) => rows.filter(row => row.outcome === 'register').length

/** The line-up of the working term with what would become of each row, and what stands in the way of all of it. */
export function provideRunSheet(): RunSheet {
  const sheet = createRunSheet()
  provide(SHEET, sheet)
  return sheet
}
export const useRunSheet = (): RunSheet => inject(SHEET)!

function createRunSheet() {
  const student = useStudentStore()
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
  const { instant } = useNow()

  const opensIn = computed(() => student.state?.opening ? timeLeft(instant.value, student.state.opening.from) : '')
  const isOpen = computed(() => student.state?.opening !== null && opensIn.value === '')
  const rows = computed(() => week.sheet?.rows ?? [])
  const refusals = (row: RowDecision) => row.findings.filter(finding => !finding.ok && finding.code !== 'gate')
  /** What becomes of a row once the gates are open. */
  const onceOpen = (row: RowDecision) => row.once ?? row.outcome
  const bundleOf = (code: string) => week.courses?.find(c => c.course === code)?.bundles.find(b => b.picked || b.registered)
  const gatesClosed = computed(() => student.gates.filter(gate => !gate.open))
  /** The hour is all that stands in the way. */
  const onlyOpening = computed(() => gatesClosed.value.length > 0 && gatesClosed.value.every(gate => gate.kind === 'opening'))
  /** A term that has closed opens no more; every other gate still can. */
  const tooLate = computed(() => gatesClosed.value.find(gate => gate.kind === 'closing'))
  /** Rows that would register, gates aside; a press also joins waitlists. */
  const willRegister = computed(() => tooLate.value ? [] : rows.value.filter(row => onceOpen(row) === 'register'))
  const willWait = computed(() => tooLate.value ? [] : rows.value.filter(row => onceOpen(row) === 'waitlist'))
  const labelsOf = (row: RowDecision) => row.sectionIds.map(id => week.courses?.flatMap(one => one.bundles)
    .flatMap(bundle => bundle.sections).find(section => section.id === id)?.label ?? '').join(' + ')
  function outcome(row: RowDecision): string {
    if (tooLate.value) return 'too late'
    if (onceOpen(row) === 'waitlist') return `joins the waitlist as ${ordinal(Math.max(...row.waits.map(wait => wait.place)))}`
    if (onceOpen(row) === 'refused') return 'refused'
    return row.backup > 0 ? `will register backup ${row.backup}: ${labelsOf(row)}` : 'will register'
  }
  /** Why the button is off; empty when a press would do something. */
  const offBecause = computed(() => {
    if (!student.isOwn) return 'Only the student registers'
    if (willRegister.value.length + willWait.value.length > 0 && onlyOpening.value && armed.canArm.value) return ''
    if (gatesClosed.value.length > 0 && others.open.length > 0) return ''
    if (gatesClosed.value.length > 0) return 'A gate is closed'
    return willRegister.value.length + willWait.value.length === 0 && others.open.length === 0
      ? 'Nothing in the line-up would be registered'
      : ''
  })
  const registered = computed(() => {
    const mine = student.state?.registered.filter(row => row.term === workingTerm.code) ?? []
    return [...new Set(mine.map(row => row.course))].map((course) => {
      const rows = mine.filter(row => row.course === course)
      return { course, labels: rows.map(row => row.label), credits: rows.reduce((sum, row) => sum + row.credits, 0), at: rows[0]!.at,
        grading: rows[0]!.grading }
    })
  })
  const others = useOtherTermsStore()
  /** Everything that is open: the working term first, then what is lined up for other terms. */
  async function press() {
    if (rows.value.length > 0) await week.register(rows.value.map(row => row.rowId))
    if (others.open.length > 0) await others.register()
  }
  /** Whether the last run came before the opening by the server's clock. */
  const wasTooEarly = () => week.result?.rows.some(row => row.outcome === 'refused' && row.findings.some(finding =>
    finding.code === 'gate' && !finding.ok && finding.gate.kind === 'opening')) ?? false
  const armed = useArmed(() => student.state?.opening?.from ?? null, press, wasTooEarly)

  // The moment the opening passes, the sheet is read again: what was refused for the hour alone is not any more.
  watch(isOpen, (open, before) => {
    if (!open || before !== false) return
    announce(`${workingTerm.term?.name} is open for you now.`)
    void Promise.all([student.reload(), week.loadSheet()])
  })
  watch(() => week.result, (result) => {
    if (result) announce(`${count(registeredOf(result), 'course')} of ${result.rows.length} registered.`)
  })
  return { opensIn, rows, refusals, onceOpen, bundleOf, gatesClosed, tooLate, willRegister, willWait, labelsOf, outcome, offBecause,
    registered,
    onlyOpening, armed, press }
}
