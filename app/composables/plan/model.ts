import type { CourseItem, Term } from '@ridgeway/core/catalog'
import { findLinks, type PlanCheck } from '@ridgeway/core/planning'
import { shortTermName } from '@ridgeway/words'
import type { InjectionKey } from 'vue'
import { providePlanCommands } from './commands'
import type { Dragged, DropPlace } from './drag'

export type PlanModel = ReturnType<typeof createPlan>
const PLAN: InjectionKey<PlanModel> = Symbol('plan board')

/** The plan page: the board, what is chosen and opened on it, and what keys and drops do. Its parts ask for it with `usePlan`. */
export function providePlan(grid: Readonly<Ref<HTMLElement | null>>): PlanModel {
  const plan = createPlan(grid)
  provide(PLAN, plan)
  return plan
}
export const usePlan = (): PlanModel => inject(PLAN)!

function createPlan(grid: Readonly<Ref<HTMLElement | null>>) {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const draft = useDraftStore()
  const { checksOf } = useItems()
  const commands = providePlanCommands()
  const board = usePlanBoard()
  const columns = usePlanColumns(board, commands.isFuture)
  const panel = usePlanPanel()
  const walk = usePlanProblems(panel, commands.edit)
  const tray = usePlanTray()
  const marked = ref<string[]>([])

  const selectedId = computed(() => {
    if (panel.value?.kind === 'tile') return panel.value.id
    const { kind, id } = panel.value?.kind === 'problem' ? panel.value : { kind: null, id: '' }
    return kind ? walk.problems.value.find(check => check.id === id)?.itemId ?? null : null
  })
  const selected = computed(() => student.shown?.items.find(item => item.id === selectedId.value) ?? null)
  const heldPlace = computed(() => student.plan.placeholders.find(place => place.id === selectedId.value) ?? null)
  const links = computed(() =>
    selected.value && !draft.looked ? findLinks(selected.value, { items: student.standing!.items, courses: catalog.courses }) : null,
  )
  const entryOf = (id: string) => student.entries.find(entry => entry.id === id)
  /** Where a course stands now, while a draft or a suggestion is looked at. */
  const standsAt = (id: string) => student.before ? student.standingPlan.entries.find(entry => entry.id === id) : undefined
  const commented = computed(() => new Set(student.state?.comments.map(comment => comment.entry)))
  /** How a tile stands to everything else on the board, as its mark shows it. */
  function marksOf(id: string) {
    const checks = checksOf({ id })
    return { problems: checks.length, blocking: checks.some(check => check.severity === 'blocker'), movable: commands.isMovable(id),
      selected: id === selectedId.value, marked: marked.value.includes(id) }
  }
  function courseMarksOf(item: CourseItem) {
    const entry = entryOf(item.id)
    const before = standsAt(item.id)
    const moved = before && before.term !== item.term
    const tie = links.value?.before.includes(item.id)
      ? 'comes first' as const
      : links.value?.beside.includes(item.id)
        ? 'goes with it' as const
        : links.value?.after.includes(item.id)
          ? 'waits for it' as const
          : '' as const
    return { ...marksOf(item.id), tie, pinned: entry?.pinned ?? false, noted: Boolean(entry?.note), commented: commented.value.has(item.id),
      ghost: student.before !== null && item.state === 'planned' && !before,
      from: moved ? shortTermName(catalog.term(before.term)!) : '' }
  }
  /** The selected course's slack as a track: the terms it can slide along in its lane. */
  function isOnTrack(lane: string, term: string) {
    const item = selected.value
    if (!item?.term || !student.projection?.windows[item.id]?.terms.includes(term)) return false
    return board.cell(lane, item.term).some(other => other.id === item.id)
  }

  const close = () => panel.value = null
  const showTile = (id: string) => panel.value = { kind: 'tile', id }
  const focusTile = (id: string) => grid.value?.querySelector<HTMLElement>(`[data-item="${CSS.escape(id)}"]`)?.focus()
  /** What moves with a tile: all that is marked, when it is one of them. */
  const withMarked = (id: string) => marked.value.includes(id) ? marked.value.filter(commands.isMovable) : [id]

  function mark(id: string) {
    marked.value = marked.value.includes(id) ? marked.value.filter(other => other !== id) : [...marked.value, id]
  }
  function openTile(id: string, event?: MouseEvent | KeyboardEvent) {
    if (event && (event.ctrlKey || event.metaKey || event.shiftKey)) return mark(id)
    marked.value = []
    showTile(id)
  }
  /** What is new on the board is opened at once, and not when the server has answered. */
  async function showNew({ id, done }: { id: string, done: Promise<void> }) {
    // What could not be placed is told, and there is nothing to open.
    if (commands.tileOf(id)) showTile(id)
    await done
  }
  const place = (code: string, term: Term) => showNew(commands.place(code, term))
  const hold = ({ program, line }: Omit<Extract<Dragged, { kind: 'line' }>, 'kind'>, term: Term) =>
    showNew(commands.hold(program, line, term))
  const choose = (code: string) => heldPlace.value && showNew(commands.choose(heldPlace.value, code))
  async function drop(what: Dragged, { term: code, lane }: DropPlace) {
    const term = catalog.term(code)
    if (!term || !commands.isFuture(term)) return
    if (what.kind === 'course') return place(what.code, term)
    if (what.kind === 'line') return hold(what, term)
    const tile = commands.tileOf(what.id)
    if (tile) await commands.move(tile, withMarked(what.id).flatMap(id => commands.tileOf(id) ?? []), term, lane)
  }
  /** Does something to a tile that is drawn elsewhere at once; the focus goes along then, and not when the server has answered. */
  async function follow(id: string, work: Promise<unknown>) {
    columns.show(commands.tileOf(id)?.term)
    await nextTick()
    focusTile(id)
    await work
  }
  async function shift(id: string, by: 1 | -1) {
    const tile = commands.tileOf(id)
    if (tile && commands.isMovable(id))
      await follow(id, commands.shift(tile, withMarked(id).flatMap(other => commands.tileOf(other) ?? []), by))
  }
  async function changeLane(id: string, by: 1 | -1) {
    const item = commands.itemOf(id)
    const change = item && commands.isMovable(id) ? commands.changeLane(item, board.lanes.value, by) : null
    if (change) await follow(id, change)
  }
  async function remove(ids: readonly string[]) {
    const all = [...grid.value?.querySelectorAll<HTMLElement>('[data-item]') ?? []].map(tile => tile.dataset.item!)
    const at = all.indexOf(ids[0] ?? '')
    const next = [...all.slice(at), ...all.slice(0, at).reverse()].find(id => !ids.includes(id))
    const removing = commands.remove(ids)
    close()
    marked.value = []
    await nextTick()
    if (next) focusTile(next)
    await removing
  }
  function goTo(check: PlanCheck) {
    panel.value = { kind: 'problem', id: check.id }
    columns.show(check.term)
    void nextTick(() => {
      const target = walk.placeOf(check)
      if (target) grid.value?.querySelector(target)?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
    })
  }

  /** Keys on a tile of the board. */
  function onTileKey(event: KeyboardEvent, id: string) {
    const movable = commands.isMovable(id)
    const KEYS: Record<string, () => unknown> = event.altKey
      ? { ArrowLeft: () => shift(id, -1), ArrowRight: () => shift(id, 1), ArrowUp: () => changeLane(id, -1),
          ArrowDown: () => changeLane(id, 1) }
      : { 'Enter': () => openTile(id), ' ': () => mark(id),
          ...movable
            ? { p: () => commands.pin(withMarked(id)), Delete: () => remove(withMarked(id)), Backspace: () => remove(withMarked(id)) }
            : {} }
    if (event.ctrlKey || event.metaKey || !Object.hasOwn(KEYS, event.key)) return
    event.preventDefault()
    void KEYS[event.key]!()
  }

  return { board, commands, ...columns, panel, ...walk, tray, marked, selectedId, selected, heldPlace, links, marksOf, courseMarksOf,
    isOnTrack, close, mark, openTile, place, hold, choose, drop, remove, goTo, onTileKey }
}
