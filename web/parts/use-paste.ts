import { useEffect, useRef } from 'react';
import { fileOfClipboard } from './clipboard.ts';

/** Takes what is pasted anywhere on the page but into a field. */
export function usePaste(take: (file: File) => void): void {
  const newest = useRef(take);
  newest.current = take;
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement;
      if (target.closest?.('input, textarea, select, [contenteditable], [role=dialog]') || event.clipboardData === null)
        return;
      const file = fileOfClipboard(event.clipboardData);
      if (file === undefined) return;
      event.preventDefault();
      newest.current(file);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, []);
}
