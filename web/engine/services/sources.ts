import {
  filesOf,
  guessReading,
  type JobStep,
  type KnownSource,
  layoutOf,
  nestedOutline,
  type OutlineNode,
  openedPages,
  openedTables,
  openSource,
  READINGS,
  type Recognized,
  recognize,
  type SourceLayout,
  sheetsReport,
  sniff,
} from '../../../core/index.ts';
import { sha256Of } from '../digest.ts';
import type { SourceView } from '../protocol.ts';
import type { EngineState } from '../state.ts';

const PROGRESS_EVERY_MS = 200;
/** Working out the digest of a file of this size takes about as long as what is asked next. */
const LONG_DIGEST_BYTES = 4_000_000;

/** The files that a job reads. */
export class Sources {
  constructor(private readonly state: EngineState) {}

  /**
   * @param onProgress told the share that is read of a file that takes a while
   * @param known its SHA-256, if the caller has it: it takes a third of a second for 100 MB
   * @param reading the step that will read it, the first where there are several; undefined: the one that suits it
   * @throws ReadFailure when the bytes are nothing that can be read
   */
  async put(
    id: string,
    name: string,
    bytes: Uint8Array<ArrayBuffer>,
    onProgress: (done: number) => void = () => undefined,
    { known, reading }: { known?: string | undefined; reading?: JobStep | undefined } = {},
  ): Promise<SourceView> {
    const format = sniff(bytes, name);
    let told = performance.now();
    const tell = (done: number) => {
      if (performance.now() - told < PROGRESS_EVERY_MS) return;
      told = performance.now();
      onProgress(done);
    };
    const opened = openSource(bytes, name, tell);
    const digest = known ?? sha256Of(bytes);
    await opened;
    this.state.runner.setSource(id, { name, bytes });
    if (known === undefined && bytes.length >= LONG_DIGEST_BYTES) this.readAhead(id, reading, tell);
    return { format, sha256: await digest };
  }

  /** Reads a source while its digest is worked out in another thread: what is asked next finds it read. */
  private readAhead(id: string, reading: JobStep | undefined, progress: (done: number) => void): void {
    const { runner } = this.state;
    const { onStep } = runner;
    // Nobody asked for a step: it is reported as the reading of a file.
    runner.onStep = () => undefined;
    try {
      runner.run([reading ?? { id: 'ahead', ...this.guess(id).step }], { progress });
    } catch {
      // Whoever asks for it sees what is wrong.
    } finally {
      runner.onStep = onStep;
    }
  }

  /** The reading that suits a source. @throws ReadFailure */
  guess(id: string): { step: Omit<JobStep, 'id'>; why: string } {
    const { kind, params, why } = guessReading(id, this.state.runner.source(id)!);
    return { step: { kind, params }, why };
  }

  /** Sources of kept jobs whose next report this source is, the likeliest first. */
  recognize(id: string, known: readonly KnownSource[]): Recognized[] {
    return recognize(this.state.runner.source(id)!, known);
  }

  /** The source that a table's last run read, and what its next report is known by. */
  layout(tableId: string): { source: string; layout: SourceLayout } | undefined {
    const run = this.state.runs.get(tableId);
    const source = run?.steps[0]?.reading?.source;
    const file = source === undefined ? undefined : this.state.runner.source(source);
    const layout = run === undefined || file === undefined ? undefined : layoutOf(run, file.name);
    return layout === undefined ? undefined : { source: source!, layout };
  }

  /** A reading of this kind with params that suit the source. @throws ReadFailure */
  readAs(id: string, kind: string): Omit<JobStep, 'id'> {
    return { kind, params: READINGS.get(kind)!.start(id, this.state.runner.source(id)!) };
  }

  /** The paths of a nested source. @throws ReadFailure */
  outline(id: string): OutlineNode[] {
    return nestedOutline(this.state.runner.source(id)!);
  }

  /** Names of a source's sheets or files: what no choice of how to read it changes is read for them and kept. @throws ReadFailure */
  namesIn(id: string): string[] {
    const source = this.state.runner.source(id);
    if (source === undefined) return [];
    const format = sniff(source.bytes, source.name);
    if (format === 'text') return [];
    if (format === 'files') return filesOf(source).map((file) => file.name);
    if (format === 'pages') return openedPages(source).map((_, k) => `Page ${k + 1}`);
    if (format === 'tables') return openedTables(source).map((table) => table.name);
    return sheetsReport(source).parts.map((part) => part.name);
  }
}
