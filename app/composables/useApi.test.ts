import { FetchError } from 'ofetch'
import { describe, expect, it } from 'vitest'
import { toProblem } from './useApi'

/** What a person reads of a request that failed, whatever failed. */
const answered = (status: number, data: unknown) => Object.assign(new FetchError('failed'), { status, data })

describe('toProblem', () => {
  it('passes on what the server says', () => {
    const said = { code: 'plan-full', title: 'A plan holds at most 150 courses.', detail: 'Take something out.', status: 422 }
    expect(toProblem(answered(422, { ...said, type: 'about:blank#plan-full' }))).toEqual(said)
  })

  it('tells a server that failed from a connection that is away, and promises only what holds', () => {
    const failed = toProblem(answered(502, '<html>Bad gateway</html>'))
    expect(failed).toMatchObject({ code: 'server-failed', status: 502 })
    expect(`${failed.title} ${failed.detail}`).not.toMatch(/nothing|kept here/i)
    const away = toProblem(new FetchError('fetch failed'))
    expect(away).toMatchObject({ code: 'no-connection', status: 0 })
    expect(away.detail).toContain('can be sent again')
  })

  it('has words for whatever else was thrown', () => {
    for (const thrown of [new Error('x'), 'text', undefined, answered(200, null)]) {
      const { title, detail } = toProblem(thrown)
      expect([title.length, detail.length].every(length => length > 10)).toBe(true)
    }
  })
})
