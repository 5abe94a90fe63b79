import type { CourseCode, CourseItem, Credits, TermCode } from '../catalog/types'
import { type LineRef, type PickRef, pickRef } from '../record/ids'

/** A course that the student means to take in a term. */
export interface PlanEntry {
  id: string
  course: CourseCode
  term: TermCode
  credits: Credits
  /** "Leave this where it is." */
  pinned: boolean
  /** Id of the requirement line that this course must fill, when the student said so. */
  pinnedUse: LineRef | null
  note: string
}

/** "One of these, to be chosen later": it holds credits of a requirement line in a term until a course takes its place. */
export interface Placeholder {
  id: string
  /** The line it stands for. */
  line: LineRef
  term: TermCode
  credits: Credits
  note: string
}

/** What the student asks of the terms ahead. */
export interface Wishes {
  /** Credits wanted in a term, neither much more nor less; null for no wish. */
  target: Credits | null
  /** Terms in which nothing is to be taken. */
  termsOff: TermCode[]
  /** Last term that the plan may use. */
  latestFinish: TermCode | null
}

export const NO_WISHES: Wishes = { target: null, termsOff: [], latestFinish: null }

/** A whole plan: what stands where, what is wished for, and the notes on it. */
export interface Plan {
  entries: PlanEntry[]
  placeholders: Placeholder[]
  wishes: Wishes
  /** Note on the plan as a whole. */
  note: string
  termNotes: Record<TermCode, string>
}

export const EMPTY_PLAN: Plan = { entries: [], placeholders: [], wishes: NO_WISHES, note: '', termNotes: {} }

/** One step of editing a plan; a plan is the result of its operations in order. */
export type PlanOperation
  = | { kind: 'place', entry: string, course: CourseCode, term: TermCode, credits: Credits }
  /** Places a placeholder for a requirement line. */
    | { kind: 'hold', entry: string, line: LineRef, term: TermCode, credits: Credits }
  /** `entry` is an entry's or a placeholder's id, here and in `remove`, `note` and `credits`. */
    | { kind: 'move', entry: string, term: TermCode }
    | { kind: 'remove', entry: string }
    | { kind: 'pin', entry: string, pinned: boolean }
    | { kind: 'pin use', entry: string, line: LineRef | null }
    | { kind: 'credits', entry: string, credits: Credits }
    | { kind: 'note', entry: string, note: string }
    | { kind: 'wishes', wishes: Wishes }
    | { kind: 'plan note', note: string }
    | { kind: 'term note', term: TermCode, note: string }

export type OperationProblem = 'no such course in the plan' | 'already in the plan for that term'

/**
 * Applies one operation and gives the new plan; the old one is not changed.
 * An operation on an entry that is gone, or a second placement of the same course in the same term, is refused by name.
 */
export function applyToPlan(plan: Plan, operation: PlanOperation): Plan | OperationProblem {
  switch (operation.kind) {
    case 'wishes':
      return { ...plan, wishes: operation.wishes }
    case 'plan note':
      return { ...plan, note: operation.note }
    case 'term note': {
      const { [operation.term]: _, ...others } = plan.termNotes
      return { ...plan, termNotes: operation.note ? { ...others, [operation.term]: operation.note } : others }
    }
    case 'hold': {
      if (idsOf(plan).has(operation.entry)) return 'already in the plan for that term'
      const { entry: id, line, term, credits } = operation
      return { ...plan, placeholders: [...plan.placeholders, { id, line, term, credits, note: '' }] }
    }
  }
  const held = plan.placeholders.find(placeholder => placeholder.id === operation.entry)
  if (operation.kind === 'place' && held) return 'already in the plan for that term'
  if (held) {
    const placeholders = operation.kind === 'remove'
      ? plan.placeholders.filter(placeholder => placeholder !== held)
      : plan.placeholders.map(placeholder => placeholder === held ? changedPlaceholder(held, operation) : placeholder)
    return { ...plan, placeholders }
  }
  const entries = applyOperation(plan.entries, operation)
  return typeof entries === 'string' ? entries : { ...plan, entries }
}

const idsOf = (plan: Plan) => new Set([...plan.entries, ...plan.placeholders].map(one => one.id))

type EntryOperation = Extract<PlanOperation, { entry: string }>

function changedPlaceholder(held: Placeholder, operation: EntryOperation): Placeholder {
  switch (operation.kind) {
    case 'move':
      return { ...held, term: operation.term }
    case 'note':
      return { ...held, note: operation.note }
    case 'credits':
      return { ...held, credits: operation.credits }
    default:
      return held
  }
}

/** Applies operations in order; the first that cannot be done is named, and nothing of them is. */
export function applyAll(plan: Plan, operations: readonly PlanOperation[]): Plan | OperationProblem {
  let now = plan
  for (const operation of operations) {
    const next = applyToPlan(now, operation)
    if (typeof next === 'string') return next
    now = next
  }
  return now
}

/** Applies to the entries alone; operations on anything else leave them as they are. */
function applyOperation(entries: readonly PlanEntry[], operation: PlanOperation): PlanEntry[] | OperationProblem {
  if (!('entry' in operation) || operation.kind === 'hold') return [...entries]
  const target = entries.find(entry => entry.id === operation.entry)
  const occupied = (course: string, term: string) =>
    entries.some(entry => entry.course === course && entry.term === term && entry.id !== operation.entry)
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

function changed(entry: PlanEntry, operation: EntryOperation): PlanEntry {
  switch (operation.kind) {
    case 'move':
      return { ...entry, term: operation.term }
    case 'pin':
      return { ...entry, pinned: operation.pinned }
    case 'pin use':
      return { ...entry, pinnedUse: operation.line }
    case 'credits':
      return { ...entry, credits: operation.credits }
    case 'note':
      return { ...entry, note: operation.note }
    default:
      return entry
  }
}

/** The operations that take `operation` back, for undo; `before` is the plan it was applied to. */
export function inverseOperation(before: Plan, operation: PlanOperation): PlanOperation[] {
  switch (operation.kind) {
    case 'wishes':
      return [{ kind: 'wishes', wishes: before.wishes }]
    case 'plan note':
      return [{ kind: 'plan note', note: before.note }]
    case 'term note':
      return [{ kind: 'term note', term: operation.term, note: before.termNotes[operation.term] ?? '' }]
    case 'place':
    case 'hold':
      return [{ kind: 'remove', entry: operation.entry }]
  }
  const { entry } = operation
  const held = before.placeholders.find(placeholder => placeholder.id === entry)
  const old = before.entries.find(candidate => candidate.id === entry)
  const was = old ?? held
  if (!was) return []
  switch (operation.kind) {
    case 'move':
      return [{ kind: 'move', entry, term: was.term }]
    case 'credits':
      return [{ kind: 'credits', entry, credits: was.credits }]
    case 'note':
      return [{ kind: 'note', entry, note: was.note }]
    case 'pin':
      return old ? [{ kind: 'pin', entry, pinned: old.pinned }] : []
    case 'pin use':
      return old ? [{ kind: 'pin use', entry, line: old.pinnedUse }] : []
    case 'remove': {
      const again: PlanOperation[] = old
        ? [{ kind: 'place', entry, course: old.course, term: old.term, credits: old.credits }]
        : [{ kind: 'hold', entry, line: held!.line, term: held!.term, credits: held!.credits }]
      if (old?.pinned) again.push({ kind: 'pin', entry, pinned: true })
      if (old?.pinnedUse) again.push({ kind: 'pin use', entry, line: old.pinnedUse })
      if (was.note) again.push({ kind: 'note', entry, note: was.note })
      return again
    }
  }
}

/**
 * The operations that make one plan of the other: what to take out, to move, to change and to place, in that order. Each can be done after
 * those before it: what stands where another entry of its course is to stand is taken out first, and placed anew.
 */
export function operationsBetween(from: Plan, to: Plan): PlanOperation[] {
  const operations: PlanOperation[] = []
  const old = new Map([...from.entries, ...from.placeholders].map(one => [one.id, one]))
  const now = new Set([...to.entries, ...to.placeholders].map(one => one.id))
  const standsAt = new Map(to.entries.map(entry => [`${entry.course} ${entry.term}`, entry.id]))
  const isInTheWay = (one: PlanEntry | Placeholder) => 'course' in one
    && (standsAt.get(`${one.course} ${one.term}`) ?? one.id) !== one.id
  for (const [id, one] of old) {
    if (now.has(id) && !isInTheWay(one)) continue
    operations.push({ kind: 'remove', entry: id })
    old.delete(id)
  }
  for (const one of [...to.entries, ...to.placeholders]) {
    const entry = one.id
    const was = old.get(entry)
    if (
      was && ('line' in was) === ('line' in one)
      && ('line' in one ? (was as Placeholder).line === one.line : (was as PlanEntry).course === one.course)
    ) {
      if (was.term !== one.term) operations.push({ kind: 'move', entry, term: one.term })
      if (was.credits !== one.credits) operations.push({ kind: 'credits', entry, credits: one.credits })
      if (was.note !== one.note) operations.push({ kind: 'note', entry, note: one.note })
      if ('pinned' in one && 'pinned' in was) {
        if (was.pinned !== one.pinned) operations.push({ kind: 'pin', entry, pinned: one.pinned })
        if (was.pinnedUse !== one.pinnedUse) operations.push({ kind: 'pin use', entry, line: one.pinnedUse })
      }
      continue
    }
    if (was) operations.push({ kind: 'remove', entry })
    operations.push(
      'line' in one
        ? { kind: 'hold', entry, line: one.line, term: one.term, credits: one.credits }
        : { kind: 'place', entry, course: one.course, term: one.term, credits: one.credits },
    )
    if (one.note) operations.push({ kind: 'note', entry, note: one.note })
    if ('pinned' in one) {
      if (one.pinned) operations.push({ kind: 'pin', entry, pinned: true })
      if (one.pinnedUse) operations.push({ kind: 'pin use', entry, line: one.pinnedUse })
    }
  }
  if (JSON.stringify(from.wishes) !== JSON.stringify(to.wishes)) operations.push({ kind: 'wishes', wishes: to.wishes })
  if (from.note !== to.note) operations.push({ kind: 'plan note', note: to.note })
  for (const term of new Set([...Object.keys(from.termNotes), ...Object.keys(to.termNotes)])) {
    if (from.termNotes[term] !== to.termNotes[term]) operations.push({ kind: 'term note', term, note: to.termNotes[term] ?? '' })
  }
  return operations
}

/**
 * Record, registrations and plan as one list of items: a registration stands for the plan entry of the same course and term,
 * and a plan entry whose bundle is chosen is picked.
 */
export function mergeItems(record: readonly CourseItem[], entries: readonly PlanEntry[], picked: ReadonlySet<PickRef>): CourseItem[] {
  const firm = new Set(record.flatMap(item => item.term ? [pickRef(item.course, item.term)] : []))
  const intended = entries.filter(entry => !firm.has(pickRef(entry.course, entry.term))).map((entry): CourseItem => ({
    id: entry.id,
    course: entry.course,
    term: entry.term,
    credits: entry.credits,
    grade: null,
    state: picked.has(pickRef(entry.course, entry.term)) ? 'picked' : 'planned',
    source: 'here',
  }))
  return [...record, ...intended]
}
