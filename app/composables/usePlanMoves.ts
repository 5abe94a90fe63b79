import { type CourseItem, type Term, termPhase } from '@ridgeway/core/catalog'
import { partnersOf, placeWithPartners, type PlanOperation } from '@ridgeway/core/planning'
import { lineRef, type LineRef, newEntryId } from '@ridgeway/core/record'
import type { LineReport } from '@ridgeway/core/requirements'
import { sayTerm } from '@ridgeway/words'

type Board = ReturnType<typeof usePlanBoard>
/** A tile of the board: a course, or a place still to choose. */
export type BoardTile = Pick<CourseItem, 'id'> & { term: string | null, course?: string }

/** What moving, placing and taking out come to as operations, corequisite partners included; each is one step to undo. */
export function usePlanMoves(board: Board, edit: (operations: PlanOperation[], what: string) => Promise<void>) {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { today } = useNow()

  const isFuture = (term: Term) => termPhase(term, today.value) === 'future'
  const future = computed(() => catalog.terms.filter(isFuture))
  const links = computed(() => ({ items: student.standing?.items ?? [], courses: catalog.courses }))
  const nameOf = (tile: BoardTile) => tile.course ?? 'a place to choose'
  const freshId = (base: string) => `${base}-${crypto.randomUUID().slice(0, 4)}`

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

  /** Moves tiles as one: the held one to the term, the others as many terms as it. */
  async function move(held: BoardTile, others: readonly BoardTile[], term: Term, lane: string | null) {
    if (!isFuture(term)) return
    const at = (code: string | null) => catalog.terms.findIndex(one => one.code === code)
    const by = at(term.code) - at(held.term)
    const tiles = withPartners([held, ...others.filter(tile => tile.id !== held.id)])
    const operations = tiles.flatMap((tile): PlanOperation[] => {
      const target = tile.id === held.id || tile.term === held.term ? term : catalog.terms[at(tile.term) + by]
      if (!target || !isFuture(target)) return []
      const item = student.standing?.items.find(one => one.id === tile.id)
      if (tile.id === held.id && item) return board.operationsFor(item, target, lane)
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
  async function shift(held: BoardTile, others: readonly BoardTile[], by: 1 | -1): Promise<boolean> {
    const runsInSummer = held.course !== undefined && catalog.courses.get(held.course)?.offered.seasons.includes('summer')
    const terms = future.value.filter(term => term.season !== 'summer' || runsInSummer)
    const target = terms[terms.findIndex(term => term.code === held.term) + by]
    if (!target || terms.every(term => term.code !== held.term)) return false
    await move(held, others, target, null)
    return true
  }

  async function place(code: string, term: Term): Promise<string> {
    const id = freshId(newEntryId(code, term.code))
    const state = student.state!
    const operations = placeWithPartners(code, term.code, {
      ...links.value,
      entries: student.entries,
      ...catalog.rules,
      facts: state.file,
    }, id)
    const codes = operations.flatMap(operation => operation.kind === 'place' ? [operation.course] : [])
    await edit(operations, `${codes.join(' and ')} placed in ${term.name}${codes.length > 1 ? ', since they go together' : ''}`)
    return id
  }

  /** Holds a place for a line: a course of it to be chosen later. */
  async function hold(program: string, line: Pick<LineReport, 'id' | 'title' | 'open'>, term: Term): Promise<string> {
    const id = freshId('hold')
    await edit([{ kind: 'hold', entry: id, line: lineRef(program, line.id), term: term.code, credits: Math.min(300, line.open) }],
      `A place for ${line.title} held in ${term.name}`)
    return id
  }

  /** Puts a course where a place was held for it. */
  async function choose(placeholder: { id: string, term: string, line: LineRef }, code: string): Promise<string> {
    const id = freshId(newEntryId(code, placeholder.term))
    await edit([
      { kind: 'remove', entry: placeholder.id },
      { kind: 'place', entry: id, course: code, term: placeholder.term, credits: catalog.courses.get(code)!.credits },
      { kind: 'pin use', entry: id, line: placeholder.line },
    ], `${code} chosen for ${sayTerm(placeholder.term)}`)
    return id
  }

  const remove = (tiles: readonly BoardTile[]) =>
    edit(tiles.map(tile => ({ kind: 'remove', entry: tile.id })), `${tiles.map(nameOf).join(', ')} taken out`)
  function pin(tiles: readonly BoardTile[]) {
    const entries = tiles.flatMap(tile => student.entries.filter(entry => entry.id === tile.id))
    const pinned = entries.some(entry => !entry.pinned)
    return edit(entries.map(entry => ({ kind: 'pin', entry: entry.id, pinned })),
      `${entries.map(entry => entry.course).join(', ')} ${pinned ? 'pinned' : 'unpinned'}`)
  }
  return { future, isFuture, links, move, shift, place, hold, choose, remove, pin }
}
