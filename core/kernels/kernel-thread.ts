/**
 * A second thread that calls kernels while the first takes out what they found. Both see one memory, at whose end stand
 * the words by which they wait for each other; nothing but its module and its memory is ever sent.
 */
import { type Kernels, kernelsOver, sharedKernels } from './kernels.ts';

/** Kernels that the other thread may be asked for; both sides know them by their place here. */
const ASKED = ['delimitedRows', 'deflateStream'] as const;
export type AskedKernel = (typeof ASKED)[number];

/** What delimitedRows is given: the place of a row, the end of the bytes, what makes a place one of the source, a line. */
const FROM = 0;
const END = 1;
const BASE = 2;
const LINE = 10;
const TOLD = 15;
/** Words that it tells: what follows the last row, and its line. */
const TOLD_AT = 1;
const TOLD_LINE = 2;

/** Instead of a number of rows: where the piece before ended is not in this one. */
export const NOT_RUN = -1;

/** Room for two pieces of tables that are as wide as they come, or for the tables of a packer. */
const SIZE = 8_388_608;

/** Words at the end of the memory; those of a call stand twice, so that one can wait while another is at work. */
const IS_READY = 0;
const TURN = 1;
const DONE = 2;
const CALLS = 4;
const NAME = 0;
const RESULT = 1;
const IS_BROKEN = 2;
const IS_NEXT = 3;
const COUNT = 4;
const FIRST = 5;
const WORDS_OF_CALL = 30;
const WORDS = CALLS + 2 * WORDS_OF_CALL;

/** Looks at a word before a thread lies down: getting up takes longer than most waits. */
const MAX_PROBES = 4000;
/** After which the other thread is given up. */
const MAX_WAIT_MS = 30_000;

/** What is sent to the other thread, which answers with `answerCalls`. */
export interface ThreadStart {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
}

/** The other thread as the first one sees it: it does one call after the other, and two at most are asked for. */
export class KernelThread {
  /** For calls of this thread, over the same memory. */
  readonly kernels: Kernels;
  readonly memory: ArrayBufferLike;
  /** Bytes from FREE_FROM on that callers may use. */
  readonly size = SIZE;
  private readonly words: Int32Array;
  private turn = 0;
  private isTaken = false;
  private isLost = false;

  /**
   * @param start begins the thread; it is used once it says that it is ready
   * @throws Error where no memory can be shared
   */
  constructor(start: (what: ThreadStart) => void) {
    const what = sharedKernels(SIZE + WORDS * 4);
    this.memory = what.memory.buffer;
    this.words = wordsOf(this.memory);
    this.kernels = kernelsOver(what.module, what.memory);
    start(what);
  }

  get isReady(): boolean {
    return Atomics.load(this.words, IS_READY) === 1;
  }

  /** Takes it for one who calls. @returns false where it is not ready, or another has it */
  take(): boolean {
    if (this.isTaken || this.isLost || !this.isReady) return false;
    this.isTaken = true;
    return true;
  }

  /** Gives it back, once it has done what it is at. */
  release(): void {
    if (!this.isLost) this.waitUntil(this.turn);
    this.isTaken = false;
  }

  /**
   * Asks for a call.
   * @param isNext it reads on where the call before it ends, wherever that is
   * @returns the turn by which it is waited for
   */
  begin(name: AskedKernel, given: readonly number[], isNext = false): number {
    const { words } = this;
    this.turn = (this.turn + 1) | 0;
    const at = callAt(this.turn);
    words[at + NAME] = ASKED.indexOf(name);
    words[at + IS_NEXT] = isNext ? 1 : 0;
    words[at + COUNT] = given.length;
    words.set(given, at + FIRST);
    Atomics.store(words, TURN, this.turn);
    Atomics.notify(words, TURN);
    return this.turn;
  }

  /**
   * Waits for a call.
   * @returns what the kernel gave back, or NOT_RUN
   * @throws Error where the kernel failed, or gives no answer
   */
  finish(turn: number): number {
    this.waitUntil(turn);
    const at = callAt(turn);
    if (this.words[at + IS_BROKEN] === 1) throw new Error('A kernel failed in the thread that reads ahead.');
    return this.words[at + RESULT]!;
  }

  private waitUntil(turn: number): void {
    if (waitFor(this.words, DONE, turn, MAX_WAIT_MS)) return;
    this.isLost = true;
    throw new Error('The thread that reads ahead gave no answer. Try again: it is done without that thread now.');
  }
}

/** The other thread's work, for as long as it lives. */
export function answerCalls({ module, memory }: ThreadStart): never {
  const kernels = kernelsOver(module, memory);
  const all = new Int32Array(memory.buffer);
  const words = wordsOf(memory.buffer);
  Atomics.store(words, IS_READY, 1);
  const ended = { at: 0, line: 0 };
  for (let turn = 1; ; turn = (turn + 1) | 0) {
    while (!waitFor(words, TURN, turn, MAX_WAIT_MS));
    const at = callAt(turn);
    const name = ASKED[words[at + NAME]!]!;
    const given = words.subarray(at + FIRST, at + FIRST + words[at + COUNT]!);
    const isRows = name === 'delimitedRows';
    words[at + IS_BROKEN] = 0;
    words[at + RESULT] = NOT_RUN;
    try {
      const kernel = kernels[name] as (...given: number[]) => number;
      if (words[at + IS_NEXT] !== 1 || isFoundIn(given, ended)) words[at + RESULT] = kernel(...given);
    } catch {
      words[at + IS_BROKEN] = 1;
    }
    if (isRows) {
      const told = given[TOLD]! >> 2;
      ended.at = all[told + TOLD_AT]! + given[BASE]!;
      ended.line = all[told + TOLD_LINE]!;
    }
    Atomics.store(words, DONE, turn);
    Atomics.notify(words, DONE);
  }
}

/** Lets a piece begin where the one before ended. @returns whether that place is in it */
function isFoundIn(given: Int32Array, ended: { at: number; line: number }): boolean {
  const at = ended.at - given[BASE]!;
  if (at < given[FROM]! || at >= given[END]!) return false;
  given[FROM] = at;
  given[LINE] = ended.line;
  return true;
}

function callAt(turn: number): number {
  return CALLS + (turn & 1) * WORDS_OF_CALL;
}

/** @returns whether the word came to the turn in time */
function waitFor(words: Int32Array, word: number, turn: number, mostMs: number): boolean {
  for (let look = 0; look < MAX_PROBES; look++) if (hasCome(Atomics.load(words, word), turn)) return true;
  for (;;) {
    const now = Atomics.load(words, word);
    if (hasCome(now, turn)) return true;
    if (Atomics.wait(words, word, now, mostMs) === 'timed-out') return hasCome(Atomics.load(words, word), turn);
  }
}

/** Whether a turn has come; turns are counted round. */
function hasCome(now: number, turn: number): boolean {
  return ((now - turn) | 0) >= 0;
}

function wordsOf(memory: ArrayBufferLike): Int32Array {
  return new Int32Array(memory, memory.byteLength - WORDS * 4, WORDS);
}

/** Smaller files are read sooner than a thread starts. */
const LARGE_BYTES = 16_777_216;

let offered: KernelThread | undefined;
let isAsked = false;

/**
 * Starts the thread for all that call kernels here, once, where a file is large enough for it.
 * @param bytes of the file
 * @param start as for KernelThread
 */
export function offerThreadFor(bytes: number, start: (what: ThreadStart) => void): void {
  if (isAsked || bytes < LARGE_BYTES) return;
  isAsked = true;
  try {
    offered = new KernelThread(start);
  } catch {
    // All is done in one thread.
  }
}

/** Makes a thread known to all that call kernels here; undefined takes it back. */
export function offerThread(thread: KernelThread | undefined): void {
  offered = thread;
}

/** The thread, taken for the caller; undefined where there is none, it is at work, or its memory does not do. */
export function takenThread(size: number): KernelThread | undefined {
  return offered !== undefined && size <= offered.size && offered.take() ? offered : undefined;
}
