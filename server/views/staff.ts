import type { Section } from '@ridgeway/core/catalog'
import { earnedCredits } from '@ridgeway/core/record'
import { openingFor } from '@ridgeway/core/registration'
import { readStanding } from '@ridgeway/core/planning'
import type { AdviseeRow, SeatRow } from '#shared/contract/views/college'
import type { Looking } from '../college/asked'
import { findTerm, programsAt } from '../college/college'
import { fileOf, planIn } from '../college/student'
import { type Dossier, readDossiers } from '../db/store/dossiers'
import { adviseesOf, demandOf, wishing } from '../db/store/staff'

/** An advisor's students for a term, sorted by need: three statements, however many they are. */
export async function readAdviseesView(looking: Looking<{ term: string }>): Promise<AdviseeRow[]> {
  const { db, visitor, college, input } = looking
  findTerm(college, input.term)
  const ids = await adviseesOf(db, visitor!.id)
  const dossiers = await readDossiers(db, ids)
  const wishes = await wishing(db, ids)
  return [...dossiers.values()].map(dossier => describe(looking, dossier, wishes.has(dossier.id)))
    .sort((a, b) => b.urgency - a.urgency || a.name.localeCompare(b.name))
}

function describe({ college, at, date, input }: Looking<{ term: string }>, dossier: Dossier, wantsChange: boolean): AdviseeRow {
  const { catalog } = college
  const file = fileOf(dossier, college, input.term, planIn(dossier).plan)
  // Requirements are read when the student is opened; the list only needs the checks, which do not.
  const standing = readStanding({ ...file, programs: [] }, catalog, date)
  const blockers = standing.checks.filter(check => check.severity === 'blocker' && check.term === input.term).length
  const opening = openingFor(college.openings.filter(rule => rule.term === input.term), file.programs,
    earnedCredits(file.record, catalog))
  const opensSoon = opening !== null && Date.parse(opening.from) - Date.parse(at) < 2 * 86_400_000
  const planned = file.entries.filter(entry => entry.term === input.term).reduce((sum, entry) => sum + entry.credits, 0)
  const average = standing.gpa.value
  const asked = dossier.asked.some(one => one.term === input.term)
  const signedOff = dossier.signOffs.some(one => one.term === input.term)
  const holds = dossier.holds.length
  const needs: [boolean, number, string][] = [
    [asked, 32, 'asks for sign-off'],
    [wantsChange, 20, 'asks to change program'],
    [blockers > 0, 16, `${blockers} ${blockers === 1 ? 'problem' : 'problems'} next term`],
    [opensSoon && !signedOff && !asked, 8, 'opens without sign-off'],
    [average !== null && average < 200, 6, 'GPA under 2.00'],
    [holds > 0, 4, `${holds} ${holds === 1 ? 'hold' : 'holds'}`],
    [!dossier.programConfirmed, 3, 'program not confirmed'],
    [planned === 0 && !signedOff, 2, 'nothing planned'],
  ]
  const mine = needs.filter(([applies]) => applies)
  return {
    id: dossier.id,
    name: dossier.name,
    program: programsAt(college, dossier.programs)[0]?.title ?? 'no program',
    earned: standing.earned,
    gpa: average,
    planned,
    blockers,
    opensAt: opening?.from ?? null,
    asked,
    signedOff,
    holds,
    confirmed: dossier.programConfirmed,
    finish: standing.finish,
    need: mine.map(([, , words]) => words).join(' · '),
    urgency: mine.reduce((sum, [, weight]) => sum + weight, 0),
  }
}

/** Seats of a term as they stand, with how many students plan each course; what needs doing first. */
export async function readSeatsView({ db, college, input }: Looking<{ term: string }>): Promise<SeatRow[]> {
  findTerm(college, input.term)
  const sections = await college.sections.now(db, input.term)
  const planned = await demandOf(db, input.term)
  const offered = seatsOffered(sections)
  return sections.map(({ id, course, label, part, waiting, cancelled, pools }) => {
    const sum = (pick: (pool: typeof pools[number]) => number) => pools.reduce((total, pool) => total + pick(pool), 0)
    const row = { id, pools: pools.map(pool => pool.id), course, label, part, waiting, cancelled, capacity: sum(pool => pool.capacity),
      taken: sum(pool => pool.taken),
      held: sum(pool => pool.held), planned: planned.get(course) ?? 0 }
    return { ...row, ...needOf(row, offered.get(course) ?? 0) }
  }).sort((a, b) => b.urgency - a.urgency || a.course.localeCompare(b.course) || a.label.localeCompare(b.label))
}

/** Seats of a course as students can take them: of its lectures or of its labs, whichever are fewer. */
function seatsOffered(sections: readonly Section[]): Map<string, number> {
  const parts = new Map<string, Map<string, number>>()
  for (const { course, part, cancelled, pools } of sections) {
    if (cancelled) continue
    const of = parts.get(course) ?? new Map<string, number>()
    parts.set(course, of.set(part, (of.get(part) ?? 0) + pools.reduce((total, pool) => total + pool.capacity, 0)))
  }
  return new Map([...parts].map(([course, of]) => [course, Math.min(...of.values())]))
}

/** What a section needs of the office, in words, and how urgent it is. */
function needOf(row: Omit<SeatRow, 'need' | 'urgency'>, offered: number): Pick<SeatRow, 'need' | 'urgency'> {
  const needs: [boolean, number, string][] = [
    [row.cancelled && row.taken > 0, 1000, `cancelled with ${row.taken} registered`],
    [row.waiting > 0, 100 + row.waiting, `${row.waiting} on the waitlist`],
    [!row.cancelled && row.planned > offered, 10, `${row.planned} plan the course, ${offered} seats`],
    [!row.cancelled && row.capacity <= row.taken + row.held, 1, 'full'],
  ]
  const mine = needs.filter(([applies]) => applies)
  return { need: mine.map(([, , words]) => words).join(' · '), urgency: mine.reduce((sum, [, weight]) => sum + weight, 0) }
}
