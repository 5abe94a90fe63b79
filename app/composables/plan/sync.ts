import {
  applyAll, applyToPlan, EMPTY_PLAN, inverseOperation, type Plan, type PlanOperation, type PlanSync, receivePlan,
  seenPlan,
} from '@ridgeway/core/planning'
import { sayOperation } from '@ridgeway/words'
import { editPlan } from '#shared/contract/acts/student'
import { readPlan, type StudentState } from '#shared/contract/views/student'
import { call, look, toProblem } from '~/composables/useApi'
import { type Done, forgetSent, type Kept, keepPlan, readOwn, takeLeft } from './kept'

const MOST_STEPS = 100
const MOST_SENT = 100
const RETRY_MS = 5000

/**
 * The opened plan as this page sees it: own edits are laid over what the server holds, sent as they are made, kept on this device
 * while they cannot be sent, and merged with what others do. `reload` reads the whole file again after a refusal.
 */
export function usePlanSync(state: Ref<StudentState | null>, account: () => number, reload: () => Promise<void>) {
  const sync = shallowRef<PlanSync>({ version: 0, confirmed: EMPTY_PLAN, waiting: [] })
  const done = shallowRef<Done[]>([])
  const undone = shallowRef<Done[]>([])
  const saving = ref<'saved' | 'saving' | 'kept here'>('saved')
  const notice = ref('')
  let opened = 0
  let batches: Kept['batches'] = []
  let busy = false

  const plan = computed<Plan>(() => seenPlan(sync.value))

  /** Takes a freshly read plan, with what this device still keeps for it. */
  function open(fresh: StudentState) {
    const confirmed: Plan = { entries: fresh.file.entries, placeholders: fresh.file.placeholders ?? [],
      wishes: fresh.file.wishes ?? EMPTY_PLAN.wishes, note: fresh.plan.note, termNotes: fresh.plan.termNotes }
    if (opened !== fresh.plan.id) {
      opened = fresh.plan.id
      const own = readOwn(account(), opened)
      done.value = own.done
      undone.value = own.undone
      batches = own.batches
      sync.value = { version: fresh.plan.version, confirmed, waiting: own.waiting }
      void send()
      void takeOver()
      return
    }
    sync.value = receivePlan(sync.value, { version: fresh.plan.version, plan: confirmed })
  }

  /** What pages that are gone kept of the opened plan is sent and undone from here. */
  async function takeOver() {
    const id = opened
    if (account() === 0) return
    await takeLeft(account(), id, (kept) => {
      if (id !== opened) return
      done.value = [...kept.done, ...done.value]
      if (undone.value.length === 0) undone.value = kept.undone
      // What is not put together yet is, so that what is appended keeps its own batches.
      gather()
      batches = [...batches, ...kept.batches]
      sync.value = { ...sync.value, waiting: [...sync.value.waiting, ...kept.waiting] }
      keep()
    })
    if (id === opened) await send()
  }
  /** Puts everything that waits and is in no batch yet into batches. */
  function gather() {
    let left = sync.value.waiting.length - batches.reduce((sum, one) => sum + one.count, 0)
    for (; left > 0; left -= MOST_SENT) batches = [...batches, { key: crypto.randomUUID(), count: Math.min(MOST_SENT, left) }]
  }

  function keep() {
    // After a session that ended, what was kept under the account's name stays as it is.
    if (account() === 0) return
    keepPlan(account(), opened, { waiting: sync.value.waiting, batches, done: done.value.slice(-MOST_STEPS),
      undone: undone.value.slice(-MOST_STEPS) })
  }

  /** Applies operations here at once and sends them; a word when they make no sense. */
  async function edit(operations: readonly PlanOperation[], remember = true): Promise<string | null> {
    const next = applyAll(plan.value, operations)
    if (typeof next === 'string') return next
    if (remember) {
      done.value = [...done.value, { forward: [...operations], back: takeBack(plan.value, operations) }]
      undone.value = []
    }
    sync.value = { ...sync.value, waiting: [...sync.value.waiting, ...operations] }
    keep()
    await send()
    return null
  }

  async function send(): Promise<void> {
    if (busy || sync.value.waiting.length === 0 || !state.value) return
    busy = true
    saving.value = 'saving'
    const id = opened
    if (batches.length === 0) gather()
    const { key, count: size } = batches[0]!
    keep()
    try {
      const { answer: saved } = await call(editPlan, { plan: id, baseVersion: sync.value.version, batch: key,
        operations: sync.value.waiting.slice(0, size) }, { id: state.value.id })
      if (id === opened) {
        sync.value = receivePlan(sync.value, saved, size)
        if (saved.skipped.length > 0)
          notice.value = `Not done, because somebody else changed the plan: ${
            saved.skipped.map(skip => `${sayOperation(skip.operation, sync.value.confirmed)} (${skip.why})`).join('; ')
          }.`
      }
      if (id === opened) batches = batches.slice(1)
      else forgetSent(account(), id, size)
      saving.value = 'saved'
    }
    catch (error) {
      const problem = toProblem(error)
      // What of another plan was not taken stays kept under its name, and is sent or told of when it is opened again.
      saving.value = id === opened ? 'kept here' : 'saved'
      if (id === opened && problem.status >= 400 && problem.status < 500 && problem.status !== 401) {
        batches = []
        sync.value = { ...sync.value, waiting: [] }
        notice.value = `${problem.title} ${problem.detail}`
        await reload()
        saving.value = 'saved'
      }
    }
    busy = false
    keep()
    if (saving.value === 'saved' && sync.value.waiting.length > 0) await send()
  }
  useEventListener('online', send)
  useIntervalFn(() => saving.value === 'kept here' && send(), RETRY_MS)

  /** Reads what others did to the opened plan, and says it. */
  async function pull(version: number) {
    if (busy || !state.value || version <= sync.value.version) return
    const id = opened
    try {
      const news = await look(readPlan, { since: sync.value.version }, { id: state.value.id, plan: id })
      if (id !== opened || busy || news.head.version <= sync.value.version) return
      const before = sync.value.confirmed
      sync.value = receivePlan(sync.value, { version: news.head.version, plan: news.plan })
      const others = news.changes.filter(change => change.person !== account())
      if (others.length > 0)
        notice.value = `${others.at(-1)!.by} ${
          others.slice(-3).map(change =>
            sayOperation(change.operation, { entries: [...news.plan.entries, ...before.entries],
              placeholders: [...news.plan.placeholders, ...before.placeholders] }),
          ).join(', ')
        }.`
    }
    catch { /* The next news bring it. */ }
  }

  const step = async (from: typeof done, to: typeof done, pick: (one: Done) => PlanOperation[]) => {
    const last = from.value.at(-1)
    if (!last) return null
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, last]
    // What of it others have made impossible since is left out; the rest is still taken back.
    let now = plan.value
    const possible = pick(last).filter((operation) => {
      const next = applyToPlan(now, operation)
      if (typeof next === 'string') return false
      now = next
      return true
    })
    keep()
    if (possible.length < pick(last).length) notice.value = 'Part of it could not be done: somebody else has changed the plan since.'
    return edit(possible, false)
  }
  const undo = () => step(done, undone, one => one.back)
  const redo = () => step(undone, done, one => one.forward)

  return { plan, done, undone, saving, notice, open, edit, pull, undo, redo, version: computed(() => sync.value.version) }
}

/** The operations that take a sequence back, last first. */
function takeBack(before: Plan, operations: readonly PlanOperation[]): PlanOperation[] {
  const back: PlanOperation[] = []
  let now = before
  for (const operation of operations) {
    back.unshift(...inverseOperation(now, operation))
    now = applyToPlan(now, operation) as Plan
  }
  return back
}
