import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { useReadings } from './readings'

/** A question whose answer comes when it is let come. */
function later<T>() {
  let answer!: (value: T) => void
  let fail!: (error: Error) => void
  const coming = new Promise<T>((done, failed) => {
    answer = done
    fail = failed
  })
  return { ask: () => coming, answer, fail }
}
const always = () => true

describe('readings of one thing', () => {
  it('leave the one that was asked for last, in whichever order the answers come', async () => {
    await fc.assert(fc.asyncProperty(fc.integer({ min: 1, max: 6 }).chain(n =>
      fc.shuffledSubarray(Array.from({ length: n }, (_, i) => i), { minLength: n })), async (order) => {
      const shown: number[] = []
      const { read } = useReadings<number>(answer => shown.push(answer))
      const questions = order.map(() => later<number>())
      const readings = questions.map(({ ask }) => read(ask, always))
      for (const i of order) {
        questions[i]!.answer(i)
        await readings[i]
        // Whoever waited for a reading finds what is at least as new.
        expect(shown.at(-1)).toBeGreaterThanOrEqual(i)
      }
      expect(shown).toEqual([...shown].sort((a, b) => a - b))
      expect(shown.at(-1)).toBe(order.length - 1)
    }))
  })

  it('are nothing where the page is about something else by then, and neither is their failure', async () => {
    const shown: string[] = []
    const { read } = useReadings<string>(answer => shown.push(answer))
    let about = 'one student'
    const [first, second, third] = [later<string>(), later<string>(), later<string>()]
    const isAbout = (of: string) => () => about === of
    const readings = [read(first.ask, isAbout('one student')), read(second.ask, isAbout('one student')),
      read(third.ask, isAbout('another'))]
    about = 'another'
    first.answer('of one student')
    second.fail(new Error('of one student'))
    third.answer('of another')
    await Promise.all(readings)
    expect(shown).toEqual(['of another'])
  })

  it('give way to what an act answered, which says when something newer is still to be read', async () => {
    const shown: string[] = []
    const { read, given } = useReadings<string>(answer => shown.push(answer))
    expect(given('by an act')).toBe(false)
    const [before, failed] = [later<string>(), later<string>()]
    const readings = [read(before.ask, always), read(failed.ask, always)]
    expect(given('by another act')).toBe(true)
    before.answer('from before it')
    failed.fail(new Error('from before it'))
    await Promise.all(readings)
    expect(shown).toEqual(['by an act', 'by another act'])
    const after = later<string>()
    const reading = read(after.ask, always)
    after.answer('from after it')
    await reading
    expect(shown.at(-1)).toBe('from after it')
  })

  it('tell of a failure that matters', async () => {
    const { read } = useReadings<string>(() => {})
    const { ask, fail } = later<string>()
    const reading = read(ask, always)
    fail(new Error('away'))
    await expect(reading).rejects.toThrow('away')
  })
})
