import { keepPreviousData, notifyManager, QueryCache, QueryClient, useQuery } from '@tanstack/react-query';
import { engineClient } from '../engine/client.ts';
import type { Engine } from '../engine/engine.ts';
import { EngineError } from '../engine/protocol.ts';
import { reportError } from '../parts/report-error.ts';
import { useMethodStore } from './method-store.ts';

/** How long an answer is kept once nothing on the page shows it. */
const KEPT_MS = 20_000;

// By a timer, as the library does it, an answer would wait for a frame to be drawn first.
notifyManager.setScheduler(queueMicrotask);

/** Everything that pages ask; what goes wrong is reported in one place unless the page shows it itself. */
export const queries = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      if (query.meta?.['shown'] !== true) reportError(error);
    },
  }),
  defaultOptions: {
    queries: {
      // The engine is in the page: it is there without a network, and asking twice gives no other answer.
      networkMode: 'always',
      retry: false,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      staleTime: Number.POSITIVE_INFINITY,
      gcTime: KEPT_MS,
      structuralSharing: false,
    },
  },
});

interface Options {
  /** Nothing is asked while this is false. */
  when?: boolean;
  /** The answer before stays in sight until the next is there. */
  keep?: boolean;
  /** The page says itself what went wrong. */
  shown?: boolean;
  /** It is asked when all else is answered: nobody waits for it. */
  later?: boolean;
}

export interface Answer<T> {
  data: T | undefined;
  error: EngineError | undefined;
}

/** An answer of nothing is an answer too, which the library takes none for. */
async function answerOf<T>(ask: (engine: Engine) => Promise<T>): Promise<{ found: T }> {
  return { found: await ask(engineClient().engine) };
}

/**
 * Asks the engine for as long as a part of the page is in sight, and again when the key changes.
 * @param key all that the answer depends on; what is large goes in by keyOf
 */
export function useEngineQuery<T>(
  key: readonly unknown[],
  ask: (engine: Engine) => Promise<T>,
  { when = true, keep = false, shown = false, later = false }: Options = {},
): Answer<T> {
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: async (context) => {
      if (later) {
        await engineClient().answered();
        // Of a run that was overtaken meanwhile nothing is asked. Whoever looks at the signal is stopped by it.
        context.signal.throwIfAborted();
      }
      return answerOf(ask);
    },
    enabled: when,
    meta: { shown },
    ...(keep ? { placeholderData: keepPreviousData } : {}),
  });
  return { data: data?.found, error: error === null ? undefined : EngineError.of(error) };
}

/** Asks what a part of the page will ask in a moment: it finds the answer there, or on its way. */
export function askAhead<T>(key: readonly unknown[], ask: (engine: Engine) => Promise<T>): void {
  void queries.prefetchQuery({
    queryKey: key,
    queryFn: () => answerOf(ask),
  });
}

/** Asks about the newest run of the method: again after each run. */
export function useRunQuery<T>(
  key: readonly unknown[],
  ask: (engine: Engine) => Promise<T>,
  options?: Options,
): Answer<T> {
  const run = useMethodStore((store) => store.run);
  return useEngineQuery([...key, run], ask, options);
}

const keys = new WeakMap<object, number>();
let next = 0;

/** Stands for an object in a key: the same as long as it is the same object. */
export function keyOf(object: object | undefined): number {
  if (object === undefined) return -1;
  const known = keys.get(object) ?? next++;
  keys.set(object, known);
  return known;
}
