import type { Course, Credits, Section } from '../catalog/types'
import type { Cents, MoneyPolicy, Price } from './types'

/** What a credit costs a student of a residence band; the first band where theirs is not known. */
export const creditPrice = ({ bands }: Pick<MoneyPolicy, 'bands'>, residence: string): Cents =>
  (bands.find(band => band.code === residence) ?? bands[0])?.perCredit ?? 0

/**
 * What a bundle costs: its credits at the price of the residence band, the course's fee once, the fee of each section, and for each
 * section that meets at a site with a fee that fee once. Credits are hundredths; half a cent is rounded up.
 */
export function priceOf(course: Pick<Course, 'fee'>, sections: readonly Pick<Section, 'fee' | 'meetings'>[], credits: Credits,
  residence: string, policy: Pick<MoneyPolicy, 'bands' | 'siteFees'>): Price {
  const tuition = Math.round(credits * creditPrice(policy, residence) / 100)
  const sites = (section: Pick<Section, 'meetings'>) => [...new Set(section.meetings.map(meeting => meeting.site))]
    .reduce((sum, site) => sum + (policy.siteFees[site] ?? 0), 0)
  return { tuition, fees: course.fee + sections.reduce((sum, section) => sum + section.fee + sites(section), 0) }
}

export const total = ({ tuition, fees }: Price): Cents => tuition + fees

/** So many percent of an amount, half a cent rounded up. */
export const percentOf = (cents: Cents, percent: number): Cents => Math.round(cents * percent / 100)
