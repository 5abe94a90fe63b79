import { type MailWay, sendMail } from '../acts/mail'
import { serveCancelled } from '../acts/cancelled'
import { collectFees } from '../acts/money'
import { serveWaitlists } from '../acts/offers'
import { pressForCrowd } from '../standins/crowd'
import { answerAtDesk } from '../standins/desk'
import { forgetMarks } from '../db/store/long-works'
import { catchMail } from '../standins/mailbox'
import { payForCrowd } from '../standins/payers'
import { postGrades } from '../standins/registry'
import { announce } from '../views/news'

/** What happens by itself, with the milliseconds after which it is looked at again, unless the work says others by `again`. */
type Task = readonly [everyMs: number, work: (again: (ms: number) => void) => Promise<unknown>]

const tell = async (changed: Promise<number[]>) => {
  for (const student of await changed) announce(student)
}

/** Where mail goes: to the server that is named, in a demonstration to one of its own, otherwise nowhere yet. */
let mailbox: ReturnType<typeof catchMail> | undefined
async function mailWay(): Promise<MailWay | null> {
  const { RIDGEWAY_MAIL, RIDGEWAY_MAIL_FROM, RIDGEWAY_ADDRESS, RIDGEWAY_DEMO } = process.env
  const server = RIDGEWAY_MAIL ?? (RIDGEWAY_DEMO === '1' ? (await (mailbox ??= catchMail(useDatabase()))).server : '')
  return server ? { server, from: RIDGEWAY_MAIL_FROM ?? 'ridgeway@larkmoor.example', address: RIDGEWAY_ADDRESS ?? '' } : null
}

/** Seats come free on any server, offers end and fees fall due by the clock alone. */
const ALWAYS: readonly Task[] = [
  [1000, () => tell(serveWaitlists(useDatabase(), useKeptCollege()))],
  [1000, () => tell(serveCancelled(useDatabase(), useKeptCollege()))],
  [60_000, () => useDatabase().write(forgetMarks)],
  [3000, async () => {
    // Who pays for others in a demonstration pays before anybody is asked.
    if (process.env.RIDGEWAY_DEMO === '1') await payForCrowd(useDatabase(), useKeptCollege())
    await tell(collectFees(useDatabase(), useKeptCollege()))
  }],
  [2000, async () => {
    const way = await mailWay()
    if (way) await sendMail(useDatabase(), useKeptCollege(), way)
  }],
]
/** In a demonstration others act too: the payment desk, those who grade, and a crowd. */
const DEMO: readonly Task[] = [
  [400, () => tell(answerAtDesk(useDatabase(), useKeptCollege()))],
  [3000, () => tell(postGrades(useDatabase(), useKeptCollege()))],
  [1000, async again => again(await pressForCrowd(useDatabase(), useKeptCollege(), useLanes, announce))],
]

/** Every server does all of it beside its other work; a database that does not answer is asked again at the next turn. */
export default defineNitroPlugin((nitro) => {
  let stopped = false
  const timers = new Set<ReturnType<typeof setTimeout>>()
  const atWork = new Set<Promise<unknown>>()
  function repeat([everyMs, work]: Task, after = everyMs) {
    if (stopped) return
    const timer = setTimeout(async () => {
      timers.delete(timer)
      let next = everyMs
      const working = work((ms) => { next = ms }).catch(() => undefined)
      atWork.add(working)
      await working
      atWork.delete(working)
      repeat([everyMs, work], next)
    }, after)
    timers.add(timer)
  }
  for (const task of process.env.RIDGEWAY_DEMO === '1' ? [...ALWAYS, ...DEMO] : ALWAYS) repeat(task)
  nitro.hooks.hook('close', async () => {
    stopped = true
    for (const timer of timers) clearTimeout(timer)
    await Promise.all(atWork)
    void mailbox?.then(box => box.close())
  })
})
