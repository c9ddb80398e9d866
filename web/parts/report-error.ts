import { EngineError } from '../engine/protocol.ts';
import { notify } from './notify.ts';

export const UNFORESEEN = 'Unexpected error';
export const KEPT = 'Your job is saved.';

/** Shows that something could not be done, and why: every such message of the page comes from here. */
export function notifyError(error: unknown): void {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof EngineError && error.trouble === 'overtaken') return;
  notify({ text: message, tone: 'error', long: true, once: true });
}

/** Reports an unexpected error and lets the page go on; an expected one is shown as it is. */
export function reportError(error: unknown): void {
  if (error instanceof EngineError && error.trouble !== 'unexpected') {
    notifyError(error);
    return;
  }
  const message = error instanceof Error ? error.message : String(error);
  notifyError(new Error(`${UNFORESEEN} (${message}). ${KEPT} You can continue, or reload the page.`));
}

/** Also reports what no part of the page catches. */
export function catchAll(): void {
  addEventListener('unhandledrejection', (event) => reportError(event.reason));
}
