import { z } from 'zod'
import { COURSE_CODE } from '@ridgeway/core/catalog'
import { courseLineSchema, filterSchema, PROGRAM_KINDS, ruleSchema, sharingSchema, stepSchema } from './program-schema'

/**
 * The open format of worked cases: what a rule needs, and what is expected of it. Everything may be left out; the defaults are stated here,
 * and in the guide. Credits are written as people write them. Courses, terms and programs that are only named exist with their defaults.
 */
const code = z.string().regex(COURSE_CODE, 'write a course as in the catalog, such as HYD 210')
const termCode = z.string().regex(/^\d{4}(SP|SU|FA)$/, 'write a term as 2027SP')
const date = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'write a date as 2026-11-09')
const credits = z.number().min(0).max(400)
const lineName = z.string().min(1).max(60)
const seasons = z.enum(['fall', 'spring', 'summer'])

const courseSchema = z.strictObject({
  credits: z.union([credits, z.tuple([credits, credits])]).default(3).describe('3 unless told otherwise; [1, 6] where they vary.'),
  prerequisite: z.string().default(''),
  corequisite: z.string().default(''),
  excludes: z.array(code).default([]),
  same: z.array(code).default([]).describe('Courses that give the same credit.'),
  times: z.number().int().min(1).max(20).default(1).describe('How often it gives credit.'),
  repeatCredits: credits.optional().describe('At most so many credits of it in all.'),
  offered: z.array(seasons).default(['fall', 'spring', 'summer']).describe(
    'Every season unless told otherwise; an empty list: not announced.',
  ),
  years: z.enum(['odd', 'even']).optional(),
  until: termCode.optional(),
  attributes: z.array(z.string()).default([]),
  parts: z.array(z.enum(['lecture', 'lab', 'tutorial'])).min(1).default(['lecture']),
})

const termSchema = z.strictObject({
  term: termCode,
  start: date.optional(),
  end: date.optional(),
  cap: credits.optional().describe('18, in summer 12.'),
  fullTime: credits.optional().describe('12.'),
  sections: z.boolean().default(false).describe('Whether sections are known.'),
  noClass: z.array(date).default([]),
})

const gradeSchema = z.strictObject({ points: z.number().min(0).max(10), inAverage: z.boolean().default(true),
  earns: z.boolean().default(true), standsFor: z.number().optional() })

/** A line, `{ "id": "core", "filter": { "list": ["AAA 100"] }, "courses": 1 }`; with children a group, with `n` a choice. */
const looseNode: z.ZodType<LooseNode> = z.lazy(() =>
  z.union([
    courseLineSchema.partial({ kind: true, title: true, filter: true }),
    z.strictObject({ kind: z.enum(['all', 'some']).optional(), id: lineName, title: z.string().optional(),
      n: z.number().int().min(1).optional(), children: z.array(looseNode).min(1) }),
  ]),
).meta({ id: 'caseNode' })

type LooseLine = Partial<Pick<z.infer<typeof courseLineSchema>, 'kind' | 'title' | 'filter'>> & Omit<
  z.infer<typeof courseLineSchema>,
  'kind' | 'title' | 'filter'
>
export type LooseNode = LooseLine | {
  kind?: 'all' | 'some' | undefined
  id: string
  title?: string | undefined
  n?: number | undefined
  children: LooseNode[]
}

const programSchema = z.strictObject({
  code: z.string().regex(/^[A-Z0-9][A-Z0-9-]*$/).default('P'),
  kind: z.enum(PROGRAM_KINDS).default('minor').describe('A minor, which has no total of its own.'),
  title: z.string().optional(),
  total: credits.default(0),
  totalFilter: filterSchema.optional(),
  lines: z.array(looseNode).default([]).describe('One area with these lines.'),
  overlays: z.array(courseLineSchema.partial({ kind: true, title: true, filter: true })).default([]),
  rules: z.array(ruleSchema).default([]),
  sharing: z.array(sharingSchema).default([]),
  suggested: z.array(stepSchema).default([]),
})

const STATES = ['completed', 'under way', 'registered', 'picked', 'planned'] as const
const recordEntry = z.union([
  z.string().regex(/^[A-Z]{2,5} \d{3,4}[A-Z]{0,2} (\d{4}(SP|SU|FA)|transfer|exam)( .+)?$/,
    'write "AAA 100 2025FA B", "AAA 100 2026FA under way" or "AAA 100 transfer TR"'),
  z.strictObject({ course: code, term: termCode.nullable().default(null), grade: z.string().nullable().default(null),
    credits: credits.optional(), state: z.enum(STATES).default('completed'),
    gradedAt: z.iso.datetime().optional().describe('When the grade was given: of two attempts in one term it tells which came later.'),
    earnedGrade: z.string().optional().describe('The grade earned elsewhere: it counts for minimum grades, in no average.'),
    topic: z.string().optional().describe('What it was about, for a course whose topics change: each topic gives credit once.'),
    source: z.enum(['here', 'transfer', 'exam']).default('here') }),
])
const planEntry = z.union([
  z.string().regex(/^[A-Z]{2,5} \d{3,4}[A-Z]{0,2} \d{4}(SP|SU|FA)$/, 'write "AAA 100 2027SP"'),
  z.strictObject({ course: code, term: termCode, credits: credits.optional(), pinned: z.boolean().default(false),
    countsFor: z.string().optional(), picked: z.boolean().default(false) }),
])

const sectionSchema = z.strictObject({
  id: z.number().int().min(1),
  course: code,
  term: termCode.default('2027SP'),
  part: z.enum(['lecture', 'lab', 'tutorial']).default('lecture'),
  link: z.string().default('a'),
  meets: z.array(
    z.string().regex(/^[MTWRFSU]+( [MTWRFSU]+)* \d{1,2}:\d{2}-\d{1,2}:\d{2}( @\w+)?$/,
      'write "M W 9:00-10:15", with " @site" for another place'),
  ).default([]),
  first: date.optional(),
  last: date.optional(),
  seats: z.number().int().min(0).default(10),
  taken: z.number().int().min(0).default(0),
  held: z.number().int().min(0).default(0),
  kept: z.array(z.strictObject({ for: z.string(), seats: z.number().int().min(0), taken: z.number().int().min(0).default(0) })).default([])
    .describe('Seats for one program each, besides the open ones.'),
  only: z.array(z.string()).default([]),
  cancelled: z.boolean().default(false),
  waiting: z.number().int().min(0).default(0),
})

const givenSchema = z.strictObject({
  today: date.optional().describe('2026-11-09 unless told otherwise.'),
  repeats: z.enum(['best', 'latest']).optional().describe('Best.'),
  grades: z.record(z.string(), gradeSchema).optional().describe('The letter scale with plus and minus unless told otherwise.'),
  courses: z.record(z.string(), courseSchema).optional(),
  terms: z.array(z.union([termCode, termSchema])).optional().describe('Every spring, summer and fall from 2024FA to 2030SU.'),
  programs: z.array(programSchema).optional(),
  together: z.enum(['in order', 'in sum']).optional().describe('How several programs are weighed; in order.'),
  outside: z.array(code).optional().describe('Courses of the record that are not in the catalog.'),
  enrolled: z.array(z.string()).optional().describe('Codes of the student\'s programs; all that are given.'),
  record: z.array(recordEntry).optional(),
  plan: z.array(planEntry).optional(),
  places: z.array(z.strictObject({ countsFor: z.string(), term: termCode, credits: credits.default(3) })).optional(),
  wishes: z.strictObject({ creditsPerTerm: credits.nullable().default(null), termsOff: z.array(termCode).default([]),
    latestFinish: termCode.nullable().default(null) }).optional(),
  placements: z.record(z.string(), z.number()).optional(),
  lifted: z.array(code).optional().describe('Courses whose prerequisite was lifted by an exception.'),
  capRaised: z.record(z.string(), credits).optional(),
  milestones: z.array(z.string()).optional(),
  exceptions: z.array(z.union([
    z.strictObject({ waive: lineName, course: code.optional(), amount: credits.optional(), program: z.string().optional() }),
    z.strictObject({ substitute: code, on: lineName, instead: code.optional(), program: z.string().optional() }),
  ])).optional(),
  pins: z.array(z.strictObject({ use: z.string(), for: z.string() })).optional().describe('"AAA 100" or "AAA 100 2025FA" on a line.'),
  sections: z.array(sectionSchema).optional(),
  travel: z.array(z.strictObject({ from: z.string(), to: z.string(), minutes: z.number() })).optional(),
  lineUp: z.array(
    z.union([code, z.strictObject({ course: code, sections: z.array(z.number().int()).optional(), credits: credits.optional() })]),
  ).optional()
    .describe('Courses in the student\'s order; without sections the first bundle of each.'),
  lineUpTerm: termCode.optional().describe('2027SP.'),
  registeredSections: z.array(z.number().int()).optional(),
  draft: z.strictObject({
    load: credits.nullable().default(null),
    termsOff: z.array(termCode).default([]),
    latestFinish: termCode.nullable().default(null),
    summers: z.enum(['when needed', 'freely']).default('when needed'),
    around: z.enum(['pinned', 'placed']).default('placed'),
  }).optional(),
})

const lineExpectation = z.strictObject({
  state: z.enum(['met', 'under way', 'covered', 'open']).optional(),
  uses: z.array(z.string()).optional().describe('Courses, in any order; "AAA 100 2027SP" names one attempt.'),
  needed: credits.optional(),
  open: credits.optional(),
  met: credits.optional(),
  underWay: credits.optional(),
  covered: credits.optional(),
  unfilled: z.array(code).optional(),
  setAside: z.boolean().optional(),
  chooseMore: z.number().int().optional(),
  lost: z.union([z.boolean(), z.array(z.string())]).optional().describe('Whether nothing left can fill it; or the reasons, by code.'),
  now: z.array(code).optional(),
  later: z.array(code).optional(),
  blocked: z.array(code).optional(),
  fits: z.array(code).optional(),
  smallest: z.array(code).nullable().optional().describe('The fewest courses that would meet it.'),
  smallestProved: z.boolean().optional(),
})

const expectSchema = z.strictObject({
  catalog: z.array(z.string()).optional().describe('Problems of the catalog, "ring AAA 100, BBB 100".'),
  earned: credits.optional(),
  gpa: z.number().nullable().optional(),
  standing: z.enum(['freshman', 'sophomore', 'junior', 'senior']).optional(),
  lines: z.record(z.string(), lineExpectation).optional(),
  programs: z.record(z.string(), z.strictObject({
    met: credits.optional(),
    underWay: credits.optional(),
    covered: credits.optional(),
    open: credits.optional(),
    unused: z.array(z.string()).optional(),
    earliestFinish: termCode.nullable().optional(),
    creditsLeft: credits.optional(),
  })).optional(),
  rules: z.record(z.string(), z.strictObject({
    state: z.enum(['met', 'under way', 'covered', 'open']).optional(),
    done: credits.optional(),
    withPlan: credits.optional(),
    now: z.number().nullable().optional(),
    outlook: z.string().nullable().optional(),
    average: z.number().optional(),
    over: credits.optional(),
  })).optional(),
  conditions: z.record(z.string(),
    z.strictObject({ firmness: z.string().optional(), missing: z.array(z.array(z.string())).optional(), beside: z.string().optional() }))
    .optional()
    .describe('By "AAA 200 2027SP": how firmly the prerequisite is met, and the smallest sets that would meet it.'),
  checks: z.strictObject({ with: z.array(z.string()).default([]), without: z.array(z.string()).default([]),
    blockers: z.array(z.string()).optional() }).optional()
    .describe('"prerequisite AAA 200", "over the cap 2027SP", "not reached P/total".'),
  moves: z.record(z.string(), z.array(z.string())).optional().describe('By check: moves that must be offered, "place AAA 100 2027SP".'),
  offPath: z.array(z.string()).optional(),
  finish: termCode.nullable().optional(),
  open: credits.optional(),
  windows: z.record(z.string(),
    z.strictObject({ earliest: termCode.nullable().optional(), latest: termCode.nullable().optional(),
      slack: z.number().int().optional() })).optional(),
  pace: z.strictObject({ soFar: credits.nullable() }).optional(),
  draft: z.strictObject({
    result: z.enum(['drafts', 'nothing open', 'impossible']).optional(),
    finish: termCode.optional(),
    shortest: z.boolean().optional(),
    places: z.array(z.string()).optional().describe('Courses that must be placed: "AAA 100", "AAA 100 2027SP", or "AAA 100 6 cr".'),
    without: z.array(z.string()).optional(),
    clean: z.boolean().optional().describe('The plan with the first draft has no blocker and reaches everything.'),
    reason: z.string().optional(),
  }).optional(),
  lineUp: z.record(z.string(), z.strictObject({
    outcome: z.enum(['register', 'waitlist', 'refused']).optional(),
    codes: z.array(z.string()).optional().describe('Refusals, in any order.'),
    credits: credits.optional(),
    clashWith: z.string().optional(),
    firstOn: date.optional(),
    by: z.string().optional(),
    partnerCodes: z.array(z.string()).optional(),
  })).optional(),
  says: z.record(z.string(), z.string()).optional().describe(
    'Words: "rule P/core", "lacking P/core", "check prerequisite AAA 200", "refusal AAA 100 seats-full", "use AAA 100 on P/core".',
  ),
})

const sourceSchema = z.string().min(3).describe('Where the expectation comes from: a regulation, a paper, or "common practice".')

export const casesSchema = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal('ridgeway-cases/1'),
  given: givenSchema.optional().describe(
    'What all cases of the file have in common; a case replaces what it gives itself, and adds to the courses.',
  ),
  cases: z.array(
    z.strictObject({ name: z.string().min(3).max(200), source: sourceSchema, given: givenSchema.default({}), expect: expectSchema }),
  ).min(1).max(200),
})

export type Given = z.infer<typeof givenSchema>
export type Expectations = z.infer<typeof expectSchema>
export type LineExpectation = z.infer<typeof lineExpectation>
export type CasesFile = z.infer<typeof casesSchema>

/** The JSON Schema (draft 2020-12) of the format. */
export const casesJsonSchema = () => z.toJSONSchema(casesSchema, { io: 'input' })
