import PostalMime from 'postal-mime'
import type { z } from 'zod'
import type * as contract from '#shared/contract/views/advising'
import type { Looking } from '../college/asked'
import { slotsOf } from '../college/slots'
import { answersSince, editsSince, lookOf, notesOf } from '../db/store/advising'
import { advisorsBefore, allAdvisors, deputiesNamed, findAdvisor, hoursOf, lastMeeting, meetingsAhead, standsInFor,
  studentsNamed } from '../db/store/advisors'
import { caughtFor, noticesOf, wishOf } from '../db/store/notices'
import { advisorOf } from '../db/store/people'
import { listPlans } from '../db/store/plans'

type Output<View extends { output: z.ZodType }> = Promise<z.output<View['output']>>
const MOST_CHANGES = 60
const MOST_NOTICES = 200
const MOST_MAILS = 50
const MOST_FOUND = 30

/** What only those who advise see of a file. */
export async function readBriefView({ db, student, visitor, at }: Looking<unknown>): Output<typeof contract.readBrief> {
  const look = await lookOf(db, visitor!.id, student)
  const current = (await listPlans(db, student)).find(plan => plan.current)
  const since = look?.plan === current?.id ? look?.version ?? 0 : 0
  return {
    lookedAt: look?.at ?? null,
    finishSeen: look?.finish ?? null,
    changes: current ? await editsSince(db, current.id, since, MOST_CHANGES) : [],
    answers: await answersSince(db, student, look?.at ?? null, MOST_CHANGES),
    notes: await notesOf(db, student),
    met: await lastMeeting(db, student, at),
    before: await advisorsBefore(db, student),
  }
}

export async function readSlotsView({ db, student, college, at, date }: Looking<unknown>): Output<typeof contract.readSlots> {
  const id = await advisorOf(db, student)
  const advisor = id ? await findAdvisor(db, id) : undefined
  return { advisor: advisor?.name ?? null, slots: advisor ? await slotsOf(db, college, advisor.id, { at, date }) : [],
    meetings: await meetingsAhead(db, 'student', student, at) }
}

export async function readHoursView({ db, visitor, at }: Looking<unknown>): Output<typeof contract.readHours> {
  return { hours: await hoursOf(db, visitor!.id), meetings: await meetingsAhead(db, 'advisor', visitor!.id, at) }
}

export async function readDeputiesView({ db, visitor, date }: Looking<unknown>): Output<typeof contract.readDeputies> {
  return {
    mine: await deputiesNamed(db, visitor!.id, date),
    for: (await standsInFor(db, visitor!.id, date)).map(({ id: _, ...one }) => one),
    advisors: (await allAdvisors(db)).filter(one => one.id !== visitor!.id),
  }
}

export async function findPeopleView({ db, input }: Looking<{ text: string }>): Output<typeof contract.findPeople> {
  return { students: await studentsNamed(db, input.text, MOST_FOUND), advisors: await allAdvisors(db) }
}

export async function readMessagesView({ db, visitor }: Looking<unknown>): Output<typeof contract.readMessages> {
  return { wish: await wishOf(db, visitor!.id), notices: await noticesOf(db, visitor!.id, MOST_NOTICES) }
}

/** The stand-in for a mailbox: what was caught, read as a mail program would. */
export async function readMailsView({ db, visitor }: Looking<unknown>): Output<typeof contract.readMails> {
  const caught = await caughtFor(db, visitor!.id, MOST_MAILS)
  return Promise.all(caught.map(async ({ id, at, raw }) => {
    const mail = await PostalMime.parse(raw)
    return { id, at, subject: mail.subject ?? '', from: mail.from?.address ?? '', text: mail.text ?? '' }
  }))
}
