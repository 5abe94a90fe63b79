import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { KeptAWhile } from './kept-a-while'

describe('KeptAWhile', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  const slow = (milliseconds: number, value: number) => () => new Promise<number>(done => setTimeout(() => done(value), milliseconds))

  it('works a figure out once for all who ask meanwhile, and keeps it for twenty times what it took', async () => {
    const kept = new KeptAWhile<number>()
    const make = vi.fn(slow(100, 1))
    const asked = [kept.get('a', make), kept.get('a', make), kept.get('b', make)]
    await vi.advanceTimersByTimeAsync(100)
    expect(await Promise.all(asked)).toEqual([1, 1, 1])
    expect(make).toHaveBeenCalledTimes(2)
    await vi.advanceTimersByTimeAsync(1900)
    await kept.get('a', make)
    expect(make).toHaveBeenCalledTimes(2)
    await vi.advanceTimersByTimeAsync(200)
    const anew = kept.get('a', slow(1, 2))
    await vi.advanceTimersByTimeAsync(1)
    expect(await anew).toBe(2)
  })

  it('keeps no failure, and nothing for longer than half a minute', async () => {
    const kept = new KeptAWhile<number>()
    await expect(kept.get('a', () => Promise.reject(new Error('away')))).rejects.toThrow('away')
    const long = kept.get('a', slow(10_000, 3))
    await vi.advanceTimersByTimeAsync(10_000)
    expect(await long).toBe(3)
    await vi.advanceTimersByTimeAsync(30_001)
    const again = kept.get('a', slow(1, 4))
    await vi.advanceTimersByTimeAsync(1)
    expect(await again).toBe(4)
  })
})
