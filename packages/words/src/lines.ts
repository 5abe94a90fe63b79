import {
  type BrokenPin, type Cap, type CourseLine, type Lacking, needsEveryListed, type SharedRule, type SmallestSet, spreadOf, type UseChange,
} from '@ridgeway/core/requirements'
import { formatCredits, sayOpen, sayCredits } from './credits'
import { describeFilter } from './filters'
import { count, joinWords } from './lists'

/** The line's rule in plain words. */
export function describeLine(line: CourseLine): string {
  const what = describeFilter(line.filter)
  const grade = line.minGrade ? `, each with ${line.minGrade} or better` : ''
  if (needsEveryListed(line)) return `${line.filter.list!.length === 1 ? '' : 'All of '}${line.filter.list!.join(', ')}${grade}.`
  const amount = [line.courses ? count(line.courses, 'course') : '', line.credits ? `${sayCredits(line.credits)}` : '']
    .filter(Boolean).join(' with at least ')
  const wide = spreadOf(line)
  const spread = wide ? `, from at least ${count(wide.n, wide.by === 'attribute' ? 'area' : wide.by)}` : ''
  return [`${amount || 'Courses'} from ${what}${spread}${grade}.`, ...(line.caps ?? []).map(describeCap)].join(' ')
}

function describeCap({ filter, courses, credits }: Cap): string {
  return `At most ${courses === undefined ? `${sayCredits(credits ?? 0)}` : count(courses, 'course')} of it from ${
    describeFilter(filter)
  }.`
}

/** What a line still lacks: "choose 1 more", "6 cr open", "2 courses open"; empty when it lacks nothing. */
export function sayLacking(lacking: Lacking | null): string {
  if (lacking === null) return ''
  if (lacking.code === 'listed')
    return lacking.courses.length === 1
      ? `${lacking.courses[0]} open`
      : `${lacking.courses.length} courses open`
  const { courses, credits, more, another: wider } = lacking
  const another = wider ? `another ${wider === 'attribute' ? 'area' : wider}` : ''
  const choose = courses > 0 ? `choose ${courses}${more ? ' more' : ''}${another ? ` from ${another}` : ''}` : another
  return [choose, credits === null ? '' : sayOpen(credits)].filter(Boolean).join(', ')
}

/** Why a pinned use is not kept. */
export function sayBrokenPin({ course, because, grade }: BrokenPin): string {
  return because === 'less filled'
    ? `${course} is pinned there, but less of the program would be filled that way.`
    : `${course} is pinned there, but does not fit the line${grade ? ` with ${grade}` : ''}.`
}

/** "At most 2 courses may count in both Watershed Science and Environmental Statistics." */
export function saySharedRule({ courses, credits, programs }: SharedRule): string {
  const amount = courses === null ? `${sayCredits(credits ?? 0)}` : count(courses, 'course')
  return `At most ${amount} may count in both ${programs[0]} and ${programs[1]}.`
}

/** What would change if a course counted on another line; other programs are named where they decide. */
export function sayUseChange({ title, lines, moved, cost, others, elsewhere, instead, aside, lessMet }: UseChange): string {
  const where = instead ? `In ${title} instead` : `In ${title}`
  const worse = lines.filter(line => line.after > line.before).map(line => `${line.title} would have ${sayOpen(line.after)}`)
  const shifts = moved.map(({ course, from, to }) =>
    to ? `${course} would count in ${to}` : `${course} would have no use${from ? ` (now ${from})` : ''}`,
  )
  const gone = elsewhere.map(({ program, from, to }) =>
    to && from
      ? `it would count in ${to} of ${program}`
      : to
        ? `it would count in ${program} as well`
        : `it would no longer count in ${program}`)
  const theirs = others.map(({ title: program, before, after }) =>
    `${program} would have ${formatCredits(Math.abs(after - before))} cr ${after > before ? 'more' : 'less'} open`)
  const what = [...gone, ...theirs, ...shifts, ...worse].slice(0, 4).join('; ')
  if (cost > 0) return `${where}: ${what || 'more would be open'}. ${formatCredits(cost)} cr more open in all.`
  if (lessMet) return `${where}: ${what || 'the same is covered'}; less would be met by what is completed already.`
  if (aside) return `${where}: it would answer the choice in place of another branch${what ? `; ${what}` : ''}. The same progress.`
  if (what) return `${where}: ${what}. The same progress.`
  return `${where}: the same progress; the line that accepts fewer courses is served first.`
}

/** What would meet a line: "HYD 330 would meet it; nothing smaller does." */
export function saySmallestSet({ courses, credits, proved }: SmallestSet): string {
  const names = courses.map(code => credits[code] === undefined ? code : `${code} for ${sayCredits(credits[code])}`)
  if (courses.length === 1) return proved ? `${names[0]} would meet it.` : `${names[0]} would meet it, with what must come before it.`
  return `${joinWords(names, 'and')} would meet it, ${count(courses.length, 'course')}; ${
    proved ? 'no smaller set does' : 'a smaller set was not found'
  }.`
}
