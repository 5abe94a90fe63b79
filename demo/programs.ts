import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { type Program, programId } from '@ridgeway/core/requirements'
import { readProgramText } from '@ridgeway/formats'
import { COURSES } from './courses'

const FOLDER = resolve(import.meta.dirname, 'programs')

/** The programs of the college, read from their files and checked as any import is. The newest catalog year of a program comes first. */
export const PROGRAMS: Program[] = readPrograms()

function readPrograms(folder = FOLDER): Program[] {
  const courses = new Map(COURSES.map(course => [course.code, course]))
  const files = readdirSync(folder).filter(name => name.endsWith('.json')).sort().map(name => ({ name,
    text: readFileSync(resolve(folder, name), 'utf8') }),
  )
  // Programs name each other in their sharing rules.
  const programs = new Set(files.map(({ text }) => (JSON.parse(text) as { code: string }).code))
  const read = files.map(({ name, text }) => {
    const result = readProgramText(text, { courses, scale: LETTER_SCALE, programs })
    if (!result.ok)
      throw new Error(
        result.problems.map(problem => `${name}:${problem.line}:${problem.column} ${problem.path}: ${problem.message}`).join('\n'),
      )
    return result.program
  })
  const order = ['WSC-BS', 'TSS-CERT']
  const rank = (program: Program) => (order.indexOf(program.code) + 1 || 9) * 1e4 - program.catalogYear
  return read.sort((a, b) => rank(a) - rank(b) || a.code.localeCompare(b.code))
}

export function findProgram(id: string): Program {
  const program = PROGRAMS.find(candidate => programId(candidate) === id)
  if (!program) throw new RangeError(`there is no program ${id}`)
  return program
}
