import { groupsOf, seatsFor } from '@ridgeway/core/registration'
import { type Bundle, bundlesOf } from '@ridgeway/core/weeks'
import { describeTimes } from '@ridgeway/words'
import type { Groups } from '#shared/contract/views/find'
import type { Looking } from '../college/asked'
import { findTerm } from '../college/college'
import { dossierFor, fileOf, planIn } from '../college/student'

/**
 * Groups of sections that keep clear of each other: those of which the student plans at least two courses for the term, or, where nothing
 * is
 * planned yet, those whose courses the student has not had. `open` is false where part of a group is kept for others.
 */
export async function readGroupsView(looking: Looking<{ term: string }>): Promise<Groups> {
  const { college, db, input } = looking
  const term = findTerm(college, input.term)
  const dossier = (await dossierFor(looking))!
  const file = fileOf(dossier, college, term.code, planIn(dossier).plan, looking.date)
  const planned = new Set([...file.entries.filter(entry => entry.term === term.code), ...dossier.lineUp.filter(row =>
    row.term === term.code)]
    .map(one => one.course))
  const had = new Set(file.record.map(item => item.course))
  const grouped = (await college.sections.known(db, term.code)).filter(section => section.group !== '')
  const mine = groupsOf(file, file.record, college.catalog)
  const coursesOf = new Map<string, Set<string>>()
  for (const { group, course } of grouped) coursesOf.set(group, (coursesOf.get(group) ?? new Set()).add(course))
  const suits = [...coursesOf].filter(([, courses]) => [...courses].filter(course => planned.has(course)).length >= 2
    || (planned.size === 0 && [...courses].every(course => !had.has(course)))).map(([group]) => group)
  // Seats are asked for only where a group suits.
  const sections = await college.sections.now(db, term.code, [...new Set(suits.flatMap(group => [...coursesOf.get(group)!]))])
  const groups = new Map<string, Bundle[]>(suits.map(group => [group, [...coursesOf.get(group)!].flatMap(code =>
    bundlesOf(college.catalog.courses.get(code)!, sections.filter(one => one.group === group)))]))
  const isFor = (only: readonly string[]) => only.length === 0 || only.some(one => mine.includes(one))
  return { groups: [...groups].filter(([, bundles]) => bundles.length > 0).sort(([a], [b]) => a < b ? -1 : 1).map(([group, bundles]) => ({
    group,
    seats: Math.min(...bundles.flatMap(bundle => bundle.sections.map(section => seatsFor(section, mine)))),
    open: bundles.every(bundle => bundle.sections.every(one => isFor(one.onlyPrograms) && isFor(one.onlyStandings)
      && isFor(one.onlyCohorts))),
    courses: bundles.filter(bundle => !had.has(bundle.course)).map(({ course, sections: parts }) => ({ course,
      sectionIds: parts.map(section => section.id), label: parts[0]!.label, times: describeTimes(parts), planned: planned.has(course) })),
  })) }
}
