import type { z } from 'zod'
import { type CollegeRows, TABLES, writeRows } from '@ridgeway/formats'
import type * as contract from '#shared/contract/acts/office'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { takeFolder } from '../college/folder'
import { Refusal } from '../college/refusal'
import type { Executor } from '../db/database'
import { lockCollege, removeSession } from '../db/store/college'
import { type CollegeAsRows, readCollegeAsRows } from '../db/store/college-folder'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

/** Sets the deadlines, the due date and the loads of a term; checked as a table that comes in is. */
export async function setDates({ tx, actor, at, college, input }: Doing<Input<typeof contract.setDates>>) {
  const { term: code, ...values } = input
  findTerm(college, code)
  await lockCollege(tx)
  const standing = await readCollegeAsRows(tx)
  const row = { ...standing.rows.terms.find(one => one.code === code)!, ...values }
  await bringTerms(tx, { terms: [row] }, { actor, at, standing })
  return DONE
}

/** Sets what a term's calendar says day by day, and its sessions; checked as tables that come in are. */
export async function setCalendar({ tx, actor, at, college, input }: Doing<Input<typeof contract.setCalendar>>) {
  const { term: code, seen, sessions, ...days } = input
  findTerm(college, code)
  await lockCollege(tx)
  const standing = await readCollegeAsRows(tx)
  const { rows } = standing
  const row = rows.terms.find(one => one.code === code)!
  const mine = rows.sessions.filter(one => one.term === code)
  if (sayCalendar({ ...row, sessions: mine.map(fromSessionRow) }) !== sayCalendar(seen))
    throw new Refusal(409, 'calendar-changed', 'The calendar was changed meanwhile.', 'Here it is as it stands; change it again.')
  const outside = [...days.noClass, ...days.movedDays].find(({ date }) => date < row.start || date > row.end)
  if (outside)
    throw new Refusal(422, 'day-outside', `${outside.date} is not in ${row.name}.`, `The term goes from ${row.start} to ${row.end}.`)
  const twice = repeatedOf([...days.noClass, ...days.movedDays].map(one => one.date))
  if (twice) throw new Refusal(422, 'named-twice', `${twice} is named twice.`, 'Take one of them out.')
  const repeated = repeatedOf(sessions.map(one => one.code))
  if (repeated) throw new Refusal(422, 'named-twice', `Two sessions are called ${repeated}.`, 'Give each a code of its own.')
  const gone = mine.find(one => !sessions.some(({ code: kept }) => kept === one.code))
  if (gone && rows.sections.some(section => section.term === code && section.session === gone.code))
    throw new Refusal(422, 'session-used', `${gone.name} has sections.`, 'Move them to another session first.')
  const inOrder = <T extends { date: string }>(list: readonly T[]) => [...list].sort((a, b) => a.date < b.date ? -1 : 1)
  await bringTerms(tx, { terms: [{ ...row, noClass: inOrder(days.noClass), movedDays: inOrder(days.movedDays) }],
    sessions: sessions.map(({ deadlines, ...session }) => ({ ...session, term: code, addBy: deadlines?.addBy ?? null,
      dropBy: deadlines?.dropBy ?? null, withdrawBy: deadlines?.withdrawBy ?? null })) }, { actor, at, standing })
  for (const { code: old } of mine) if (!sessions.some(one => one.code === old)) await removeSession(tx, code, old)
  return DONE
}

/** Adds a term with one session; checked as tables that come in are. */
export async function addTerm({ tx, actor, at, college, input }: Doing<Input<typeof contract.addTerm>>) {
  const { term: code, ...row } = input
  if (college.catalog.terms.some(one => one.code === code))
    throw new Refusal(409, 'term-known', `${code} is in the calendar already.`, 'Choose it above, and change its dates.')
  await lockCollege(tx)
  await bringTerms(tx, { terms: [{ ...row, code, scheduled: false, noClass: [], movedDays: [] }],
    sessions: [{ term: code, code: 'full', name: 'Full term', start: row.start, end: row.end, addBy: null, dropBy: null,
      withdrawBy: null }] },
  { actor, at })
  return DONE
}

/** Brings rows of the calendar in as their tables would; what is wrong with them is told as it would be there. */
async function bringTerms(tx: Executor, { terms, sessions }: Pick<CollegeRows, 'terms'> & Partial<Pick<CollegeRows, 'sessions'>>,
  { actor, at, standing }: { actor: number, at: string, standing?: CollegeAsRows }) {
  const files = { [TABLES.terms.file]: writeRows(TABLES.terms, terms),
    ...sessions ? { [TABLES.sessions.file]: writeRows(TABLES.sessions, sessions) } : {} }
  const result = await takeFolder(tx, files, { keep: true, actor, at, ...standing ? { standing } : {} })
  if (!result.ok)
    throw new Refusal(422, 'dates-wrong', result.problems[0]!.message, 'Nothing is changed; correct it and keep it again.')
}

const fromSessionRow = ({ term: _, addBy, dropBy, withdrawBy, ...row }: CollegeRows['sessions'][number]) => ({ ...row,
  deadlines: addBy && dropBy && withdrawBy ? { addBy, dropBy, withdrawBy } : null })

/** A calendar as one text, in a fixed order: whether it is still what somebody saw. */
function sayCalendar({ noClass, movedDays, sessions }: Pick<Input<typeof contract.setCalendar>,
  'noClass' | 'movedDays' | 'sessions'>): string {
  return [...noClass.map(one => `${one.date} ${one.name}`), ...movedDays.map(one => `${one.date} follows ${one.follows}`),
    ...sessions.map(({ code, name, start, end, deadlines }) => [code, name, start, end, deadlines?.addBy, deadlines?.dropBy,
      deadlines?.withdrawBy].join(' '))].sort().join('\n')
}

const repeatedOf = (all: readonly string[]): string | undefined => all.find((one, i) => all.indexOf(one) !== i)
