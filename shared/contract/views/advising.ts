import { z } from 'zod'
import type { ExceptionAsked, Need, Notice, NoticeWish, OfficeHours, SelfCheck, Slot } from '@ridgeway/core/advising'
import type { PlanOperation } from '@ridgeway/core/planning'
import { known, view } from '../define'
import { termCode } from '../values'

const AdviseeRow = z.object({ id: z.number(), name: z.string(), program: z.string(), earned: z.number(), gpa: z.number().nullable(),
  /** Courses planned for the term, as a sign-off would keep them. */
  planned: z.array(z.object({ course: z.string(), credits: z.number() })),
  blockers: z.number(), opensAt: z.string().nullable(), asked: z.string().nullable(), signedOff: z.boolean(), finish: z.string().nullable(),
  /** Whether the requirements are read: finish, averages and what counts for nothing come a moment later. */
  isWhole: z.boolean(),
  /** Who advises them, where one stands in for that person. */
  advisor: z.string().nullable(),
  needs: known<Need[]>('Need, a list, most pressing first'), urgency: z.number(),
  /** What happened since one last looked; null where one never did. */
  since: z.object({ at: z.string(), edits: z.number(), comments: z.number() }).nullable() })
export type AdviseeRow = z.infer<typeof AdviseeRow>
export const readAdvisees = view({ name: 'advisees', path: '/api/advisees', who: 'advisor', input: z.object({ term: termCode }),
  output: z.array(AdviseeRow), stamp: 'none', words: 'The advisor\'s students and those of whom one is deputy, by need.' })

const Note = z.object({ id: z.number(), by: z.string(), author: z.number(), at: z.string(), text: z.string(), shared: z.boolean(),
  meeting: z.number().nullable() })
export type Note = z.infer<typeof Note>

export const Brief = z.object({
  /** When the advisor last looked, and what was done to the current plan since; all of it where they never looked. */
  lookedAt: z.string().nullable(), finishSeen: z.string().nullable(),
  changes: z.array(z.object({ by: z.string(), at: z.string(), operation: known<PlanOperation>('PlanOperation') })),
  /** What became of one's suggestions, with the student's words; newest first. */
  answers: z.array(z.object({ at: z.string(), state: z.enum(['accepted', 'declined']), words: z.string(),
    operations: known<PlanOperation[]>('PlanOperation, a list') })),
  notes: z.array(Note),
  /** The latest meeting that has begun, for a fortnight: what is written after it can be its notes. */
  met: z.object({ id: z.number(), start: z.string() }).nullable(),
  before: z.array(z.object({ advisor: z.string(), until: z.string(), by: z.string(), reason: z.string() })),
})
export type Brief = z.infer<typeof Brief>
export const readBrief = view({ name: 'brief', path: '/api/students/:id/brief', who: 'their advisor', input: z.object({}), output: Brief,
  stamp: 'version of the student\'s file and of the plan',
  words: 'What only those who advise see of a file: what happened since they looked, private notes, who advised before.' })

const Meeting = z.object({ id: z.number(), start: z.string(), minutes: z.number(), place: z.string(), about: z.string(),
  sequence: z.number(),
  student: z.number(), name: z.string(), advisor: z.number(), advisorName: z.string() })
export type Meeting = z.infer<typeof Meeting>
export const readSlots = view({ name: 'free times of the advisor', path: '/api/students/:id/meetings', who: 'own or advisor',
  input: z.object({}), output: z.object({ advisor: z.string().nullable(), slots: known<Slot[]>('Slot, a list'),
    meetings: z.array(Meeting) }), stamp: 'none', words: 'When the advisor can be met in the next weeks, and meetings that are booked.' })

export const readHours = view({ name: 'office hours', path: '/api/office-hours', who: 'advisor', input: z.object({}),
  output: z.object({ hours: known<OfficeHours[]>('OfficeHours, a list'), meetings: z.array(Meeting) }), stamp: 'none',
  words: 'One\'s office hours and the meetings to come.' })
export const readDeputies = view({ name: 'deputies', path: '/api/deputies', who: 'advisor', input: z.object({}),
  output: z.object({ mine: z.array(z.object({ id: z.number(), name: z.string(), from: z.string(), until: z.string() })),
    for: z.array(z.object({ name: z.string(), from: z.string(), until: z.string() })),
    advisors: z.array(z.object({ id: z.number(), name: z.string() })) }), stamp: 'none',
  words: 'Who stands in for one, for whom one does, and who could.' })
export const findPeople = view({ name: 'students by name', path: '/api/people', who: 'office',
  input: z.object({ text: z.string().trim().min(2, 'at least two letters').max(60) }),
  output: z.object({ students: z.array(z.object({ id: z.number(), name: z.string(), advisor: z.string().nullable(),
    asked: z.number() })), advisors: z.array(z.object({ id: z.number(), name: z.string() })) }), stamp: 'none',
  words: 'Students whose name holds a text, at most 30, and who could advise them.' })

export const readMessages = view({ name: 'messages', path: '/api/notices', who: 'signed in', input: z.object({}),
  output: z.object({ wish: known<NoticeWish>('NoticeWish'), notices: z.array(z.object({ id: z.number(), student: z.number(),
    name: z.string(), at: z.string(), notice: known<Notice>('Notice'), read: z.boolean() })) }), stamp: 'none',
  words: 'What one was told, newest first, and how one wants to hear by mail.' })
export const readMails = view({ name: 'caught mails', path: '/api/standins/mail', who: 'signed in', demo: true, input: z.object({}),
  output: z.array(z.object({ id: z.string(), at: z.string(), subject: z.string(), from: z.string(), text: z.string() })), stamp: 'none',
  words: 'The stand-in for one\'s mailbox: what the college\'s mail server took for one.' })

/* Parts of the student's file. */
export const Suggestion = z.object({ id: z.number(), set: z.string(), plan: z.number(), by: z.string(), at: z.string(), why: z.string(),
  operations: known<PlanOperation[]>('PlanOperation, a list') })
export type Suggestion = z.infer<typeof Suggestion>
export const AskedException = z.object({ id: z.number(), asked: known<ExceptionAsked>('ExceptionAsked'), reason: z.string(), at: z.string(),
  state: z.enum(['asked', 'granted', 'declined']), by: z.string().nullable(), words: z.string() })
export type AskedException = z.infer<typeof AskedException>
export const Returned = z.object({ by: z.string(), at: z.string(), words: z.string(), withdrawn: z.boolean() })
export const Asked = z.object({ at: z.string(), note: z.string(), answers: known<SelfCheck>('SelfCheck').nullable() })
export const SharedNote = Note.pick({ id: true, by: true, at: true, text: true })
export { Meeting as BookedMeeting }
