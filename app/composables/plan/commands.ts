import { type CourseItem, type Credits, type Term, termPhase } from '@ridgeway/core/catalog'
import { fillPlaceholder, partnersOf, placeWithPartners, type PlanOperation, type Standing } from '@ridgeway/core/planning'
import { lineRef, type LineRef, newEntryId, parseLineRef } from '@ridgeway/core/record'
import type { LineReport } from '@ridgeway/core/requirements'
import { formatCredits, sayOpen, sayCheck, sayTerm } from '@ridgeway/words'
import type { InjectionKey } from 'vue'

/** A tile of the board: a course, or a place still to choose. */
export type BoardTile = Pick<CourseItem, 'id'> & { term: string | null, course?: string }
/** What was asked for: the new entry, and when the server has it. */
interface Placed { id: string, done: Promise<void> }
export type PlanCommands = ReturnType<typeof createPlanCommands>
const COMMANDS: InjectionKey<PlanCommands> = Symbol('plan commands')

/** A page where the plan can be changed: everything on it changes it by the same commands, and says it in one place. */
export function providePlanCommands(): PlanCommands {
  const commands = createPlanCommands()
  provide(COMMANDS, commands)
  return commands
}
export const usePlanCommands = (): PlanCommands => inject(COMMANDS)!

/** What moving, placing and taking out come to as operations, corequisite partners included; each is one step to undo. */
function createPlanCommands() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const draft = useDraftStore()
  const { laneOf } = useItems()
  const { today } = useNow()
  /** What the last command came to, in one line. */
  const said = ref('')

  const isFuture = (term: Term) => termPhase(term, today.value) === 'future'
  const future = computed(() => catalog.terms.filter(isFuture))
  const links = computed(() => ({ items: student.standing?.items ?? [], courses: catalog.courses }))
  const itemOf = (id: string) => student.standing?.items.find(item => item.id === id)
  const tileOf = (id: string): BoardTile | null => itemOf(id) ?? student.plan.placeholders.find(place => place.id === id) ?? null
  const nameOf = (tile: BoardTile) => tile.course ?? 'a place to choose'
  const freshId = (base: string) => `${base}-${crypto.randomUUID().slice(0, 4)}`

  /** Whether a tile can be moved, pinned and taken out by who looks at it now. */
  function isMovable(id: string): boolean {
    if (!student.mayEdit || draft.looked) return false
    const item = itemOf(id)
    return item ? item.state === 'planned' || item.state === 'picked' : student.plan.placeholders.some(place => place.id === id)
  }

  async function edit(operations: PlanOperation[], what: string) {
    if (operations.length === 0) return
    const before = student.standing!
    const sending = student.edit(operations)
    const after = student.standing!
    said.value = after === before ? '' : [what, ...differences(before, after)].join(' · ')
    const problem = await sending
    if (problem) said.value = `${what}: ${problem}.`
    else if (student.saving === 'kept here') said.value += ' · kept on this device, not sent yet'
  }
  function differences(before: Standing, after: Standing): string[] {
    const parts: string[] = []
    const covered = before.open - after.open
    parts.push(
      covered === 0
        ? 'covers the same'
        : covered > 0
          ? `covers ${formatCredits(covered)} cr more`
          : `${sayOpen(-covered)} again`,
    )
    if (before.finish !== after.finish) parts.push(after.finish ? `finish ${catalog.term(after.finish)?.name}` : 'not all covered')
    else if (after.finish) parts.push('finish unchanged')
    const old = new Set(before.checks.map(check => check.id))
    const now = new Set(after.checks.map(check => check.id))
    for (const check of after.checks.filter(c => !old.has(c.id)).slice(0, 2)) parts.push(sayCheck(check))
    const mended = before.checks.filter(check => !now.has(check.id)).length
    if (mended > 0) parts.push(`${count(mended, 'problem')} mended`)
    return parts
  }

  async function undo() {
    said.value = student.done.length ? 'Undone' : 'Nothing to undo'
    await student.undo()
  }
  async function redo() {
    said.value = student.undone.length ? 'Done again' : 'Nothing to do again'
    await student.redo()
  }

  /** The tiles with their partners, each once. */
  function withPartners(tiles: readonly BoardTile[]): BoardTile[] {
    const all = new Map(tiles.map(tile => [tile.id, tile]))
    for (const tile of tiles) {
      const entry = student.entries.find(one => one.id === tile.id)
      for (const partner of entry ? partnersOf(entry, student.entries, links.value) : [])
        all.set(partner.id, { id: partner.id, term: partner.term, course: partner.course })
    }
    return [...all.values()]
  }

  /** Moves an item; into another lane where it may count, that use is pinned. */
  function moveInto(item: CourseItem, term: Term, lane: string | null): PlanOperation[] {
    const operations: PlanOperation[] = []
    if (term.code !== item.term) operations.push({ kind: 'move', entry: item.id, term: term.code })
    if (lane && lane !== laneOf(item) && lane !== OFF_PATH && lane !== OTHER_CREDIT) {
      const { program, line: areaId } = parseLineRef(lane as LineRef)
      const report = student.shown?.reports.find(r => r.code === program)
      const line = report?.areas.find(a => a.id === areaId)?.lines.find(l => report.couldCount[item.id]?.includes(l.id))
      if (line) operations.push({ kind: 'pin use', entry: item.id, line: lineRef(program, line.id) })
    }
    return operations
  }

  /** Moves tiles as one: the held one to the term, the others as many terms as it. */
  async function move(held: BoardTile, others: readonly BoardTile[], term: Term, lane: string | null) {
    if (!isFuture(term)) return
    const at = (code: string | null) => catalog.terms.findIndex(one => one.code === code)
    const by = at(term.code) - at(held.term)
    const tiles = withPartners([held, ...others.filter(tile => tile.id !== held.id)])
    const operations = tiles.flatMap((tile): PlanOperation[] => {
      const target = tile.id === held.id || tile.term === held.term ? term : catalog.terms[at(tile.term) + by]
      if (!target || !isFuture(target)) return []
      const item = itemOf(tile.id)
      if (tile.id === held.id && item) return moveInto(item, target, lane)
      return target.code === tile.term ? [] : [{ kind: 'move', entry: tile.id, term: target.code }]
    })
    await edit(operations,
      tiles.length === 1
        ? `${nameOf(held)} moved to ${term.name}`
        : `${tiles.map(nameOf).join(', ')} moved${
          by === 0 ? '' : ` to ${term.name}${tiles.some(tile => tile.term !== held.term) ? ' and as far' : ''}`
        }`)
  }

  /** Moves tiles one term on or back; summers are passed over where nothing of them is offered then. */
  async function shift(held: BoardTile, others: readonly BoardTile[], by: 1 | -1) {
    const runsInSummer = held.course !== undefined && catalog.courses.get(held.course)?.offered.seasons.includes('summer')
    const terms = future.value.filter(term => term.season !== 'summer' || runsInSummer)
    const target = terms[terms.findIndex(term => term.code === held.term) + by]
    if (!target || terms.every(term => term.code !== held.term)) return
    await move(held, others, target, null)
  }

  /** Into the next of these lanes, up or down, where the course may count too: its use is pinned there. Null where there is none. */
  function changeLane(item: CourseItem, lanes: readonly { id: string, title: string }[], by: 1 | -1): Promise<void> | null {
    const term = item.term && catalog.term(item.term)
    if (!term) return null
    for (let at = lanes.findIndex(lane => lane.id === laneOf(item)) + by; at >= 0 && at < lanes.length; at += by) {
      const operations = moveInto(item, term, lanes[at]!.id)
      if (operations.length > 0) return edit(operations, `${item.course} pinned to ${lanes[at]!.title}`)
    }
    return null
  }

  /**
   * Places a course, for so many credits where they vary, with what must be taken beside it; gives the new entry's id, and `done` when it
   * is sent.
   */
  function place(code: string, term: Term, credits?: Credits): Placed {
    const id = freshId(newEntryId(code, term.code))
    const state = student.state!
    const operations = placeWithPartners(code, term.code, {
      ...links.value,
      entries: student.entries,
      ...catalog.rules,
      facts: state.file,
    }, id)
    const codes = operations.flatMap(operation => operation.kind === 'place' ? [operation.course] : [])
    if (credits !== undefined) operations.push({ kind: 'credits', entry: id, credits })
    return { id,
      done: edit(operations, `${codes.join(' and ')} placed in ${term.name}${codes.length > 1 ? ', since they go together' : ''}`) }
  }

  /** Holds a place for a line: a course of it to be chosen later. */
  function hold(program: string, line: Pick<LineReport, 'id' | 'title' | 'open'>, term: Term): Placed {
    const id = freshId('hold')
    const credits = Math.min(300, line.open)
    return { id, done: edit([{ kind: 'hold', entry: id, line: lineRef(program, line.id), term: term.code, credits }],
      `A place for ${line.title} held in ${term.name}`) }
  }

  /** Puts a course where a place was held for it. */
  function choose(placeholder: { id: string, term: string, line: LineRef }, code: string): Placed {
    const id = freshId(newEntryId(code, placeholder.term))
    return { id, done: edit(fillPlaceholder(placeholder, catalog.courses.get(code)!, id),
      `${code} chosen for ${sayTerm(placeholder.term)}`) }
  }

  const remove = (ids: readonly string[]) => {
    const tiles = ids.flatMap(id => tileOf(id) ?? [])
    return edit(tiles.map(tile => ({ kind: 'remove', entry: tile.id })), `${tiles.map(nameOf).join(', ')} taken out`)
  }
  function pin(ids: readonly string[]) {
    const entries = student.entries.filter(entry => ids.includes(entry.id))
    const pinned = entries.some(entry => !entry.pinned)
    return edit(entries.map(entry => ({ kind: 'pin', entry: entry.id, pinned })),
      `${entries.map(entry => entry.course).join(', ')} ${pinned ? 'pinned' : 'unpinned'}`)
  }
  return { said, edit, undo, redo, future, isFuture, isMovable, itemOf, tileOf, move, shift, changeLane, place, hold, choose, remove, pin }
}
