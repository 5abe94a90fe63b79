import { DateTime } from 'luxon'
import type { Differences, Effect, ExceptionAsked, ExceptionKind, Need, Notice, SelfCheck } from '@ridgeway/core/advising'
import { formatGpa } from './grades'
import { formatCredits, sayOpen, sayCredits } from './credits'
import { count, joinWords } from './lists'
import { sayTerm } from './terms'
import type { Said } from './registration'

/** Why an advisee needs the advisor, short enough for a row of a table. */
export function sayNeed(need: Need, zone: string): string {
  switch (need.code) {
    case 'sign-off asked':
      return 'asks for sign-off'
    case 'exceptions asked':
      return need.count === 1 ? 'asks for an exception' : `asks for ${need.count} exceptions`
    case 'opens unsigned':
      return `${need.open ? 'open since' : 'opens'} ${DateTime.fromISO(need.from, { zone }).toFormat('ccc HH:mm')}, not signed off`
    case 'blockers':
      return `${count(need.count, 'problem')} in the term`
    case 'program asked':
      return 'asks to change program'
    case 'changed after sign-off':
      return `changed since sign-off: ${[...need.added.map(code => `+ ${code}`), ...need.gone.map(code => `– ${code}`)].join(', ')}`
    case 'finish slipped':
      return need.to ? `finish slipped: ${sayTerm(need.from)} → ${sayTerm(need.to)}` : `no finish any more, was ${sayTerm(need.from)}`
    case 'comments':
      return count(need.count, 'unread comment')
    case 'hold':
      return need.count === 1 ? `hold: ${need.reason}` : `${need.count} holds`
    case 'gpa':
      return `GPA ${formatGpa(need.now)}, ${formatGpa(need.asked)} asked`
    case 'unconfirmed':
      return 'program not confirmed'
    case 'off path':
      return `${formatCredits(need.credits)} cr count for nothing`
    case 'no plan':
      return 'nothing planned'
    case 'silent':
      return `silent for ${need.days} days`
  }
}

/** What the self-check found, line by line; `fine` where nothing speaks against it. */
export function saySelfCheck(check: SelfCheck): { words: string, fine: boolean }[] {
  const { open, blockers, later, credits, fullTime, offPath } = check
  return [
    { words: open === 0 ? 'Every requirement is covered' : `${sayCredits(open)} of the requirements have no course yet`,
      fine: open === 0 },
    { words: [blockers > 0 && `${count(blockers, 'problem')} in the term`, later > 0 && `${count(later, 'problem')} later`]
      .filter(Boolean).join(', ') || 'Prerequisites come in order, nothing blocks', fine: blockers + later === 0 },
    { words: `${sayCredits(credits)}, ${fullTime ? 'full-time' : 'part-time'}: as you mean it?`, fine: true },
    { words: offPath.length === 0
      ? 'Every course counts'
      : `${joinWords(offPath, 'and')} ${offPath.length === 1 ? 'counts' : 'count'} for nothing yet`, fine: offPath.length === 0 },
  ]
}

/** How a term differs from what was agreed; empty where it does not. */
export const sayDifferences = ({ added, gone, resized }: Differences): string => [
  ...added.map(code => `${code} was added`), ...gone.map(code => `${code} was taken out`),
  ...resized.map(one => `${one.course} has ${formatCredits(one.now)} cr instead of ${formatCredits(one.before)}`),
].join('; ')

/** What a suggested change would come to, in parts. */
export function sayEffect({ finish, open, mended, broken, loads }: Effect): string[] {
  const fewer = mended.length > 0 ? `mends ${count(mended.length, 'problem')}` : 'no new problem'
  return [
    broken.length > 0 ? count(broken.length, 'new problem') : fewer,
    sayFinishes(...finish),
    ...open[0] === open[1]
      ? []
      : [open[1] < open[0]
          ? `covers ${formatCredits(open[0] - open[1])} cr more`
          : `${sayOpen(open[1] - open[0])} again`],
    ...loads.slice(0, 3).map(load => `${sayTerm(load.term)} ${formatCredits(load.after)} cr`),
  ]
}

function sayFinishes(before: string | null, after: string | null): string {
  if (after === null) return before === null ? 'not all covered yet' : 'not all covered any more'
  if (before === after) return `finish ${sayTerm(after)}, as before`
  return `finish ${sayTerm(after)}${before ? `, was ${sayTerm(before)}` : ''}`
}

const KINDS: Record<ExceptionKind, string> = {
  'substitution': 'a substitution', 'waiver': 'a waiver', 'prerequisite': 'a prerequisite exception', 'load': 'more credits than the cap',
  'restriction': 'a section kept for others', 'seat': 'a seat kept for others', 'clash': 'a clash of two courses',
  'late add': 'adding late' }
export const sayExceptionKind = (kind: ExceptionKind): string => KINDS[kind]

/** What an exception lifts, as a sentence without its end. `label` is that of a section, where it is at hand. */
export function sayException(asked: ExceptionAsked, label = ''): string {
  switch (asked.kind) {
    case 'prerequisite':
      return `${asked.course} without its prerequisite`
    case 'late add':
      return `${asked.course} added after the last day`
    case 'restriction':
      return `a section of ${asked.course} that is kept for others`
    case 'seat':
      return `a seat of ${asked.course}${label ? `-${label}` : ''} that is kept for others`
    case 'clash':
      return `${asked.course} and ${asked.instead} although they meet at the same time`
    case 'load':
      return `${sayCredits(asked.credits)} in ${sayTerm(asked.term)}`
    case 'substitution':
      return `${asked.course}${asked.instead ? ` in place of ${asked.instead}` : ''} counts`
    case 'waiver':
      return asked.course
        ? `${asked.course} is waived`
        : asked.amount ? `${formatCredits(asked.amount)} of the requirement waived` : 'the requirement is waived'
  }
}

/** Suggestions that wait for an answer: where they stand, and what to do. */
export const sayWaiting = (suggestions: number): Said => suggestions === 1
  ? { words: 'It stands beside your plan.', way: 'Take it or not.' }
  : { words: 'They stand beside your plan.', way: 'Take them or not, one by one.' }

/** A student in a mail to who advises: the page says which. */
const SOME_ADVISEE = 'An advisee'

interface Reading { name: string, isOwn: boolean, zone: string }
/** What somebody is told, in a list of messages; `name` is whose file it is about, and `isOwn` whether that is the reader's own. */
export function sayNotice(notice: Notice, { name, isOwn, zone }: Reading): Said & { title: string } {
  const whose = isOwn ? 'your' : `${name === SOME_ADVISEE ? 'an advisee' : name}'s`
  const meeting = 'start' in notice ? DateTime.fromISO(notice.start, { zone }).toFormat('ccc d LLL, HH:mm') : ''
  switch (notice.code) {
    case 'sign-off asked':
      return { title: `${name} asks for sign-off`, words: `For ${sayTerm(notice.term)}.`,
        way: 'Look at the plan, then sign off or return it.' }
    case 'signed off':
      return { title: `${sayTerm(notice.term)} is signed off`, words: `By ${notice.by}.`, way: 'You may register once your opening comes.' }
    case 'returned':
      return { title: `${notice.by} asks for changes`, words: `In the plan for ${sayTerm(notice.term)}.`,
        way: 'Read what is asked, change it, and ask for sign-off again.' }
    case 'sign-off withdrawn':
      return { title: `The sign-off for ${sayTerm(notice.term)} was withdrawn`, words: `By ${notice.by}.`, way: 'Read why under Now.' }
    case 'comment':
      return { title: `${notice.by} commented on ${whose} ${notice.place === 'plan' ? 'plan' : `plan, on a ${notice.place}`}`, words: '',
        way: 'Read it beside the plan.' }
    case 'suggested':
      return { title: `${notice.by} suggests ${count(notice.count, 'change')}`, ...sayWaiting(notice.count) }
    case 'suggestions answered':
      return { title: `${name} answered ${count(notice.count, 'suggestion')}`, words: '', way: 'Look at the plan.' }
    case 'exception asked':
      return { title: `${name} asks for ${sayExceptionKind(notice.kind)}`, words: '', way: 'Grant it or decline it in the file.' }
    case 'exception granted':
    case 'exception declined':
      return { title: `${notice.by} ${notice.code === 'exception granted' ? 'granted' : 'declined'} ${sayExceptionKind(notice.kind)}`,
        words: '', way: notice.code === 'exception granted' ? 'It holds from now on.' : 'Read why under Now.' }
    case 'exception ended':
      return { title: `${notice.by} took back ${sayExceptionKind(notice.kind)}`, words: '', way: 'Look whether your line-up still stands.' }
    case 'program asked':
      return { title: `${name} asks to change program`, words: '', way: 'Answer it in the file.' }
    case 'program answered':
      return { title: `${notice.by} answered your wish to change program`, words: '', way: 'Read it under Requirements.' }
    case 'meeting booked':
      return { title: `${notice.by} booked a meeting`, words: `${meeting}, ${notice.minutes} minutes.`, way: '' }
    case 'meeting moved':
      return { title: `${notice.by} moved the meeting`, words: `Now ${meeting}, ${notice.minutes} minutes.`, way: '' }
    case 'meeting cancelled':
      return { title: `${notice.by} cancelled the meeting`, words: `It was ${meeting}.`, way: 'Book another time if you still need it.' }
    case 'section cancelled':
      return notice.waited
        ? { title: 'A section that you waited for was cancelled', words: '', way: 'Choose another bundle in Week.' }
        : { title: 'A section that you registered for was cancelled', words: 'What was charged for it was given back.',
            way: notice.offered ? 'A seat in another bundle is held for you under Register.' : 'Choose another bundle in Week.' }
    case 'hold placed':
      return { title: 'A hold stands on your registration', words: '', way: 'Read under Now whom to see.' }
    case 'hold cleared':
      return { title: 'A hold was cleared', words: '', way: '' }
    case 'program confirmed':
      return { title: `${notice.by} confirmed your program`, words: '', way: '' }
    case 'note shared':
      return { title: `${notice.by} shared a note with you`, words: '', way: 'Read it under Now.' }
    case 'advisor changed':
      return { title: isOwn ? 'You have another advisor' : `${name} is your advisee now`, words: `Changed by ${notice.by}.`, way: '' }
  }
}

/** A notice in a mail; `own` where it is about the reader's own file. */
interface Mailed { id: number, notice: Notice, own: boolean }
interface MailTo { name: string, college: string, address: string, zone: string }

/** A mail: it says that something happened and where to read it, and nothing of what stands in a file. */
export function writeMail(notices: readonly Mailed[], to: MailTo): { subject: string, text: string } {
  // Names of students stay out of mails to those who advise, whoever did it: the page says who it is.
  const said = notices.map(({ notice, own }) =>
    sayNotice(own ? notice : { ...notice, by: 'Somebody' }, { name: own ? to.name : SOME_ADVISEE, isOwn: own, zone: to.zone }))
  const subject = said.length === 1 ? said[0]!.title : `${said.length} things are new for you`
  const lines = said.map(({ title, words, way }) =>
    `- ${[title, words, way].filter(Boolean).map(part => part.replace(/\.$/, '')).join('. ')}.`)
  return { subject, text: [`Hello ${to.name},`, '', ...lines, '', `Read it at ${to.address}/messages`, '',
    `${to.college}. How you are told is chosen on the same page.`].join('\n') }
}
