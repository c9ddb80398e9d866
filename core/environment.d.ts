// What browser, worker and Node share and the core may use; everything else is out of its reach by design.
declare class TextDecoder {
  readonly encoding: string;
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(input?: ArrayBufferView, options?: { stream?: boolean }): string;
}
declare class TextEncoder {
  encode(input?: string): Uint8Array<ArrayBuffer>;
}
declare const performance: { now(): number };
declare const crypto: {
  subtle: { digest(algorithm: string, data: ArrayBufferView): Promise<ArrayBuffer> };
  randomUUID(): string;
};
