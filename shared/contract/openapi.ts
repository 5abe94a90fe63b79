import { z } from 'zod'
import { ACTS, VIEWS } from '.'
import { type Act, Shown, type View } from './define'
import { Problem } from './problems'

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => {
  const { $schema: _, ...json } = z.toJSONSchema(schema, { io, unrepresentable: 'any' })
  return json
}
const WHO: Record<Act['who'], string> = {
  'everybody': 'Everybody.', 'signed in': 'Whoever is signed in.', 'advisor': 'Advisors.', 'office': 'The office.',
  'file': 'The student, their advisor, the office.', 'own': 'The student.', 'own or advisor': 'The student and their advisor.',
  'their advisor': 'The student\'s advisor, or who stands in for them.', 'advisor or office': 'The student\'s advisor and the office.',
  'their office': 'The office.',
}

/** The API as OpenAPI 3.1, made from the contract. */
export function describeContract(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const declared of [...VIEWS, ...ACTS]) {
    const path = declared.path.replace(/:(\w+)/g, '{$1}')
    paths[path] = { ...paths[path], [declared.method.toLowerCase()]: describe(declared) }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Ridgeway', version: '1', description: 'What the browser and the server say to each other. Every failure is a problem '
      + 'detail (RFC 9457). What changes something comes from the college\'s own pages (Origin) in a session (cookie), or by a token.' },
    security: [{ token: [] }],
    paths: Object.fromEntries(Object.entries(paths).sort(([a], [b]) => a < b ? -1 : 1)),
    components: { schemas: { Problem: schemaOf(Problem, 'output') },
      securitySchemes: { token: { type: 'http', scheme: 'bearer', description: 'Made by its owner under API access.' } } },
  }
}

function describe(declared: Act | View) {
  const { name, words, who, demo, byHand, method, path, input, output } = declared
  const inQuery = method === 'GET' || method === 'DELETE'
  const more = declared.kind === 'act'
    ? [declared.basis && `Decided on: ${declared.basis}.`, declared.changes.length > 0 && `Changes: ${declared.changes.join(', ')}.`]
    : [`Stale by: ${declared.stamp}.`]
  const problem = { description: 'What happened and what to do',
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } } }
  const answer = declared.kind === 'act'
    ? { type: 'object', required: ['answer', 'views'], properties: { answer: schemaOf(output, 'output'), views: { type: 'object' },
        later: { type: 'number', description: 'In a crowd the views are empty: ask for them after so many milliseconds.' } } }
    : schemaOf(output, 'output')
  return {
    operationId: name.replaceAll(/\W+/g, '-').toLowerCase(),
    summary: name,
    ...who === 'everybody' || byHand ? { security: [] } : {},
    description: [words, `Who: ${WHO[who]}`, ...more, byHand && 'Not by a token.',
      demo && 'Only in a demonstration.'].filter(Boolean).join(' '),
    parameters: [
      ...[...path.matchAll(/:(\w+)/g)].map(([, at]) => ({ name: at, in: 'path', required: true, schema: { type: 'integer' } })),
      ...inQuery ? inQueryOf(input) : [],
      ...declared.kind === 'act' && declared.changes.length > 0 ? inQueryOf(Shown).map(one => ({ ...one, required: false })) : [],
    ],
    ...inQuery ? {} : { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(input, 'input') } } } },
    responses: {
      200: { description: 'Done', content: {
        [declared.kind === 'view' && declared.stream ? 'text/event-stream' : 'application/json']: { schema: answer } } },
      default: problem,
    },
  }
}

function inQueryOf(schema: z.ZodType) {
  const { properties, required } = schemaOf(schema, 'input') as { properties?: Record<string, unknown>, required?: string[] }
  return Object.entries(properties ?? {}).map(([name, one]) => ({ name, in: 'query', required: required?.includes(name) ?? false,
    schema: one }))
}
