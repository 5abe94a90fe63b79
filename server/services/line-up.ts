import { and, eq } from 'drizzle-orm'
import { missingParts } from '@ridgeway/core/weeks'
import type { Database } from '../db/connect'
import { findSections } from '../db/repositories/sections'
import { inTransaction } from '../db/retry'
import { lineUpRows, registrations, students } from '../db/schema'
import { findTerm, loadCollege } from './catalog'
import { Refusal } from './errors'

/** Chooses a bundle for a course in a term, in place of an earlier choice; with no sections the choice is taken out. */
export async function chooseBundle(db: Database,
  choice: { student: number, term: string, course: string, sectionIds: readonly number[] }): Promise<void> {
  const college = await loadCollege(db)
  findTerm(college, choice.term)
  const course = college.catalog.courses.get(choice.course)
  if (!course) throw new Refusal(404, 'course-unknown', `There is no course ${choice.course}.`, 'Choose a course of your plan.')
  const mine = and(eq(lineUpRows.student, choice.student), eq(lineUpRows.term, choice.term))
  await inTransaction(db, async (tx) => {
    await tx.select({ person: students.person }).from(students).where(eq(students.person, choice.student)).for('update')
    const rows = await tx.select().from(lineUpRows).where(mine)
    const before = rows.find(row => row.course === choice.course)
    if (choice.sectionIds.length === 0) {
      await tx.delete(lineUpRows).where(and(mine, eq(lineUpRows.course, choice.course)))
      return
    }
    const held = await tx.select().from(registrations).where(
      and(eq(registrations.student, choice.student), eq(registrations.term, choice.term), eq(registrations.course, choice.course)),
    )
    if (held.length > 0)
      throw new Refusal(409, 'registered', `You are registered for ${choice.course} already.`,
        'A registered section is changed under Register.')
    const sections = await findSections(tx, { term: choice.term, ids: choice.sectionIds })
    const strange = sections.length !== choice.sectionIds.length
      || sections.some(section => section.course !== choice.course || section.cancelled)
    if (strange)
      throw new Refusal(422, 'section-unknown', `One of these sections is not offered for ${choice.course} in this term.`,
        'Reload the week and choose again.')
    if (missingParts(course, sections).length > 0 || new Set(sections.map(section => section.link)).size > 1) {
      throw new Refusal(422, 'bundle-incomplete',
        `A choice for ${choice.course} needs its ${course.parts.join(' and ')} of the same bundle.`, 'Choose one of the complete bundles.')
    }
    const sectionIds = [...choice.sectionIds]
    if (before) await tx.update(lineUpRows).set({ sectionIds }).where(eq(lineUpRows.id, before.id))
    else await tx.insert(lineUpRows).values({ student: choice.student, term: choice.term, course: choice.course,
      position: Math.max(-1, ...rows.map(row => row.position)) + 1, sectionIds })
  })
}
