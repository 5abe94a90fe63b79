import type { z } from 'zod'
import { CLASS_STANDINGS } from '@ridgeway/core/grades'
import { comersOf, openingsEffect } from '@ridgeway/core/office'
import type { OpeningRule } from '@ridgeway/core/registration'
import type * as contract from '#shared/contract/acts/office'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { readComersOf } from '../college/comers'
import { Refusal } from '../college/refusal'
import { tell } from '../college/tell'
import type { Executor } from '../db/database'
import { lockCollege } from '../db/store/college'
import { clearHolds as keepCleared, confirmStudents, holdersOf, markConfirmed, openingsOf, replaceOpenings,
  studentsNamed } from '../db/store/office'
import { placeHold } from '../db/store/money'
import { erase, lockPerson, tiesOf } from '../db/store/person'
import { changeSections, findSection, hasCohort, keepSeats, markCancelled, nextPool, poolsOfSection } from '../db/store/sections'
import { bumpStudents, lockStudent, writeLedger } from '../db/store/students'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

async function sectionAt(tx: Executor, id: number) {
  const section = await findSection(tx, id)
  if (!section) throw new Refusal(404, 'section-unknown', 'There is no such section.', 'Reload the page and choose it again.')
  return section
}

/** Cancels a section or restores it; those whom it touches are served beside, each by themselves. */
export async function cancelSection({ tx, actor, at, date, college, input }: Doing<Input<typeof contract.cancelSection>>) {
  const section = await sectionAt(tx, input.section)
  const term = findTerm(college, section.term)
  if (date > term.end)
    throw new Refusal(422, 'term-over', `${term.name} is over.`, 'What took place stays on the record.')
  await changeSections(tx, section.term, [section.id], async () => {
    if (await markCancelled(tx, section.id, input.cancelled)) return
    throw new Refusal(409, 'no-change', input.cancelled ? 'This section is cancelled already.' : 'This section is not cancelled.',
      'Here it is as it stands.')
  })
  await writeLedger(tx, { at, actor, student: null, section: section.id, action: input.cancelled ? 'cancel section' : 'restore section',
    detail: { course: section.course, label: section.label, because: input.because } })
  return DONE
}

/** Sets the seats of a section, by whom they are for. Nobody loses a seat by it; who waits is served before who comes. */
export async function setSeats({ tx, actor, at, college, input }: Doing<Input<typeof contract.setSeats>>) {
  const section = await sectionAt(tx, input.section)
  if (section.seatsWith !== null) {
    const owner = await sectionAt(tx, section.seatsWith)
    throw new Refusal(422, 'shared-seats', `Its seats are those of ${owner.course}-${owner.label}.`, 'Set them there.')
  }
  const wanted = new Map(input.seats.map(one => [one.for, one.seats]))
  if (wanted.size < input.seats.length)
    throw new Refusal(422, 'named-twice', 'Seats are kept for one group twice.', 'Write each group once.')
  for (const group of wanted.keys()) if (group !== null) await checkGroup(tx, college, group)
  await changeSections(tx, section.term, [section.id], async () => {
    const pools = await poolsOfSection(tx, section.id)
    const seen = new Map(input.seen.map(one => [one.for, one.seats]))
    if (pools.some(pool => pool.capacity !== (seen.get(pool.forGroup) ?? 0)))
      throw new Refusal(409, 'seats-changed', 'Its seats were changed meanwhile.', 'Here they are as they stand; set them again.')
    const short = pools.find(pool => pool.taken + pool.held > (wanted.get(pool.forGroup) ?? 0))
    if (short)
      throw new Refusal(422, 'seats-taken',
        `${short.taken + short.held} of its seats${short.forGroup === null ? '' : ` for ${short.forGroup}`} are taken or held.`,
        'It cannot have fewer. Move those students first, or cancel the section.')
    await keepSeats(tx, { section: section.id, wanted, at }, await nextPool(tx))
    await writeLedger(tx, { at, actor, student: null, section: section.id, action: 'set seats', detail: { course: section.course,
      label: section.label, before: pools.filter(pool => pool.capacity > 0).map(pool => ({ for: pool.forGroup, seats: pool.capacity })),
      after: input.seats } })
  })
  return DONE
}

/** Seats can be kept for a program, a class standing, or a cohort that somebody is in. */
async function checkGroup(tx: Executor, college: College, group: string) {
  const isProgram = [...college.programs.values()].some(program => program.code === group)
  if (isProgram || (CLASS_STANDINGS as readonly string[]).includes(group) || await hasCohort(tx, group)) return
  throw new Refusal(422, 'group-unknown', `Nobody is in ${group}.`,
    `Write a program such as ${[...college.programs.values()][0]?.code ?? 'WSC-BS'}, a class standing such as junior, or a cohort.`)
}

/** Places a hold on each of these students. */
export async function placeHolds(doing: Doing<Input<typeof contract.placeHolds>>) {
  const { tx, actor, at, input } = doing
  const usernames = [...new Set(input.usernames)]
  const found = await studentsNamed(tx, usernames)
  const unknown = usernames.filter(one => !found.some(student => student.username === one))
  // One wrong name, and nobody has a hold: the list is mended and sent again.
  if (unknown.length > 0) return { placed: 0, unknown }
  for (const { id } of found) {
    await lockStudent(tx, id)
    await placeHold(tx, { student: id, rule: '', reason: input.reason, contact: input.contact, at })
    await writeLedger(tx, { at, actor, student: id, action: 'place hold', detail: { reason: input.reason, contact: input.contact } })
    await tell({ ...doing, student: id }, [id], { code: 'hold placed' })
  }
  await bumpStudents(tx, found.map(one => one.id))
  return { placed: found.length, unknown }
}

/** Clears holds; those that a rule placed stand until what it asks for is done. */
export async function clearHolds(doing: Doing<Input<typeof contract.clearHolds>>) {
  const { tx, actor, at, input } = doing
  const found = await holdersOf(tx, input.holds)
  if (found.some(one => one.rule !== ''))
    throw new Refusal(422, 'hold-by-rule', 'A hold for unpaid fees goes by itself when they are paid.',
      'Choose the others; nothing is changed.')
  for (const student of new Set(found.map(one => one.student))) await lockStudent(tx, student)
  const mine = found.length > 0 ? await holdersOf(tx, found.map(one => one.id)) : []
  if (mine.length === 0) return { cleared: 0 }
  await keepCleared(tx, mine.map(one => one.id), at)
  for (const { student, reason } of mine) {
    await writeLedger(tx, { at, actor, student, action: 'clear hold', detail: { reason } })
    await tell({ ...doing, student }, [student], { code: 'hold cleared' })
  }
  await bumpStudents(tx, [...new Set(mine.map(one => one.student))])
  return { cleared: mine.length }
}

/** Confirms programs for students, as they could themselves. */
export async function confirmPrograms(doing: Doing<Input<typeof contract.confirmPrograms>>) {
  const { tx, actor, at, input } = doing
  const open = (await confirmStudents(tx, input.students)).map(one => one.id)
  if (open.length === 0) return { confirmed: 0 }
  await markConfirmed(tx, open)
  for (const student of open) {
    await writeLedger(tx, { at, actor, student, action: 'confirm program', detail: { by: 'office' } })
    await tell({ ...doing, student }, [student], { code: 'program confirmed' })
  }
  await bumpStudents(tx, open)
  return { confirmed: open.length }
}

/** Erases a person who has nothing any more that others count on. */
export async function erasePerson({ tx, actor, at, input }: Doing<Input<typeof contract.erasePerson>>) {
  const person = await lockPerson(tx, input.username)
  if (!person || person.erased !== null)
    throw new Refusal(404, 'person-unknown', `Nobody signs in as ${input.username}.`, 'Write the sign-in name as it stands in people.csv.')
  if (input.again !== input.username)
    throw new Refusal(422, 'not-the-same', 'The two names are not the same.',
      'Write the sign-in name twice, so that nobody else is erased.')
  if (person.id === actor) throw new Refusal(422, 'yourself', 'You cannot erase yourself.', 'Another person of the office can.')
  if (person.role === 'student') await lockStudent(tx, person.id)
  const { registered, owing, advises } = await tiesOf(tx, person.id)
  if (registered > 0)
    throw new Refusal(422, 'still-registered', `${person.name} is registered, or waits for a seat.`, 'Let them leave the term first.')
  if (owing !== 0)
    throw new Refusal(422, 'account-open', `The account of ${person.name} is not settled.`,
      'Settle it first; what is paid stays in the ledger.')
  if (advises > 0)
    throw new Refusal(422, 'still-advises', `${person.name} advises ${advises === 1 ? 'a student' : `${advises} students`}.`,
      'Give them another advisor first.')
  await erase(tx, person, at)
  await writeLedger(tx, { at, actor, student: null, action: 'erase person', detail: { role: person.role } })
  return { id: person.id }
}

/** All openings of a term; without `keep` only whom each would let in, and whose first moment would move. */
export async function setOpenings({ tx, college, input, ledger }: Doing<Input<typeof contract.setOpenings>>) {
  const term = findTerm(college, input.term)
  const unknown = input.openings.find(one => one.program !== null && ![...college.programs.values()].some(program =>
    program.code === one.program))
  if (unknown) throw new Refusal(422, 'program-unknown', `There is no program ${unknown.program}.`, 'Choose one from the list.')
  const keys = new Set(input.openings.map(one => `${one.from} ${one.program} ${one.earnedMin}`))
  if (keys.size < input.openings.length)
    throw new Refusal(422, 'named-twice', 'Two openings are for the same students at the same moment.', 'Take one of them out.')
  if (input.keep) await lockCollege(tx)
  const before = await openingsOf(tx, term.code)
  const asText = (list: readonly OpeningRule[]) => list.map(one => `${one.from} ${one.program} ${one.earnedMin} ${one.words}`).sort().join()
  if (asText(before) !== asText(input.seen))
    throw new Refusal(409, 'openings-changed', 'The openings were changed meanwhile.', 'Here they are as they stand; change them again.')
  const comers = await readComersOf(tx, college, term.code)
  const { by, without } = comersOf(input.openings, comers)
  if (input.keep) {
    await replaceOpenings(tx, term.code, input.openings)
    await ledger('set openings', { term: term.code, openings: input.openings })
  }
  return { kept: input.keep, openings: input.openings.map(rule => ({ students: by.get(rule)!.length })), without: without.length,
    ...openingsEffect(before, input.openings, comers) }
}
