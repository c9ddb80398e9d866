import {
  filesOf,
  guessReading,
  type JobStep,
  nestedOutline,
  type OutlineNode,
  openedPages,
  openedTables,
  openSource,
  READINGS,
  sheetsReport,
  sniff,
} from '../../../core/index.ts';
import type { SourceView } from '../protocol.ts';
import type { EngineState } from '../state.ts';

const PROGRESS_EVERY_MS = 200;

/** The files that a job reads. */
export class Sources {
  constructor(private readonly state: EngineState) {}

  /**
   * @param onProgress told the share that is read of a file that takes a while
   * @throws ReadFailure when the bytes are nothing that can be read
   */
  async put(
    id: string,
    name: string,
    bytes: Uint8Array<ArrayBuffer>,
    onProgress: (done: number) => void = () => undefined,
  ): Promise<SourceView> {
    const format = sniff(bytes, name);
    let told = performance.now();
    const opened = openSource(bytes, name, (done) => {
      if (performance.now() - told < PROGRESS_EVERY_MS) return;
      told = performance.now();
      onProgress(done);
    });
    const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
    await opened;
    this.state.runner.setSource(id, { name, bytes });
    return { format, sha256: [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('') };
  }

  /** The reading that suits a source. @throws ReadFailure */
  guess(id: string): { step: Omit<JobStep, 'id'>; why: string } {
    const { kind, params, why } = guessReading(id, this.state.runner.source(id)!);
    return { step: { kind, params }, why };
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
