import { forced, useTheme } from './useTheme'

/** What charts are drawn with: the tokens of the theme, and text and rules in them. */
export function useChartLook() {
  const { theme } = useTheme()
  return () => {
    void [theme.value, forced.value] // the tokens are other ones then
    const tokens = getComputedStyle(document.documentElement)
    const token = (name: string) => tokens.getPropertyValue(name).trim()
    const text = { color: token('--quiet'), fontFamily: 'Instrument Sans Variable' }
    return { token, text, rule: { lineStyle: { color: token('--rule') } } }
  }
}
