import { type RefObject, useCallback, useEffect, useState } from 'react';
import { useSize } from '../../parts/use-size.ts';

/** How far a small map is enlarged to fill the page. */
const MAX_FITTED = 1.4;
const MIN_ZOOM = 0.2;
const MAX_ZOOM = 3;
const STEP = 1.25;

/** The zoom of a map in its box: fitted until someone chooses another, by the buttons or Ctrl with the wheel. */
export function useZoom(box: RefObject<HTMLElement | null>, width: number, height: number) {
  const size = useSize(box);
  const [chosen, setChosen] = useState<number | undefined>();
  const fitted = Math.max(MIN_ZOOM, Math.min(MAX_FITTED, size.width / width, size.height / height));
  const zoom = chosen ?? (Number.isFinite(fitted) ? fitted : 1);
  const by = useCallback((factor: number) => setChosen(Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom * factor))), [zoom]);
  useEffect(() => {
    const element = box.current;
    if (element === null) return;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      by(event.deltaY < 0 ? STEP : 1 / STEP);
    };
    // Not passive, or the browser would zoom the whole page.
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [box, by]);
  return {
    zoom,
    closer: () => by(STEP),
    farther: () => by(1 / STEP),
    fit: () => setChosen(undefined),
    isFitted: chosen === undefined,
  };
}
