import type { z } from 'zod'
import type { Section } from '@ridgeway/core/catalog'
import { missingParts } from '@ridgeway/core/weeks'
import type { chooseBundles as Declared, orderRows as DeclaredOrder, setRow as DeclaredRow } from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { type College, findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { readDossiers } from '../db/store/dossiers'
import { changeRow, dropChoice, keepChoice } from '../db/store/week'

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
  for (const { course, sectionIds, backups = [] } of wanted)
    for (const ids of [sectionIds, ...backups]) checkComplete(college, { course, sectionIds: ids }, offered)

  const rows = dossier.lineUp.filter(row => row.term === term)
  const left = rows.filter(row => !choices.some(choice => choice.course === row.course))
  if (left.length + wanted.length > LIMITS.lineUp)
    throw new Refusal(422, 'line-up-full', `A line-up holds at most ${LIMITS.lineUp} courses.`, 'Take one out of it first.')
  let last = Math.max(-1, ...rows.map(row => row.position))
  for (const { course, sectionIds, backups } of choices) {
    if (sectionIds.length === 0) await dropChoice(tx, student, term, course)
    else {
      const before = rows.find(row => row.course === course)
      await keepChoice(tx, { student, term, course, position: before?.position ?? ++last, sectionIds,
        backups: asBackups(backups ?? before?.backups ?? [], sectionIds),
        seen: offered.filter(section => sectionIds.includes(section.id)).flatMap(section => section.meetings) })
    }
  }
  return DONE
}

const sameSections = (a: readonly number[], b: readonly number[]) => a.length === b.length && a.every(id => b.includes(id))
/** Each backup once; what is chosen first is none. */
const asBackups = (backups: readonly number[][], first: readonly number[]) => backups.filter((backup, i, all) =>
  !sameSections(backup, first) && all.findIndex(other => sameSections(other, backup)) === i)

/** Sets up how a row is to be registered. */
export async function setRow({ tx, student, college, input }: Doing<z.output<typeof DeclaredRow['input']>>) {
  const { term, course: code, ...values } = input
  const { row } = await rowOf(tx, student, term, code)
  const course = college.catalog.courses.get(code)!
  const offered = await college.sections.now(tx, term, [code])
  const backups = values.backups && asBackups(values.backups, row.sectionIds)
  for (const sectionIds of backups ?? []) checkComplete(college, { course: code, sectionIds }, offered)
  const chosen = offered.filter(section => row.sectionIds.includes(section.id))
  const { grading, credits } = values
  if (grading && !chosen.every(section => section.gradingModes.includes(grading)))
    throw new Refusal(422, 'grading-not-offered', `${code} cannot be graded that way in this section.`, 'Choose one of the ways it offers.')
  if (credits && (credits < course.credits || credits > course.creditsMax))
    throw new Refusal(422, 'credits-out-of-range', `${code} is taken for ${course.credits / 100} to ${course.creditsMax / 100} credits.`,
      'Choose an amount in that range.')
  const set = Object.fromEntries(Object.entries({ ...values, ...backups ? { backups } : {} }).filter(([, value]) => value !== undefined))
  if (Object.keys(set).length > 0) await changeRow(tx, row.id, set)
  return DONE
}

/** The order in which the rows are served. */
export async function orderRows({ tx, student, input }: Doing<z.output<typeof DeclaredOrder['input']>>) {
  const { term, courses } = input
  const rows = (await readDossiers(tx, [student])).get(student)!.lineUp.filter(row => row.term === term)
  if (rows.length !== courses.length || new Set(courses).size !== courses.length || !rows.every(row => courses.includes(row.course)))
    throw new Refusal(409, 'line-up-changed', 'The line-up was changed in the meantime.', 'Here it is as it stands; order it again.')
  for (const row of rows) await changeRow(tx, row.id, { position: courses.indexOf(row.course) })
  return DONE
}

async function rowOf(tx: Doing<unknown>['tx'], student: number, term: string, course: string) {
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const row = dossier.lineUp.find(one => one.term === term && one.course === course)
  if (!row) throw new Refusal(404, 'row-unknown', `${course} is not in the line-up any more.`, 'Choose a bundle for it first.')
  return { dossier, row }
}

/** A choice is one section of each part of a bundle that is offered. */
function checkComplete(college: College, { course: code, sectionIds }: Pick<Choice, 'course' | 'sectionIds'>, offered: readonly Section[]) {
  const course = college.catalog.courses.get(code)!
  const sections = offered.filter(section => section.course === code && sectionIds.includes(section.id))
  if (sections.length !== sectionIds.length || sections.some(section => section.cancelled))
    throw new Refusal(422, 'section-unknown', `One of these sections is not offered for ${code} in this term.`,
      'Reload the week and choose again.')
  if (missingParts(course, sections).length > 0 || new Set(sections.map(section => section.link)).size > 1)
    throw new Refusal(422, 'bundle-incomplete', `A choice for ${code} needs its ${course.parts.join(' and ')} of the same bundle.`,
      'Choose one of the complete bundles.')
}
