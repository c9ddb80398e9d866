import { expose } from 'comlink';
import { createEngine } from './engine.ts';

/** What tests give the page for a worker: the engine behind a port of this process. */
export class PortWorker {
  private readonly ends: MessagePort[];
  constructor() {
    const { port1, port2 } = new MessageChannel();
    this.ends = [port1, port2];
    expose(createEngine(), port1 as never);
    port2.start();
    for (const port of this.ends) (port as unknown as { unref(): void }).unref();
  }
  addEventListener(type: string, act: (event: MessageEvent) => void): void {
    if (type === 'message') this.ends[1]!.addEventListener('message', act);
  }
  removeEventListener(type: string, act: (event: MessageEvent) => void): void {
    if (type === 'message') this.ends[1]!.removeEventListener('message', act);
  }
  postMessage(message: unknown, transfer: Transferable[]): void {
    this.ends[1]!.postMessage(message, transfer);
  }
  terminate(): void {
    for (const port of this.ends) port.close();
  }
}
