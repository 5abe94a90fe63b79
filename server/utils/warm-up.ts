import { warmUp } from '../views/warm-up'

/** Milliseconds for which a new server says that it is not ready yet, however much of it is still cold. */
const MOST_MS = 5000
let warming: Promise<unknown> | undefined

/** Begins to warm up when it is first asked; resolves when that has ended, well or not: what is cold then is read when somebody asks. */
export const warmedUp = () => warming ??= Promise.race([
  warmUp(useDatabase(), useKeptCollege()).catch(() => undefined),
  new Promise(done => setTimeout(done, MOST_MS).unref()),
])
