import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/**
 * Fails where a page, or a part of it, breaks a rule of WCAG 2.0 or 2.1, levels A and AA. The page has no frames, and
 * nobody reads what it does well: without these it takes a quarter of the time.
 */
export async function noViolations(page: Page, part?: string): Promise<void> {
  const axe = new AxeBuilder({ page })
    .options({
      runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] },
      resultTypes: ['violations'],
    })
    .setLegacyMode(true)
  const found = await (part ? axe.include(part) : axe).analyze()
  const texts = found.violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.html)
        .slice(0, 3)
        .join('\n')}`,
  )
  expect(texts).toEqual([])
}
