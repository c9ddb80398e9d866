import { type RefObject, useEffect, useState } from 'react';

/** How large the inside of an element is, in CSS pixels, for as long as it is on the page. */
export function useSize(box: RefObject<HTMLElement | null>, first = { width: 0, height: 0 }) {
  const [size, setSize] = useState(first);
  useEffect(() => {
    const element = box.current;
    if (element === null) return;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, [box]);
  return size;
}
