/** What one grade means; points are hundredths of a grade point (`370` is 3.7). */
interface GradeMeaning {
  points: number
  inGpa: boolean
  earns: boolean
  /** What the grade is worth where a line asks for a minimum grade; hundredths of a grade point. */
  standsFor: number
}

export type GradeScale = Record<string, GradeMeaning>

const letter = (points: number): GradeMeaning => ({ points, inGpa: true, earns: true, standsFor: points })
const noCredit = (inGpa: boolean): GradeMeaning => ({ points: 0, inGpa, earns: false, standsFor: -1 })

/**
 * The four-point letter scale with plus and minus (common practice, no source).
 * Pass and transfer credit stand for a C: they are only given for work at that level (common practice, no source).
 */
export const LETTER_SCALE: GradeScale = {
  'A': letter(400), 'A-': letter(370), 'B+': letter(330), 'B': letter(300), 'B-': letter(270),
  'C+': letter(230), 'C': letter(200), 'C-': letter(170), 'D+': letter(130), 'D': letter(100),
  'F': noCredit(true),
  'P': { points: 0, inGpa: false, earns: true, standsFor: 200 },
  'TR': { points: 0, inGpa: false, earns: true, standsFor: 200 },
  'NP': noCredit(false), 'W': noCredit(false), 'I': noCredit(false),
}

/** Whether a grade earns credit; an unknown grade earns none. */
export function earnsCredit(scale: GradeScale, grade: string | null): boolean {
  return grade !== null && (scale[grade]?.earns ?? false)
}

/**
 * Whether `grade` is at least `minimum`; with no minimum any grade that earns credit will do.
 * @throws RangeError when the minimum itself is not on the scale, because that is a fault in the rule.
 */
export function meetsGrade(scale: GradeScale, grade: string | null, minimum: string | undefined): boolean {
  if (!earnsCredit(scale, grade)) return false
  if (minimum === undefined) return true
  const asked = scale[minimum]
  if (!asked) throw new RangeError(`the minimum grade "${minimum}" is not on the grade scale`)
  return scale[grade!]!.standsFor >= asked.standsFor
}

/** Grades that can be asked for: those that earn credit, from the highest down. */
export function gradesThatEarn(scale: GradeScale): string[] {
  return Object.keys(scale).filter(grade => scale[grade]!.earns).sort((a, b) => scale[b]!.standsFor - scale[a]!.standsFor)
}
