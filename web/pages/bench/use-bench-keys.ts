import { useEffect } from 'react';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';

/** Whether a key belongs to the field it is typed into. */
function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]');
}

/** Keys that work anywhere on the bench. */
export function useBenchKeys(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event)) return;
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (command && key === 'z') {
        event.preventDefault();
        if (event.shiftKey) useJobStore.getState().redo();
        else useJobStore.getState().undo();
      } else if (command && key === 'y') {
        event.preventDefault();
        useJobStore.getState().redo();
      } else if (command && key === 'f') {
        event.preventDefault();
        useViewStore.getState().set({ finding: true });
      } else if (key === '/' && !command) {
        event.preventDefault();
        document.getElementById('what-next')?.focus();
      }
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}
