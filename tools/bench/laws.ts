import { LAWS } from '../../tests/references/laws/laws'
import { type Figure, round, time } from './figure'

/** How many times as many random cases are tried as in the tests. */
const TIMES = 20

/** The laws between the parts of the core, on many more random cases than the tests try. */
export const benchLaws = (): Figure[] => LAWS.map(({ name, runs, check }): Figure => {
  let broken: string | null = null
  const { ms } = time(() => {
    try {
      check(runs * TIMES)
    }
    catch (problem) {
      broken = (problem as Error).message
    }
  })
  if (broken !== null) console.error(`${name}:\n${broken}\n`)
  return { name: `laws: ${name}`, value: runs * TIMES, unit: 'cases', reference: `${round(ms / 1000, 1)} s`, ratio: null,
    target: 'none against it', ok: broken === null }
})
