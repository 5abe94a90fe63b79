import { familyOf, linked, sameCourse } from '../catalog/linked'
import type { Course, CourseCode, CourseItem, Credits, Section } from '../catalog/types'
import { coursesMentionedBy, type CourseRules, lacksOf, readCourseRules } from '../prerequisites/evaluate'
import { factsOf, type StudentFacts } from '../record/facts'
import { clashBetween } from '../weeks/bundles'
import { offerOf } from '../weeks/offer'
import { type Alone, checkRepeats, type Had, hadOf, readAlone } from './alone'
import { type Candidate, candidateOf, clashPair, type DecisionContext, type LineUpRow, type RowDecision } from './decision'
import type { Finding } from './findings'
import { groupsOf } from './groups'
import type { SeatClaim } from './seats'

const NONE: ReadonlySet<CourseCode> = new Set()

/** The decision on rows as they are chosen, without their backups: see `decideRun`. */
export function decideRows(rows: readonly LineUpRow[], context: DecisionContext): RowDecision[] {
  const courses = linked(context.courses)
  const inside = { ...context, courses }
  return new Run(rows.map(row => candidateOf(row, inside)), inside).decide()
}

/** Ways to put partners together that are looked at for one row; more than anybody lines up. */
const MOST_GROUPS = 24

export class Run {
  private readonly accepted: Candidate[] = []
  private readonly refused = new Map<Candidate, RowDecision>()
  /** What was said of a row when it was accepted: a row that comes later does not close it ("not open to"). */
  private readonly asAccepted = new Map<Candidate, Finding[]>()
  /** What can be said of a row whatever stands beside it. */
  private readonly alone = new Map<Candidate, Alone>()
  /** Rules of courses that were read beside the same other rows. */
  private readonly rules = new Map<string, CourseRules>()
  /** The facts of the record, without anything beside it. */
  private readonly facts: StudentFacts
  /** Pairs of choices that were found not to clash: two who do not meet do not meet the other way round. */
  private readonly apart = new Set<string>()
  /** What is registered, course by course. */
  private readonly held: { id: string, sections: Section[], state: 'registered' }[]
  private readonly load: Credits

  constructor(private candidates: readonly Candidate[], private readonly context: DecisionContext) {
    const held = new Map<string, Section[]>()
    // Whoever reads what is registered may read it in any order: what is said of it has one.
    for (const section of [...context.registered].sort((a, b) => a.id - b.id)) held.set(section.course, [...held.get(section.course) ?? [],
      section])
    this.held = [...held].map(([course, sections]) => ({ id: course, sections, state: 'registered' as const }))
    this.facts = factsOf(context, context.items)
    this.load = context.items.reduce(
      (sum, item) => sum + (item.term === context.term.code && item.state !== 'completed' ? item.credits : 0),
      0,
    )
  }

  decide(): RowDecision[] {
    for (const candidate of this.candidates) {
      if (this.accepted.includes(candidate)) continue
      const together = this.groupsFor(candidate).find(group => group.every(one => this.isFine(one, group)))
      if (together) {
        for (const one of together) this.asAccepted.set(one, this.read(one, together).findings)
        this.accepted.push(...together)
      }
      // What stands before it refuses it, not what comes after it and had room because of that.
      else this.refused.set(candidate, this.refusalOf(candidate))
    }
    return this.candidates.map(candidate => this.refused.get(candidate) ?? this.acceptanceOf(candidate))
  }

  /** Whether a row that was refused could register if a course stood beside it. */
  waitsFor(code: CourseCode): boolean {
    const family = familyOf(code, this.context.courses)
    return [...this.refused.keys()].some(({ course }) => course !== undefined && this.namedBy(course).has(family))
  }

  /** One more row, beside what was accepted before. */
  decideOne(candidate: Candidate): RowDecision {
    const before = this.candidates
    this.candidates = [...before, candidate]
    const decision = this.decideLast(candidate)
    this.candidates = before
    return decision
  }

  /** What is the same for every bundle of a course that asks for no partner, by course and credits. */
  private readonly ofCourse = new Map<string, { before: Finding[], load: Finding } | null>()

  private decideLast(candidate: Candidate): RowDecision {
    const { row, course, credits } = candidate
    const known = `${row.course} ${credits}`
    if (course && !this.ofCourse.has(known)) {
      const groups = this.groupsFor(candidate)
      const isSingle = groups.length === 1 && groups[0]!.length === 1
      const had = this.hadOf(course, credits)
      this.ofCourse.set(known, isSingle
        ? { before: [...checkRepeats(course, had, this.accepted, this.context), ...this.checkRules(course, [candidate])],
            load: this.checkLoad(candidate, [candidate]) }
        : null)
    }
    const ofCourse = course && this.ofCourse.get(known)
    // Nobody asks about this row again: nothing of it is remembered.
    const alone = this.makeAlone(candidate)
    if (!ofCourse || !alone.isKnown)
      return this.groupsFor(candidate).some(group => group.every(one => this.isFine(one, group)))
        ? this.acceptanceOf(candidate)
        : this.refusalOf(candidate)
    const findings = [...alone.first, ...ofCourse.before, ...alone.restrictions]
    for (const other of this.standing ??= this.besideOf(this.accepted)) {
      const found = this.clashWith(candidate.sections, other)
      if (found) findings.push(found)
    }
    findings.push(ofCourse.load, ...alone.seats)
    const isFine = findings.every(finding => finding.ok)
    return { rowId: row.id, course: row.course, outcome: isFine ? 'register' : 'refused', findings, claims: isFine ? alone.claims : [],
      credits,
      sectionIds: row.sectionIds, backup: 0, waits: [] }
  }

  private isFine = (candidate: Candidate, group: readonly Candidate[]) => this.read(candidate, group).findings.every(finding => finding.ok)

  /**
   * The sets of rows that have to register together for this one to: itself alone, or with the smallest sets of partners
   * that its rules and theirs ask for and that stand in the line-up.
   */
  private groupsFor(candidate: Candidate): Candidate[][] {
    const groups: Candidate[][] = []
    const grow = (group: Candidate[]) => {
      if (groups.length >= MOST_GROUPS || groups.some(other => other.length === group.length && other.every(one => group.includes(one))))
        return
      const lacking = group.map(one => this.partnersAsked(one, group)).find(ways => ways.length > 0)
      if (!lacking) groups.push(group)
      else for (const way of lacking) grow([...group, ...way])
    }
    grow([candidate])
    return groups.length > 0 ? groups.sort((a, b) => this.compareByOrder(a, b)) : [[candidate]]
  }

  /** The group with the row that stands earlier in the student's line-up comes first, whatever order the rule names them in. */
  private compareByOrder(a: readonly Candidate[], b: readonly Candidate[]): number {
    const places = (group: readonly Candidate[]) => group.map(one => this.candidates.indexOf(one)).sort((p, q) => p - q)
    const [mine, theirs] = [places(a), places(b)]
    const differs = mine.findIndex((place, i) => place !== theirs[i])
    return differs < 0 ? mine.length - theirs.length : mine[differs]! - (theirs[differs] ?? -1)
  }

  /**
   * Partners in the line-up that would satisfy what a row's rules lack beside a group, way by way; empty when nothing in the line-up
   * helps.
   */
  private partnersAsked({ course }: Candidate, group: readonly Candidate[]): Candidate[][] {
    if (!course) return []
    const { before, beside } = this.rulesOf(course, group)
    for (const rule of [before, beside]) {
      if (rule?.firmness !== 'unmet') continue
      const ways = rule.missing.flatMap((set): Candidate[][] => {
        const partners = set.map((condition) => {
          if (condition.kind !== 'course') return undefined
          const same = sameCourse(condition.course, this.context.courses)
          return this.candidates.find(other => same.includes(other.row.course) && !group.includes(other) && !this.accepted.includes(other))
        })
        return partners.every(partner => partner !== undefined) ? [[...new Set(partners)]] : []
      })
      if (ways.length > 0) return ways
    }
    return []
  }

  /** What a course's rules come to beside what is accepted and a group: only courses that the rules name make a difference there. */
  private rulesOf(course: Course, group: readonly Candidate[]): CourseRules {
    const named = this.namedBy(course)
    const others = named.size === 0
      ? []
      : [...this.accepted, ...group]
          .filter(({ row }) => row.course !== course.code && named.has(familyOf(row.course, this.context.courses)))
    const key = `${course.code} ${others.map(other => other.row.id).join()}`
    const before = this.rules.get(key)
    if (before) return before
    const alongside = others.map(({ row, credits }): CourseItem => ({
      id: `run-${row.id}`,
      course: row.course,
      term: this.context.term.code,
      credits,
      grade: null,
      state: 'registered',
      source: 'here',
    }))
    const facts = alongside.length === 0 ? this.facts : factsOf(this.context, [...this.context.items, ...alongside])
    const rules = readCourseRules(course, this.context.term.code, facts, this.context)
    this.rules.set(key, rules)
    return rules
  }

  private readonly named = new Map<CourseCode, ReadonlySet<CourseCode>>()
  /** Families of the courses that a course's rules name. */
  private namedBy(course: Course): ReadonlySet<CourseCode> {
    if (course.prerequisite === '' && course.corequisite === '') return NONE
    const known = this.named.get(course.code) ?? new Set(coursesMentionedBy(course).map(code => familyOf(code, this.context.courses)))
    this.named.set(course.code, known)
    return known
  }

  private acceptanceOf(candidate: Candidate): RowDecision {
    const { row, credits } = candidate
    const { findings: now, claims } = this.read(candidate, [])
    const findings = now.every(finding => finding.ok) ? now : this.asAccepted.get(candidate) ?? now
    return { rowId: row.id, course: row.course, outcome: 'register', findings, claims, credits, sectionIds: row.sectionIds, backup: 0,
      waits: [] }
  }

  /** Why a row cannot register beside what is accepted so far: its own reasons, or else those of its partners. */
  private refusalOf(candidate: Candidate): RowDecision {
    const { row, credits } = candidate
    // The group that comes nearest: the fewest of its rows have a reason of their own.
    const group = this.groupsFor(candidate).map(rows => ({ rows, refused: rows.filter(one => !this.isFine(one, rows)) }))
      .sort((a, b) => a.refused.length - b.refused.length)[0]!
    const { findings } = this.read(candidate, group.rows)
    const own = findings.some(finding => !finding.ok)
    const partners = own
      ? []
      : group.refused.filter(other => other !== candidate).map((other): Finding => ({
          code: 'partner-refused',
          ok: false,
          course: row.course,
          partner: other.row.course,
          because: this.read(other, group.rows).findings.filter(finding => !finding.ok),
        }))
    return { rowId: row.id, course: row.course, outcome: 'refused', findings: [...findings, ...partners], claims: [], credits,
      sectionIds: row.sectionIds, backup: 0, waits: [] }
  }

  /** Everything that can be said of a row beside what is accepted and the rest of its group. */
  private read(candidate: Candidate, group: readonly Candidate[]): { findings: Finding[], claims: SeatClaim[] } {
    const { course } = candidate
    const alone = this.readAlone(candidate)
    if (!course || !alone.isKnown) return { findings: [...alone.first], claims: [] }
    const others = [...this.accepted, ...group].filter((other, i, all) => other !== candidate && all.indexOf(other) === i)
    const findings = [
      ...alone.first,
      ...checkRepeats(course, alone.had, others, this.context),
      ...this.checkRules(course, group),
      ...alone.restrictions,
      ...this.checkClashes(candidate, others),
      this.checkLoad(candidate, group),
      ...alone.seats,
    ]
    return { findings, claims: alone.claims }
  }

  /** What can be said of a row whatever stands beside it. */
  private readAlone(candidate: Candidate): Alone {
    const before = this.alone.get(candidate)
    if (before) return before
    const made = this.makeAlone(candidate)
    this.alone.set(candidate, made)
    return made
  }

  private makeAlone = (candidate: Candidate) => readAlone(candidate, this.context, {
    groups: () => this.groups ??= groupsOf(this.context, this.context.items, this.context),
    had: course => this.hadOf(course, candidate.credits),
    bundles: course => offerOf(this.context.sections).bundles(course),
  })

  /** The student's programs, cohorts and class standing; worked out where seats or sections are kept for somebody. */
  private groups: string[] | undefined
  private readonly had = new Map<string, Had>()
  private hadOf(course: Course, credits: Credits): Had {
    const key = `${course.code} ${credits}`
    const before = this.had.get(key)
    if (before) return before
    const made = hadOf(course, credits, this.context)
    this.had.set(key, made)
    return made
  }

  private checkRules(course: Course, group: readonly Candidate[]): Finding[] {
    const { context } = this
    // A planned course is no help on registration day, so only the record is told.
    const firm = context.items.filter(item => item.state === 'completed')
    const found: Finding[] = []
    const { before, beside, lifted } = this.rulesOf(course, group)
    if (lifted) found.push({ code: 'prerequisite', ok: true, reason: null })
    else if (before?.firmness === 'unmet') {
      const first = before.missing[0]?.find(expression => expression.kind === 'course')
      const needed = first?.kind === 'course' ? context.courses.get(first.course) : undefined
      found.push({ code: 'prerequisite', ok: false, needs: lacksOf(before.missing, firm),
        first: needed ? { course: needed.code, offered: needed.offered } : null })
    }
    else if (before) found.push({ code: 'prerequisite', ok: true, reason: before.reason })
    if (beside?.firmness === 'unmet') found.push({ code: 'corequisite', ok: false, needs: lacksOf(beside.missing, firm) })
    else if (beside) found.push({ code: 'corequisite', ok: true, reason: beside.reason })
    return found
  }

  private besideOf = (others: readonly Candidate[]): Beside[] =>
    [...this.held, ...others.map(other => ({ id: other.key, sections: other.sections, state: 'in the line-up' as const }))]

  /** What stands when all rows are decided. */
  private standing: Beside[] | undefined

  private checkClashes({ key, sections }: Candidate, others: readonly Candidate[]): Finding[] {
    return this.besideOf(others).flatMap((other): Finding[] => {
      const pair = key < other.id ? `${key},${other.id}` : `${other.id},${key}`
      if (this.apart.has(pair)) return []
      const found = this.clashWith(sections, other)
      if (!found) this.apart.add(pair)
      return found ? [found] : []
    })
  }

  private clashWith(sections: readonly Section[], { sections: other, state }: Beside): Finding | null {
    const first = other[0]
    const mine = sections[0]?.course
    if (!first || first.course === mine || (mine && this.context.lifted?.clash.has(clashPair(mine, first.course)))) return null
    const clash = clashBetween(sections, other, this.context.term, this.context.travel)
    return clash && { code: 'clash', ok: false, course: first.course, label: first.label, state, clash }
  }

  private checkLoad(candidate: Candidate, group: readonly Candidate[]): Finding {
    const partners = group.filter(other => other !== candidate && !this.accepted.includes(other))
    const counted = [...this.accepted.filter(other => other !== candidate), ...partners, candidate]
    const credits = counted.reduce((sum, one) => sum + one.credits, this.load)
    return { code: 'load-cap', ok: credits <= this.context.loadCap, credits, cap: this.context.loadCap,
      partners: partners.map(one => one.row.course) }
  }
}

/** A choice that stands already, registered or accepted. */
interface Beside { id: string, sections: Section[], state: 'registered' | 'in the line-up' }
