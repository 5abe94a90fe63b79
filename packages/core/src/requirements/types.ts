import type { CourseFilter } from '../catalog/filter'
import type { CourseCode, Credits, Season } from '../catalog/types'

/** At most so many credits or courses of a line may come from these courses. */
export interface Cap {
  filter: CourseFilter
  credits?: Credits
  courses?: number
}

/** A line that courses fill: `courses` of them and/or `credits` from the filter, each with at least `minGrade`. */
export interface CourseLine {
  kind: 'courses'
  id: string
  title: string
  filter: CourseFilter
  courses?: number
  credits?: Credits
  minGrade?: string
  caps?: Cap[]
  /** The courses used must come from at least so many subjects. */
  subjects?: number
  /** The same by levels, or by the attributes that the filter names. */
  spread?: { by: 'level' | 'attribute', n: number }
}

interface AllOf {
  kind: 'all'
  id: string
  title: string
  children: RequirementNode[]
}
/** At least n of the children must be met; the ones nearest to it are kept, the others set aside. */
interface SomeOf {
  kind: 'some'
  id: string
  title: string
  n: number
  children: RequirementNode[]
}
export type RequirementNode = CourseLine | AllOf | SomeOf

export type Hue = 'moss' | 'lake' | 'clay' | 'slate' | 'plum' | 'fern'

/** A top-level area of a program; it is also a lane of the plan. */
export interface Area extends AllOf {
  hue: Hue
}

/** Credits from a filter (all courses when there is none). */
interface CreditsRule {
  kind: 'credits'
  id: string
  title: string
  credits: Credits
  filter?: CourseFilter
  /** Counts only what was taken at this institution. */
  here?: boolean
  /** Only what the lines of the program use; else everything that gives credit. */
  used?: boolean
}

/** A rule about the program as a whole; no course is used up by it. */
export type ProgramRule
  /** Average of at least `minimum` (hundredths of a grade point) over everything, over what the program uses, or over a filter. */
  = | { kind: 'gpa', id: string, title: string, minimum: number, scope: 'overall' | 'program' | CourseFilter }
    | CreditsRule
  /** Of the last `of` credits at least `credits` must be taken here. */
    | { kind: 'residence', id: string, title: string, credits: Credits, of: Credits }
  /** At most so many credits or courses of a kind may count: in the lines of the program, and towards its total. */
    | { kind: 'maximum', id: string, title: string, credits?: Credits, courses?: number, of: Counted }
  /** Something without credit, recorded when it is done. */
    | { kind: 'milestone', id: string, title: string, words: string }

/** Uses of a kind; every part that is given must hold. */
export interface Counted {
  filter?: CourseFilter
  /** Where it was earned: by transfer, by an examination, or either of them. */
  source?: 'transfer' | 'exam' | 'elsewhere'
  /** Passed with this grade or a lower one; a grade without points is none. */
  gradeAtMost?: string
  /** Passed without a grade that counts in an average, here. */
  ungraded?: boolean
}

/** How many courses or credits of this program may also count in another: one by code, or every one of a kind. */
export interface SharingRule {
  with: string
  courses?: number
  credits?: Credits
}

/** One step of the suggested sequence; without a season it is a long term, fall or spring. */
interface SuggestedStep {
  name: string
  courses: CourseCode[]
  season?: Season
}

export type ProgramKind = 'major' | 'minor' | 'certificate' | 'institution'

export interface Program {
  code: string
  kind: ProgramKind
  title: string
  catalogYear: number
  totalCredits: Credits
  /** What counts towards the total; everything that gives credit where it is not said. */
  totalFilter?: CourseFilter
  areas: Area[]
  rules: ProgramRule[]
  /** Lines that look across the base tree: a course that counts there counts here again. */
  overlays: CourseLine[]
  sharing: SharingRule[]
  /** The sequence that departments hand out, by suggested term. */
  suggested: SuggestedStep[]
}

/** A rule of a program lifted for one student by somebody entitled to. */
export type RequirementException = { id: number, program: string, line: string, reason: string, by: string } & (
  /** `course` counts on the line although the filter does not name it; in the place of `instead` where the line lists every course. */
  | { kind: 'substitution', course: CourseCode, instead: CourseCode | null }
  /**
   * The line, only the listed course `course` of it, or only `amount` of what it asks (hundredths of a credit, or of a course where the
   * line asks for courses alone), is not asked of this student.
   */
  | { kind: 'waiver', course: CourseCode | null, amount?: number }
)

/** Code and catalog year together: `WSC-BS-2025`. */
export const programId = (program: Pick<Program, 'code' | 'catalogYear'>) => `${program.code}-${program.catalogYear}`

function linesOfNode(node: RequirementNode): CourseLine[] {
  return node.kind === 'courses' ? [node] : node.children.flatMap(linesOfNode)
}

/** Every line of a program, base tree first, then overlays. */
export const linesOfProgram = (program: Program) => [...program.areas.flatMap(linesOfNode), ...program.overlays]

export type LineState = 'met' | 'under way' | 'covered' | 'open'

/** The courses that a line names, without those it excepts. */
export const listedCourses = ({ filter }: Pick<CourseLine, 'filter'>): CourseCode[] =>
  (filter.list ?? []).filter(code => !filter.except?.includes(code))

/** True for a line whose rule is "all of these courses". */
export function needsEveryListed(line: CourseLine): boolean {
  return line.filter.list !== undefined && line.credits === undefined && line.courses === listedCourses(line).length && !line.caps
    && !spreadOf(line)
}

interface Spread {
  by: 'subject' | 'level' | 'attribute'
  n: number
}

/** From how many subjects, levels or attributes the courses of a line must come. */
export const spreadOf = ({ subjects, spread }: Pick<CourseLine, 'subjects' | 'spread'>): Spread | undefined =>
  subjects ? { by: 'subject', n: subjects } : spread
