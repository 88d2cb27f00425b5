/** Whether single keys mean nothing to the page: somebody types, or a dialog is open. */
export function keysRest(event: KeyboardEvent): boolean {
  const typing = (event.target as HTMLElement).closest?.(
    'input, textarea, select, [role="combobox"], [contenteditable]',
  )
  return !!typing || !!document.querySelector('[role="dialog"], [aria-modal="true"]')
}
