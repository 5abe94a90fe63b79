import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Course, CourseFilter } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import type { Cap, CourseLine, Program } from '@ridgeway/core/requirements'
import { readProgramText, writeProgramText } from './program'
import { programJsonSchema } from './program-schema'

const course = (code: string): Course => ({
  code,
  subject: code.slice(0, 3),
  number: Number(code.slice(4)),
  title: code,
  credits: 300,
  creditsMax: 300,
  description: '',
  attributes: ['Places'],
  prerequisite: '',
  corequisite: '',
  exclusions: [],
  equivalents: [],
  repeatLimit: 1,
  offered: { seasons: ['fall'] },
  parts: ['lecture'],
  fee: 0,
})
const courses = new Map(['AAA 100', 'AAA 200', 'BBB 100'].map(code => [code, course(code)]))
const context = { courses, scale: LETTER_SCALE, programs: new Set(['WSC-BS', 'TST-BS', 'OTH-BA']) }
const file = (children: string, more = '') =>
  `{
  "format": "ridgeway-program/1", "code": "TST-BS", "kind": "major", "title": "Test", "catalogYear": 2025, "totalCredits": 12${more},
  "areas": [
    { "id": "area", "title": "Area", "hue": "moss", "children": [
${children}
    ] }
  ]
}`
const problems = (text: string) => {
  const read = readProgramText(text, context)
  return read.ok ? [] : read.problems.map(({ line, message }) => [line, message])
}

describe('readProgramText', () => {
  it('reads credits as people write them, into hundredths', () => {
    const read = readProgramText(
      file('{ "kind": "courses", "id": "one", "title": "One", "filter": { "list": ["AAA 100"] }, "credits": 2.67 }'),
      context,
    )
    expect(read).toMatchObject({ ok: true,
      program: { totalCredits: 1200, areas: [{ kind: 'all', children: [{ credits: 267 }] }], rules: [], sharing: [] } })
  })

  it.each<[string, string, number, RegExp]>([
    ['an unknown course',
      '{ "kind": "courses", "id": "one", "title": "One",\n "filter": { "list": ["AAA 100",\n "ZZZ 999"] }, "courses": 1 }', 7,
      /no course ZZZ 999/],
    ['a course written wrongly', '{ "kind": "courses", "id": "one", "title": "One", "filter": { "list": ["AAA100"] }, "courses": 1 }', 5,
      /as in the catalog/],
    ['an unknown grade', '{ "kind": "courses", "id": "one", "title": "One", "filter": {}, "credits": 3,\n "minGrade": "E" }', 6,
      /"E" is not on the grade scale/],
    ['a line that asks for nothing', '{ "kind": "courses", "id": "one", "title": "One", "filter": {} }', 5, /Say how much is needed/],
    ['more courses than the list has',
      '{ "kind": "courses", "id": "one", "title": "One", "filter": { "list": ["AAA 100"] },\n\n "courses": 2 }', 7,
      /2 courses are asked, the list has 1/],
    ['a choice of all',
      '{ "kind": "some", "id": "c", "title": "C", "n": 2, "children": [\n'
      + ' { "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3 },'
      + ' { "kind": "courses", "id": "y", "title": "Y", "filter": {}, "credits": 3 } ] }',
      5, /2 of 2 is no choice/],
    ['an id used twice',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3 },\n'
      + '{ "kind": "courses", "id": "x", "title": "Y", "filter": {}, "credits": 3 }',
      6, /used twice/],
    ['a word that is not in the format', '{ "kind": "courses", "id": "x", "title": "X", "filter": {},\n "credit": 3 }', 6,
      /"credit" is not part of the format/],
    ['a subject nobody teaches', '{ "kind": "courses", "id": "x", "title": "X", "filter": { "subjects": ["QQQ"] }, "credits": 3 }', 5,
      /No course has the subject QQQ/],
    ['an attribute nobody carries', '{ "kind": "courses", "id": "x", "title": "X", "filter": { "attributes": ["Voices"] }, "credits": 3 }',
      5, /No course carries the attribute "Voices"/],
    ['levels the wrong way round',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": { "levelMin": 300, "levelMax": 200 }, "credits": 3 }', 5,
      /lowest level is above the highest/],
    ['a course twice in a list',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": { "list": ["AAA 100",\n "AAA 100"] }, "courses": 2 }', 6,
      /AAA 100 stands in the list twice/],
    ['a minimum grade that earns no credit',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3,\n "minGrade": "F" }', 6, /F earns no credit/],
    ['more subjects than courses', '{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "courses": 2,\n "subjects": 3 }', 6,
      /2 courses cannot come from 3 subjects/],
    ['more courses than a list has without what it excepts',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": { "list": ["AAA 100", "AAA 200"], "except": ["AAA 200"] },\n "courses": 2 }',
      6, /the list has 1 without/],
    ['a key twice', '{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3,\n "credits": 6 }', 6,
      /"credits" stands here twice/],
    ['a cap in both units',
      '{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3, "caps": [{ "filter": {}, "credits": 3, "courses": 1 }] }',
      5, /credits or in courses, one of the two/],
  ])('names the line of %s', (_, children, line, message) => {
    const found = problems(file(children))
    expect(found[0]![0]).toBe(line)
    expect(found[0]![1]).toMatch(message)
  })

  it('says where the JSON itself breaks, and gives all problems of a file at once', () => {
    expect(problems('{\n "format": "ridgeway-program/1",\n "code": \n}')).toEqual([[4, expect.stringMatching(/not JSON: value expected/)]])
    const two = problems(
      file('{ "kind": "courses", "id": "x", "title": "X", "filter": { "list": ["ZZZ 999"] }, "courses": 1, "minGrade": "Q" }'),
    )
    expect(two).toHaveLength(2)
    expect(problems('[]')).toHaveLength(1)
  })

  it.each([
    ['a program that there is not', '"sharing": [{ "with": "NON-BS", "courses": 1 }]', /There is no program "NON-BS"/],
    ['an average of three decimals', '"rules": [{ "kind": "gpa", "id": "g", "title": "G", "minimum": 2.675, "scope": "overall" }]',
      /at most two decimals/],
  ])('refuses %s', (_, more, message) => {
    expect(problems(file('{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3 }', `, ${more}`))).toEqual([[
      expect.any(Number),
      expect.stringMatching(message),
    ]])
  })

  it('takes a kind of program, and the code of one, in a sharing rule', () => {
    for (const other of ['major', 'OTH-BA'])
      expect(
        problems(
          file('{ "kind": "courses", "id": "x", "title": "X", "filter": {}, "credits": 3 }',
            `, "sharing": [{ "with": "${other}", "courses": 1 }]`),
        ),
      ).toEqual([])
  })

  it('refuses what is nested too deeply in words, not with a broken stack', () => {
    const deep = `${'{ "kind": "all", "id": "a", "title": "A", "children": ['.repeat(5000)}`
    expect(problems(file(deep))).toEqual([[5, expect.stringMatching(/levels deep/)]])
    expect(problems('['.repeat(100_000))).toEqual([[1, expect.stringMatching(/levels deep/)]])
  })

  it('never throws, whatever it is given', () => {
    fc.assert(fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
      expect(typeof readProgramText(text, context).ok).toBe('boolean')
    }), { numRuns: 200 })
  })
})

describe('the documented JSON Schema', () => {
  it('is the one that files are checked by', async () => {
    const documented = (await import('../../../docs/formats/program.schema.json')).default
    expect(documented).toEqual(JSON.parse(JSON.stringify(programJsonSchema())))
  })
})

describe('the two formats of a program', () => {
  const one = '{ "kind": "courses", "id": "one", "title": "One", "filter": {}, "courses": 2 }'
  const rule = (text: string) => `, "rules": [${text}]`
  const second = (text: string) => text.replace('ridgeway-program/1', 'ridgeway-program/2')
  const maximum = rule('{ "kind": "maximum", "id": "m", "title": "M", "courses": 1, "of": { "source": "transfer" } }')

  it('the first is read as it was, and says that what it has no words for needs the second', () => {
    expect(readProgramText(file(one), context).ok).toBe(true)
    expect(problems(file(one, maximum))).toEqual([[2, expect.stringMatching(/need "ridgeway-program\/2"/)]])
    expect(problems(second(file(one, maximum)))).toEqual([])
    expect(problems(second(file(one, ', "totalFilter": { "withoutAttributes": ["Places"] }')))).toEqual([])
  })
  it.each<[string, string, RegExp]>([
    ['a maximum without an amount',
      '{ "kind": "maximum", "id": "m", "title": "M", "of": { "source": "exam" } }', /in credits or in courses/],
    ['a maximum about nothing', '{ "kind": "maximum", "id": "m", "title": "M", "courses": 1, "of": {} }', /what the maximum is about/],
    ['a maximum with a grade that there is not',
      '{ "kind": "maximum", "id": "m", "title": "M", "courses": 1, "of": { "gradeAtMost": "X" } }', /"X" is not on the grade scale/],
    ['more credits here than there are', '{ "kind": "residence", "id": "r", "title": "R", "credits": 9, "of": 6 }', /9 of the last 6/],
  ])('refuses %s', (_, text, words) => expect(problems(second(file(one, rule(text)))).map(([, said]) => said)).toEqual([
    expect.stringMatching(words),
  ]))
  it.each<[string, string, RegExp]>([
    ['a spread over more than there are courses', '"courses": 2, "spread": { "by": "level", "n": 3 }', /2 courses cannot come from 3/],
    ['a spread of two kinds', '"courses": 2, "subjects": 2, "spread": { "by": "level", "n": 2 }', /not both/],
    ['a spread over attributes that the filter does not name',
      '"courses": 2, "spread": { "by": "attribute", "n": 2 }', /at least 2 attributes/],
  ])('refuses %s', (_, text, words) => expect(
    problems(second(file(`{ "kind": "courses", "id": "one", "title": "One", "filter": {}, ${text} }`))).map(([, said]) => said),
  ).toEqual([expect.stringMatching(words)]))
  it('reads a course with four digits and letters behind them, and refuses one that is too long', () => {
    const asked = (code: string) => problems(
      file(`{ "kind": "courses", "id": "one", "title": "One", "filter": { "list": ["${code}"] }, "courses": 1 }`))
    expect(asked('BIO 2104L')[0]![1]).toMatch(/no course BIO 2104L/)
    expect(asked('MUSIC 2104LL')[0]![1]).toMatch(/as in the catalog/)
  })
})

describe('writeProgramText', () => {
  const line: fc.Arbitrary<CourseLine> = fc.record({
    kind: fc.constant('courses' as const),
    title: fc.string({ minLength: 1, maxLength: 20 }),
    id: fc.constant('x'),
    filter: fc.constantFrom<CourseFilter[]>({}, { list: ['AAA 100', 'BBB 100'] }, { subjects: ['AAA'], levelMin: 100 }, {
      attributes: ['Places'],
      except: ['AAA 200'],
    }),
    credits: fc.integer({ min: 1, max: 3000 }),
    courses: fc.constant(2),
    minGrade: fc.constantFrom('C', 'B-'),
    subjects: fc.constant(2),
    caps: fc.constantFrom<Cap[][]>([{ filter: { subjects: ['BBB'] }, credits: 450 }], [{ filter: {}, courses: 1 }]),
  })
  it('gives back the same program when it is read again', () => {
    fc.assert(fc.property(fc.array(line, { minLength: 1, maxLength: 4 }), fc.boolean(), (lines, choice) => {
      const children = lines.map((one, i) => ({ ...one, id: `line-${i}` }))
      const program: Program = {
        code: 'TST-BS',
        kind: 'minor',
        title: 'Test',
        catalogYear: 2024,
        totalCredits: 1250,
        totalFilter: { withoutAttributes: ['Places'] },
        overlays: [],
        suggested: [{ name: 'First fall', courses: ['AAA 100'] }],
        rules: [{ kind: 'gpa', id: 'gpa', title: 'GPA', minimum: 225, scope: { subjects: ['AAA'] } }, { kind: 'credits', id: 'here',
          title: 'Here', credits: 600, here: true, used: true },
        { kind: 'residence', id: 'last', title: 'Last', credits: 300, of: 600 },
        { kind: 'maximum', id: 'most', title: 'Most', credits: 450, of: { source: 'transfer', filter: { subjects: ['AAA'] } } },
        { kind: 'maximum', id: 'low', title: 'Low', courses: 1, of: { gradeAtMost: 'D', ungraded: true } },
        { kind: 'milestone', id: 'm', title: 'M', words: 'Done.' }],
        sharing: [{ with: 'major', courses: 2 }, { with: 'OTH-BA', credits: 450 }],
        areas: [{ kind: 'all', id: 'area', title: 'Area', hue: 'lake',
          children: choice && children.length > 1 ? [{ kind: 'some', id: 'choice', title: 'Choice', n: 1, children }] : children }],
      }
      expect(readProgramText(writeProgramText(program), context)).toEqual({ ok: true, program })
    }), { numRuns: 100 })
  })
})
