import { z } from 'zod'

import type { CountsFor, FoundBundle, FoundCourse, NumberFound, SearchCounts } from '@ridgeway/core/find'
import { known, view } from '../define'
import { courseCode, lineAt, termCode } from '../values'

export type { FoundBundle, FoundCourse }

const minute = z.number().int().min(0).max(1440)
/** What is looked for among the sections of a term: words, and the conditions that are set. */
export const Search = z.object({
  text: z.string().max(400, 'at most 400 letters').default(''),
  /** Lines that the course would count for, any of them; `open` stands for all that are open. */
  lines: z.array(z.union([z.literal('open'), lineAt])).max(20).optional(),
  canTake: z.boolean().optional(),
  fits: z.boolean().optional(),
  seatsLeft: z.boolean().optional(),
  days: z.array(z.enum(['M', 'T', 'W', 'R', 'F', 'S', 'U'])).max(7).optional(),
  from: minute.optional(),
  to: minute.optional(),
  sites: z.array(z.string().max(20)).max(20).optional(),
  deliveries: z.array(z.enum(['on site', 'online live', 'online any time', 'mixed'])).max(4).optional(),
  sessions: z.array(z.string().max(10)).max(10).optional(),
  subjects: z.array(z.string().max(4)).max(30).optional(),
  levels: z.array(z.number().int().min(0).max(9)).max(10).optional(),
  instructor: z.string().max(80).optional(),
  group: z.string().max(20).optional(),
  remembered: z.boolean().optional(),
  /** Shows what is not shown for one reason. */
  hiddenFor: z.string().max(30).optional(),
  sort: z.enum(['best', 'code', 'time', 'seats']).optional(),
})
export type Search = z.infer<typeof Search>

const asked = z.string().max(3000).transform((text, issue): unknown => {
  try {
    return JSON.parse(text)
  }
  catch {
    issue.addIssue('a search in JSON')
    return z.NEVER
  }
}).pipe(Search)

/** What was found: courses in order with their bundles, how many each condition would leave, and what is not shown and why. */
export const Found = z.object({
  courses: z.array(known<FoundCourse>('FoundCourse')),
  bundles: z.number(), courseCount: z.number(),
  counts: known<SearchCounts>('SearchCounts'),
  numbers: known<NumberFound[]>('NumberFound, a list'),
})
export type Found = z.infer<typeof Found>
export const find = view({ name: 'find sections', path: '/api/students/:id/find', who: 'file',
  input: z.object({ term: termCode, search: asked, most: z.coerce.number().int().min(1).max(200).default(40) }), output: Found,
  stamp: 'version of the student\'s file, and the seats',
  words: 'Sections of a term for one student: which fit, what they would count for, and what is not shown and why.' })

export const SectionSheet = z.object({ course: courseCode, bundle: known<FoundBundle>('FoundBundle'),
  countsFor: known<CountsFor[]>('CountsFor, a list') })
export type SectionSheet = z.infer<typeof SectionSheet>
export const readSection = view({ name: 'section sheet', path: '/api/students/:id/section', who: 'file',
  input: z.object({ term: termCode, sections: z.string().regex(/^\d{1,9}(\+\d{1,9}){0,5}$/, 'section ids joined by +') }),
  output: SectionSheet, stamp: 'version of the student\'s file, and the seats',
  words: 'All about one bundle, as it is for one student.' })

/** Sections of a term that stay clear of each other, course by course; `seats` is how many whole places are left for this student. */
export const Groups = z.object({ groups: z.array(z.object({ group: z.string(), seats: z.number(), open: z.boolean(),
  courses: z.array(z.object({ course: courseCode, sectionIds: z.array(z.number()), label: z.string(), times: z.string(),
    planned: z.boolean() })) })) })
export type Groups = z.infer<typeof Groups>
export const readGroups = view({ name: 'groups', path: '/api/students/:id/groups', who: 'file', input: z.object({ term: termCode }),
  output: Groups,
  stamp: 'version of the student\'s file, and the seats',
  words: 'Groups of sections of a term that suit what a student plans or should take next.' })
