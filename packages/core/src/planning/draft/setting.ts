import { familyOf, linked } from '../../catalog/linked'
import { isOffered, seasonOf, termOrder, termPhase } from '../../catalog/terms'
import type { Course, CourseItem, Credits, LocalDate, Term, TermCode } from '../../catalog/types'
import { ruleOf } from '../../prerequisites/rule-of'
import { factsOf } from '../../record/facts'
import { Reach } from '../../requirements/reach'
import { creditsIn } from '../loads'
import type { PlanEntry } from '../plan'
import { itemsOf } from '../standing'
import type { Catalog, StudentFile } from '../student-file'
import { certainWaits } from './finish-bound'
import type { ChosenCourse, DraftFacts, DraftWishes, ScheduleProblem, Task, Wait } from './types'
import { NOW, waitReader } from './waits'

/** One student's terms ahead as a draft sees them: what stands firm, what can be moved, what room there is. */
export interface Setting {
  file: StudentFile
  catalog: Catalog
  wishes: DraftWishes
  facts: DraftFacts
  /** Record, registrations and picked courses: nothing of it moves. */
  firm: CourseItem[]
  /** The plan's entries in terms ahead that are not registered or picked. */
  entries: PlanEntry[]
  reach: Reach
  room: Credits[]
  base: Credits[]
}

export function settingOf(file: StudentFile, catalog: Catalog, today: LocalDate, wishes: DraftWishes): Setting {
  const last = wishes.latestFinish
  const terms = catalog.terms.filter(term => termPhase(term, today) === 'future' && (!last || termOrder(term.code) <= termOrder(last)))
    .sort((a, b) => termOrder(a.code) - termOrder(b.code))
  const codes = new Set(terms.map(term => term.code))
  const items = itemsOf(file)
  const own = new Set(items.filter(item => item.state === 'planned' && item.term && codes.has(item.term)).map(item => item.id))
  const entries = file.entries.filter(entry => own.has(entry.id))
  const firm = items.filter(item => item.state !== 'planned')
  const all = linked(catalog.courses)
  const courses = wishes.summers === 'freely' ? all : new Map([...all].map(([code, course]) => [code, withoutSummer(course)]))
  const facts: DraftFacts = { ...factsOf(file, []), terms, courses, scale: catalog.scale, repeatPolicy: catalog.repeatPolicy }
  const base = terms.map(term => creditsIn(firm, term.code, file.placeholders))
  const room = terms.map((term, slot) => {
    if (wishes.termsOff.includes(term.code)) return stays(entries, term.code, wishes)
    const cap = file.capRaised[term.code] ?? term.loadCap
    // What is pinned stays, even where it makes more of a term than is wished for.
    return Math.max(0, Math.min(cap, Math.max(wishes.load ?? cap, base[slot]! + stays(entries, term.code, wishes))) - base[slot]!)
  })
  const reach = new Reach({
    ...facts,
    ...factsOf(file, file.record),
    today,
    terms: catalog.terms.filter(term => !wishes.termsOff.includes(term.code)),
  })
  return { file, catalog, wishes, facts, firm, entries, reach, room, base }
}

export const isHeld = (entry: PlanEntry, wishes: DraftWishes) => entry.pinned || wishes.around === 'placed'
const stays = (entries: readonly PlanEntry[], term: TermCode, wishes: DraftWishes) =>
  entries.reduce((sum, entry) => sum + (entry.term === term && isHeld(entry, wishes) ? entry.credits : 0), 0)

function withoutSummer(course: Course): Course {
  const seasons = course.offered.seasons.filter(season => season !== 'summer')
  return seasons.length === 0 ? course : { ...course, offered: { ...course.offered, seasons } }
}

/** Slots in which a course may be placed. */
export const slotsFor = keptBySetting((code, { facts, wishes }): readonly number[] => {
  const course = facts.courses.get(code)
  return facts.terms.flatMap((term, slot) => course && isOffered(course, term) && !wishes.termsOff.includes(term.code) ? [slot] : [])
})

/**
 * The earliest slot of a course that is in no list, from its own prerequisites and offering; Infinity when it is beyond the terms ahead.
 */
export const reachedSlot = keptBySetting((code, { facts, reach }): number => {
  const { at } = reach.of(code)
  const term = at === null ? undefined : reach.terms[at]
  const slot = term ? facts.terms.findIndex(candidate => candidate.code === term.code) : -1
  return slot < 0 ? Infinity : slot
})

/** What is read of a course in a setting, read once. */
function keptBySetting<T>(read: (code: string, setting: Setting) => T): (code: string, setting: Setting) => T {
  const known = new WeakMap<Setting, Map<string, T>>()
  return (code, setting) => {
    let mine = known.get(setting)
    if (!mine) known.set(setting, mine = new Map())
    let found = mine.get(code)
    if (found === undefined) mine.set(code, found = read(code, setting))
    return found
  }
}

/** The scheduling problem of the plan's own entries and of more courses; those that must stand in one term together are one task. */
export function problemOf(setting: Setting, more: readonly ChosenCourse[],
  outside: ((code: string) => number) | null = null): ScheduleProblem {
  const { facts, entries, firm, wishes } = setting
  const slotOfTerm = new Map(facts.terms.map((term, slot) => [term.code, slot]))
  const suggested = suggestedSlots(setting)
  const single: Task[] = [
    ...entries.map((entry): Task => ({
      courses: [{ code: entry.course, credits: entry.credits, entry: entry.id }],
      credits: entry.credits,
      was: slotOfTerm.get(entry.term)!,
      suggested: suggested.get(entry.course) ?? null,
      slots: isHeld(entry, wishes) ? [slotOfTerm.get(entry.term)!] : slotsFor(entry.course, setting),
    })),
    ...more.map(({ code, credits }): Task => ({
      courses: [{ code, credits, entry: null }],
      credits,
      was: null,
      suggested: suggested.get(code) ?? null,
      slots: slotsFor(code, setting),
    })),
  ]
  const waitsOf = (list: readonly Task[]) => readWaits(list, facts, waitReader(facts, list, firm, outside))
  const alone = waitsOf(single)
  const tasks = joinPartners(single, alone)
  return { tasks, waits: tasks.length === single.length ? alone : waitsOf(tasks), room: setting.room, base: setting.base,
    summer: facts.terms.map(term => term.season === 'summer') }
}

/** What each task waits for, by the rules of its courses. */
function readWaits(tasks: readonly Task[], facts: DraftFacts, read: ReturnType<typeof waitReader>): Wait[] {
  const timeBefore = timesBefore(tasks, facts)
  return tasks.map((task, index): Wait => {
    const of = task.courses.flatMap(({ code }) => {
      const course = facts.courses.get(code)!
      const prerequisite = facts.permissions.includes(code) ? NOW : read(ruleOf(course.prerequisite), course, false)
      return [prerequisite, read(ruleOf(course.corequisite), course, true)].filter(wait => wait !== NOW)
    })
    // A course that is taken several times is taken in several terms: each time waits for the time before.
    const again = timeBefore[index]!
    if (again !== null) of.push({ kind: 'task', task: again, lag: 1 })
    return of.length === 0 ? NOW : besideItself({ kind: 'some', n: of.length, of }, index)
  })
}

/** For each task the one before it that takes the same course or an equivalent, or null; what stands already comes in order. */
function timesBefore(tasks: readonly Task[], facts: DraftFacts): (number | null)[] {
  const byFamily = new Map<string, number[]>()
  const families = tasks.map(task => task.courses.map(one => familyOf(one.code, facts.courses)))
  families.forEach((all, index) => all.forEach(family => byFamily.set(family, [...byFamily.get(family) ?? [], index])))
  const rank = (task: number) => (tasks[task]!.was ?? Infinity)
  return tasks.map((_, index) => {
    const before = families[index]!.flatMap(family => byFamily.get(family)!).filter(other =>
      other !== index && (rank(other) < rank(index) || (rank(other) === rank(index) && other < index)),
    )
    return before.sort((a, b) => rank(b) - rank(a) || b - a)[0] ?? null
  })
}

/** Partners in one task do not wait for each other. */
function besideItself(wait: Wait, task: number): Wait {
  if (wait.kind === 'task' && wait.task === task && wait.lag === 0) return NOW
  return wait.kind === 'some' ? { ...wait, of: wait.of.map(part => besideItself(part, task)) } : wait
}

/**
 * Courses that cannot stand in different terms become one task: those that wait for each other, directly or around a ring, no later than
 * the same term (strongly connected components of these waits; R. Tarjan, Depth-first search and linear graph algorithms, 1972).
 */
function joinPartners(tasks: readonly Task[], waits: readonly Wait[]): Task[] {
  const beside = waits.map(wait => certainWaits(wait).flatMap(({ task, lag }) => lag === 0 ? [task] : []))
  if (beside.every(list => list.length === 0)) return [...tasks]
  const reached = tasks.map((_, from) => {
    const seen = new Set<number>([from])
    for (const task of seen) for (const next of beside[task]!) seen.add(next)
    return seen
  })
  const joined: Task[] = []
  const done = new Set<number>()
  tasks.forEach((task, i) => {
    if (done.has(i)) return
    const ring = [...reached[i]!].filter(other => other >= i && reached[other]!.has(i)).sort((a, b) => a - b)
    ring.forEach(other => done.add(other))
    const mine = ring.map(other => tasks[other]!)
    joined.push(mine.length === 1
      ? task
      : {
          courses: mine.flatMap(one => one.courses),
          credits: mine.reduce((sum, one) => sum + one.credits, 0),
          was: mine.find(one => one.was !== null)?.was ?? null,
          suggested: mine.find(one => one.suggested !== null)?.suggested ?? null,
          slots: task.slots.filter(slot => mine.every(one => one.slots.includes(slot))),
        })
  })
  return joined
}

/** Where the program's suggested sequence puts each course, counted from how far along the student is. */
function suggestedSlots({ file, catalog, facts }: Setting): Map<string, number> {
  const program = catalog.programs.find(candidate => candidate.code === file.programs[0])
  const found = new Map<string, number>()
  if (!program) return found
  const begun = file.record.flatMap(item =>
    item.term && item.source === 'here' && !facts.terms.some(term => term.code === item.term) ? [item.term] : [],
  )
  const longTermsBehind = new Set(begun.filter(code => seasonOf(code) !== 'summer')).size
  const long = facts.terms.flatMap((term, slot) => term.season === 'summer' ? [] : [slot])
  let count = 0
  for (const step of program.suggested) {
    const isSummer = step.season === 'summer'
    const slot = isSummer
      ? facts.terms.findIndex((term, i) => term.season === 'summer' && i > (long[count - 1 - longTermsBehind] ?? -1))
      : long[Math.max(0, count - longTermsBehind)] ?? long.at(-1)
    for (const code of step.courses) if (slot !== undefined && slot >= 0) found.set(code, slot)
    if (!isSummer) count++
  }
  return found
}

export const termAt = (slot: number, { facts }: Setting): Term => facts.terms[slot]!
