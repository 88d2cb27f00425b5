import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** The themes, and the rules that one can break where the other does not: those about colours. */
const themes = [
  { theme: 'light', rules: null },
  { theme: 'dark', rules: ['color-contrast', 'link-in-text-block'] },
]

/**
 * Fails where a page, or a part of it, breaks a rule of WCAG 2.0 or 2.1, levels A and AA: a page in either theme, a part
 * in the light one alone, as parts have the colours of the pages around them. The page has no frames, and nobody reads
 * what it does well: without these it takes a quarter of the time.
 */
export async function readableByAll(page: Page, part?: string): Promise<void> {
  for (const { theme, rules } of part ? themes.slice(0, 1) : themes) {
    // As the button does that chooses one, which a dialog may stand before; what fades to its new colour is waited for.
    await page.evaluate(async (theme) => {
      document.documentElement.dataset.theme = theme
      await Promise.allSettled(document.getAnimations().map((a) => a.finished))
    }, theme)
    // What does the looking is larger than the page: a document is given it once.
    const axeSource = (await page.evaluate(() => 'axe' in window)) ? 'void 0' : undefined
    const axe = new AxeBuilder({ page, axeSource })
      .options({
        runOnly: rules
          ? { type: 'rule', values: rules }
          : { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] },
        resultTypes: ['violations'],
      })
      .setLegacyMode(true)
    const found = await (part ? axe.include(part) : axe).analyze()
    const texts = found.violations.map(
      (v) =>
        `${theme}, ${v.id}: ${v.nodes
          .map((n) => n.html)
          .slice(0, 3)
          .join('\n')}`,
    )
    expect(texts).toEqual([])
  }
  await page.evaluate(() => (document.documentElement.dataset.theme = 'light'))
}
