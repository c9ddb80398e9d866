import { useCallback, useEffect, useRef, useState } from 'react';

const BLOCK = 128;
const MOST_BLOCKS = 48;

type Fetch<Row> = (from: number, to: number) => Promise<Row[]>;

/**
 * The rows around what is in sight, fetched a block at a time. When version changes the rows are fetched anew, and the
 * old ones stay in sight until the new are there, so that nothing flickers.
 */
export function useWindow<Row>(fetch: Fetch<Row>, version: string) {
  const blocks = useRef(new Map<number, { version: string; rows: Row[] }>());
  const asked = useRef(new Set<string>());
  const sight = useRef<[number, number]>([0, 0]);
  const current = useRef({ fetch, version });
  current.current = { fetch, version };
  const [, redraw] = useState(0);

  const ensure = useCallback((from: number, to: number) => {
    sight.current = [from, to];
    const { fetch, version } = current.current;
    for (let block = Math.floor(from / BLOCK); block * BLOCK < to; block++) {
      const key = `${version}/${block}`;
      if (blocks.current.get(block)?.version === version || asked.current.has(key)) continue;
      asked.current.add(key);
      void fetch(block * BLOCK, (block + 1) * BLOCK)
        .then((rows) => {
          if (current.current.version !== version) return;
          blocks.current.delete(block);
          blocks.current.set(block, { version, rows });
          for (const old of blocks.current.keys()) {
            if (blocks.current.size <= MOST_BLOCKS) break;
            blocks.current.delete(old);
          }
          redraw((n) => n + 1);
        })
        .finally(() => asked.current.delete(key));
    }
  }, []);

  useEffect(() => ensure(...sight.current), [version, ensure]);

  const row = useCallback((index: number) => blocks.current.get(Math.floor(index / BLOCK))?.rows[index % BLOCK], []);
  return { row, ensure };
}
