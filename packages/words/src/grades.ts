import type { CourseItem } from '@ridgeway/core/catalog'
/** `325` → `3.25`; null → an en dash. */
export function formatGpa(value: number | null): string {
  return value === null ? '–' : (value / 100).toFixed(2)
}

/** A grade as it stands on the record, with the one earned elsewhere beside it: "TR (B elsewhere)"; empty where there is none. */
export const sayGrade = ({ grade, earnedGrade }: Pick<CourseItem, 'grade' | 'earnedGrade'>): string =>
  grade === null ? '' : earnedGrade ? `${grade} (${earnedGrade} elsewhere)` : grade
