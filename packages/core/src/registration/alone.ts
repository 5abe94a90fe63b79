import { familyOf } from '../catalog/linked'
import { deadlinesOf, nameOf } from '../catalog/terms'
import type { Course, CourseCode, CourseItem, Credits, Section } from '../catalog/types'
import { comparedGrade } from '../record/attempts'
import { excludedBy, type Taken, takenAlready, topicTaken } from '../record/repeats'
import { type Bundle, clashWithin, missingParts } from '../weeks/bundles'
import type { Candidate, DecisionContext } from './decision'
import type { Finding } from './findings'
import { checkSeats, type SeatClaim } from './seats'

/** What can be said of a row whatever stands beside it. */
export interface Alone {
  /** What is said before everything else: gates, and what the sections lack. */
  first: Finding[]
  /** The row names sections of its course that there are. */
  isKnown: boolean
  had: Had
  restrictions: Finding[]
  seats: Finding[]
  claims: SeatClaim[]
}

const NO_SECTIONS: ReadonlySet<number> = new Set()
const NOTHING_HAD: Had = { here: undefined, taken: null, excluded: null }

export function readAlone({ row, course, sections }: Candidate, context: DecisionContext, about: {
  groups: () => readonly string[]
  had: (course: Course) => Had
  bundles: (course: Course) => readonly Bundle[]
}): Alone {
  const gates = gatesAgainst(row.course, context)
  const isKnown = sections.length === row.sectionIds.length && sections.length > 0
    && sections.every(section => section.course === row.course)
  if (!course || !isKnown) {
    const unknown: Finding = { code: 'section-unknown', ok: false, course: row.course, term: nameOf(context.term) }
    return { first: [...gates, unknown], isKnown: false, had: NOTHING_HAD, restrictions: [], seats: [], claims: [] }
  }
  const groups = sections.some(isKept) ? about.groups() : []
  const anySeat = context.lifted?.seat ?? NO_SECTIONS
  const { claims, findings } = checkSeats(course, sections, groups, () => about.bundles(course), anySeat)
  const asked = context.lifted?.restriction.has(course.code) ? [] : sections.filter(section => !anySeat.has(section.id))
  return { first: [...gates, ...checkSigned(course, context), ...checkSections(course, sections, context)], isKnown,
    had: about.had(course), restrictions: checkRestrictions(course, asked, groups), seats: findings, claims }
}

/** Gates that are closed for a course: a late add opens the one that closes the term. */
export const gatesAgainst = (course: CourseCode, { gates, lifted }: Pick<DecisionContext, 'gates' | 'lifted'>): Finding[] =>
  gates.filter(gate => !gate.open && !(gate.kind === 'closing' && lifted?.lateAdd.has(course)))
    .map(gate => ({ code: 'gate', ok: false, gate }))

/** What the advisor has not signed off is not registered, where the institution has it so. */
const checkSigned = ({ code }: Course, { signed, term }: DecisionContext): Finding[] =>
  signed && !signed.courses.has(code) ? [{ code: 'not-signed', ok: false, course: code, by: signed.by, term: nameOf(term) }] : []

function checkSections(course: Course, sections: readonly Section[], context: DecisionContext): Finding[] {
  const { term, travel, today, lifted } = context
  const found: Finding[] = []
  const over = today !== undefined && !lifted?.lateAdd.has(course.code)
    ? sections.find(section => today > deadlinesOf(term, section.session).addBy)
    : undefined
  if (over)
    found.push({ code: 'session-closed', ok: false, course: course.code, label: over.label, by: deadlinesOf(term, over.session).addBy })
  const cancelled = sections.find(section => section.cancelled)
  if (cancelled) found.push({ code: 'section-cancelled', ok: false, course: course.code, label: cancelled.label })
  const missing = missingParts(course, sections)
  const links = new Set(sections.map(section => section.link))
  if (missing.length > 0 || links.size > 1) found.push({ code: 'bundle-incomplete', ok: false, course: course.code, missing })
  const own = clashWithin(sections, term, travel)
  if (own) found.push({ code: 'own-clash', ok: false, course: course.code, parts: own.parts, clash: own.clash })
  return [...found, ...checkTopic(course, sections, context)]
}

/** A topic that was taken in another term gives credit once. */
function checkTopic(course: Course, sections: readonly Section[], { items, term, terms, ...rules }: DecisionContext): Finding[] {
  const section = sections.find(one => one.topic !== '')
  const before = section && topicTaken(course, section.topic, items.filter(item => item.term !== term.code), rules,
    rules.asked(course.code))
  if (!before) return []
  const when = terms.find(candidate => candidate.code === before.term)
  return [{ code: 'same-topic', ok: false, course: course.code, label: section.label, topic: section.topic, state: before.state,
    term: when ? nameOf(when) : null }]
}

const mostOf = ({ most }: Taken) => most === undefined ? {} : { most }

/** What a record says against a course. */
export interface Had {
  /** Registered in the same term. */
  here: CourseItem | undefined
  taken: Taken | null
  excluded: CourseItem | null
}

export function hadOf(course: Course, credits: Credits, context: DecisionContext): Had {
  const { items, term } = context
  const family = familyOf(course.code, context.courses)
  const same = items.filter(item => familyOf(item.course, context.courses) === family)
  return {
    here: same.find(item => item.term === term.code && item.state === 'registered'),
    taken: same.length > 0 ? takenAlready(course, items, context, context.asked(course.code), credits) : null,
    excluded: course.exclusions.length > 0 ? excludedBy(course, items, context) : null,
  }
}

/** Taken already, here or elsewhere, or without credit beside something else. */
export function checkRepeats(course: Course, { here, taken, excluded }: Had, others: readonly Candidate[],
  context: DecisionContext): Finding[] {
  const found: Finding[] = []
  const family = familyOf(course.code, context.courses)
  const inLineUp = others.find(other => familyOf(other.row.course, context.courses) === family)
  const term = nameOf(context.term)
  if (here) found.push({ code: 'duplicate', ok: false, course: course.code, by: here.course, state: 'registered', term })
  else if (inLineUp)
    found.push({ code: 'duplicate', ok: false, course: course.code, by: inLineUp.row.course, state: 'in the line-up', term })
  else if (taken?.by.state === 'completed')
    found.push({ code: 'already-passed', ok: false, course: course.code, by: taken.by.course, grade: comparedGrade(taken.by),
      times: taken.times, ...mostOf(taken) })
  else if (taken) {
    const where = context.terms.find(candidate => candidate.code === taken.by.term)
    found.push({ code: 'taken-elsewhere', ok: false, course: course.code, by: taken.by.course, state: taken.by.state,
      term: where ? nameOf(where) : null, times: taken.times, ...mostOf(taken) })
  }
  const beside = others.find(other => course.exclusions.includes(other.row.course))
  if (excluded) found.push({ code: 'exclusion', ok: false, course: course.code, by: excluded.course, state: excluded.state })
  else if (beside) found.push({ code: 'exclusion', ok: false, course: course.code, by: beside.row.course, state: 'in the line-up' })
  return found
}

/** Whether a section, or some of its seats, is for some students only. */
const isKept = ({ pools, onlyPrograms, onlyStandings, onlyCohorts }: Section) =>
  onlyPrograms.length + onlyStandings.length + onlyCohorts.length > 0 || pools.some(pool => pool.forGroup !== null)

function checkRestrictions(course: Course, sections: readonly Section[], groups: readonly string[]): Finding[] {
  return sections.flatMap(({ label, onlyPrograms, onlyStandings, onlyCohorts }) =>
    [onlyPrograms, onlyStandings, onlyCohorts].filter(list => list.length > 0 && !list.some(group => groups.includes(group)))
      .map((list): Finding => ({ code: 'restriction', ok: false, course: course.code, label, groups: list })))
}
