import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TERMS } from '../../../../demo/calendar'
import { COURSES } from '../../../../demo/courses'
import { applyAll, applyToPlan, EMPTY_PLAN, inverseOperation, operationsBetween, type Plan, type PlanOperation } from './plan'
import { type PlanSync, receivePlan, seenPlan } from './sync'

const CODES = COURSES.slice(0, 8).map(course => course.code)
const TERM_CODES = TERMS.slice(-5).map(term => term.code)
const IDS = ['a', 'b', 'c', 'd', 'e', 'f']
const term = fc.constantFrom(...TERM_CODES)
const id = fc.constantFrom(...IDS)
const note = fc.string({ maxLength: 4 })
/** Few ids, courses and terms, so that operations meet each other. */
const anyOperation: fc.Arbitrary<PlanOperation> = fc.oneof(
  { weight: 4,
    arbitrary: fc.record({ kind: fc.constant('place' as const), entry: id, course: fc.constantFrom(...CODES), term,
      credits: fc.constantFrom(300, 400) }) },
  { weight: 2,
    arbitrary: fc.record({ kind: fc.constant('hold' as const), entry: id, line: fc.constantFrom('WSC-BS/voices', 'WSC-BS/places'), term,
      credits: fc.constant(300) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('move' as const), entry: id, term }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('remove' as const), entry: id }) },
  fc.record({ kind: fc.constant('pin' as const), entry: id, pinned: fc.boolean() }),
  fc.record({ kind: fc.constant('pin use' as const), entry: id, line: fc.constantFrom('WSC-BS/voices', null) }),
  fc.record({ kind: fc.constant('credits' as const), entry: id, credits: fc.constantFrom(100, 200, 300) }),
  fc.record({ kind: fc.constant('note' as const), entry: id, note }),
  fc.record({ kind: fc.constant('plan note' as const), note }),
  fc.record({ kind: fc.constant('term note' as const), term, note }),
  fc.record({ kind: fc.constant('wishes' as const),
    wishes: fc.record({ target: fc.constantFrom(null, 1200), termsOff: fc.subarray(TERM_CODES),
      latestFinish: fc.option(term, { nil: null }) }) }),
)
const anySequence = fc.array(anyOperation, { maxLength: 30 })
const apply = (plan: Plan, operations: readonly PlanOperation[]) =>
  operations.reduce<Plan>((now, operation) => {
    const next = applyToPlan(now, operation)
    return typeof next === 'string' ? now : next
  }, plan)
/** A plan is a set: the order of what stands in it says nothing. */
const shape = (plan: Plan) => ({ ...plan, entries: [...plan.entries].sort((a, b) => a.id.localeCompare(b.id)),
  placeholders: [...plan.placeholders].sort((a, b) => a.id.localeCompare(b.id)) })

describe('operations', () => {
  it('undoing any sequence, last step first, gives the same plan back', () => {
    fc.assert(fc.property(anySequence, anySequence, (before, sequence) => {
      const start = apply(EMPTY_PLAN, before)
      const back: PlanOperation[] = []
      let now = start
      for (const operation of sequence) {
        const next = applyToPlan(now, operation)
        if (typeof next === 'string') continue
        back.unshift(...inverseOperation(now, operation))
        now = next
      }
      const undone = applyAll(now, back)
      if (typeof undone === 'string') throw new Error(undone)
      expect(shape(undone)).toEqual(shape(start))
    }), { numRuns: 500 })
  })

  it('never put a course twice into one term, nor one id on two things', () => {
    fc.assert(fc.property(anySequence, (sequence) => {
      const plan = apply(EMPTY_PLAN, sequence)
      const places = plan.entries.map(entry => `${entry.course} ${entry.term}`)
      const ids = [...plan.entries, ...plan.placeholders].map(one => one.id)
      expect([new Set(places).size, new Set(ids).size]).toEqual([places.length, ids.length])
    }), { numRuns: 300 })
  })

  it('the difference of two plans makes one of the other', () => {
    fc.assert(fc.property(anySequence, anySequence, (one, other) => {
      const [from, to] = [apply(EMPTY_PLAN, one), apply(EMPTY_PLAN, other)]
      const reached = applyAll(from, operationsBetween(from, to))
      expect(typeof reached === 'string' ? reached : shape(reached)).toEqual(shape(to))
    }), { numRuns: 300 })
  })
})

/** The server's side of the sync, as small as it can be: what arrives is applied in the order of arrival. */
class Server {
  version = 0
  plan = EMPTY_PLAN
  take(operations: readonly PlanOperation[]) {
    for (const operation of operations) {
      const next = applyToPlan(this.plan, operation)
      if (typeof next === 'string') continue
      this.plan = next
      this.version++
    }
    return { version: this.version, plan: this.plan }
  }
}

describe('two editors on one plan', () => {
  type Step = { who: 0 | 1, does: 'edit', operation: PlanOperation } | { who: 0 | 1, does: 'send' | 'answer' | 'hear' | 'lose' }
  const who = fc.constantFrom(0 as const, 1 as const)
  const anyStep: fc.Arbitrary<Step> = fc.oneof(
    { weight: 3, arbitrary: fc.record({ who, does: fc.constant('edit' as const), operation: anyOperation }) },
    { weight: 4,
      arbitrary: fc.record({ who, does: fc.constantFrom('send' as const, 'answer' as const, 'hear' as const, 'lose' as const) }) },
  )

  it('converge, however their edits, answers and news interleave', () => {
    fc.assert(fc.property(fc.array(anyStep, { maxLength: 60 }), (steps) => {
      const server = new Server()
      const editors: { sync: PlanSync, flight: { count: number, answer: { version: number, plan: Plan } | null } | null }[] = [0, 1].map(
        () => ({ sync: { version: 0, confirmed: EMPTY_PLAN, waiting: [] }, flight: null }),
      )
      const edited: PlanOperation[] = []
      const send = (e: typeof editors[number]) => {
        if (e.flight || e.sync.waiting.length === 0) return
        const count = Math.min(3, e.sync.waiting.length)
        e.flight = { count, answer: server.take(e.sync.waiting.slice(0, count)) }
      }
      const answer = (e: typeof editors[number]) => {
        if (!e.flight) return
        // A lost answer is asked for again: the server knows the batch and tells how things stand now.
        e.sync = receivePlan(e.sync, e.flight.answer ?? { version: server.version, plan: server.plan }, e.flight.count)
        e.flight = null
      }
      for (const step of steps) {
        const e = editors[step.who]!
        if (step.does === 'edit') {
          if (typeof applyToPlan(seenPlan(e.sync), step.operation) === 'string') continue
          e.sync = { ...e.sync, waiting: [...e.sync.waiting, step.operation] }
          edited.push(step.operation)
        }
        else if (step.does === 'send') send(e)
        else if (step.does === 'answer') answer(e)
        else if (step.does === 'lose') e.flight &&= { ...e.flight, answer: null }
        else e.sync = receivePlan(e.sync, { version: server.version, plan: server.plan })
      }
      for (const e of editors)
        for (let i = 0; i < 40 && (e.flight || e.sync.waiting.length > 0); i++) {
          answer(e)
          send(e)
        }
      for (const e of editors) e.sync = receivePlan(e.sync, { version: server.version, plan: server.plan })
      expect(editors.map(e => shape(seenPlan(e.sync)))).toEqual([shape(server.plan), shape(server.plan)])
      // Nothing that was placed is lost, unless somebody took it out or the place was taken by the same course.
      for (const operation of edited) {
        if (operation.kind !== 'place' || edited.some(other => other.kind === 'remove' && other.entry === operation.entry)) continue
        expect(
          [...server.plan.entries, ...server.plan.placeholders].some(one =>
            one.id === operation.entry || ('course' in one && one.course === operation.course),
          ),
        ).toBe(true)
      }
    }), { numRuns: 400 })
  })

  it('pass over news that are older than what they know', () => {
    const sync: PlanSync = { version: 5, confirmed: { ...EMPTY_PLAN, note: 'new' }, waiting: [{ kind: 'plan note', note: 'mine' }] }
    const after = receivePlan(sync, { version: 3, plan: { ...EMPTY_PLAN, note: 'old' } }, 0)
    expect([after.version, after.confirmed.note, seenPlan(after).note]).toEqual([5, 'new', 'mine'])
  })
})
