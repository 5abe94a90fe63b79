import { and, eq, inArray } from 'drizzle-orm'
import type { CourseItem } from '@ridgeway/core/catalog'
import { EMPTY_FILE, type PlanEntry, readStanding, type StudentFile } from '@ridgeway/core/planning'
import { recordItemId, registrationItemId } from '@ridgeway/core/record'
import { openingFor } from '@ridgeway/core/registration'
import type { Database } from '../db/connect'
import * as s from '../db/schema'
import { findTerm, loadCollege, type College } from './catalog'
import { today } from './clock'

export interface AdviseeRow {
  id: number
  name: string
  program: string
  earned: number
  gpa: number | null
  planned: number
  blockers: number
  /** ISO instant at which the student may register, or null. */
  opensAt: string | null
  asked: boolean
  signedOff: boolean
  holds: number
  confirmed: boolean
  finish: string | null
  /** What needs the advisor, most urgent first; empty when nothing does. */
  need: string
  urgency: number
}

/** An advisor's students for a term, sorted by need. */
export async function readAdvisees(db: Database, advisor: number, termCode: string): Promise<AdviseeRow[]> {
  const college = await loadCollege(db)
  findTerm(college, termCode)
  const { now, date } = await today(db, college.zone)
  const mine = await db.select({ student: s.students, name: s.people.name }).from(s.students)
    .innerJoin(s.people, eq(s.people.id, s.students.person)).where(eq(s.students.advisor, advisor))
  const ids = mine.map(row => row.student.person)
  if (ids.length === 0) return []
  const [programs, records, registered, plans, requests, signOffs, holds, exceptions, changes] = await Promise.all([
    db.select().from(s.studentPrograms).where(inArray(s.studentPrograms.student, ids)),
    db.select().from(s.records).where(inArray(s.records.student, ids)),
    db.select().from(s.registrations).where(inArray(s.registrations.student, ids)),
    db.select({ student: s.plans.student, entry: s.planEntries }).from(s.planEntries).innerJoin(s.plans, eq(s.plans.id, s.planEntries.plan))
      .where(and(inArray(s.plans.student, ids), eq(s.plans.current, true))),
    db.select().from(s.signOffRequests).where(and(inArray(s.signOffRequests.student, ids), eq(s.signOffRequests.term, termCode))),
    db.select().from(s.signOffs).where(and(inArray(s.signOffs.student, ids), eq(s.signOffs.term, termCode))),
    db.select().from(s.holds).where(inArray(s.holds.student, ids)),
    db.select().from(s.exceptions).where(inArray(s.exceptions.student, ids)),
    db.select().from(s.programRequests).where(and(inArray(s.programRequests.student, ids), eq(s.programRequests.state, 'asked'))),
  ])
  const rows = mine.map(({ student, name }): AdviseeRow => {
    const of = <T extends { student: number }>(list: T[]) => list.filter(row => row.student === student.person)
    const record: CourseItem[] = [
      ...of(records).map(row => ({ ...row, id: recordItemId(row.id) })),
      ...of(registered).filter(row => row.credits > 0).map((row): CourseItem => ({ id: registrationItemId(row.section), course: row.course,
        term: row.term, credits: row.credits, grade: null, state: 'registered', source: 'here' }),
      ),
    ]
    const entries = of(plans).map(({ entry: { plan: _, ...entry } }): PlanEntry => entry)
    const codes = of(programs).sort((a, b) => a.position - b.position).flatMap(row => college.programs.get(row.program) ?? [])
    const permissions = of(exceptions).filter(e => e.kind === 'prerequisite' && e.course).map(e => e.course!)
    return describe(college, { name, termCode, now, date, student, record, entries, permissions, programs: codes,
      asked: of(requests).length > 0, wantsChange: of(changes).length > 0, signedOff: of(signOffs).length > 0,
      holds: of(holds).filter(hold => !hold.cleared).length })
  })
  return rows.sort((a, b) => b.urgency - a.urgency || a.name.localeCompare(b.name))
}

interface Raw {
  name: string
  termCode: string
  now: string
  date: string
  student: typeof s.students.$inferSelect
  record: CourseItem[]
  entries: PlanEntry[]
  permissions: string[]
  programs: { code: string, title: string }[]
  asked: boolean
  wantsChange: boolean
  signedOff: boolean
  holds: number
}

function describe(college: College, raw: Raw): AdviseeRow {
  const { catalog } = college
  const file: StudentFile = { ...EMPTY_FILE, record: raw.record, entries: raw.entries, programs: raw.programs.map(p => p.code),
    placements: raw.student.placements, permissions: raw.permissions }
  // Requirements are read when the student is opened; the list only needs the checks, which do not.
  const standing = readStanding({ ...file, programs: [] }, catalog, raw.date)
  const blockers = standing.checks.filter(check => check.severity === 'blocker' && check.term === raw.termCode).length
  const opening = openingFor(college.openings.filter(rule => rule.term === raw.termCode), file.programs, standing.earned)
  const opensSoon = opening !== null && Date.parse(opening.from) - Date.parse(raw.now) < 2 * 86_400_000
  const planned = raw.entries.filter(entry => entry.term === raw.termCode).reduce((sum, entry) => sum + entry.credits, 0)
  const average = standing.gpa.value
  const needs: [boolean, number, string][] = [
    [raw.asked, 32, 'asks for sign-off'],
    [raw.wantsChange, 20, 'asks to change program'],
    [blockers > 0, 16, `${blockers} ${blockers === 1 ? 'problem' : 'problems'} next term`],
    [opensSoon && !raw.signedOff && !raw.asked, 8, 'opens without sign-off'],
    [average !== null && average < 200, 6, 'GPA under 2.00'],
    [raw.holds > 0, 4, `${raw.holds} ${raw.holds === 1 ? 'hold' : 'holds'}`],
    [!raw.student.programConfirmed, 3, 'program not confirmed'],
    [planned === 0 && !raw.signedOff, 2, 'nothing planned'],
  ]
  const mine = needs.filter(([applies]) => applies)
  return {
    id: raw.student.person,
    name: raw.name,
    program: raw.programs[0]?.title ?? 'no program',
    earned: standing.earned,
    gpa: average,
    planned,
    blockers,
    opensAt: opening?.from ?? null,
    asked: raw.asked,
    signedOff: raw.signedOff,
    holds: raw.holds,
    confirmed: raw.student.programConfirmed,
    finish: standing.finish,
    need: mine.map(([, , words]) => words).join(' · '),
    urgency: mine.reduce((sum, [, weight]) => sum + weight, 0),
  }
}
