import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/advising'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { Refusal } from '../college/refusal'
import { slotsOf } from '../college/slots'
import { advisingOf, tell } from '../college/tell'
import { addMeeting, cancelMeetingOf, keepHours, lockAdvisor, meetingsAhead, moveMeeting } from '../db/store/advisors'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Books a free slot, or moves a meeting there. Two who want the same at the same moment: the slot is unique, one of them gets it. */
export async function bookMeeting(doing: Doing<Input<typeof contract.bookMeeting>>) {
  const { tx, student, at, college, input, ledger } = doing
  const [advisor] = await advisingOf(doing)
  if (!advisor) throw new Refusal(422, 'no-advisor', 'There is no advisor to meet yet.', 'The registrar\'s office assigns one; ask there.')
  await lockAdvisor(tx, advisor)
  const slot = (await slotsOf(tx, college, advisor, doing)).find(one => one.start === new Date(input.start).toISOString())
  if (!slot) throw takenNow()
  const booked = await meetingsAhead(tx, 'student', student, at)
  const about = { student: student, advisor, start: slot.start, minutes: slot.minutes, place: slot.place }
  if (input.moves !== null) {
    const known = booked.find(one => one.id === input.moves)
    if (!known || known.advisor !== advisor)
      throw new Refusal(409, 'meeting-unknown', 'This meeting is over, cancelled or with another advisor.', 'Book a new one.')
    if (await moveMeeting(tx, known.id, { ...about, about: input.about || known.about }) === 0) throw takenNow()
  }
  else {
    if (booked.length >= LIMITS.meetings)
      throw new Refusal(422, 'too-many-meetings', `${LIMITS.meetings} meetings are booked already.`, 'Move or cancel one of them.')
    if (!await addMeeting(tx, { ...about, about: input.about })) throw takenNow()
  }
  await ledger('book meeting', { start: slot.start, advisor, moved: input.moves })
  await tell(doing, [student, ...await advisingOf(doing)], { code: input.moves === null ? 'meeting booked' : 'meeting moved',
    start: slot.start, minutes: slot.minutes })
  return DONE
}

const takenNow = () => new Refusal(409, 'slot-taken', 'This time is not free any more.', 'Choose another; here are those that are.')

export async function cancelMeeting(doing: Doing<Input<typeof contract.cancelMeeting>>) {
  const { tx, student, at, input, ledger } = doing
  const known = (await meetingsAhead(tx, 'student', student, at)).find(one => one.id === input.id)
  if (!known || await cancelMeetingOf(tx, student, input.id) === 0)
    throw new Refusal(409, 'meeting-unknown', 'This meeting is over or cancelled already.', 'Reload the page.')
  await ledger('cancel meeting', { start: known.start, advisor: known.advisor })
  await tell(doing, [student, known.advisor], { code: 'meeting cancelled', start: known.start, minutes: known.minutes })
  return DONE
}

export async function keepOfficeHours({ tx, actor, input }: Doing<Input<typeof contract.keepOfficeHours>>) {
  await keepHours(tx, actor, input.hours)
  return DONE
}
