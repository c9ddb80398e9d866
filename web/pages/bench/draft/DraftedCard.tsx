import Close from '@mui/icons-material/Close';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import { type JobStep, type JobTable, jobNames, stepSentence } from '../../../../core/index.ts';
import { engineClient } from '../../../engine/client.ts';
import type { StepView } from '../../../engine/protocol.ts';
import { Sentence } from '../../../parts/sentence/Sentence.tsx';
import { useLatest } from '../../../parts/use-latest.ts';
import { usePointed } from '../../../parts/use-pointed.ts';
import { type Choice, useDraftStore } from '../../../stores/draft-store.ts';
import { useJobStore } from '../../../stores/job-store.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import benchStyles from '../bench.module.css';
import { NoticeRowsButtons } from '../NoticeRowsButton.tsx';
import { StepHeadline } from '../StepHeadline.tsx';
import { useTryOut } from '../use-preview.ts';
import { useSentenceContext } from '../use-sentence-context.ts';
import styles from './draft.module.css';

interface Props {
  step: JobStep;
  index: number;
  table: JobTable;
  before: StepView | undefined;
  after: StepView | undefined;
  stop: string | undefined;
  sheets: readonly string[];
  selected: boolean;
  onSelect(): void;
  onKey(event: KeyboardEvent): void;
}

/** A step that is proposed and not kept yet: its sentence, why, and the other ways. */
export function DraftedCard({ step, index, table, before, after, stop, sheets, selected, onSelect, onKey }: Props) {
  const job = useJobStore((store) => store.job)!;
  const { keep, leaveOut, change, current } = useDraftStore();
  const item = useRef<HTMLLIElement>(null);
  const came = useRef(false);
  useEffect(() => {
    // A draft that has just come is read from its first step.
    if (selected && came.current) item.current?.scrollIntoView({ block: 'nearest' });
    came.current = true;
  }, [selected]);
  const evidence = useEvidence(table.id, index);
  const context = useSentenceContext(table, index, before, sheets);
  const choices = current?.told?.choices.filter(({ to }) => to === index + 1) ?? [];
  const last = index === table.steps.length - 1;
  return (
    <li
      ref={item}
      tabIndex={selected ? 0 : -1}
      aria-current={selected ? 'step' : undefined}
      aria-label={`Step ${index + 1}, drafted`}
      className={`${benchStyles.step} ${styles.drafted} ${selected ? benchStyles.on : ''}`}
      onClick={onSelect}
      onKeyDown={onKey}
      onMouseEnter={evidence.show}
      onMouseLeave={evidence.clear}
      onFocus={evidence.show}
      onBlur={evidence.clear}
    >
      <span className={benchStyles.number}>{index + 1}</span>
      <div>
        <StepHeadline step={step} before={before} after={after} />
        {/* What can be clicked stands above the rule: it would move when the rule opens. */}
        {choices.length > 0 && <OtherWays table={table} choices={choices} />}
        <NoticeRowsButtons notices={after?.notices} tableId={table.id} step={index} />
        <div className={benchStyles.rule}>
          <div>
            <Sentence
              phrases={stepSentence(step, jobNames(job))}
              params={step.params}
              context={context}
              selected={selected}
              onChange={(params, param) => change(index, params, param)}
            />
            {step.note !== undefined && <p className={benchStyles.did}>{step.note}</p>}
          </div>
        </div>
        {stop !== undefined && (
          <div className={benchStyles.stop} role="alert">
            {stop}
          </div>
        )}
      </div>
      <span className={styles.hand}>
        {!last && (
          <button
            type="button"
            onClick={(event) => {
              event.stopPropagation();
              keep(index);
            }}
          >
            Keep to here
          </button>
        )}
        {index > 0 && (
          <button
            type="button"
            aria-label={`Leave out step ${index + 1}`}
            title="Leave this step out"
            onClick={(event) => {
              event.stopPropagation();
              leaveOut(index);
            }}
          >
            <Close style={{ fontSize: 12 }} />
          </button>
        )}
      </span>
    </li>
  );
}

/** Other ways that the report could be read here: pointed at, each shows its table; taken, the rest is drafted again. */
function OtherWays({ table, choices }: { table: JobTable; choices: readonly Choice[] }) {
  const take = useDraftStore((store) => store.take);
  const { show: tryOut, clear } = useTryOut(table);
  const show = (choice: Choice) => tryOut(() => useDraftStore.getState().look(choice), `Or ${choice.gives}`);
  const look = usePointed(show, clear);
  return (
    <span className={styles.or}>
      or
      {choices.map((choice) => (
        <button
          key={choice.gives}
          type="button"
          onClick={(event) => {
            event.stopPropagation();
            clear();
            take(choice);
          }}
          {...look(choice)}
        >
          {choice.gives}
        </button>
      ))}
    </span>
  );
}

/** Pointing at a step lights what of the report it speaks of. */
function useEvidence(tableId: string, index: number) {
  const { latest } = useLatest();
  const { light, lightRows, dark } = useViewStore.getState();
  return {
    show: () =>
      latest(
        () => engineClient().engine.traces.evidence(tableId, index),
        ({ rows, cells }) => {
          lightRows([...rows]);
          light({ litReport: cells });
        },
      ),
    clear: () =>
      latest(
        () => undefined,
        () => dark(),
      ),
  };
}
