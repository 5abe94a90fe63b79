import { z } from 'zod'
import type { Plan, PlanOperation } from '@ridgeway/core/planning'
import type { RowDecision } from '@ridgeway/core/registration'
import { act, Done, known, Nothing } from '../define'
import { LIMITS } from '../limits'
import { courseCode, credits, entryId, gradingMode, lineId, localDate, planId, planName, planOperation, programCode, programIds,
  reason, rowNumber, sectionIds, termCode, wish, waivedAmount } from '../values'
import { Search } from '../views/find'
import { PlanComment, PlanHead } from '../views/student'

const note = z.string().max(500).default('')

/* The plan. */
export const editPlan = act({ name: 'edit plan', method: 'POST', path: '/api/students/:id/plan', who: 'own or advisor',
  input: z.object({ plan: planId.optional(), baseVersion: z.number().int().min(0), batch: z.uuid('a fresh key for each sending').optional(),
    operations: z.array(planOperation).min(1).max(LIMITS.operations) }),
  output: z.object({ version: z.number(), plan: known<Plan>('Plan'),
    skipped: z.array(z.object({ operation: known<PlanOperation>('PlanOperation'), why: z.string() })) }),
  changes: ['week', 'sheet'], basis: 'version of the plan: later operations are merged, what makes no sense any more is skipped and named',
  most: 200_000, words: 'Operations on one of the student\'s plans, merged onto it as it is.' })
export const makePlan = act({ name: 'make plan', method: 'POST', path: '/api/students/:id/plans', who: 'own or advisor',
  input: z.object({ name: planName, copyOf: planId.nullable(), operations: z.array(planOperation).max(2 * LIMITS.operations).optional() }),
  output: PlanHead, changes: ['student'], most: 300_000, words: 'Another plan, empty or as a copy, with operations applied to it.' })
export const changePlan = act({ name: 'change plan', method: 'PUT', path: '/api/students/:id/plans/:plan', who: 'own or advisor',
  input: z.object({ name: planName.optional(), current: z.literal(true).optional(), deleted: z.boolean().optional() })
    .refine(wish => Object.values(wish).filter(one => one !== undefined).length === 1, 'change one thing: the name, or which plan is the '
    + 'current one, or whether it is deleted'),
  output: Done, changes: ['student', 'week', 'sheet'], words: 'Renames a plan, makes it the current one, deletes it or brings it back.' })
export const comment = act({ name: 'comment', method: 'POST', path: '/api/students/:id/comments', who: 'own or advisor',
  input: z.object({ term: termCode.nullable(), entry: entryId.nullable(),
    text: z.string().trim().min(1, 'write something first').max(1000) }),
  output: z.array(PlanComment), changes: ['student'], words: 'A comment on the plan, on a term or on a course in it.' })

/* Release: what stands between a plan and registering. */
export const askSignOff = act({ name: 'ask for sign-off', method: 'POST', path: '/api/students/:id/sign-off-request', who: 'own',
  input: z.object({ term: termCode, note }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Asks the advisor to sign off a term; asking again renews the request.' })
export const signOff = act({ name: 'sign off', method: 'POST', path: '/api/students/:id/sign-off', who: 'their advisor',
  input: z.object({ term: termCode, note, seen: z.array(z.object({ course: courseCode, credits })).max(LIMITS.entries) }),
  output: Done, changes: ['student', 'week', 'sheet'], basis: 'the courses that the advisor saw in the term',
  words: 'Releases a term and keeps a copy of what was agreed.' })
export const acceptTerms = act({ name: 'accept terms', method: 'POST', path: '/api/students/:id/terms', who: 'own',
  input: z.object({ term: termCode }), output: Done, changes: ['student', 'week', 'sheet'], words: 'Accepts the terms of a term.' })
export const confirmProgram = act({ name: 'confirm program', method: 'POST', path: '/api/students/:id/program', who: 'own', input: Nothing,
  output: Done, changes: ['student', 'week', 'sheet'], words: 'Confirms that program and catalog year are right.' })

/* Requirements. */
export const pinUse = act({ name: 'pin use', method: 'PUT', path: '/api/students/:id/use-pins', who: 'own or advisor',
  input: z.object({ item: entryId, program: programCode, line: lineId.nullable() }), output: Done, changes: ['student'],
  words: 'Pins the use of a course of the record or of a registration, or lets it go.' })
export const grantException = act({ name: 'grant exception', method: 'POST', path: '/api/students/:id/exceptions', who: 'their advisor',
  input: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('substitution'), program: programCode, line: lineId, course: courseCode, instead: courseCode.nullable(),
      reason }),
    z.object({ kind: z.literal('waiver'), program: programCode, line: lineId, course: courseCode.nullable(), amount: waivedAmount,
      reason }),
  ]), output: Done, changes: ['student', 'week', 'sheet'], words: 'A substitution or a waiver on a requirement line.' })
export const takeBackException = act({ name: 'take back exception', method: 'DELETE', path: '/api/students/:id/exceptions',
  who: 'their advisor', input: z.object({ id: planId }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Takes back a substitution or a waiver.' })
export const recordMilestone = act({ name: 'record milestone', method: 'PUT', path: '/api/students/:id/milestones', who: 'their advisor',
  input: z.object({ program: programCode, milestone: lineId, done: z.boolean() }), output: Done, changes: ['student'],
  words: 'Records a requirement without credit as done, or takes that back.' })

/* Programs. */
export const askProgramChange = act({ name: 'ask program change', method: 'POST', path: '/api/students/:id/program-change', who: 'own',
  input: z.object({ programs: programIds, note }), output: Done, changes: ['student'],
  words: 'Asks to be in these programs from now on; a new wish replaces one that is not answered yet.' })
export const takeBackProgramChange = act({ name: 'take back program change', method: 'DELETE', path: '/api/students/:id/program-change',
  who: 'own', input: Nothing, output: Done, changes: ['student'], words: 'Takes back a wish that is not answered yet.' })
export const decideProgramChange = act({ name: 'answer program change', method: 'POST', path: '/api/students/:id/program-change/decision',
  who: 'their advisor', input: z.object({ request: rowNumber, granted: z.boolean(), words: z.string().max(500).default('') }),
  output: Done, changes: ['student', 'week', 'sheet'], basis: 'the wish that the advisor read',
  words: 'Grants the change, which makes it so at once, or declines it with words.' })

/* The term. */
const backupList = z.array(sectionIds).max(LIMITS.backups, `at most ${LIMITS.backups} backups`)
export const chooseBundles = act({ name: 'choose bundles', method: 'PUT', path: '/api/students/:id/line-up', who: 'own',
  input: z.object({ term: termCode, choices: z.array(z.object({ course: courseCode, sectionIds: z.array(rowNumber).max(6),
    backups: backupList.optional() }))
    .min(1, 'choose at least one bundle').max(LIMITS.lineUp) }), output: Done,
  changes: ['student', 'week', 'sheet'],
  words: 'Bundles for courses, in place of earlier choices, all or none of them; no sections take a course\'s choice out, and backups '
    + 'that are left out stay as they are.' })

export const setRow = act({ name: 'set up a row', method: 'PUT', path: '/api/students/:id/line-up/row', who: 'own',
  input: z.object({ term: termCode, course: courseCode,
    backups: backupList.optional(),
    waitIfFull: z.boolean().optional(), grading: gradingMode.optional(), credits: credits.nullable().optional() }), output: Done,
  changes: ['student', 'week', 'sheet'],
  words: 'How a row of the line-up is to be registered: backups in order, the waitlist if all are full, grading and credits.' })
export const orderRows = act({ name: 'order the line-up', method: 'PUT', path: '/api/students/:id/line-up/order', who: 'own',
  input: z.object({ term: termCode, courses: z.array(courseCode).min(1).max(LIMITS.lineUp) }), output: Done,
  changes: ['student', 'week', 'sheet'], basis: 'the courses of the line-up: all of them, each once',
  words: 'In which order the rows are served.' })
export const keepWishes = act({ name: 'keep wishes', method: 'PUT', path: '/api/students/:id/week-wishes', who: 'own',
  input: z.object({ term: termCode, wishes: z.array(wish).max(LIMITS.wishes, `at most ${LIMITS.wishes} wishes`) }), output: Done,
  changes: ['student', 'week'], words: 'What is wished for the week, blocks kept free among it, in place of what was wished before.' })
export const keepInMind = act({ name: 'keep in mind', method: 'PUT', path: '/api/students/:id/shortlist', who: 'own',
  input: z.object({ term: termCode, course: courseCode, sectionIds, keep: z.boolean() }), output: Done, changes: ['student', 'week'],
  words: 'Puts a bundle on the shortlist of the term, or takes it off.' })
export const keepSearch = act({ name: 'keep a search', method: 'PUT', path: '/api/students/:id/searches', who: 'own',
  input: z.object({ name: z.string().trim().min(1, 'give the search a name').max(60), search: Search.nullable() }), output: Done,
  changes: ['student'], words: 'Keeps a search under a name, in place of one of the same name; null lets it go.' })
export const shareWeek = act({ name: 'share the week', method: 'PUT', path: '/api/students/:id/shared-week', who: 'own',
  input: z.object({ term: termCode, share: z.boolean(), note }), output: Done, changes: ['student', 'week'],
  words: 'Shows the advisor the week as it is picked now, to be looked at and not changed; or takes that back.' })
export const renewFeed = act({ name: 'renew the calendar feed', method: 'POST', path: '/api/students/:id/feed', who: 'own', input: Nothing,
  output: z.object({ path: z.string() }), changes: ['student'],
  words: 'A new secret address at which calendar programs read the student\'s weeks and deadlines; an earlier one ends.' })
export const endFeed = act({ name: 'end the calendar feed', method: 'DELETE', path: '/api/students/:id/feed', who: 'own', input: Nothing,
  output: Done, changes: ['student'], words: 'No address shows the student\'s calendar any more.' })

export const RunResult = z.object({
  reference: z.string(), at: z.string(),
  /** True when this answer repeats one given before to the same key. */
  repeated: z.boolean(), rows: z.array(known<RowDecision>('RowDecision')),
})
export type RunResult = z.infer<typeof RunResult>
export const register = act({ name: 'register', method: 'POST', path: '/api/students/:id/registrations', who: 'own',
  input: z.object({ term: termCode, key: z.uuid('a fresh key for each press'),
    rowIds: z.array(rowNumber).min(1, 'choose at least one row').max(LIMITS.lineUp) }),
  output: RunResult, changes: ['student', 'week', 'sheet'], basis: 'the rows that were chosen; the key makes the press act once',
  words: 'Registers rows of the line-up, each bundle wholly or not at all.' })

const key = z.uuid('a fresh key for each press')
/** What became of a change of registration; where it was refused nothing is changed, and the decision says why. */
export const ChangeResult = z.object({ done: z.boolean(),
  /** It was full: nothing is given up yet, and the exchange happens when a seat is offered. */
  waits: z.boolean(), repeated: z.boolean(), dropped: z.array(z.string()),
  decision: known<RowDecision>('RowDecision').nullable() })
export type ChangeResult = z.infer<typeof ChangeResult>
export const dropCourses = act({ name: 'drop courses', method: 'POST', path: '/api/students/:id/drops', who: 'own',
  input: z.object({ term: termCode, key, courses: z.array(courseCode).min(1, 'choose at least one course').max(LIMITS.lineUp),
    /** Leaving nothing of the term registered is meant. */
    everything: z.boolean().default(false) }),
  output: ChangeResult, changes: ['student', 'week', 'sheet'], basis: 'courses that are registered; the key makes the press act once',
  words: 'Gives up registered courses, all or none, and the whole term only where that is said: until the last '
    + ' day to drop without a trace, after it with a W on the record.' })
export const exchangeCourse = act({ name: 'exchange a course', method: 'POST', path: '/api/students/:id/exchanges', who: 'own',
  input: z.object({ term: termCode, key, drops: z.array(courseCode).min(1, 'choose what to give up').max(LIMITS.lineUp),
    course: courseCode, sectionIds,
    /** Where it is full: wait, and exchange when a seat is offered. */
    wait: z.boolean().default(false) }),
  output: ChangeResult, changes: ['student', 'week', 'sheet'], basis: 'courses that are registered; the key makes the press act once',
  words: 'Takes a bundle in place of registered courses: both or neither, or, where it is full, when a seat is offered.' })
export const changeRegistered = act({ name: 'change a registered course', method: 'PUT', path: '/api/students/:id/registrations',
  who: 'own',
  input: z.object({ term: termCode, key, course: courseCode, credits: credits.optional(), grading: gradingMode.optional() }),
  output: ChangeResult, changes: ['student', 'week', 'sheet'], basis: 'a course that is registered; the key makes the press act once',
  words: 'For how many credits a registered course is, or how it is graded: decided and charged anew on the same seats.' })
export const takeOffer = act({ name: 'take an offered seat', method: 'POST', path: '/api/students/:id/offers', who: 'own',
  input: z.object({ term: termCode, key, entry: rowNumber, drops: z.array(courseCode).max(LIMITS.lineUp).default([]) }),
  output: ChangeResult, changes: ['student', 'week', 'sheet'], basis: 'an offer that still stands; the key makes the press act once',
  words: 'Registers the bundle that was waited for with the seat that is held, by all rules; courses named are given up for it.' })
export const decideOffer = act({ name: 'decide an offer beforehand', method: 'PUT', path: '/api/students/:id/waitlist', who: 'own',
  input: z.object({ term: termCode, entry: rowNumber, exchange: z.array(courseCode).max(LIMITS.lineUp).nullable() }), output: Done,
  changes: ['student'], basis: 'a wait without an offer yet',
  words: 'What happens when a seat is offered: it is taken at once, in place of the courses named or beside all; null asks the student.' })
export const leaveWaitlist = act({ name: 'leave a waitlist', method: 'DELETE', path: '/api/students/:id/waitlist', who: 'own',
  input: z.object({ term: termCode, entry: z.coerce.number().int().positive() }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Leaves a waitlist; a seat that is held goes to the next.' })

/* Release without a screen in common. */
export const makeReleaseCode = act({ name: 'make a release code', method: 'POST', path: '/api/students/:id/release-code',
  who: 'their advisor', input: z.object({ term: termCode }), output: z.object({ code: z.string() }), changes: [],
  words: 'A code that releases the term once the student enters it; an earlier one that was not used ends. It is shown once.' })
export const enterReleaseCode = act({ name: 'enter a release code', method: 'PUT', path: '/api/students/:id/release-code', who: 'own',
  input: z.object({ term: termCode, code: z.string().trim().toUpperCase().regex(/^[A-Z0-9]{4}-?[A-Z0-9]{4}$/,
    'a code such as K7QM-2PXD') }),
  output: Done, changes: ['student', 'week', 'sheet'], words: 'Opens the gate of the sign-off with a code from the advisor.' })

/* Money. */
export const choosePlan = act({ name: 'choose a payment plan', method: 'PUT', path: '/api/students/:id/account', who: 'own',
  input: z.object({ term: termCode, plan: z.string().max(20) }), output: Done, changes: ['student'],
  words: 'Whether the term is paid at once or in parts; until the first part is due.' })
export const startPayment = act({ name: 'start a payment', method: 'POST', path: '/api/students/:id/payments', who: 'own',
  input: z.object({ term: termCode, key, cents: z.number().int().min(100, 'at least 1.00').max(10_000_000) }),
  output: z.object({ payment: z.uuid() }), changes: [], basis: 'what is still to pay; the key makes the press act once',
  words: 'Begins a payment; the card is given at the payment desk, and only its answer is money.' })
export const askPayback = act({ name: 'ask for money back', method: 'POST', path: '/api/students/:id/paybacks', who: 'own',
  input: z.object({ term: termCode, key }), output: z.object({ cents: z.number() }), changes: ['student'],
  basis: 'what the college owes; the key makes the press act once', words: 'Sends back what was paid beyond what is charged.' })
export const giveCard = act({ name: 'give a card at the desk', method: 'POST', path: '/api/students/:id/desk', who: 'own', demo: true,
  input: z.object({ payment: z.uuid(), card: z.string().trim().regex(/^[\d ]{12,23}$/, 'a card number of 12 to 19 digits') }),
  output: Done, changes: ['student'], words: 'The stand-in for the payment desk takes a card and answers by itself.' })

/* Rules that are lifted for a term. */
/** `until` is the last day on which it holds; null for as long as it stands. */
const lifts = { term: termCode, reason, until: localDate.nullable().default(null) }
export const liftRule = act({ name: 'lift a rule', method: 'POST', path: '/api/students/:id/lifted-rules', who: 'advisor or office',
  input: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('late add'), course: courseCode, ...lifts }),
    z.object({ kind: z.literal('restriction'), course: courseCode, ...lifts }),
    z.object({ kind: z.literal('prerequisite'), course: courseCode, ...lifts }),
    z.object({ kind: z.literal('seat'), course: courseCode, section: rowNumber, ...lifts }),
    z.object({ kind: z.literal('clash'), course: courseCode, instead: courseCode, ...lifts }),
    z.object({ kind: z.literal('load'), credits, ...lifts }),
  ]), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'Lets a student add a course late, take a section that is kept for others, go without a prerequisite, take more credits, '
    + 'or two courses that meet at the same time.' })
export const takeBackLifted = act({ name: 'take back a lifted rule', method: 'DELETE', path: '/api/students/:id/lifted-rules',
  who: 'advisor or office', input: z.object({ id: planId }), output: Done, changes: ['student', 'week', 'sheet'],
  words: 'The rule holds again for what is registered from now on.' })
