import { z } from 'zod'
import { COURSE_CODE } from '@ridgeway/core/catalog'

/**
 * The open format of a program: JSON with credits and grade points as people write them (`3`, `2.67`, `2.5`).
 * The JSON Schema in docs/formats is made from this, so that an editor can check a file while it is written.
 */
const id = z.string().regex(/^[a-z0-9][a-z0-9-]*$/, 'use lower-case letters, digits and hyphens').max(40)
const title = z.string().min(1).max(80)
const course = z.string().regex(COURSE_CODE,
  'write a course as in the catalog: capitals, a space and its number, such as HYD 210 or HYD 2104L')
const subject = z.string().regex(/^[A-Z]{2,5}$/, 'write a subject in capitals, such as HYD')
const credits = z.number().positive().max(300).refine(value => Math.abs(value * 100 - Math.round(value * 100)) < 1e-9,
  'use at most two decimals')
const level = z.number().int().min(0).max(9000).multipleOf(100)
const count = z.number().int().min(1).max(60)

export const PROGRAM_KINDS = ['major', 'minor', 'certificate', 'institution'] as const

export const filterSchema = z.strictObject({
  list: z.array(course).min(1).optional().describe('These courses; a course that is equivalent to one of them counts as it.'),
  subjects: z.array(subject).min(1).optional().describe('Courses of any of these subjects.'),
  levelMin: level.optional().describe('Lowest level: 300 means numbered 300 or above.'),
  levelMax: level.optional().describe('Highest level, inclusive: 200 means numbered up to 299.'),
  attributes: z.array(z.string().min(1)).min(1).optional().describe('Courses carrying any of these attributes.'),
  withoutAttributes: z.array(z.string().min(1)).min(1).optional().describe('Courses carrying none of these.'),
  except: z.array(course).min(1).optional().describe('Not these, whatever else holds.'),
}).describe('Which courses a line accepts; every part that is given must hold, an empty filter accepts all.')

const capSchema = z.strictObject({ filter: filterSchema, credits: credits.optional(), courses: z.number().int().min(0).max(60).optional() })
  .describe('At most so many credits or courses of the line from these.')

export const courseLineSchema = z.strictObject({
  kind: z.literal('courses'),
  id,
  title,
  filter: filterSchema,
  courses: count.optional().describe('How many courses are needed. As many as the list names: all of them.'),
  credits: credits.optional().describe('How many credits are needed.'),
  minGrade: z.string().optional().describe('Lowest grade that counts here.'),
  caps: z.array(capSchema).optional(),
  subjects: z.number().int().min(2).max(12).optional().describe('The courses used must come from at least so many subjects.'),
  spread: z.strictObject({ by: z.enum(['level', 'attribute']), n: z.number().int().min(2).max(12) }).optional()
    .describe('The same by levels, or by the attributes that the filter names.'),
})

interface AllNode {
  kind: 'all'
  id: string
  title: string
  children: Node[]
}
interface SomeNode {
  kind: 'some'
  id: string
  title: string
  n: number
  children: Node[]
}
type Node = z.infer<typeof courseLineSchema> | AllNode | SomeNode

const nodeSchema: z.ZodType<Node> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    courseLineSchema,
    z.strictObject({ kind: z.literal('all'), id, title, children: z.array(nodeSchema).min(1) }),
    z.strictObject({ kind: z.literal('some'), id, title, n: count.describe('How many of the children must be met.'),
      children: z.array(nodeSchema).min(2) }),
  ]),
).meta({ id: 'node' })

const points = z.number().min(0).max(5).refine(value => Math.abs(value * 100 - Math.round(value * 100)) < 1e-9, 'use at most two decimals')
export const ruleSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('gpa'), id, title, minimum: points, scope: z.union([z.enum(['overall', 'program']), filterSchema]) })
    .describe('A grade point average over everything, over what the program uses, or over a filter.'),
  z.strictObject({ kind: z.literal('credits'), id, title, credits, filter: filterSchema.optional(),
    here: z.boolean().optional().describe('Count only what was taken at this institution.'),
    used: z.boolean().optional().describe('Count only what the lines of the program use.') }),
  z.strictObject({ kind: z.literal('residence'), id, title, credits, of: credits })
    .describe('Of the last `of` credits, at least so many must be taken here.'),
  z.strictObject({ kind: z.literal('maximum'), id, title, credits: credits.optional(), courses: z.number().int().min(0).max(60).optional(),
    of: z.strictObject({
      filter: filterSchema.optional(),
      source: z.enum(['transfer', 'exam', 'elsewhere']).optional().describe('Where it was earned; `elsewhere` is either of the two.'),
      gradeAtMost: z.string().optional().describe('Passed with this grade or a lower one.'),
      ungraded: z.boolean().optional().describe('Passed here without a grade that counts in an average.'),
    }) }).describe('At most so many credits or courses of a kind count, in the lines and towards the total.'),
  z.strictObject({ kind: z.literal('milestone'), id, title, words: z.string().min(1).max(300) }).describe(
    'Something without credit, recorded when it is done.',
  ),
])

export const sharingSchema = z.strictObject({
  with: z.string().min(1).describe('The code of another program, or a kind: every program of that kind.'),
  courses: z.number().int().min(0).optional(),
  credits: z.number().min(0).optional(),
})

export const stepSchema = z.strictObject({
  name: z.string().min(1),
  courses: z.array(course),
  season: z.enum(['fall', 'spring', 'summer']).optional().describe('When the step falls; without it, in a long term.'),
})

export const programSchema = z.strictObject({
  $schema: z.string().optional(),
  format: z.enum(['ridgeway-program/1', 'ridgeway-program/2'])
    .describe('The first format has no maxima, residence, spread and parts of a total.'),
  code: z.string().regex(/^[A-Z][A-Z0-9-]{1,18}$/, 'use capitals, digits and hyphens, such as WSC-BS'),
  kind: z.enum(PROGRAM_KINDS),
  title,
  catalogYear: z.number().int().min(1990).max(2100),
  totalCredits: credits,
  totalFilter: filterSchema.optional().describe('What counts towards the total; everything that gives credit where it is left out.'),
  areas: z.array(
    z.strictObject({ id, title, hue: z.enum(['moss', 'lake', 'clay', 'slate', 'plum', 'fern']), children: z.array(nodeSchema).min(1) }),
  ).min(1).describe('Top-level areas, also the lanes of the plan.'),
  rules: z.array(ruleSchema).default([]),
  overlays: z.array(courseLineSchema).default([]).describe('Lines that count a course again, besides its use in the areas.'),
  sharing: z.array(sharingSchema).default([]).describe('How much of this program may also count in another.'),
  suggested: z.array(stepSchema).default([]),
}).meta({ title: 'Ridgeway program', description: 'Requirements of one program in one catalog year.' })

export type ProgramFile = z.infer<typeof programSchema>

/** The JSON Schema (draft 2020-12) of the format. */
export const programJsonSchema = () => z.toJSONSchema(programSchema, { io: 'input' })
