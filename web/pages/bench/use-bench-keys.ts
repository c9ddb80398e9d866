import { useEffect } from 'react';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { copyRange } from './copy.ts';
import { nextLit } from './use-trace.ts';

/** Whether a key belongs to the field it is typed into. */
function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]');
}

/** Nothing is selected, tried or told of any more. */
function clear(): void {
  const { select, tryOut, notice } = useViewStore.getState();
  select(undefined);
  tryOut(undefined);
  notice(undefined);
}

/** Goes from page to page: the first thing in it that can be focused. */
function nextPage(by: number): void {
  const pages = [...document.querySelectorAll<HTMLElement>('main section[aria-label]')];
  const at = pages.findIndex((page) => page.contains(document.activeElement));
  const page = pages[(at + by + pages.length) % pages.length];
  for (const what of ['[role=grid]', '[aria-current=step]', '[role=tree] button', 'button']) {
    const found = page?.querySelector<HTMLElement>(what);
    if (!found) continue;
    found.focus();
    return;
  }
}

/** Keys that work anywhere on the bench. */
export function useBenchKeys(shown: { tableId: string; step: number }, showKeys: () => void): void {
  const { tableId, step } = shown;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const { selection, find } = useViewStore.getState();
      if (key === 'f8') nextLit(event.shiftKey ? -1 : 1);
      else if (key === 'f6') nextPage(event.shiftKey ? -1 : 1);
      else if (isTyping(event)) return;
      else if (command && key === 'z' && event.shiftKey) useJobStore.getState().redo();
      else if (command && key === 'z') useJobStore.getState().undo();
      else if (command && key === 'y') useJobStore.getState().redo();
      else if (command && key === 'f') find(true);
      else if (command && key === 'c' && selection?.of === 'range') void copyRange(tableId, step, selection, false);
      else if (key === '/' && !command) document.getElementById('what-next')?.focus();
      else if (key === '?') showKeys();
      else if (key === 'escape' && document.querySelector('[role=dialog], [role=menu]') === null) clear();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, [tableId, step, showKeys]);
}
