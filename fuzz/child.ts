/** Reads inputs in a process that may be ended: one number after the other, each told when it is done. */
import { type Outcome, readOne } from './one.ts';

export interface Asked {
  reader: string;
  from: number;
  to: number;
}

export type Told = { begun: number } | { done: number; ms: number; outcome: Outcome };

process.on('message', ({ reader, from, to }: Asked) => {
  const next = (number: number) => {
    if (number >= to) return;
    process.send!({ begun: number } satisfies Told, async () => {
      const began = performance.now();
      const outcome = await readOne(reader, number);
      process.send!({ done: number, ms: performance.now() - began, outcome } satisfies Told, () => next(number + 1));
    });
  };
  next(from);
});
process.on('disconnect', () => process.exit(0));
