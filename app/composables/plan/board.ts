import { type Term, termOrder, termPhase } from '@ridgeway/core/catalog'
import { lineRef, type LineRef, parseLineRef } from '@ridgeway/core/record'
import { shortTermName } from '@ridgeway/words'

export interface Lane {
  id: string
  title: string
  hue: string
  open: number
  program: string
}
/** Lanes, columns and tiles of the plan board, all read from the student's standing. */
export function usePlanBoard() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const items = computed(() => student.shown?.items ?? [])
  const { laneOf: findLane } = useItems()
  /** Every item's lane, found once a reading: each cell of the board asks for those of its term. */
  const laneById = computed(() => new Map(items.value.map(item => [item.id, findLane(item)])))
  const laneOf = (item: { id: string }) => laneById.value.get(item.id) ?? OTHER_CREDIT
  const { today } = useNow()
  const showAll = ref(false)
  const showPast = ref(false)

  const lanes = computed<Lane[]>(() => [
    ...(student.shown?.reports ?? []).flatMap(report =>
      report.areas.map(area => ({ id: lineRef(report.code, area.id), title: area.title, hue: area.hue, open: area.open,
        program: report.code }),
      ),
    ),
    ...items.value.some(item => laneOf(item) === OTHER_CREDIT)
      ? [{ id: OTHER_CREDIT, title: 'other credit', hue: 'slate' as const, open: 0, program: '' }]
      : [],
    { id: OFF_PATH, title: 'off-path', hue: 'slate', open: 0, program: '' },
  ])

  const isPast = (term: string | null) =>
    term === null || catalog.term(term) === undefined || termPhase(catalog.term(term)!, today.value) === 'past'

  /** The term under way, then future terms: as far as the plan goes, at least four; summers only when they are used or next. */
  const columns = computed<Term[]>(() => {
    const ahead = catalog.terms.filter(term => termPhase(term, today.value) !== 'past')
    if (showAll.value) return ahead
    const used = new Set([...items.value, ...placeholders.value].map(item => item.term))
    const last = Math.max(...ahead.filter(term => used.has(term.code)).map(term => termOrder(term.code)), 0)
    // Where something is still open there is room to place it: about the length of a degree.
    const least = (student.shown?.open ?? 0) > 0 ? 7 : 5
    const long = ahead.filter(term => term.season !== 'summer').slice(0, least)
    return ahead.filter(term =>
      used.has(term.code) || term.code === workingTerm.code || long.includes(term)
      || (term.season !== 'summer' && termOrder(term.code) < last),
    )
  })
  const pastColumns = computed(() =>
    showPast.value ? catalog.terms.filter(term => isPast(term.code) && items.value.some(item => item.term === term.code)) : [],
  )
  const placeholders = computed(() => (student.previewed ?? student.plan).placeholders)
  const laneOfLine = (ref: LineRef) => {
    const { program, line: id } = parseLineRef(ref)
    const area = student.shown?.reports.find(report => report.code === program)?.areas.find(one =>
      one.lines.some(candidate => candidate.id === id),
    )
    return area ? lineRef(program, area.id) : OFF_PATH
  }
  const heldIn = (lane: string, term: string) => placeholders.value.filter(one => one.term === term && laneOfLine(one.line) === lane)
  const early = (lane: string) =>
    items.value.filter(item =>
      item.state === 'completed' && isPast(item.term) && laneOf(item) === lane && (!showPast.value || item.term === null),
    )
  const cell = (lane: string, term: string) => items.value.filter(item => item.term === term && laneOf(item) === lane)
  /** Items whose tile stands in another lane and which count in this one too (a second program). */
  const alsoIn = (lane: string) => {
    const { program, line: areaId } = parseLineRef(lane as LineRef)
    const area = student.shown?.reports.find(report => report.code === program)?.areas.find(a => a.id === areaId)
    return (area?.lines ?? []).flatMap(line => line.uses.map(use => use.item)).filter(item => laneOf(item) !== lane)
  }
  const also = (lane: string, term: string) => alsoIn(lane).filter(item => item.term === term)
  const alsoEarly = (lane: string) => alsoIn(lane).filter(item => isPast(item.term) && (!showPast.value || item.term === null))
  /** Courses that stand in a term now and would leave it: what is looked at moves them, or takes them out. */
  const leaving = computed(() => {
    const after = new Map(items.value.map(item => [item.id, item]))
    return student.before ? student.standingPlan.entries.filter(entry => after.get(entry.id)?.term !== entry.term) : []
  })
  const leavingFrom = (lane: string, term: string) => leaving.value.filter(entry => entry.term === term).flatMap((entry) => {
    const next = items.value.find(item => item.id === entry.id)
    // What is taken out has no lane any more: it is struck where it counted.
    const place = next ? laneOf(next) : laneBefore(entry.id)
    return place === lane ? [{ ...entry, to: next?.term ? shortTermName(catalog.term(next.term)!) : '' }] : []
  })
  const laneBefore = (id: string) => {
    for (const report of student.before?.reports ?? []) {
      const area = report.areas.find(one => one.lines.some(line => line.uses.some(use => use.item.id === id)))
      if (area) return lineRef(report.code, area.id)
    }
    return OFF_PATH
  }
  const load = (term: string) => student.shown?.loads.find(l => l.term === term)

  return { lanes, leavingFrom, heldIn, columns, pastColumns, early, cell, also, alsoEarly, load, showAll, showPast }
}
