import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

const semantic = {
  primary: {
    color: 'var(--ink)',
    contrastColor: 'var(--panel)',
    hoverColor: 'var(--ink)',
    activeColor: 'var(--ink)',
  },
  highlight: {
    background: 'var(--tint)',
    focusBackground: 'var(--basin)',
    color: 'var(--ink)',
    focusColor: 'var(--ink)',
  },
  formField: {
    background: 'var(--panel)',
    borderColor: 'var(--edge)',
    hoverBorderColor: 'var(--ink)',
    focusBorderColor: 'var(--water)',
    color: 'var(--ink)',
    placeholderColor: 'var(--quiet)',
    iconColor: 'var(--quiet)',
  },
  text: {
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
    mutedColor: 'var(--quiet)',
    hoverMutedColor: 'var(--quiet)',
  },
  content: {
    background: 'var(--panel)',
    hoverBackground: 'var(--tint)',
    borderColor: 'var(--rule)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  },
  overlay: {
    select: { background: 'var(--panel)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    popover: { background: 'var(--panel)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    modal: { background: 'var(--panel)', borderColor: 'var(--rule)', color: 'var(--ink)' },
  },
}

/** PrimeVue's components in Jantrel's tokens; light and dark differ in the tokens alone. */
export const preset = definePreset(Aura, {
  semantic: {
    focusRing: { width: '2px', style: 'solid', color: 'var(--focus)', offset: '1px' },
    formField: { paddingX: '0.5rem', paddingY: '0.25rem', borderRadius: '6px' },
    colorScheme: { light: semantic, dark: semantic },
  },
})
