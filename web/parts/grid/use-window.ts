import { useCallback, useEffect, useRef, useState } from 'react';

const BLOCK = 128;
const MAX_BLOCKS = 48;

type Fetch<Row> = (from: number, to: number) => Promise<Row[]>;

/**
 * The rows around what is in sight, fetched a block at a time. When version changes the rows are fetched again, and the
 * old ones stay in sight until the new are there, so that nothing flickers. What is in sight can be asked for in a
 * version that will be the next.
 */
export function useWindow<Row>(fetch: Fetch<Row>, version: string) {
  const blocks = useRef(new Map<number, { version: string; rows: Row[] }>());
  const asked = useRef(new Set<string>());
  const sight = useRef<[number, number]>([0, 0]);
  const current = useRef({ fetch, version });
  current.current = { fetch, version };
  const [, redraw] = useState(0);

  const ask = useCallback((version: string) => {
    const [from, to] = sight.current;
    const { fetch } = current.current;
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
            if (blocks.current.size <= MAX_BLOCKS) break;
            blocks.current.delete(old);
          }
          redraw((n) => n + 1);
        })
        .finally(() => asked.current.delete(key));
    }
  }, []);

  const ensure = useCallback(
    (from: number, to: number) => {
      sight.current = [from, to];
      ask(current.current.version);
    },
    [ask],
  );

  useEffect(() => ask(version), [version, ask]);

  const row = useCallback((index: number) => blocks.current.get(Math.floor(index / BLOCK))?.rows[index % BLOCK], []);
  return { row, ensure, ask };
}
