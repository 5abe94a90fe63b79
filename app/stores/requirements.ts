import { milestonesDone, reachOf } from '@ridgeway/core/planning'
import { factsOf, lineRef, type LineRef, parseLineRef } from '@ridgeway/core/record'
import {
  explainUse, findUnreachable, type LineReport, type Lost, programId, type ProgramReport, type ProgramTrial,
  placesOf, tryProgram, type UseChange,
} from '@ridgeway/core/requirements'
import {
  askProgramChange, decideProgramChange, grantException, pinUse as pinUseOf, recordMilestone as recordMilestoneOf, takeBackException,
  takeBackProgramChange,
} from '#shared/contract/acts/student'
import type { Problem } from '~/composables/useApi'
import type { SmallestAsked } from '~/workers/smallest.worker'

export interface Grant {
  kind: 'substitution' | 'waiver'
  program: string
  line: string
  course: string | null
  instead: string | null
  amount?: number
  reason: string
}

/** What the requirements ask beyond the standing: what can be reached, what a move would change, other programs; and the acts on them. */
export const useRequirementsStore = defineStore('requirements', () => {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { today } = useNow()

  const asked = computed(() => student.standing?.asked ?? { programs: [], sharing: [] })
  const reports = computed(() => student.standing?.reports ?? [])

  /** Depends on the record only: a plan neither opens nor closes a way. */
  const reach = computed(() =>
    student.state && catalog.ready
      ? reachOf(student.state.file, student.rules, today.value)
      : null,
  )

  /** By program code: lines that nothing left can fill, with the reason. */
  const unreachable = computed<Record<string, Record<string, Lost>>>(() => {
    const now = reach.value
    if (!now || !student.standing) return {}
    return Object.fromEntries(
      reports.value.map(report => [report.code, findUnreachable(report, student.standing!.items, now.reach, now.input)]),
    )
  })

  const allLines = (report: ProgramReport): LineReport[] => [...report.areas.flatMap(area => area.lines), ...report.overlays]
  /** The lines that are open, in order. */
  const openLines = computed(() =>
    reports.value.flatMap(report =>
      allLines(report).filter(line => line.state === 'open' && !line.setAside).map(line => lineRef(report.code, line.id)),
    ),
  )
  const lineOf = (program: string, line: string) => {
    const report = reports.value.find(candidate => candidate.code === program)
    return report && allLines(report).find(candidate => candidate.id === line)
  }

  /** The hue of the area that a line stands in. */
  const hueAt = (ref: LineRef): string => {
    const { program, line } = parseLineRef(ref)
    return reports.value.find(report => report.code === program)?.areas.find(area => area.lines.some(one =>
      one.id === line))?.hue ?? 'slate'
  }
  const lineAt = (ref: LineRef) => {
    const { program, line } = parseLineRef(ref)
    return lineOf(program, line)
  }

  /** What would change if an item counted elsewhere in a program. */
  function changesFor(program: string, itemId: string): UseChange[] {
    const index = reports.value.findIndex(report => report.code === program)
    return index < 0 ? [] : explainUse(asked.value, reports.value, index, itemId)
  }

  /** What is asked when somebody wants to know the least that would meet a line; null while nothing is read. */
  function smallestOf(program: string, line: string): SmallestAsked | null {
    const index = reports.value.findIndex(report => report.code === program)
    const now = reach.value
    if (index < 0 || !now || !student.state || !student.standing) return null
    return { asked: asked.value, index, line, reach: now.input, facts: factsOf(student.state.file, student.standing.items) }
  }
  /** The first terms in which such courses can stand, after what leads to them. */
  const placesFor = (courses: readonly string[]) => reach.value && student.state && student.standing
    ? placesOf(courses, reach.value.reach.terms, factsOf(student.state.file, student.standing.items), student.rules)
    : []

  /** Where an item's use is pinned in a program, or null. */
  function pinOf(program: string, itemId: string): string | null {
    return asked.value.programs.find(input => input.program.code === program)?.pins?.[itemId] ?? null
  }

  /** Pins a use: in the plan for a planned course, beside the record for any other. */
  async function pinUse(program: string, itemId: string, line: string | null): Promise<Problem | null> {
    if (student.entries.some(entry => entry.id === itemId)) {
      const refused = await student.edit([{ kind: 'pin use', entry: itemId, line: line === null ? null : lineRef(program, line) }])
      return refused
        ? { code: 'plan', title: `The use was not pinned: ${refused}.`, detail: 'Reload the page and try again.', status: 0 }
        : null
    }
    return student.act(pinUseOf, { item: itemId, program, line })
  }

  const grant = ({ kind, instead, course, ...rest }: Grant) =>
    student.act(grantException, kind === 'waiver' ? { kind, course, ...rest } : { kind, course: course ?? '', instead, ...rest })
  const takeBack = (id: number) => student.act(takeBackException, { id })
  const recordMilestone = (program: string, milestone: string, done: boolean) =>
    student.act(recordMilestoneOf, { program, milestone, done })
  const askChange = (programs: string[], note: string) => student.act(askProgramChange, { programs, note })
  const takeBackChange = () => student.act(takeBackProgramChange, {})
  const decideChange = (request: number, granted: boolean, words: string) =>
    student.act(decideProgramChange, { request, granted, words })

  /** The record read against another program; nothing is changed by it. */
  function trial(id: string): ProgramTrial | null {
    const program = catalog.programs.get(id)
    const file = student.state?.file
    if (!program || !file) return null
    const { reach: ways, input } = reachOf(file, student.rules, today.value, [program.code])
    return tryProgram({
      program,
      items: file.record,
      courses: catalog.courses,
      scale: catalog.rules.scale,
      repeatPolicy: catalog.rules.repeatPolicy,
      exceptions: file.exceptions,
      milestones: milestonesDone(file, program.code),
    }, ways, input)
  }

  const title = (id: string) => {
    const program = catalog.programs.get(id)
    return program ? `${program.title} · ${program.catalogYear}` : id
  }
  /** Programs as a person chooses them: by title, newest catalog year first. */
  const choices = computed(() =>
    [...catalog.programs.values()].map(program => ({ value: programId(program), title: `${program.title} · ${program.catalogYear}`,
      kind: program.kind }),
    )
      .sort((a, b) => a.title.slice(0, -4).localeCompare(b.title.slice(0, -4)) || b.title.localeCompare(a.title)),
  )

  return { reports, reach, unreachable, openLines, allLines, lineOf, lineAt, hueAt, changesFor, smallestOf, placesFor,
    pinOf, pinUse, grant, takeBack,
    recordMilestone,
    askChange, takeBackChange, decideChange, trial, title, choices }
})
