const STEPS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };
const GROUPS = '[role=tablist], [role=radiogroup]';

/**
 * Arrow keys lead from tab to tab and from choice to choice, Home and End to the ends (WAI-ARIA Authoring Practices,
 * tabs with manual activation): what is reached is taken with Enter or Space, since taking it may change the method.
 */
export function walkGroups(): void {
  document.addEventListener('keydown', (event) => {
    const from = event.target;
    if (!(from instanceof HTMLButtonElement) || event.altKey || event.ctrlKey || event.metaKey) return;
    const role = from.getAttribute('role');
    if (role !== 'tab' && role !== 'radio') return;
    const all = [...(from.closest(GROUPS)?.querySelectorAll<HTMLButtonElement>(`button[role=${role}]`) ?? [])];
    const to = indexAfter(event.key, all.indexOf(from), all.length);
    if (to === undefined) return;
    event.preventDefault();
    all[to]?.focus();
  });
}

/** Where a key leads in a row of n entries; past the last comes the first. */
export function indexAfter(key: string, at: number, count: number): number | undefined {
  if (count === 0 || at < 0) return undefined;
  if (key === 'Home') return 0;
  if (key === 'End') return count - 1;
  const step = STEPS[key];
  return step === undefined ? undefined : (at + step + count) % count;
}
