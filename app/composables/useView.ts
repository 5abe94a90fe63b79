import type { z } from 'zod'
import type { View } from '#shared/contract/define'
import { look, type Problem, toProblem } from './useApi'

/**
 * A view that a page shows: read when what it asks changes, and again on demand. While it is read anew the earlier answer stays; an answer
 * to an earlier question is thrown away. Nothing is read while there is nothing to ask.
 */
export function useView<Input extends z.ZodType, Output extends z.ZodType>(view: View<Input, Output>, asked: () => z.input<Input> | null) {
  const data = shallowRef<z.output<Output> | null>(null)
  const problem = ref<Problem | null>(null)
  let turn = 0
  async function reload() {
    const input = asked()
    if (input === null) return
    const mine = ++turn
    try {
      const answer = await look(view, input)
      if (mine !== turn) return
      data.value = answer
      problem.value = null
    }
    catch (error) {
      if (mine === turn) problem.value = toProblem(error)
    }
  }
  watch(() => JSON.stringify(asked()), () => void reload(), { immediate: true })
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
