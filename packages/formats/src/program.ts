import { findNodeAtLocation, parseTree, printParseErrorCode, type Node as JsonNode, type ParseError } from 'jsonc-parser'
import type { Course, CourseFilter, Credits } from '@ridgeway/core/catalog'
import type { GradeScale } from '@ridgeway/core/grades'
import { type CourseLine, linesOfProgram, type Program, type RequirementNode } from '@ridgeway/core/requirements'
import { type ProgramFile, programSchema } from './program-schema'

/** Something wrong in a program file: where (1-based line and column), which part, and what to do. */
export interface FormatProblem { line: number, column: number, path: string, message: string }

export type ReadProgram = { ok: true, program: Program } | { ok: false, problems: FormatProblem[] }

/** What the names in a file are looked up in. */
export interface FormatContext { courses: ReadonlyMap<string, Course>, scale: GradeScale }

type Path = (string | number)[]

/**
 * Reads a program from its JSON text and checks it against the catalog: form first, then every name and number in it.
 * All problems are given at once, each with its line; a file with a problem is not read at all.
 */
export function readProgramText(text: string, context: FormatContext): ReadProgram {
  const errors: ParseError[] = []
  const root = parseTree(text, errors, { disallowComments: true })
  const at = (offset: number) => {
    const before = text.slice(0, offset).split('\n')
    return { line: before.length, column: before.at(-1)!.length + 1 }
  }
  if (errors.length > 0 || !root) {
    return { ok: false, problems: errors.slice(0, 1).map(error => ({ ...at(error.offset), path: '', message: `This is not JSON: ${sayJsonError(error)}.` })) }
  }
  const problems: FormatProblem[] = []
  const report = (path: Path, message: string) => problems.push({ ...at((nearestNode(root, path) ?? root).offset), path: sayPath(path), message })
  const parsed = programSchema.safeParse(toValue(root))
  if (!parsed.success) {
    for (const issue of parsed.error.issues) report([...issue.path as Path, ...(issue.code === 'unrecognized_keys' ? [issue.keys[0]!] : [])], sayIssue(issue))
    return { ok: false, problems: sorted(problems) }
  }
  const program = toProgram(parsed.data)
  checkProgram(parsed.data, program, context, report)
  return problems.length > 0 ? { ok: false, problems: sorted(problems) } : { ok: true, program }
}

const sorted = (problems: FormatProblem[]) => problems.sort((a, b) => a.line - b.line || a.column - b.column)

function toValue(node: JsonNode): unknown {
  if (node.type === 'array') return (node.children ?? []).map(toValue)
  if (node.type !== 'object') return node.value
  return Object.fromEntries((node.children ?? []).flatMap(({ children }) => children?.length === 2 ? [[children[0]!.value, toValue(children[1]!)]] : []))
}

/** The node at a path, or the innermost one on the way that exists. */
function nearestNode(root: JsonNode, path: Path): JsonNode | undefined {
  for (let length = path.length; length >= 0; length--) {
    const found = findNodeAtLocation(root, path.slice(0, length))
    if (found) return found
  }
  return undefined
}

const sayPath = (path: Path) => path.map(part => typeof part === 'number' ? `[${part + 1}]` : `.${part}`).join('').replace(/^\./, '')
const sayJsonError = ({ error }: ParseError) => printParseErrorCode(error).replace(/([A-Z])/g, ' $1').trim().toLowerCase()

function sayIssue(issue: { code?: string, message: string, keys?: string[] }): string {
  if (issue.code === 'unrecognized_keys') return `"${issue.keys?.[0]}" is not part of the format here; remove it or correct its name.`
  return `${issue.message.charAt(0).toUpperCase()}${issue.message.slice(1)}.`
}

const hundredths = (value: number): Credits => Math.round(value * 100)

function toProgram(file: ProgramFile): Program {
  const { format: _, $schema: __, totalCredits, ...rest } = file
  const line = ({ credits, caps, filter, ...other }: ProgramFile['overlays'][number]): CourseLine => compact({
    ...other, filter: compact(filter) as CourseFilter, credits: credits === undefined ? undefined : hundredths(credits),
    caps: caps?.map(cap => compact({ ...cap, filter: compact(cap.filter) as CourseFilter, credits: cap.credits === undefined ? undefined : hundredths(cap.credits) })),
  }) as CourseLine
  const node = (from: ProgramFile['areas'][number]['children'][number]): RequirementNode => from.kind === 'courses' ? line(from) : { ...from, children: from.children.map(node) }
  return {
    ...rest, totalCredits: hundredths(totalCredits),
    areas: file.areas.map(area => ({ kind: 'all', ...area, children: area.children.map(node) })),
    overlays: file.overlays.map(line),
    rules: file.rules.map((rule) => {
      if (rule.kind === 'gpa') return { ...rule, minimum: hundredths(rule.minimum), scope: typeof rule.scope === 'string' ? rule.scope : compact(rule.scope) as CourseFilter }
      if (rule.kind !== 'credits') return rule
      const { filter, here, ...credit } = rule
      return { ...credit, credits: hundredths(rule.credits), ...(filter ? { filter: compact(filter) as CourseFilter } : {}), ...(here ? { here } : {}) }
    }),
    sharing: file.sharing.map(({ with: other, courses, credits }) => ({ with: other, ...(courses === undefined ? {} : { courses }), ...(credits === undefined ? {} : { credits: hundredths(credits) }) })),
  }
}

const compact = <T extends object>(value: T): T => Object.fromEntries(Object.entries(value).filter(([, part]) => part !== undefined)) as T

/** Names that must exist, ids that must be unique, numbers that must agree. */
function checkProgram(file: ProgramFile, program: Program, { courses, scale }: FormatContext, report: (path: Path, message: string) => void) {
  const subjects = new Set([...courses.values()].map(course => course.subject))
  const attributes = new Set([...courses.values()].flatMap(course => course.attributes))
  const ids = new Map<string, string>()
  const unique = (id: string, path: Path) => {
    if (ids.has(id)) report([...path, 'id'], `The id "${id}" is used twice; every line and group needs its own.`)
    ids.set(id, sayPath(path))
  }
  const known = (codes: readonly string[] | undefined, path: Path) => codes?.forEach((code, i) => {
    if (!courses.has(code)) report([...path, i], `There is no course ${code} in the catalog.`)
  })
  const filter = (value: CourseFilter, path: Path) => {
    known(value.list, [...path, 'list'])
    known(value.except, [...path, 'except'])
    value.subjects?.forEach((name, i) => !subjects.has(name) && report([...path, 'subjects', i], `No course has the subject ${name}.`))
    value.attributes?.forEach((name, i) => !attributes.has(name) && report([...path, 'attributes', i], `No course carries the attribute "${name}".`))
    if (value.levelMin !== undefined && value.levelMax !== undefined && value.levelMin > value.levelMax) report([...path, 'levelMin'], 'The lowest level is above the highest.')
  }
  const line = (value: ProgramFile['overlays'][number], path: Path) => {
    unique(value.id, path)
    filter(value.filter as CourseFilter, [...path, 'filter'])
    if (!value.courses && !value.credits) report(path, 'Say how much is needed: "courses", "credits", or both.')
    if (value.filter.list && value.courses && value.courses > value.filter.list.length) report([...path, 'courses'], `${value.courses} courses are asked, the list has ${value.filter.list.length}.`)
    if (value.minGrade !== undefined && !scale[value.minGrade]) report([...path, 'minGrade'], `"${value.minGrade}" is not on the grade scale: ${Object.keys(scale).join(', ')}.`)
    value.caps?.forEach((cap, c) => {
      filter(cap.filter as CourseFilter, [...path, 'caps', c, 'filter'])
      if ((cap.credits === undefined) === (cap.courses === undefined)) report([...path, 'caps', c], 'A cap is in credits or in courses, one of the two.')
    })
  }
  const node = (value: ProgramFile['areas'][number]['children'][number], path: Path) => {
    if (value.kind === 'courses') return line(value, path)
    unique(value.id, path)
    if (value.kind === 'some' && value.n >= value.children.length) report([...path, 'n'], `${value.n} of ${value.children.length} is no choice; use "all".`)
    value.children.forEach((child, c) => node(child, [...path, 'children', c]))
  }
  file.areas.forEach((area, a) => {
    unique(area.id, ['areas', a])
    area.children.forEach((child, c) => node(child, ['areas', a, 'children', c]))
  })
  file.overlays.forEach((overlay, o) => line(overlay, ['overlays', o]))
  file.rules.forEach((rule, r) => {
    unique(rule.id, ['rules', r])
    if (rule.kind === 'gpa' && typeof rule.scope !== 'string') filter(rule.scope as CourseFilter, ['rules', r, 'scope'])
    if (rule.kind === 'credits' && rule.filter) filter(rule.filter as CourseFilter, ['rules', r, 'filter'])
  })
  file.sharing.forEach((rule, s) => {
    if ((rule.courses === undefined) === (rule.credits === undefined)) report(['sharing', s], 'A sharing rule is in credits or in courses, one of the two.')
  })
  file.suggested.forEach((step, s) => known(step.courses, ['suggested', s, 'courses']))
  const asked = linesOfProgram(program).filter(other => !program.overlays.includes(other)).length
  if (asked === 0) report(['areas'], 'The program asks for nothing.')
}

/** Writes a program in its open format; reading it again gives the same program. */
export function writeProgramText(program: Program): string {
  const amount = (value: Credits) => value / 100
  const line = ({ credits, caps, ...rest }: CourseLine): object => ({
    ...rest, ...(credits === undefined ? {} : { credits: amount(credits) }),
    ...(caps ? { caps: caps.map(cap => ({ ...cap, ...(cap.credits === undefined ? {} : { credits: amount(cap.credits) }) })) } : {}),
  })
  const node = (from: RequirementNode): object => from.kind === 'courses' ? line(from) : { ...from, children: from.children.map(node) }
  return `${JSON.stringify({
    format: 'ridgeway-program/1', code: program.code, kind: program.kind, title: program.title, catalogYear: program.catalogYear, totalCredits: amount(program.totalCredits),
    areas: program.areas.map(({ kind: _, ...area }) => ({ ...area, children: area.children.map(node) })),
    rules: program.rules.map(rule => rule.kind === 'gpa' ? { ...rule, minimum: amount(rule.minimum) } : rule.kind === 'credits' ? { ...rule, credits: amount(rule.credits) } : rule),
    overlays: program.overlays.map(line),
    sharing: program.sharing.map(rule => ({ ...rule, ...(rule.credits === undefined ? {} : { credits: amount(rule.credits) }) })),
    suggested: program.suggested,
  }, null, 2)}\n`
}
