import type { Who } from '#shared/contract/define'

/** Whether somebody may, by relation to the student; `advising` are the student's advisor and those who stand in for that person today. */
export function mayAct(who: Who, { id, role }: { id: number, role: string }, student: number, advising: readonly number[]): boolean {
  const isOwn = role === 'student' && id === student
  const isAdvisor = role === 'advisor' && advising.includes(id)
  switch (who) {
    case 'own': return isOwn
    case 'their advisor': return isAdvisor
    case 'advisor or office': return isAdvisor || role === 'office'
    case 'their office': return role === 'office'
    case 'own or advisor': return isOwn || isAdvisor
    case 'file': return isOwn || isAdvisor || role === 'office'
    default: return true
  }
}

/**
 * The same for an advisor as the student's row has them: who is not that person may stand in for them today, which is asked only where it
 * matters.
 */
export async function isAdmitted(who: Who, visitor: { id: number, role: string },
  { student, advisor }: { student: number, advisor: number | null },
  deputies: (advisor: number) => Promise<readonly number[]>): Promise<boolean> {
  if (mayAct(who, visitor, student, advisor === null ? [] : [advisor])) return true
  return visitor.role === 'advisor' && advisor !== null && mayAct(who, visitor, student, await deputies(advisor))
}
