import { effectOf } from '@ridgeway/core/advising'
import { readStanding, type StudentFile } from '@ridgeway/core/planning'
import { sayCheck, sayEffect } from '@ridgeway/words'
import type { StudentState } from '#shared/contract/views/student'

type Lifted = StudentState['lifted'][number]

/** What taking back an exception would come to, told before it is done: read from the plan as it stands. */
export function useWithout() {
  const student = useStudentStore()
  const { today } = useNow()
  const workingTerm = useWorkingTermStore()

  function told(without: StudentFile): string[] {
    if (!student.standing) return []
    const effect = effectOf(student.standing, readStanding(without, student.rules, today.value))
    return effect.broken.length > 0 ? effect.broken.slice(0, 3).map(sayCheck) : sayEffect(effect).slice(0, 2)
  }
  /** Of a rule of registering. */
  function sayWithout(one: Lifted): string[] {
    const { file, state } = student
    if (!file || !state) return []
    const lined = one.course && state.lineUp.some(row => row.course === one.course)
    const registered = one.course && state.registered.some(row => row.course === one.course && row.term === workingTerm.code)
    const stays = registered ? [`${one.course} stays registered.`] : lined ? [`${one.course} in the line-up may be refused again.`] : []
    if (one.kind === 'prerequisite')
      return [...told({ ...file, permissions: file.permissions.filter(code => code !== one.course) }), ...stays]
    if (one.kind === 'load' && one.term) {
      const { [one.term]: _, ...capRaised } = file.capRaised
      return told({ ...file, capRaised })
    }
    return stays.length > 0 ? stays : ['Nothing that is lined up or registered needs it now.']
  }
  /** Of a substitution or a waiver. */
  const sayWithoutLine = (id: number): string[] => student.file
    ? told({ ...student.file, exceptions: student.file.exceptions.filter(one => one.id !== id) })
    : []
  return { sayWithout, sayWithoutLine }
}
