import type { z } from 'zod'
import { missingParts } from '@ridgeway/core/weeks'
import type { chooseBundle as Declared } from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { readDossiers } from '../db/store/dossiers'
import { dropChoice, keepChoice } from '../db/store/line-up'

/** Chooses a bundle for a course in a term, in place of an earlier choice; with no sections the choice is taken out. */
export async function chooseBundle({ tx, student, college, input }: Doing<z.output<typeof Declared['input']>>) {
  findTerm(college, input.term)
  const course = college.catalog.courses.get(input.course)
  if (!course) throw new Refusal(404, 'course-unknown', `There is no course ${input.course}.`, 'Choose a course of your plan.')
  if (input.sectionIds.length === 0) {
    await dropChoice(tx, student, input.term, input.course)
    return DONE
  }
  const dossier = (await readDossiers(tx, [student])).get(student)!
  if (dossier.registered.some(row => row.term === input.term && row.course === input.course))
    throw new Refusal(409, 'registered', `You are registered for ${input.course} already.`,
      'A registered section is changed under Register.')
  const sections = (await college.sections.now(tx, input.term, [input.course])).filter(section => input.sectionIds.includes(section.id))
  const isStrange = sections.length !== input.sectionIds.length
    || sections.some(section => section.cancelled)
  if (isStrange)
    throw new Refusal(422, 'section-unknown', `One of these sections is not offered for ${input.course} in this term.`,
      'Reload the week and choose again.')
  if (missingParts(course, sections).length > 0 || new Set(sections.map(section => section.link)).size > 1) {
    throw new Refusal(422, 'bundle-incomplete',
      `A choice for ${input.course} needs its ${course.parts.join(' and ')} of the same bundle.`, 'Choose one of the complete bundles.')
  }
  const rows = dossier.lineUp.filter(row => row.term === input.term)
  const before = rows.find(row => row.course === input.course)
  if (!before && rows.length >= LIMITS.lineUp)
    throw new Refusal(422, 'line-up-full', `A line-up holds at most ${LIMITS.lineUp} courses.`, 'Take one out of it first.')
  await keepChoice(tx, { student, term: input.term, course: input.course,
    position: before?.position ?? Math.max(-1, ...rows.map(row => row.position)) + 1, sectionIds: input.sectionIds })
  return DONE
}
