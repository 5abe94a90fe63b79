import type { GradingMode } from '@ridgeway/core/catalog'
import type { InjectionKey } from 'vue'
import type { ChangeResult } from '#shared/contract/acts/student'
import { changeRegistered, dropCourses, exchangeCourse, leaveWaitlist, takeOffer } from '#shared/contract/acts/student'
import { toProblem, type Problem } from '~/composables/useApi'

/**
 * Changes of what is registered: drop, exchange, take or leave an offer. A press whose answer was lost is sent again under the same key, so
 * that it acts once.
 */
export function useChanges() {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const problem = ref<Problem | null>(null)
  const busy = ref(false)
  /** Why a change was refused, as the decision says; nothing was changed then. */
  const refused = shallowRef<ChangeResult['decision']>(null)
  let pending: { what: string, key: string } | null = null

  async function press(what: string, said: string, send: (key: string) => Promise<ChangeResult>): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    problem.value = null
    refused.value = null
    const { key } = pending?.what === what ? pending : { key: crypto.randomUUID() }
    pending = { what, key }
    try {
      const result = await send(key)
      pending = null
      if (result.done) announce(said)
      else if (result.waits) announce('You wait for a seat; the exchange happens by itself when one is offered.')
      else {
        refused.value = result.decision
        announce('It was refused; nothing is changed.')
      }
      return result.done || result.waits
    }
    catch (error) {
      problem.value = toProblem(error)
      // Whether it was done is not known: the same press asks.
      if (problem.value.status > 0 && problem.value.status < 500) pending = null
      return false
    }
    finally {
      busy.value = false
    }
  }
  const term = () => workingTerm.code
  const drop = (courses: readonly string[], everything = false) => press(`drop ${courses.join()} ${everything}`,
    `${courses.join(' and ')} dropped.`, key => student.send(dropCourses, { term: term(), key, courses: [...courses], everything }))
  const exchange = (drops: readonly string[], course: string, sectionIds: number[], wait = false) =>
    press(`exchange ${drops.join()} ${sectionIds.join()} ${wait}`, `${course} taken in place of ${drops.join(' and ')}.`, key =>
      student.send(exchangeCourse, { term: term(), key, drops: [...drops], course, sectionIds, wait }))
  const change = (course: string, credits: number, grading: GradingMode) => press(`change ${course} ${credits} ${grading}`,
    `${course} changed.`, key => student.send(changeRegistered, { term: term(), key, course, credits, grading }))
  const accept = (entry: number, course: string, drops: readonly string[] = []) => press(`accept ${entry} ${drops.join()}`,
    `${course} registered.`, key => student.send(takeOffer, { term: term(), key, entry, drops: [...drops] }))
  async function leave(entry: number, course: string) {
    problem.value = await student.act(leaveWaitlist, { term: term(), entry })
    if (!problem.value) announce(`You do not wait for ${course} any more.`)
  }
  return { problem, busy, refused, drop, exchange, change, accept, leave }
}

const CHANGES: InjectionKey<ReturnType<typeof useChanges>> = Symbol('changes')
/** One set of changes for a list and its rows: what went wrong is told in one place. */
export function provideChanges() {
  const changes = useChanges()
  provide(CHANGES, changes)
  return changes
}
export const useTheChanges = () => inject(CHANGES)!
