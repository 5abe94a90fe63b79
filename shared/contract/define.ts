import { z } from 'zod'

/**
 * Who may, by relation. `file`: the student, their advisor, and for looking the office. `own or advisor`: the student and their advisor.
 * `their advisor`: only the advisor of that student, or who stands in for them. `advisor or office`, `their office`: as they say; what
 * an act then asks of the role besides it asks itself.
 */
export type Who = 'everybody' | 'signed in' | 'advisor' | 'office' | 'file' | 'own' | 'own or advisor' | 'their advisor'
  | 'advisor or office' | 'their office'

/** The views that an act can change and answer with; each is about one student and one term. */
export type FileView = 'student' | 'week' | 'sheet'

interface Declared<Input extends z.ZodType, Output extends z.ZodType> {
  /** As people would say it; the ledger and the API description use it. */
  name: string
  method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  /** `:id` is the student, `:plan` one of the student's plans. */
  path: string
  who: Who
  /** What is sent: as the query of a GET or DELETE, as the body of anything else. */
  input: Input
  output: Output
  /** One sentence for the API description. */
  words: string
  /** Only for people at a page: no token opens it. */
  byHand?: true
  /** Only the demonstration has it. */
  demo?: true
  /** Most bytes of a body; 64 kB where nothing is said. */
  most?: number
}

export interface Act<Input extends z.ZodType = z.ZodType, Output extends z.ZodType = z.ZodType> extends Declared<Input, Output> {
  kind: 'act'
  /** The views of the student that it changes; it answers with those that the page shows. */
  changes: readonly FileView[]
  /** What the person saw when deciding; the act is refused with the difference when it has moved on. */
  basis?: string
}

export interface View<Input extends z.ZodType = z.ZodType, Output extends z.ZodType = z.ZodType> extends Declared<Input, Output> {
  kind: 'view'
  /** What tells that it is stale. */
  stamp: string
  /** News that go on until the page closes. */
  stream?: true
}

export const act = <Input extends z.ZodType, Output extends z.ZodType>(declared: Omit<Act<Input, Output>, 'kind'>): Act<Input, Output> => ({
  kind: 'act', ...declared,
})
export const view = <Input extends z.ZodType, Output extends z.ZodType>(
  declared: Omit<View<Input, Output>, 'kind' | 'method'>): View<Input, Output> => ({ kind: 'view', method: 'GET', ...declared })

/** Data of the core inside an answer: its type is the core's own, and its name stands in the API description. */
export const known = <T>(name: string) => z.custom<T>().meta({ description: `${name}, as the rules have it` })

/** Nothing to send; nothing to tell. */
export const Nothing = z.object({})
export const Done = z.object({ done: z.literal(true) })
export const DONE: z.infer<typeof Done> = { done: true }

/** Which views a page shows, so that an act answers with them: the term, the plan if not the current one, and their names. */
export const Shown = z.object({
  term: z.string().regex(/^\d{4}(SP|SU|FA)$/),
  plan: z.coerce.number().int().positive().optional(),
  show: z.string().max(60).transform(text => text.split(',')).pipe(z.array(z.enum(['student', 'week', 'sheet'])).max(3)),
})
export type Shown = z.infer<typeof Shown>
