import { describe, expect, it } from 'vitest'
import type { Who } from '#shared/contract/define'
import { mayAct } from './relations'

/** Who stands how to a student of number 7, whose advisor is number 20; and to one who has none. */
const PEOPLE = {
  own: { id: 7, role: 'student' },
  other: { id: 8, role: 'student' },
  advisor: { id: 20, role: 'advisor' },
  deputy: { id: 22, role: 'advisor' },
  stranger: { id: 21, role: 'advisor' },
  office: { id: 30, role: 'office' },
  /** Somebody with the student's own number in another role, and the advisor's number as a student: roles lowered or raised. */
  raised: { id: 7, role: 'advisor' },
  lowered: { id: 20, role: 'student' },
}
const MAY: Record<Who, (keyof typeof PEOPLE)[]> = {
  'everybody': Object.keys(PEOPLE) as (keyof typeof PEOPLE)[],
  'signed in': Object.keys(PEOPLE) as (keyof typeof PEOPLE)[],
  // By role, which is asked before anybody is looked at.
  'advisor': Object.keys(PEOPLE) as (keyof typeof PEOPLE)[],
  'office': Object.keys(PEOPLE) as (keyof typeof PEOPLE)[],
  'file': ['own', 'advisor', 'deputy', 'office'],
  'own': ['own'],
  'own or advisor': ['own', 'advisor', 'deputy'],
  'their advisor': ['advisor', 'deputy'],
  'advisor or office': ['advisor', 'deputy', 'office'],
  'their office': ['office'],
}

describe('mayAct', () => {
  it.each(Object.entries(MAY) as [Who, (keyof typeof PEOPLE)[]][])('%s', (who, admitted) => {
    for (const [name, person] of Object.entries(PEOPLE))
      expect(mayAct(who, person, 7, [20, 22]), name).toBe(admitted.includes(name as keyof typeof PEOPLE))
  })

  it('nobody is the advisor of a student without one', () => {
    for (const who of ['file', 'own or advisor', 'their advisor'] as const)
      for (const person of [PEOPLE.advisor, PEOPLE.stranger, PEOPLE.raised]) expect(mayAct(who, person, 7, [])).toBe(false)
  })
})
