import type { z } from 'zod'
import type { View } from '#shared/contract/define'
import { look, type Problem, toProblem } from './useApi'

interface Asking {
  /** Whose file it is of, where its address names one; nothing is read while there is none. What answered another question goes at once. */
  of?: () => number | undefined
  /** What it is read again for, though it asks the same. */
  again?: () => unknown
}

/**
 * A view that a page shows: read when what it asks changes, and again on demand. While it is read anew the earlier answer stays; an answer
 * to an earlier question is thrown away. Nothing is read while there is nothing to ask.
 */
export function useView<Input extends z.ZodType, Output extends z.ZodType>(view: View<Input, Output>, asked: () => z.input<Input> | null,
  { of, again }: Asking = {}) {
  const data = shallowRef<z.output<Output> | null>(null)
  const problem = ref<Problem | null>(null)
  let turn = 0
  async function reload() {
    const mine = ++turn
    const input = asked()
    const id = of?.()
    if (input === null || (of && id === undefined)) return
    try {
      const answer = await look(view, input, { id })
      if (mine !== turn) return
      data.value = answer
      problem.value = null
    }
    catch (error) {
      if (mine === turn) problem.value = toProblem(error)
    }
  }
  const question = computed(() => JSON.stringify([asked(), of?.()]))
  watch([question, () => again?.()], ([now], [before]) => {
    if (of && now !== before) data.value = null
    void reload()
  }, { immediate: true })
  return { data, problem, reload }
}

/** Something done by a press: whether it is being done, what went wrong, and what follows when it went well. */
export function useDoing() {
  const busy = ref(false)
  const problem = ref<Problem | null>(null)
  async function doing(work: () => Promise<void>): Promise<boolean> {
    busy.value = true
    try {
      await work()
      problem.value = null
    }
    catch (error) {
      problem.value = toProblem(error)
    }
    busy.value = false
    return problem.value === null
  }
  return { busy, problem, doing }
}
