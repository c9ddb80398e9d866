import type { StepAtWork } from '../../core/index.ts';
import { Combining } from './services/combining.ts';
import { Drafts } from './services/drafts.ts';
import { Exports } from './services/exports.ts';
import { Method } from './services/method.ts';
import { OtherFiles } from './services/other-files.ts';
import { ReceivedReport } from './services/report.ts';
import { Sources } from './services/sources.ts';
import { Tables } from './services/tables.ts';
import { Tallies } from './services/tally.ts';
import { Traces } from './services/traces.ts';
import { EngineState } from './state.ts';

/** All that a worker does, by service: each knows the state, and none knows another. */
export function createEngine() {
  const state = new EngineState();
  return {
    job: {
      /**
       * @param shared with the page; see Shared
       * @param onStep told which step is being worked out, and when none is
       */
      connect(shared: Int32Array | undefined, onStep: (step: StepAtWork | undefined) => void): void {
        state.shared = shared;
        state.runner.onStep = onStep;
      },
      /** Another job is opened: nothing of the one before is available any more. */
      begin: () => state.begin(),
    },
    sources: new Sources(state),
    method: new Method(state),
    tables: new Tables(state),
    report: new ReceivedReport(state),
    traces: new Traces(state),
    combining: new Combining(state),
    tally: new Tallies(state),
    exports: new Exports(state),
    otherFiles: new OtherFiles(state),
    drafts: new Drafts(state),
  };
}

type Services = ReturnType<typeof createEngine>;

/** The services as they are asked over a port: every answer comes later, or not at all with an EngineError. */
export type Engine = {
  readonly [S in keyof Services]: {
    [Name in keyof Services[S]]: Services[S][Name] extends (...asked: infer Asked) => infer Answer
      ? (...asked: Asked) => Promise<Awaited<Answer>>
      : never;
  };
};
