import { useRef } from 'react';
import styles from './sheet-grid.module.css';

const MIN_WIDTH = 36;

/** The edge of a column's head, by which it is made wider or narrower; undefined sets the width back. */
export function Grip({ width, onResize }: { width: number; onResize(width: number | undefined): void }) {
  const start = useRef<{ x: number; width: number } | undefined>(undefined);
  return (
    <span
      className={styles.grip}
      title="Drag to resize; double-click to reset"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { x: event.clientX, width };
      }}
      onPointerMove={(event) => {
        if (start.current === undefined) return;
        onResize(Math.max(MIN_WIDTH, Math.round(start.current.width + event.clientX - start.current.x)));
      }}
      onPointerUp={() => {
        start.current = undefined;
      }}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => {
        event.stopPropagation();
        onResize(undefined);
      }}
    />
  );
}
