import type { CourseItem } from '../catalog/types'
import { classStanding } from '../grades/status'
import { earnedCredits, type RecordRules } from '../record/attempts'
import type { FactsOnFile } from '../record/facts'

/** Whom sections and seats can be kept for, as far as a student is concerned: programs, cohorts and the class standing. */
export const groupsOf = ({ programs, cohorts = [] }: Pick<FactsOnFile, 'programs' | 'cohorts'>, items: readonly CourseItem[],
  rules: RecordRules): string[] => [...programs, ...cohorts, classStanding(earnedCredits(items, rules))]
