import type { PlanOperation } from '@ridgeway/core/planning'
import type { Problem } from '~/composables/useApi'

/** A bundle for a course with its backups in order; no sections take the course's choice out. Backups left out stay as they are. */
export interface Chosen { course: string, sectionIds: number[], backups?: number[][] }

/** Changes of the plan and of the line-up that belong together: done as one move, taken back as one. */
export const useTogetherStore = defineStore('together', () => {
  const student = useStudentStore()
  const week = useWeekStore()
  const problem = ref<Problem | null>(null)
  const offersUndo = ref(false)
  const words = ref('')
  let before: { student: number, choices: Chosen[], edited: boolean } | null = null

  /** All of it or nothing: where the bundles cannot be chosen the plan goes back to what it was. */
  async function take(operations: PlanOperation[], choices: Chosen[], said: string): Promise<Problem | null> {
    const earlier = choices.map(({ course }): Chosen => {
      const row = student.state!.lineUp.find(one => one.course === course)
      return { course, sectionIds: row?.sectionIds ?? [], backups: row?.backups ?? [] }
    })
    const edited = operations.length > 0
    if (edited) await student.edit(operations)
    problem.value = await week.choose(...choices)
    if (problem.value) {
      if (edited) await student.undo()
      return problem.value
    }
    before = { student: student.state!.id, choices: earlier, edited }
    words.value = said
    announce(said)
    offersUndo.value = true
    return null
  }
  async function undo() {
    if (!before || before.student !== student.state?.id) return
    problem.value = await week.choose(...before.choices)
    if (problem.value) return
    if (before.edited) await student.undo()
    before = null
    announce('Taken back.')
  }
  return { problem, offersUndo, words, take, undo }
})
