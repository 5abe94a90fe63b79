import { applyAll, type Plan, type PlanOperation } from '@ridgeway/core/planning'
import type { usePlanSync } from './sync'

/** A change as one line of a suggestion, and what takes it back is only that it goes. */
type Line = PlanOperation[]

/** A course that is moved on is moved once: of two moves the later one counts. */
function joined(lines: readonly Line[], line: Line): Line[] {
  const [move] = line
  const isMove = (one: Line, entry: string) => one.length === 1 && one[0]!.kind === 'move' && one[0]!.entry === entry
  if (line.length !== 1 || move?.kind !== 'move') return [...lines, line]
  return [...lines.filter(one => !isMove(one, move.entry)), line]
}

/**
 * What an advisor tries on somebody's plan without changing it: while it is on, whatever is done to the plan is collected line by line,
 * and every view shows the plan as it would be. Nothing is sent until the suggestion is.
 */
export function useSuggesting({ plan: own, edit: keep, undo: back, redo: again, done, undone }: Pick<ReturnType<typeof usePlanSync>,
  'plan' | 'edit' | 'undo' | 'redo' | 'done' | 'undone'>) {
  const lines = shallowRef<Line[] | null>(null)
  const taken = shallowRef<Line[]>([])
  /** The plan with the lines that still make sense on it: somebody may change it meanwhile. */
  const plan = computed<Plan>(() => (lines.value ?? []).reduce<Plan>((now, line) => {
    const next = applyAll(now, line)
    return typeof next === 'string' ? now : next
  }, own.value))

  function start() {
    lines.value = []
    taken.value = []
  }
  const stop = () => lines.value = null

  async function edit(operations: readonly PlanOperation[], remember = true): Promise<string | null> {
    if (!lines.value) return keep(operations, remember)
    const next = applyAll(plan.value, operations)
    if (typeof next === 'string') return next
    lines.value = joined(lines.value, [...operations])
    taken.value = []
    return null
  }
  async function undo(): Promise<unknown> {
    if (!lines.value) return back()
    const last = lines.value.at(-1)
    if (!last) return null
    lines.value = lines.value.slice(0, -1)
    taken.value = [...taken.value, last]
    return null
  }
  async function redo(): Promise<unknown> {
    if (!lines.value) return again()
    const last = taken.value.at(-1)
    if (!last) return null
    taken.value = taken.value.slice(0, -1)
    lines.value = [...lines.value, last]
    return null
  }
  /** Makes one line of two: they are taken together or not at all, as when one course is exchanged for another. */
  const join = (index: number) => lines.value = lines.value?.flatMap((line, i, all) =>
    i === index ? [] : [i === index - 1 ? [...line, ...all[index]!] : line]) ?? null
  const drop = (index: number) => lines.value = lines.value?.filter((_, i) => i !== index) ?? null

  return { lines, plan, start, stop, edit, undo, redo, drop, join, done: computed<readonly unknown[]>(() => lines.value ?? done.value),
    undone: computed<readonly unknown[]>(() => lines.value ? taken.value : undone.value) }
}
