import type { CourseCode, CourseItem, Credits, TermCode } from '../catalog/types'

/** A course that the student means to take in a term. */
export interface PlanEntry {
  id: string
  course: CourseCode
  term: TermCode
  credits: Credits
  /** "Leave this where it is." */
  pinned: boolean
  /** Id of the requirement line that this course must fill, when the student said so. */
  pinnedUse: string | null
  note: string
}

/** One step of editing a plan; a plan is the result of its operations in order. */
export type PlanOperation
  = | { kind: 'place', entry: string, course: CourseCode, term: TermCode, credits: Credits }
    | { kind: 'move', entry: string, term: TermCode }
    | { kind: 'remove', entry: string }
    | { kind: 'pin', entry: string, pinned: boolean }
    | { kind: 'pin use', entry: string, line: string | null }
    | { kind: 'note', entry: string, note: string }

export type OperationProblem = 'no such course in the plan' | 'already in the plan for that term'

/**
 * Applies one operation and gives the new entries; the old ones are not changed.
 * An operation on an entry that is gone, or a second placement of the same course in the same term, is refused by name.
 */
export function applyOperation(entries: readonly PlanEntry[], operation: PlanOperation): PlanEntry[] | OperationProblem {
  const target = entries.find(entry => entry.id === operation.entry)
  const occupied = (course: string, term: string) => entries.some(entry => entry.course === course && entry.term === term && entry.id !== operation.entry)
  if (operation.kind === 'place') {
    if (target || occupied(operation.course, operation.term)) return 'already in the plan for that term'
    const { entry: id, course, term, credits } = operation
    return [...entries, { id, course, term, credits, pinned: false, pinnedUse: null, note: '' }]
  }
  if (!target) return 'no such course in the plan'
  if (operation.kind === 'remove') return entries.filter(entry => entry !== target)
  if (operation.kind === 'move' && occupied(target.course, operation.term)) return 'already in the plan for that term'
  return entries.map(entry => entry === target ? changed(entry, operation) : entry)
}

function changed(entry: PlanEntry, operation: Exclude<PlanOperation, { kind: 'place' | 'remove' }>): PlanEntry {
  switch (operation.kind) {
    case 'move': return { ...entry, term: operation.term }
    case 'pin': return { ...entry, pinned: operation.pinned }
    case 'pin use': return { ...entry, pinnedUse: operation.line }
    case 'note': return { ...entry, note: operation.note }
  }
}

/** The operation that takes `operation` back, for undo; `before` are the entries it was applied to. */
export function inverseOperation(before: readonly PlanEntry[], operation: PlanOperation): PlanOperation[] {
  const old = before.find(entry => entry.id === operation.entry)
  if (operation.kind === 'place') return [{ kind: 'remove', entry: operation.entry }]
  if (!old) return []
  const entry = old.id
  switch (operation.kind) {
    case 'move': return [{ kind: 'move', entry, term: old.term }]
    case 'pin': return [{ kind: 'pin', entry, pinned: old.pinned }]
    case 'pin use': return [{ kind: 'pin use', entry, line: old.pinnedUse }]
    case 'note': return [{ kind: 'note', entry, note: old.note }]
    case 'remove': {
      const again: PlanOperation[] = [{ kind: 'place', entry, course: old.course, term: old.term, credits: old.credits }]
      if (old.pinned) again.push({ kind: 'pin', entry, pinned: true })
      if (old.pinnedUse) again.push({ kind: 'pin use', entry, line: old.pinnedUse })
      if (old.note) again.push({ kind: 'note', entry, note: old.note })
      return again
    }
  }
}

/**
 * Record, registrations and plan as one list of items: a registration stands for the plan entry of the same course and term,
 * and a plan entry whose bundle is chosen is picked.
 */
export function mergeItems(record: readonly CourseItem[], entries: readonly PlanEntry[], picked: ReadonlySet<string>): CourseItem[] {
  const firm = new Set(record.map(item => `${item.course} ${item.term}`))
  const intended = entries.filter(entry => !firm.has(`${entry.course} ${entry.term}`)).map((entry): CourseItem => ({
    id: entry.id, course: entry.course, term: entry.term, credits: entry.credits, grade: null,
    state: picked.has(`${entry.course} ${entry.term}`) ? 'picked' : 'planned', source: 'here',
  }))
  return [...record, ...intended]
}
