import { EngineError } from '../engine/protocol.ts';
import { say } from './say.ts';

export const UNFORESEEN = 'Unexpected error';
export const KEPT = 'Your job is saved.';

/** Says that something could not be done, and why: every such message of the page comes from here. */
export function tellError(error: unknown): void {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof EngineError && error.trouble === 'overtaken') return;
  say({ text: message, tone: 'error', long: true, once: true });
}

/** Says what nothing foresaw, and lets the page go on; what was foreseen is said as it is. */
export function tellTrouble(error: unknown): void {
  if (error instanceof EngineError && error.trouble !== 'unexpected') {
    tellError(error);
    return;
  }
  const message = error instanceof Error ? error.message : String(error);
  tellError(new Error(`${UNFORESEEN} (${message}). ${KEPT} You can continue, or reload the page.`));
}

/** What no part of the page catches is told too. */
export function catchAll(): void {
  addEventListener('unhandledrejection', (event) => tellTrouble(event.reason));
}
