import type { Section } from '@ridgeway/core/catalog'
import { type Price, priceOf } from '@ridgeway/core/money'
import type { RowDecision } from '@ridgeway/core/registration'
import type { College } from './college'

const NOTHING: Price = { tuition: 0, fees: 0 }

/** What the seats of a decided bundle cost a student: all of it stands on the first of them, as its credits do. */
export function pricesOf(college: College, residence: string, { course, credits, sectionIds, claims }: RowDecision,
  sections: ReadonlyMap<number, Section>): Price[] {
  const found = college.catalog.courses.get(course)
  const price = found
    ? priceOf(found, sectionIds.flatMap(id => sections.get(id) ?? []), credits, residence, college.money)
    : NOTHING
  return claims.map((_, index) => index === 0 ? price : NOTHING)
}
