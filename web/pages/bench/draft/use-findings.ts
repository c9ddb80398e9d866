import { useMemo } from 'react';
import { type JobTable, jobNames, type Suggestion, sentenceText, stepSentence } from '../../../../core/index.ts';
import type { PlainStep } from '../../../engine/protocol.ts';
import { noted, useDraftStore } from '../../../stores/draft-store.ts';
import { editTable, useJobStore } from '../../../stores/job-store.ts';
import { useMethodStore } from '../../../stores/method-store.ts';
import { useRunQuery } from '../../../stores/use-engine-query.ts';
import { useAddSteps } from '../use-add-step.ts';
import { usePreview } from '../use-preview.ts';

export interface Finding extends Suggestion {
  /** The step that deals with it, as its sentence. */
  sentence: string;
}

const NONE: readonly Suggestion[] = [];
const NOT_WAVED: readonly PlainStep[] = [];

/** What is seen in the table in sight, with what can be done about each: only under the last step, and no draft. */
export function useFindings(table: JobTable, at: number) {
  const job = useJobStore((store) => store.job);
  const isDrafted = useDraftStore((store) => store.progress !== undefined || store.current?.tableId === table.id);
  const ran = useMethodStore((store) => store.tableId === table.id && store.view?.steps.length === table.steps.length);
  const waved = table.waved ?? NOT_WAVED;
  const { data = NONE } = useRunQuery(
    ['findings', table.id, at, waved.length],
    (engine) => engine.drafts.seen(table.id, at, waved),
    { when: !isDrafted && ran && at === table.steps.length - 1, later: true },
  );
  const addSteps = useAddSteps(table, at);
  const { show, clear } = usePreview(table, at);
  const findings = useMemo(
    () =>
      data.map(
        (one): Finding => ({
          ...one,
          sentence:
            job === undefined
              ? ''
              : one.steps.map((step) => sentenceText(stepSentence({ ...step, id: '' }, jobNames(job)))).join('; '),
        }),
      ),
    [data, job],
  );
  return {
    findings,
    clear,
    show: (finding: Finding) => show(finding.steps, finding.sentence),
    take(finding: Finding) {
      clear();
      addSteps(finding.steps.map(noted), `take up ‘${finding.text}’`);
    },
    wave(finding: Finding) {
      clear();
      const step = finding.steps[0]!;
      useJobStore.getState().edit(`dismiss ‘${finding.text}’`, (before) =>
        editTable(before, table.id, (one) => ({
          ...one,
          waved: [...(one.waved ?? []), { kind: step.kind, params: step.params }],
        })),
      );
    },
  };
}
