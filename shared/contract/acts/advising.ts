import { z } from 'zod'
import { act, Done } from '../define'
import { LIMITS } from '../limits'
import { courseCode, credits, entryId, lineId, localDate, planId, planOperation, programCode, reason, rowNumber, termCode,
  waivedAmount } from '../values'

/* Comments. */
export const settleThread = act({ name: 'settle a thread', method: 'PUT', path: '/api/students/:id/comments', who: 'own or advisor',
  input: z.object({ term: termCode.nullable(), entry: entryId.nullable(), settled: z.boolean() }), output: Done, changes: ['student'],
  words: 'Marks what was written about the plan, a term or a course as settled, or opens it again.' })
export const markRead = act({ name: 'mark comments as read', method: 'POST', path: '/api/students/:id/comments/read',
  who: 'own or advisor', input: z.object({ upTo: z.number().int().min(0) }), output: Done, changes: [],
  words: 'Up to which comment somebody has read.' })

/* What the advisor says to a plan. */
const words = z.string().trim().min(3, 'say why, in a few words').max(500)
export const returnPlan = act({ name: 'return a plan', method: 'PUT', path: '/api/students/:id/sign-off-request', who: 'their advisor',
  input: z.object({ term: termCode, words }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Gives a request for sign-off back with what is to be changed.' })
export const withdrawSignOff = act({ name: 'withdraw a sign-off', method: 'DELETE', path: '/api/students/:id/sign-off',
  who: 'their advisor', input: z.object({ term: termCode, words }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Takes a sign-off back with a reason: the gate closes for what is not registered yet.' })
export const suggest = act({ name: 'suggest changes', method: 'POST', path: '/api/students/:id/suggestions', who: 'their advisor',
  input: z.object({ plan: planId, why: z.string().trim().max(500).default(''),
    lines: z.array(z.array(planOperation).min(1).max(20)).min(1, 'change something first').max(LIMITS.suggestions) }),
  output: Done, changes: ['student'], most: 200_000,
  words: 'Changes of a plan, line by line, that stand beside it until the student takes them or not.' })
export const answerSuggestions = act({ name: 'answer suggestions', method: 'PUT', path: '/api/students/:id/suggestions', who: 'own',
  input: z.object({ ids: z.array(rowNumber).min(1).max(LIMITS.suggestions), take: z.boolean(),
    words: z.string().trim().max(300).default('') }),
  output: z.object({ version: z.number(), left: z.array(z.object({ id: z.number(), why: z.string() })) }),
  changes: ['student', 'week', 'sheet'], basis: 'suggestions that are still open; those that fit the plan no more are left and named',
  words: 'Takes suggested changes into the plan, or declines them.' })
export const takeBackSuggestions = act({ name: 'take back suggestions', method: 'DELETE', path: '/api/students/:id/suggestions',
  who: 'their advisor', input: z.object({ set: z.uuid() }), output: Done, changes: ['student'],
  words: 'Takes back what was suggested together and is not answered yet.' })
export const finishLook = act({ name: 'finish looking', method: 'POST', path: '/api/students/:id/looks', who: 'their advisor',
  input: z.object({ plan: planId, version: z.number().int().min(0), finish: termCode.nullable(), comment: z.number().int().min(0) }),
  output: Done, changes: [], words: 'How the file stood when the advisor last looked: what comes after is new to them.' })
export const writeNote = act({ name: 'write a note', method: 'POST', path: '/api/students/:id/notes', who: 'their advisor',
  input: z.object({ text: z.string().trim().min(1, 'write something first').max(2000), shared: z.boolean(),
    meeting: rowNumber.nullable().default(null) }), output: Done, changes: ['student'],
  words: 'A note about the student: shared with them, or only for those who advise.' })
export const removeNote = act({ name: 'remove a note', method: 'DELETE', path: '/api/students/:id/notes', who: 'their advisor',
  input: z.object({ id: planId }), output: Done, changes: ['student'], words: 'Removes a note of one\'s own.' })

/* Exceptions that are asked for. */
export const exceptionAsked = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('prerequisite'), course: courseCode, term: termCode }),
  z.object({ kind: z.literal('late add'), course: courseCode, term: termCode }),
  z.object({ kind: z.literal('restriction'), course: courseCode, term: termCode }),
  z.object({ kind: z.literal('seat'), course: courseCode, term: termCode, section: rowNumber }),
  z.object({ kind: z.literal('clash'), course: courseCode, instead: courseCode, term: termCode }),
  z.object({ kind: z.literal('load'), term: termCode, credits }),
  z.object({ kind: z.literal('substitution'), program: programCode, line: lineId, course: courseCode, instead: courseCode.nullable() }),
  z.object({ kind: z.literal('waiver'), program: programCode, line: lineId, course: courseCode.nullable(), amount: waivedAmount }),
])
export const askException = act({ name: 'ask for an exception', method: 'POST', path: '/api/students/:id/exception-requests', who: 'own',
  input: z.object({ asked: exceptionAsked, reason }), output: Done, changes: ['student'],
  words: 'Asks who is entitled to lift a rule; the same is asked once at a time.' })
export const takeBackAsked = act({ name: 'take back an asked exception', method: 'DELETE', path: '/api/students/:id/exception-requests',
  who: 'own', input: z.object({ id: planId }), output: Done, changes: ['student'], words: 'Takes back what is not answered yet.' })
export const answerException = act({ name: 'answer an asked exception', method: 'PUT', path: '/api/students/:id/exception-requests',
  who: 'advisor or office',
  input: z.object({ id: rowNumber, granted: z.boolean(), words: z.string().trim().max(300).default(''),
    until: localDate.nullable().default(null) }), output: Done, changes: ['student', 'week', 'sheet'],
  basis: 'a request that is not answered yet', words: 'Grants what was asked, or declines it with words.' })

/* Meetings. */
export const bookMeeting = act({ name: 'book a meeting', method: 'POST', path: '/api/students/:id/meetings', who: 'own or advisor',
  input: z.object({ start: z.iso.datetime({ message: 'one of the free times' }), about: z.string().trim().max(300).default(''),
    /** The meeting that is moved there. */
    moves: rowNumber.nullable().default(null) }), output: Done, changes: ['student'], basis: 'a slot that is still free',
  words: 'Books a free slot of the advisor, or moves a meeting there; of two who want it one gets it.' })
export const cancelMeeting = act({ name: 'cancel a meeting', method: 'DELETE', path: '/api/students/:id/meetings', who: 'own or advisor',
  input: z.object({ id: planId }), output: Done, changes: ['student'], words: 'Cancels a meeting; the slot is free again.' })

/* Handing over. */
export const reassignAdvisor = act({ name: 'reassign the advisor', method: 'PUT', path: '/api/students/:id/advisor', who: 'their office',
  input: z.object({ advisor: rowNumber, reason }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Gives a student another advisor at once; who it was stays in the history.' })
export const nameDeputy = act({ name: 'name a deputy', method: 'PUT', path: '/api/deputies', who: 'advisor', changes: [],
  input: z.object({ deputy: rowNumber, from: localDate, until: localDate }).refine(one => one.from <= one.until,
    'the last day comes after the first'), output: Done,
  words: 'Another advisor does everything for one\'s advisees from a day until a day.' })
export const endDeputy = act({ name: 'end a deputy', method: 'DELETE', path: '/api/deputies', who: 'advisor', changes: [],
  input: z.object({ id: planId }), output: Done, words: 'The deputy is none any more.' })
const minute = z.number().int().min(0).max(1440)
export const keepOfficeHours = act({ name: 'keep office hours', method: 'PUT', path: '/api/office-hours', who: 'advisor', changes: [],
  input: z.object({ hours: z.array(z.object({ day: z.enum(['M', 'T', 'W', 'R', 'F', 'S', 'U']), start: minute, end: minute,
    length: z.number().int().min(5).max(240), place: z.string().trim().min(1, 'say where').max(80) })
    .refine(one => one.start + one.length <= one.end, 'the hours are shorter than one meeting')).max(20) }), output: Done,
  words: 'When one can be met, week by week; meetings that are booked already stay.' })

/* What one is told. */
export const readNotices = act({ name: 'mark notices as read', method: 'PUT', path: '/api/notices', who: 'signed in', changes: [],
  input: z.object({ upTo: z.number().int().min(0) }), output: Done, words: 'Everything up to here was read.' })
export const wishNotices = act({ name: 'choose how to be told', method: 'PUT', path: '/api/notices/wish', who: 'signed in', changes: [],
  input: z.object({ wish: z.enum(['at once', 'digest', 'none']) }), output: Done,
  words: 'Mail as it happens, once a day, or none; what happens stands in Messages all the same.' })
