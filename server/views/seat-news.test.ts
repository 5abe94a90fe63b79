import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { OpenPages } from './pages'
import { pauseAfter } from './seat-news'

describe('how often seats are told', () => {
  it('is once a second where few watch, and less often the more watch and the more there is to tell', () => {
    expect(pauseAfter(1, 200)).toBe(1000)
    expect(pauseAfter(400, 2000)).toBe(1000)
    // Six thousand pages: twelve seconds by their number, fifteen by what ten thousand bytes to each come to.
    expect(pauseAfter(6000, 100)).toBe(12_000)
    expect(pauseAfter(6000, 10_000)).toBe(15_000)
  })

  it('never sends more than four million bytes, nor to more than five hundred pages, in a second (property)', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 50_000 }), fc.integer({ min: 0, max: 500_000 }), (watching, bytes) => {
      const seconds = pauseAfter(watching, bytes) / 1000
      expect(watching / seconds).toBeLessThanOrEqual(500.0001)
      expect(watching * bytes / seconds).toBeLessThanOrEqual(4_000_000 * 1.0001)
    }))
  })
})

describe('pages of one person', () => {
  it('are twelve at most, and one that is closed makes room once, however often it says so', () => {
    const pages = new OpenPages()
    const leave = Array.from({ length: 12 }, () => pages.open(7))
    expect(() => pages.open(7)).toThrow('12 of your pages')
    expect(() => pages.open(8)).not.toThrow()
    leave[0]!()
    leave[0]!()
    pages.open(7)
    expect(() => pages.open(7)).toThrow('12 of your pages')
  })
})
