import { EngineError } from '../engine/protocol.ts';
import { notify } from './notify.ts';

export const UNFORESEEN = 'Unexpected error';
export const KEPT = 'Your job is saved.';

/** Says that something could not be done, and why: every such message of the page comes from here. */
export function notifyError(error: unknown): void {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof EngineError && error.trouble === 'overtaken') return;
  notify({ text: message, tone: 'error', long: true, once: true });
}

/** Says what nothing foresaw, and lets the page go on; what was foreseen is said as it is. */
export function reportError(error: unknown): void {
  if (error instanceof EngineError && error.trouble !== 'unexpected') {
    notifyError(error);
    return;
  }
  const message = error instanceof Error ? error.message : String(error);
  notifyError(new Error(`${UNFORESEEN} (${message}). ${KEPT} You can continue, or reload the page.`));
}

/** What no part of the page catches is reported too. */
export function catchAll(): void {
  addEventListener('unhandledrejection', (event) => reportError(event.reason));
}
