import { useEffect } from 'react';
import { useDraftStore } from '../../stores/draft-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { copyRange } from './copy.ts';
import { nextLit } from './use-trace.ts';

/** Whether a key belongs to the field it is typed into. */
function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]');
}

/** The last change of the draft that stands, else the last edit of the job. */
export function takeBack(): void {
  if (!useDraftStore.getState().takeBack()) useJobStore.getState().undo();
}

/** Nothing stands over the page that keys would be meant for. */
function isFree(): boolean {
  return document.querySelector('[role=dialog], [role=menu], [role=listbox]') === null;
}

/** What is seen in the table is taken by its number. */
function takeFinding(number: string): void {
  document.querySelector<HTMLElement>(`[data-finding="${number}"]`)?.click();
}

/** Enter is for the draft where nothing else in focus takes it, and with Ctrl everywhere. */
function isForDraft(event: KeyboardEvent): boolean {
  const { current } = useDraftStore.getState();
  if (current?.told === undefined) return false;
  return event.ctrlKey || event.metaKey || event.target === document.body;
}

/** Nothing is selected, tried or told of any more; where nothing was, the draft is declined. */
function clear(): void {
  const { select, tryOut, notice, selection, preview, noticed } = useViewStore.getState();
  if (selection === undefined && preview === undefined && noticed === undefined) {
    if (useDraftStore.getState().current !== undefined) useDraftStore.getState().decline();
    return;
  }
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
      else if (command && key === 'z') takeBack();
      else if (command && key === 'y') useJobStore.getState().redo();
      else if (command && key === 'f') find(true);
      else if (command && key === 'c' && selection?.of === 'range') void copyRange(tableId, step, selection, false);
      else if (key === '/' && !command) document.getElementById('what-next')?.focus();
      else if (key === '?') showKeys();
      else if (key === 'escape' && isFree()) clear();
      else if (/^[1-5]$/.test(key) && !command && !event.altKey && isFree()) takeFinding(key);
      else if (key === 'enter' && isFree() && isForDraft(event)) useDraftStore.getState().keep();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, [tableId, step, showKeys]);
}
