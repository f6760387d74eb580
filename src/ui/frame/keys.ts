/** The key belongs to a box, a dialog or the browser, not to the page. */
export const isTyped = (e: KeyboardEvent): boolean =>
  e.ctrlKey ||
  e.metaKey ||
  e.altKey ||
  (e.target instanceof HTMLElement &&
    e.target.closest('input, textarea, select, [contenteditable], [role="dialog"]') !== null);
