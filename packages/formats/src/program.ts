import type { Course, CourseFilter, Credits } from '@ridgeway/core/catalog'
import { type GradeScale, gradesThatEarn } from '@ridgeway/core/grades'
import type { CourseLine, Program, ProgramKind, ProgramRule, RequirementNode } from '@ridgeway/core/requirements'
import { checkShape, type FormatProblem, inOrder, type JsonPath, readJson, sayPath } from './json'
import { PROGRAM_KINDS, type ProgramFile, programSchema } from './program-schema'

export type ReadProgram = { ok: true, program: Program } | { ok: false, problems: FormatProblem[] }

/** What the names in a file are looked up in; `programs` are the codes that a sharing rule may name besides the kinds. */
export interface FormatContext {
  courses: ReadonlyMap<string, Course>
  scale: GradeScale
  programs: ReadonlySet<string>
}

type Report = (path: JsonPath, message: string) => void

/**
 * Reads a program from its JSON text and checks it against the catalog: form first, then every name and number in it.
 * All problems are given at once, each with its line; a file with a problem is not read at all.
 */
export function readProgramText(text: string, context: FormatContext): ReadProgram {
  const read = readJson(text)
  if (!read.ok) return read
  const shape = checkShape(programSchema, read.json)
  if (!shape.ok) return shape
  const problems: FormatProblem[] = []
  checkProgram(shape.data, context, (path, message) => problems.push(read.json.problemAt(path, message)))
  return problems.length > 0 ? { ok: false, problems: inOrder(problems) } : { ok: true, program: toProgram(shape.data) }
}

const hundredths = (value: number): Credits => Math.round(value * 100)

export function toProgram(file: ProgramFile): Program {
  const { format: _, $schema: __, totalCredits, totalFilter, ...rest } = file
  const line = ({ credits, caps, filter, ...other }: ProgramFile['overlays'][number]): CourseLine =>
    compact({
      ...other,
      filter: compact(filter) as CourseFilter,
      credits: credits === undefined ? undefined : hundredths(credits),
      caps: caps?.map(cap =>
        compact({ ...cap, filter: compact(cap.filter) as CourseFilter,
          credits: cap.credits === undefined ? undefined : hundredths(cap.credits) }),
      ),
    }) as CourseLine
  const node = (from: ProgramFile['areas'][number]['children'][number]): RequirementNode =>
    from.kind === 'courses' ? line(from) : { ...from, children: from.children.map(node) }
  return {
    ...rest,
    totalCredits: hundredths(totalCredits),
    ...(totalFilter ? { totalFilter: compact(totalFilter) as CourseFilter } : {}),
    areas: file.areas.map(area => ({ kind: 'all', ...area, children: area.children.map(node) })),
    overlays: file.overlays.map(line),
    rules: file.rules.map((rule) => {
      if (rule.kind === 'gpa')
        return { ...rule, minimum: hundredths(rule.minimum),
          scope: typeof rule.scope === 'string' ? rule.scope : compact(rule.scope) as CourseFilter }
      if (rule.kind === 'residence') return { ...rule, credits: hundredths(rule.credits), of: hundredths(rule.of) }
      if (rule.kind === 'maximum') {
        const { filter, ...of } = rule.of
        return compact({ ...rule, credits: rule.credits === undefined ? undefined : hundredths(rule.credits),
          of: compact({ ...of, filter: filter && compact(filter) as CourseFilter }) }) as ProgramRule
      }
      if (rule.kind !== 'credits') return rule
      const { filter, here, used, ...credit } = rule
      return { ...credit, credits: hundredths(rule.credits), ...(filter ? { filter: compact(filter) as CourseFilter } : {}),
        ...(here ? { here } : {}), ...(used ? { used } : {}) }
    }),
    sharing: file.sharing.map(({ with: other, courses, credits }) => ({ with: other, ...(courses === undefined ? {} : { courses }),
      ...(credits === undefined ? {} : { credits: hundredths(credits) }) }),
    ),
  }
}

const compact = <T extends object>(value: T): T => Object.fromEntries(Object.entries(value).filter(([, part]) => part !== undefined)) as T

/** Names that must exist, ids that must be unique, numbers that must agree. */
function checkProgram(file: ProgramFile, { courses, scale, programs }: FormatContext, report: Report) {
  const subjects = new Set([...courses.values()].map(course => course.subject))
  const attributes = new Set([...courses.values()].flatMap(course => course.attributes))
  const ids = new Map<string, string>()
  const unique = (id: string, path: JsonPath) => {
    if (ids.has(id)) report([...path, 'id'], `The id "${id}" is used twice; every line and group needs its own.`)
    ids.set(id, sayPath(path))
  }
  const known = (codes: readonly string[] | undefined, path: JsonPath) =>
    codes?.forEach((code, i) => {
      if (!courses.has(code)) report([...path, i], `There is no course ${code} in the catalog.`)
    })
  const filter = (value: CourseFilter, path: JsonPath) => {
    known(value.list, [...path, 'list'])
    known(value.except, [...path, 'except'])
    value.subjects?.forEach((name, i) => !subjects.has(name) && report([...path, 'subjects', i], `No course has the subject ${name}.`))
    for (const part of ['attributes', 'withoutAttributes'] as const) {
      value[part]?.forEach((name, i) =>
        !attributes.has(name) && report([...path, part, i], `No course carries the attribute "${name}".`),
      )
    }
    if (value.levelMin !== undefined && value.levelMax !== undefined && value.levelMin > value.levelMax)
      report([...path, 'levelMin'], 'The lowest level is above the highest.')
  }
  const line = (value: ProgramFile['overlays'][number], path: JsonPath) => {
    unique(value.id, path)
    filter(value.filter as CourseFilter, [...path, 'filter'])
    if (!value.courses && !value.credits) report(path, 'Say how much is needed: "courses", "credits", or both.')
    const listed = (value.filter.list ?? []).filter(code => !value.filter.except?.includes(code))
    value.filter.list?.forEach((code, i, all) => {
      if (all.indexOf(code) !== i)
        report([...path, 'filter', 'list', i], `${code} stands in the list twice; a course counts once. Name it once.`)
    })
    if (value.filter.list && value.courses && value.courses > listed.length)
      report([...path, 'courses'],
        `${value.courses} courses are asked, the list has ${listed.length}${value.filter.except ? ' without what it excepts' : ''}.`)
    if (value.subjects && value.courses && value.subjects > value.courses)
      report([...path, 'subjects'],
        `${value.courses} courses cannot come from ${value.subjects} subjects. Ask for more courses, or fewer subjects.`)
    if (value.spread && value.subjects)
      report([...path, 'spread'], 'A line is spread over subjects or over something else, not both. Leave one of the two out.')
    if (value.spread && value.courses && value.spread.n > value.courses)
      report([...path, 'spread', 'n'], `${value.courses} courses cannot come from ${value.spread.n} of them. Ask for more courses.`)
    if (value.spread?.by === 'attribute' && (value.filter.attributes?.length ?? 0) < value.spread.n)
      report([...path, 'spread', 'by'], `Name at least ${value.spread.n} attributes in the filter, from which the courses must come.`)
    if (value.minGrade !== undefined && !scale[value.minGrade])
      report([...path, 'minGrade'], `"${value.minGrade}" is not on the grade scale: ${gradesThatEarn(scale).join(', ')}.`)
    else if (value.minGrade !== undefined && !scale[value.minGrade]!.earns)
      report([...path, 'minGrade'],
        `${value.minGrade} earns no credit and cannot be a minimum. Choose one of ${gradesThatEarn(scale).join(', ')}.`)
    value.caps?.forEach((cap, c) => {
      filter(cap.filter as CourseFilter, [...path, 'caps', c, 'filter'])
      if ((cap.credits === undefined) === (cap.courses === undefined))
        report([...path, 'caps', c], 'A cap is in credits or in courses, one of the two.')
    })
  }
  const node = (value: ProgramFile['areas'][number]['children'][number], path: JsonPath) => {
    if (value.kind === 'courses') return line(value, path)
    unique(value.id, path)
    if (value.kind === 'some' && value.n >= value.children.length)
      report([...path, 'n'], `${value.n} of ${value.children.length} is no choice; use "all".`)
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
    if (rule.kind === 'residence' && rule.credits > rule.of)
      report(['rules', r, 'credits'], `${rule.credits} of the last ${rule.of} credits cannot be. Ask for ${rule.of} at most.`)
    if (rule.kind === 'maximum') {
      if ((rule.credits === undefined) === (rule.courses === undefined))
        report(['rules', r], 'A maximum is in credits or in courses, one of the two.')
      if (Object.values(rule.of).every(part => part === undefined || part === false))
        report(['rules', r, 'of'], 'Say what the maximum is about: a filter, a source, a grade, or what is ungraded.')
      if (rule.of.filter) filter(rule.of.filter as CourseFilter, ['rules', r, 'of', 'filter'])
      if (rule.of.gradeAtMost !== undefined && !scale[rule.of.gradeAtMost])
        report(['rules', r, 'of', 'gradeAtMost'],
          `"${rule.of.gradeAtMost}" is not on the grade scale: ${gradesThatEarn(scale).join(', ')}.`)
    }
    if (rule.kind === 'credits' && rule.filter) filter(rule.filter as CourseFilter, ['rules', r, 'filter'])
  })
  if (file.totalFilter) filter(file.totalFilter as CourseFilter, ['totalFilter'])
  if (file.format === 'ridgeway-program/1' && usesSecondFormat(file))
    report(['format'], 'Maxima, residence, spread by level or attribute, and a filter on the total need "ridgeway-program/2". Write that.')
  file.sharing.forEach((rule, s) => {
    if (!programs.has(rule.with) && !PROGRAM_KINDS.includes(rule.with as ProgramKind)) {
      report(['sharing', s, 'with'],
        `There is no program "${rule.with}". Write the code of a program, or a kind: ${PROGRAM_KINDS.join(', ')}.`)
    }
    if ((rule.courses === undefined) === (rule.credits === undefined))
      report(['sharing', s], 'A sharing rule is in credits or in courses, one of the two.')
  })
  file.suggested.forEach((step, s) => known(step.courses, ['suggested', s, 'courses']))
  const asksSomething = (from: ProgramFile['areas'][number]['children'][number]): boolean =>
    from.kind === 'courses' || from.children.some(asksSomething)
  if (!file.areas.some(area => area.children.some(asksSomething))) report(['areas'], 'The program asks for nothing.')
}

/** Whether a file says something that the first format has no words for. */
function usesSecondFormat(file: ProgramFile): boolean {
  const lines = (from: ProgramFile['areas'][number]['children'][number]): ProgramFile['overlays'] =>
    from.kind === 'courses' ? [from] : from.children.flatMap(lines)
  const all = [...file.areas.flatMap(area => area.children.flatMap(lines)), ...file.overlays]
  const filters = [...all.map(line => line.filter), ...file.rules.flatMap(rule => rule.kind === 'credits' && rule.filter
    ? [rule.filter]
    : [])]
  return file.totalFilter !== undefined || all.some(line => line.spread) || filters.some(filter => filter.withoutAttributes)
    || file.rules.some(rule => rule.kind === 'maximum' || rule.kind === 'residence' || (rule.kind === 'credits' && rule.used))
}

/** Writes a program in its open format; reading it again gives the same program. */
export function writeProgramText(program: Program): string {
  const amount = (value: Credits) => value / 100
  const line = ({ credits, caps, ...rest }: CourseLine): object => ({
    ...rest,
    ...(credits === undefined ? {} : { credits: amount(credits) }),
    ...(caps ? { caps: caps.map(cap => ({ ...cap, ...(cap.credits === undefined ? {} : { credits: amount(cap.credits) }) })) } : {}),
  })
  const node = (from: RequirementNode): object => from.kind === 'courses' ? line(from) : { ...from, children: from.children.map(node) }
  return `${
    JSON.stringify({
      format: 'ridgeway-program/2',
      code: program.code,
      kind: program.kind,
      title: program.title,
      catalogYear: program.catalogYear,
      totalCredits: amount(program.totalCredits),
      ...(program.totalFilter ? { totalFilter: program.totalFilter } : {}),
      areas: program.areas.map(({ kind: _, ...area }) => ({ ...area, children: area.children.map(node) })),
      rules: program.rules.map(rule =>
        rule.kind === 'gpa'
          ? { ...rule, minimum: amount(rule.minimum) }
          : rule.kind === 'credits'
            ? { ...rule, credits: amount(rule.credits) }
            : rule.kind === 'residence'
              ? { ...rule, credits: amount(rule.credits), of: amount(rule.of) }
              : rule.kind === 'maximum' && rule.credits !== undefined
                ? { ...rule, credits: amount(rule.credits) }
                : rule,
      ),
      overlays: program.overlays.map(line),
      sharing: program.sharing.map(rule => ({ ...rule, ...(rule.credits === undefined ? {} : { credits: amount(rule.credits) }) })),
      suggested: program.suggested,
    }, null, 2)
  }\n`
}
