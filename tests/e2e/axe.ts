import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

/**
 * What the rules of axe (WCAG 2.2 A and AA and its best practices) find on a page, or in a part of it. Of what is right nothing is written
 * down, and no page is opened to put frames together, since ours have none: that takes most of the time.
 */
export async function faults(page: Page, part?: string): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] })
  const { violations } = await (part ? axe.include(part) : axe).analyze()
  return violations.map(({ id, nodes }) => `${id}: ${nodes.slice(0, 3).map(node =>
    `${node.target.join(' ')} (${(node.any[0] ?? node.all[0] ?? node.none[0])?.message})`).join(' | ')}`)
}
