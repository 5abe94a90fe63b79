import { randomUUID } from 'node:crypto'
import type { z } from 'zod'
import type { startCrowd as DeclaredStart, stopCrowd as DeclaredStop } from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import { decideBeside, type LineUpRow, openingFor } from '@ridgeway/core/registration'
import { earnedCredits } from '@ridgeway/core/record'
import { bundlesOf } from '@ridgeway/core/weeks'
import type { Lanes } from '../acts/lanes'
import type { Doing } from '../college/asked'
import { findTerm, type KeptCollege, presentInstant } from '../college/college'
import { Refusal } from '../college/refusal'
import { decisionContext, fileOf, gatesOf, planIn } from '../college/student'
import type { Database } from '../db/database'
import { readStamp } from '../db/store/college'
import { crowdAmong, claimPresses, dropPresses, keepCrowd, markPressed, nextPress } from '../db/store/crowd'
import { readDossiers } from '../db/store/dossiers'

/** A small generator of numbers: the same seed lines up the same crowd. */
function numbers(seed: number) {
  let state = seed * 2654435761 >>> 0 || 1
  return (n: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor(state / 4294967296 * n)
  }
}

/** Students whose dossiers are read at once. */
const AT_ONCE = 100

/**
 * Lines up a crowd for the next opening of a term: students of that opening who are registered for nothing yet choose for what they plan,
 * each from what fits them, with a backup where there is one; their presses are spread over the seconds after the opening by its pace.
 */
export async function startCrowd({ tx, college, at, date, input }: Doing<z.output<typeof DeclaredStart['input']>>) {
  const term = findTerm(college, input.term)
  const rules = college.openings.filter(rule => rule.term === term.code)
  const from = rules.map(rule => rule.from).filter(moment => moment > at).sort()[0] ?? at
  const random = numbers(input.seed)
  const sections = await college.sections.now(tx, term.code)
  const lines: { student: number, rows: { course: string, sectionIds: number[], backups: number[][] }[] }[] = []
  const all = await crowdAmong(tx, term.code)
  for (let i = all.length - 1; i > 0; i--) {
    const j = random(i + 1)
    ;[all[i], all[j]] = [all[j]!, all[i]!]
  }
  for (let k = 0; k < all.length && lines.length < input.size; k += AT_ONCE) {
    for (const dossier of (await readDossiers(tx, all.slice(k, k + AT_ONCE))).values()) {
      if (lines.length === input.size) break
      const file = fileOf(dossier, college, term.code, planIn(dossier).plan, date)
      const opening = openingFor(rules, file.programs, earnedCredits(file.record, college.catalog))
      const gates = gatesOf(dossier, college, term, file, from, null)
      if (!opening || opening.from > from || gates.some(gate => !gate.open)) continue
      const context = decisionContext(college, dossier, { file, gates: [], term, date }, sections, [])
      const chosen: LineUpRow[] = []
      const rows: typeof lines[number]['rows'] = []
      for (const { course } of file.entries.filter(entry => entry.term === term.code)) {
        const found = college.catalog.courses.get(course)
        if (!found) continue
        const decide = decideBeside(chosen, context)
        const fits = bundlesOf(found, sections).map(bundle => bundle.sections.map(section => section.id))
          .filter(ids => decide({ id: -1, course, sectionIds: ids, credits: null }).outcome === 'register')
        if (fits.length === 0) continue
        const first = random(fits.length)
        const sectionIds = fits[first]!
        const backups = fits.length > 1 ? [fits[(first + 1 + random(fits.length - 1)) % fits.length]!] : []
        chosen.push({ id: chosen.length + 1, course, sectionIds, credits: null })
        rows.push({ course, sectionIds, backups })
      }
      if (rows.length > 0) lines.push({ student: dossier.id, rows })
    }
  }
  if (lines.length === 0)
    throw new Refusal(422, 'no-crowd', `Nobody is left who could register for ${term.name} at the next opening.`,
      'Move the clock to before another opening, or load the demonstration again.')
  await keepCrowd(tx, term.code, lines.map((line, i) => ({ ...line, key: randomUUID(),
    at: new Date(Date.parse(from) + Math.floor(i / input.pace * 1000) + random(400)).toISOString() })))
  return { ready: lines.length, from }
}

export async function stopCrowd({ tx, college, input }: Doing<z.output<typeof DeclaredStop['input']>>) {
  await dropPresses(tx, findTerm(college, input.term).code)
  return DONE
}

/** Presses that are under way at a time on one server. */
const MOST_AT_ONCE = 64

/** Lets those of the crowd press whose moment has come; any server may. Gives the milliseconds until the next, at most a second. */
export async function pressForCrowd(database: Database, kept: KeptCollege, lanes: () => Lanes, told: (student: number) => void):
Promise<number> {
  const now = presentInstant(await database.read(readStamp))
  const next = await database.read(nextPress)
  if (!next || next > now) return next ? Math.max(20, Math.min(1000, Date.parse(next) - Date.parse(now))) : 1000
  const presses = await database.write(tx => claimPresses(tx, now, MOST_AT_ONCE))
  await Promise.all(presses.map(async ({ id, student, term, key, rowIds }) => {
    const at = presentInstant(await database.read(readStamp))
    const result = await lanes().register({ student, actor: student, term, key, rowIds, at }).catch(() => null)
    const registered = result?.rows.filter(row => row.outcome === 'register').length ?? 0
    await database.write(tx => markPressed(tx, id, registered))
    told(student)
  }))
  return 0
}
