import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RunResult } from '#shared/contract/acts/student'
import { Refusal } from '../college/refusal'
import { Busy, errorNumber, OutcomeUnknown, placesIn, Unavailable } from '../db/failures'
import { heardOf, saidOf } from './registering-words'

/** As a thread hears what another one said. */
const passed = (answer: unknown) => heardOf(structuredClone(saidOf(answer)))

describe('what the thread that registers says', () => {
  it('is an answer, as it was', () => {
    const result: RunResult = { reference: 'r', at: '2026-11-10T16:00:00.000Z', repeated: false, rows: [] }
    expect(passed(result)).toEqual(result)
  })

  it('is a refusal with its words', () => {
    fc.assert(fc.property(fc.constantFrom(404, 409, 422, 503), fc.string(), fc.string(), fc.string(), (status, code, words, way) => {
      const heard = passed(new Refusal(status as 404, code, words, way))
      expect(heard).toBeInstanceOf(Refusal)
      expect(heard).toMatchObject({ status, code, message: words, way })
    }))
  })

  it('is a failure of its kind with the place in the code, and nothing of what people typed', () => {
    for (const Kind of [Busy, Unavailable, OutcomeUnknown, Error]) {
      const cause = Object.assign(new Error('INSERT … "a secret"'), { errno: 1062 })
      const problem = new Kind('about "a secret"', { cause })
      const heard = passed(problem) as Error
      expect(heard).toBeInstanceOf(Kind)
      expect(heard.constructor).toBe(Kind)
      expect(errorNumber(heard)).toBe(1062)
      expect(placesIn(heard)).toEqual(placesIn(problem))
      expect(JSON.stringify(saidOf(problem)) + heard.message + heard.stack).not.toContain('secret')
    }
  })
})
