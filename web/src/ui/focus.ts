/** Puts the focus on what is drawn with v-focus; of a field in several parts on its input. */
export const focus = {
  mounted: (el: HTMLElement) => (el.tagName === 'SPAN' ? el.querySelector('input') : el)?.focus(),
}
