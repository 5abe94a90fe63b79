import { createHash, randomBytes } from 'node:crypto'
import type { z } from 'zod'
import type {
  keepInMind as DeclaredMind, keepSearch as DeclaredSearch, keepWishes as DeclaredWishes, shareWeek as DeclaredShare,
} from '#shared/contract/acts/student'
import { DONE } from '#shared/contract/define'
import { LIMITS } from '#shared/contract/limits'
import type { Doing } from '../college/asked'
import { findTerm } from '../college/college'
import { Refusal } from '../college/refusal'
import { readDossiers } from '../db/store/dossiers'
import {
  addToShortlist, dropFeed, dropSearch, keepFeed, keepSearchOf, keepWishesOf, searchesOf, shareWeekOf, shortlistOf, takeOffShortlist,
  unshareWeek,
} from '../db/store/week'

/** Keeps what is wished for the weeks of a term, in place of what was wished before. */
export async function keepWishes({ tx, student, college, input }: Doing<z.output<typeof DeclaredWishes['input']>>) {
  const { term, wishes } = input
  findTerm(college, term)
  if (new Set(wishes.map(wish => wish.id)).size < wishes.length)
    throw new Refusal(422, 'wish-twice', 'Two of these wishes have the same id.', 'Reload the week and change the wishes again.')
  await keepWishesOf(tx, student, term, wishes)
  return DONE
}

/** Puts a bundle on the shortlist of a term, or takes it off. */
export async function keepInMind({ tx, student, college, input }: Doing<z.output<typeof DeclaredMind['input']>>) {
  const { term, course, sectionIds, keep } = input
  findTerm(college, term)
  const bundle = [...sectionIds].join('+')
  if (!keep) {
    await takeOffShortlist(tx, student, term, bundle)
    return DONE
  }
  const offered = (await college.sections.now(tx, term, [course])).map(section => section.id)
  if (!sectionIds.every(id => offered.includes(id)))
    throw new Refusal(422, 'section-unknown', `One of these sections is not offered for ${course} in this term.`, 'Look for it again.')
  const before = await shortlistOf(tx, student, term)
  if (before.length >= LIMITS.shortlist && !before.some(row => row.bundle === bundle))
    throw new Refusal(422, 'shortlist-full', `A shortlist holds at most ${LIMITS.shortlist} bundles.`, 'Take one off it first.')
  await addToShortlist(tx, { student, term, course, bundle })
  return DONE
}

/** Keeps a search under a name, or lets it go. */
export async function keepSearch({ tx, student, input }: Doing<z.output<typeof DeclaredSearch['input']>>) {
  const { name, search } = input
  if (!search) {
    await dropSearch(tx, student, name)
    return DONE
  }
  const before = await searchesOf(tx, student)
  if (before.length >= LIMITS.searches && !before.some(row => row.name === name))
    throw new Refusal(422, 'too-many-searches', `At most ${LIMITS.searches} searches are kept.`, 'Let one go first.')
  await keepSearchOf(tx, student, name, search)
  return DONE
}

/** Shows the advisor the week as it is picked and registered now; or takes that back. */
export async function shareWeek({ tx, student, college, at, input }: Doing<z.output<typeof DeclaredShare['input']>>) {
  const { term, share, note } = input
  findTerm(college, term)
  if (!share) {
    await unshareWeek(tx, student, term)
    return DONE
  }
  const dossier = (await readDossiers(tx, [student])).get(student)!
  const choices: Record<string, string> = {}
  for (const row of dossier.lineUp) if (row.term === term) choices[row.course] = row.sectionIds.join('+')
  const registered = dossier.registered.filter(row => row.term === term)
  for (const course of new Set(registered.map(row => row.course)))
    choices[course] = registered.filter(row => row.course === course).map(row => row.section).join('+')
  if (Object.keys(choices).length === 0)
    throw new Refusal(422, 'nothing-to-share', 'Nothing is picked in this term yet.', 'Choose bundles first, then share the week.')
  await shareWeekOf(tx, { student, term, at, choices, note })
  return DONE
}

/** What a secret address is kept as: nobody who reads the database can open a calendar. */
export const hashOfSecret = (secret: string) => createHash('sha256').update(secret).digest('hex')

/** A new secret address for the student's calendar; one that was given before ends. */
export async function renewFeed({ tx, student, at }: Doing<unknown>) {
  const secret = randomBytes(24).toString('base64url')
  await keepFeed(tx, { student, secret: hashOfSecret(secret), made: at })
  return { path: `/calendar/${secret}.ics` }
}
export async function endFeed({ tx, student }: Doing<unknown>) {
  await dropFeed(tx, student)
  return DONE
}
