import type { z } from 'zod'
import { effectOf, readProgramFor } from '@ridgeway/core/office'
import { itemsOf } from '@ridgeway/core/planning'
import { linesOfProgram, type Program, programId } from '@ridgeway/core/requirements'
import { type CasesFile, readCases, readProgramText, runCases } from '@ridgeway/formats'
import type * as contract from '#shared/contract/acts/college'
import type { ProgramCheck } from '#shared/contract/acts/college'
import type { Doing } from '../college/asked'
import { type College, programsAt } from '../college/college'
import { Refusal } from '../college/refusal'
import { fileOf, planIn } from '../college/student'
import { readDossiers } from '../db/store/dossiers'
import { keepProgram, lockProgram, studentsIn } from '../db/store/programs'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

const readText = (text: string, college: College) => readProgramText(text, {
  courses: college.catalog.courses,
  scale: college.catalog.scale,
  programs: new Set([...college.programs.values()].map(program => program.code)),
})

/** What the cases of a program are worked out in: the college's catalog, with this program as the only one. */
const aroundOf = (college: College, program: Program) => ({ ...college.catalog, programs: [program] })

/** Checks a program file and, with `keep`, makes it the program's rules in its catalog year; a file with a problem changes nothing. */
export async function loadProgramFile({ tx, actor, college, at, input }: Doing<Input<typeof contract.loadProgramFile>>):
Promise<ProgramCheck> {
  const read = readText(input.text, college)
  if (!read.ok) return read
  const { program } = read
  const id = programId(program)
  const known = college.programs.has(id)
  if (input.keep) {
    const now = await lockProgram(tx, id)
    if (input.seen !== undefined && input.seen !== (now?.version ?? 0))
      throw new Refusal(409, 'program-moved-on', `${id} was put in force by somebody else meanwhile.`,
        'Yours is kept here. Save it as a file, reload, and bring in what is missing.')
    const cases = input.cases === undefined ? now?.cases ?? null : readCasesText(input.cases)
    const results = cases && !input.despite ? runCases(cases, aroundOf(college, program)) : []
    const failing = results.find(one => one.problem || one.mismatches.length > 0)
    if (failing)
      throw new Refusal(422, 'cases-fail', `The worked case "${failing.name}" comes to something else.`,
        'Mend the rules, or what the case expects, or put the program in force despite it.')
    await keepProgram(tx, { program, cases, known: now !== null, actor, at })
  }
  return { ok: true, id, title: program.title, catalogYear: program.catalogYear, lines: linesOfProgram(program).length, known,
    kept: input.keep }
}

function readCasesText(text: string | null): CasesFile | null {
  if (text === null) return null
  const read = readCases(text)
  if (read.ok) return read.file
  const [first] = read.problems
  throw new Refusal(422, 'cases-unreadable', `The worked cases cannot be read: line ${first!.line}, ${first!.message}.`,
    'Mend the file, or leave the cases out.')
}

/** Students that one answer tells of: an answer comes within a few seconds, and whoever asks can stop after each. */
const SOME = 12

/** What a program's rules would come to for those who are in it. Nothing is changed. */
export async function tryProgramText({ tx, college, date, input }: Doing<Input<typeof contract.tryProgramText>>) {
  const read = readText(input.text, college)
  if (!read.ok) return read
  const { program } = read
  const id = programId(program)
  const { some, total, before } = await studentsIn(tx, id, input.after, SOME)
  const ids = input.students ?? some.map(one => one.id)
  const dossiers = await readDossiers(tx, ids)
  const rows = []
  const samples = []
  for (const student of ids) {
    const dossier = dossiers.get(student)
    if (!dossier) continue
    const file = fileOf(dossier, college, college.catalog.terms.at(-1)!.code, planIn(dossier).plan, date)
    const others = programsAt(college, dossier.programs)
    const now = college.programs.get(id) ?? program
    const after = readProgramFor(program, file, college.catalog, date, others)
    await new Promise(resolve => setImmediate(resolve))
    rows.push({ id: student, name: dossier.name,
      effect: effectOf(readProgramFor(now, file, college.catalog, date, others), after) })
    if (input.students)
      samples.push({ id: student, lines: after.lines, items: itemsOf(file), milestones: file.milestones, placements: file.placements })
    await new Promise(resolve => setImmediate(resolve))
  }
  const done = before + some.length
  return { ok: true as const, total, done, next: done < total && some.length > 0 ? some.at(-1)!.id : null, rows, samples }
}
