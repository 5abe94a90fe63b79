import { applyToPlan, type Plan, type PlanOperation } from './plan'

/** One editor's view of a plan that others edit too: what the server holds, and what this editor did that it has not confirmed. */
export interface PlanSync {
  version: number
  /** The plan as the server last told it. */
  confirmed: Plan
  /** Operations in order that the server has not confirmed yet. */
  waiting: PlanOperation[]
}

/** The plan as this editor sees it: own operations laid over what is confirmed; those that no longer make sense are passed over. */
export function seenPlan({ confirmed, waiting }: PlanSync): Plan {
  return waiting.reduce<Plan>((plan, operation) => {
    const next = applyToPlan(plan, operation)
    return typeof next === 'string' ? plan : next
  }, confirmed)
}

/**
 * Takes what the server tells: the plan at a version, after `answered` of the waiting operations.
 * News older than what is known are passed over, but what they answer is still done with.
 */
export function receivePlan(sync: PlanSync, news: { version: number, plan: Plan }, answered = 0): PlanSync {
  const waiting = sync.waiting.slice(answered)
  return news.version < sync.version ? { ...sync, waiting } : { version: news.version, confirmed: news.plan, waiting }
}
