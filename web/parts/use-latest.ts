import { useCallback, useEffect, useRef } from 'react';
import { isOvertaken } from '../engine/protocol.ts';
import { reportError } from './report-error.ts';

/**
 * Asks only the newest of a run of questions, as those of a moving pointer; answers to older ones are dropped, and so
 * are all once the part of the page is gone.
 * @param waitMs a question is asked when no other has come for so long
 */
export function useLatest(waitMs = 0) {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const turn = useRef(0);
  const drop = useCallback(() => {
    clearTimeout(timer.current);
    turn.current++;
  }, []);
  useEffect(() => drop, [drop]);
  const latest = useCallback(
    <T>(ask: () => Promise<T> | T, use: (answer: T) => void) => {
      drop();
      const mine = turn.current;
      const go = async () => {
        try {
          const answer = await ask();
          if (mine === turn.current) use(answer);
        } catch (error) {
          if (!isOvertaken(error)) reportError(error);
        }
      };
      if (waitMs === 0) void go();
      else timer.current = setTimeout(() => void go(), waitMs);
    },
    [waitMs, drop],
  );
  return { latest, drop };
}
