import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Fails where a page breaks a rule of WCAG 2.0 or 2.1, levels A and AA. */
export async function noViolations(page: Page): Promise<void> {
  const found = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'])
    .analyze()
  const texts = found.violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.html)
        .slice(0, 3)
        .join('\n')}`,
  )
  expect(texts).toEqual([])
}
