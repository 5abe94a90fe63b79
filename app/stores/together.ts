import type { PlanOperation } from '@ridgeway/core/planning'
import type { Problem } from '~/composables/useApi'
import type { Chosen } from './week'

/** Changes of the plan and of the line-up that belong together: done as one move, taken back as one. */
export const useTogetherStore = defineStore('together', () => {
  const student = useStudentStore()
  const week = useWeekStore()
  const problem = ref<Problem | null>(null)
  const isOf = useFileAndTerm()
  const offersUndo = useUndoOffer()
  const words = ref('')
  let before: { of: string, choices: Chosen[], edited: boolean } | null = null

  /** All of it or nothing: where the bundles cannot be chosen the plan goes back to what it was. */
  async function take(operations: PlanOperation[], choices: Chosen[], said: string): Promise<Problem | null> {
    const of = isOf.value
    const at = week.at()
    const earlier = choices.map(({ course }): Chosen => {
      const row = student.state!.lineUp.find(one => one.course === course)
      return { course, sectionIds: row?.sectionIds ?? [], backups: row?.backups ?? [] }
    })
    const edited = operations.length > 0
    if (edited) await student.edit(operations)
    const refused = await week.chooseAt(at, choices)
    // On the page of another file or term there is nothing to say of it, and nothing to take back.
    if (of !== isOf.value) return refused
    problem.value = refused
    if (refused) {
      if (edited) await student.undo()
      return refused
    }
    before = { of, choices: earlier, edited }
    words.value = said
    announce(said)
    offersUndo.value = true
    return null
  }
  async function undo() {
    if (before?.of !== isOf.value) return
    problem.value = await week.choose(...before.choices)
    if (problem.value) return
    if (before.edited) await student.undo()
    before = null
    announce('Taken back.')
  }
  return { problem, offersUndo, words, take, undo }
})
