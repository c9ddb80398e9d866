// What browser, worker and Node share and the core may use; everything else is out of its reach by design.
declare class TextDecoder {
  readonly encoding: string;
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(input?: ArrayBufferView, options?: { stream?: boolean }): string;
}
declare class TextEncoder {
  encode(input?: string): Uint8Array<ArrayBuffer>;
  encodeInto(input: string, into: Uint8Array): { read: number; written: number };
}
declare const performance: { now(): number };
declare const crypto: {
  subtle: { digest(algorithm: string, data: ArrayBufferView): Promise<ArrayBuffer> };
  randomUUID(): string;
};
/** Bytes through which others become packed, or are unpacked. */
interface BytesStream {
  readonly writable: { getWriter(): { write(bytes: Uint8Array<ArrayBuffer>): Promise<void>; close(): Promise<void> } };
  readonly readable: {
    getReader(): { read(): Promise<{ done: boolean; value?: Uint8Array }>; cancel(): Promise<void> };
  };
}
/** @param format deflate-raw: RFC 1951 */
declare const DecompressionStream: new (format: 'deflate-raw') => BytesStream;
declare const CompressionStream: new (format: 'deflate-raw') => BytesStream;
declare function atob(base64: string): string;
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array<ArrayBuffer>);
  }
  class Memory {
    /** @param size in pages of 64 KiB */
    constructor(size: { initial: number; maximum: number });
    readonly buffer: ArrayBuffer;
  }
  class Instance {
    constructor(module: Module, imports: { env: { memory: Memory } });
    readonly exports: object;
  }
}
