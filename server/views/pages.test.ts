import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LIMITS } from '#shared/contract/limits'
import { Refusal } from '../college/refusal'
import { OpenPages } from './pages'

describe('OpenPages', () => {
  it('lets everybody have as many pages as are allowed, however they come and go, and a page ends once', () => {
    const anyStep = fc.record({ person: fc.integer({ min: 1, max: 3 }), closes: fc.boolean(), which: fc.nat(40) })
    fc.assert(fc.property(fc.array(anyStep, { maxLength: 120 }), (steps) => {
      const pages = new OpenPages()
      // What is open by person, kept by hand; what was closed may be closed again.
      const open = new Map<number, (() => void)[]>()
      const closed: (() => void)[] = []
      for (const { person, closes, which } of steps) {
        const mine = open.get(person) ?? []
        open.set(person, mine)
        if (closes) {
          const [end] = mine.splice(which % Math.max(1, mine.length), 1)
          end?.()
          if (end) closed.push(end)
          closed[which % Math.max(1, closed.length)]?.()
        }
        else if (mine.length < LIMITS.streams) mine.push(pages.open(person))
        else expect(() => pages.open(person)).toThrow(Refusal)
      }
      // All of them ended, everybody may have as many again.
      for (const list of open.values()) for (const end of list) end()
      for (const person of open.keys()) {
        for (let n = 0; n < LIMITS.streams; n++) pages.open(person)
        expect(() => pages.open(person)).toThrow(`${LIMITS.streams} of your pages are open here already.`)
      }
    }))
  })
})
