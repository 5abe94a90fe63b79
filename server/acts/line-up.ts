import type { z } from 'zod'
import type { Section } from '@ridgeway/core/catalog'
import { missingParts } from '@ridgeway/core/weeks'
import type { chooseBundles as Declared } from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { readDossiers } from '../db/store/dossiers'
import { dropChoice, keepChoice } from '../db/store/line-up'

type Input = z.output<typeof Declared['input']>
type Choice = Input['choices'][number]

/** Chooses bundles for courses of a term, in place of earlier choices; with no sections a choice is taken out. All or none. */
export async function chooseBundles({ tx, student, college, input }: Doing<Input>) {
  const { term, choices } = input
  findTerm(college, term)
  const strange = choices.find(choice => !college.catalog.courses.has(choice.course))
  if (strange) throw new Refusal(404, 'course-unknown', `There is no course ${strange.course}.`, 'Choose a course of your plan.')
  if (new Set(choices.map(choice => choice.course)).size < choices.length)
    throw new Refusal(422, 'course-twice', 'A course stands twice among these choices.', 'Reload the week and choose again.')
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const wanted = choices.filter(choice => choice.sectionIds.length > 0)
  const registered = wanted.find(({ course }) => dossier.registered.some(row => row.term === term && row.course === course))
  if (registered)
    throw new Refusal(409, 'registered', `You are registered for ${registered.course} already.`,
      'A registered section is changed under Register.')
  const offered = await college.sections.now(tx, term, wanted.map(choice => choice.course))
  for (const choice of wanted) checkComplete(college, choice, offered)

  const rows = dossier.lineUp.filter(row => row.term === term)
  const left = rows.filter(row => !choices.some(choice => choice.course === row.course))
  if (left.length + wanted.length > LIMITS.lineUp)
    throw new Refusal(422, 'line-up-full', `A line-up holds at most ${LIMITS.lineUp} courses.`, 'Take one out of it first.')
  let last = Math.max(-1, ...rows.map(row => row.position))
  for (const { course, sectionIds } of choices) {
    if (sectionIds.length === 0) await dropChoice(tx, student, term, course)
    else
      await keepChoice(tx, { student, term, course, position: rows.find(row => row.course === course)?.position ?? ++last, sectionIds })
  }
  return DONE
}

/** A choice is one section of each part of a bundle that is offered. */
function checkComplete(college: College, { course: code, sectionIds }: Choice, offered: readonly Section[]) {
  const course = college.catalog.courses.get(code)!
  const sections = offered.filter(section => section.course === code && sectionIds.includes(section.id))
  if (sections.length !== sectionIds.length || sections.some(section => section.cancelled))
    throw new Refusal(422, 'section-unknown', `One of these sections is not offered for ${code} in this term.`,
      'Reload the week and choose again.')
  if (missingParts(course, sections).length > 0 || new Set(sections.map(section => section.link)).size > 1)
    throw new Refusal(422, 'bundle-incomplete', `A choice for ${code} needs its ${course.parts.join(' and ')} of the same bundle.`,
      'Choose one of the complete bundles.')
}
