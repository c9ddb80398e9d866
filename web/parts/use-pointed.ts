import { useRef } from 'react';

let now: { x: number; y: number } | undefined;
let before: { x: number; y: number } | undefined;
if (typeof document !== 'undefined')
  document.addEventListener(
    'mousemove',
    ({ clientX, clientY }) => {
      before = now;
      now = { x: clientX, y: clientY };
    },
    { capture: true },
  );

/** The browser also tells of moves where only the page has moved under the pointer. */
const hasMoved = () => before === undefined || before.x !== now?.x || before.y !== now.y;

/**
 * Shows something for as long as it is pointed at or has the focus. A thing that appears under a pointer at rest is not
 * pointed at.
 */
export function usePointed<T>(show: (item: T) => void, clear: () => void) {
  const pointed = useRef<T | undefined>(undefined);
  const leave = () => {
    pointed.current = undefined;
    clear();
  };
  return (item: T) => ({
    onMouseMove: () => {
      if (pointed.current === item || !hasMoved()) return;
      pointed.current = item;
      show(item);
    },
    onMouseLeave: leave,
    onFocus: () => show(item),
    onBlur: leave,
  });
}
