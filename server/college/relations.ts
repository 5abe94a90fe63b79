import type { Who } from '#shared/contract/define'

/** Whether somebody may, by relation to the student. */
export function mayAct(who: Who, { id, role }: { id: number, role: string }, student: number, advisor: number | null): boolean {
  const isOwn = role === 'student' && id === student
  const isAdvisor = role === 'advisor' && id === advisor
  switch (who) {
    case 'own': return isOwn
    case 'their advisor': return isAdvisor
    case 'own or advisor': return isOwn || isAdvisor
    case 'file': return isOwn || isAdvisor || role === 'office'
    default: return true
  }
}
