import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DeleteOutline from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import {
  type Comparison,
  grouped,
  type JobStep,
  type JobTable,
  jobNames,
  sentenceText,
  stepSentence,
  USE_SET,
} from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { MethodView, StepView } from '../../engine/protocol.ts';
import { pickFile, SOURCE_FILES } from '../../parts/files.ts';
import { NameInput } from '../../parts/NameInput.tsx';
import { Sentence } from '../../parts/sentence/Sentence.tsx';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { COMBINING } from './combine/combining.ts';
import { NoticeRowsButtons } from './NoticeRowsButton.tsx';
import { StepHeadline } from './StepHeadline.tsx';
import { StepMenu } from './StepMenu.tsx';
import type { MethodEdits } from './use-method-edits.ts';
import { useSentenceContext } from './use-sentence-context.ts';

interface CardProps {
  step: JobStep;
  index: number;
  table: JobTable;
  view: MethodView | undefined;
  sheets: readonly string[];
  selected: boolean;
  later: boolean;
  edits: MethodEdits;
  onSelect(): void;
  onKey(event: KeyboardEvent): void;
  onChange(params: Record<string, unknown>, param: string): void;
}

/** One sentence of a method, what it did, and what wants a look. It is dragged by its number. */
export function StepCard(props: CardProps) {
  const { step, index, table, view, sheets, selected, edits } = props;
  const job = useJobStore((store) => store.job)!;
  const [writing, setWriting] = useState<'name' | 'note' | undefined>();
  const [comparison, setComparison] = useState<Comparison | undefined>();
  const sortable = useSortable({ id: step.id, disabled: index === 0 });
  const item = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (selected) item.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  const after = view?.steps[index];
  const before = view?.steps[index - 1];
  useEffect(() => {
    if (after !== undefined) setComparison(undefined);
  }, [after]);
  const phrases = stepSentence(step, jobNames(job));
  const context = useSentenceContext(table, index, before, sheets);
  const isCombined = COMBINING[step.kind]?.again === true;
  const stop = view?.stop?.index === index ? view.stop : undefined;
  const told = after?.notices.filter((notice) => notice.severity === 'info').map((notice) => notice.text) ?? [];
  const compare = async () => setComparison(await engineClient().engine.method.compare(table.id, index));
  const write = (text: string) => {
    if (writing !== undefined) edits.annotate(index, writing, text);
    setWriting(undefined);
  };
  return (
    <li
      ref={(element) => {
        sortable.setNodeRef(element);
        item.current = element;
      }}
      style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      tabIndex={selected ? 0 : -1}
      aria-current={selected ? 'step' : undefined}
      className={`${styles.step} ${selected ? styles.on : ''} ${props.later ? styles.later : ''} ${step.muted ? styles.muted : ''} ${sortable.isDragging ? styles.dragging : ''}`}
      onClick={props.onSelect}
      onKeyDown={props.onKey}
    >
      <span
        className={styles.number}
        {...(index === 0 ? {} : sortable.listeners)}
        title={index === 0 ? undefined : 'Drag to another place'}
      >
        {index + 1}
      </span>
      <div>
        {writing === 'name' ? (
          <NameInput
            className={styles.writing}
            label={`Name of step ${index + 1}`}
            text={step.name ?? ''}
            onDone={write}
          />
        ) : (
          step.name !== undefined && <p className={styles.stepName}>{step.name}</p>
        )}
        <StepHeadline step={step} before={before} after={after} />
        {/* What can be clicked stands above the rule: it would move when the rule opens. */}
        <NoticeRowsButtons notices={after?.notices} tableId={table.id} step={index} />
        <div className={styles.rule}>
          <div>
            <Sentence
              phrases={phrases}
              params={step.params}
              context={context}
              selected={selected}
              onChange={props.onChange}
            />
            {told.length > 0 && <p className={styles.did}>{told.join(' · ')}</p>}
            {step.note !== undefined && writing !== 'note' && <p className={styles.note}>{step.note}</p>}
          </div>
        </div>
        {step.kind === USE_SET && <SetSteps id={String(step.params['set'])} />}
        {isCombined && selected && (
          <button
            type="button"
            className={styles.lookAtIt}
            onClick={(event) => {
              event.stopPropagation();
              useViewStore.getState().ask({ as: 'combine', kind: step.kind, step: index });
            }}
          >
            See the matches
          </button>
        )}
        {step.muted && <p className={styles.did}>skipped: the method goes on without it</p>}
        {writing === 'note' && (
          <NameInput
            className={styles.writing}
            label={`Note on step ${index + 1}`}
            text={step.note ?? ''}
            onDone={write}
          />
        )}
        {comparison !== undefined && <Compared comparison={comparison} step={index} view={after} />}
        {stop !== undefined && (
          <div className={styles.stop} role="alert">
            {stop.message}
            {stop.leftOff !== undefined && <OnceMore stepKey={stop.leftOff} />}
            <MissingSource step={step} />
          </div>
        )}
      </div>
      <span className={styles.remove}>
        <StepMenu
          index={index}
          muted={step.muted ?? false}
          last={index === table.steps.length - 1}
          set={step.kind === USE_SET}
          edits={edits}
          onName={() => setWriting('name')}
          onNote={() => setWriting('note')}
          onCompare={() => void compare()}
        />
        {index > 0 && (
          <IconButton
            size="small"
            aria-label={`Remove step ${index + 1}`}
            onClick={(event) => {
              event.stopPropagation();
              void edits.remove(index);
            }}
          >
            <DeleteOutline fontSize="inherit" />
          </IconButton>
        )}
      </span>
    </li>
  );
}

/** The steps of a set, to be read under the step that uses it. */
function SetSteps({ id }: { id: string }) {
  const job = useJobStore((store) => store.job)!;
  const set = job.sets?.find((one) => one.id === id);
  if (set === undefined) return null;
  return (
    <ul className={styles.setSteps}>
      {set.steps.map((one) => (
        <li key={one.id}>{sentenceText(stepSentence(one, jobNames(job)))}</li>
      ))}
    </ul>
  );
}

/** What came, went and changed between the table before a step and after it. */
function Compared({ comparison, step, view }: { comparison: Comparison; step: number; view: StepView | undefined }) {
  const { addedRows, goneRows, addedColumns, goneColumns, changed, examples } = comparison;
  const lines = [
    ...(addedColumns.length > 0 ? [`new columns: ${addedColumns.join(', ')}`] : []),
    ...(goneColumns.length > 0 ? [`removed columns: ${goneColumns.join(', ')}`] : []),
    ...(addedRows > 0 ? [`${grouped(addedRows)} rows added`] : []),
    ...(goneRows > 0 ? [`${grouped(goneRows)} rows removed`] : []),
  ];
  const show = () => {
    const at = (name: string) => view?.columns.findIndex((column) => column.name === name) ?? -1;
    const cells = examples.map((one) => ({ row: one.row, column: at(one.column) }));
    const first = cells[0];
    if (first === undefined) return;
    const { showStep, notice } = useViewStore.getState();
    showStep(step);
    notice({ of: 'after', cells, goTo: { ...first } });
  };
  return (
    <div className={styles.compared}>
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
      {changed > 0 && (
        <button type="button" className={styles.look} onClick={show}>
          {grouped(changed)} cells changed:{' '}
          {examples
            .slice(0, 3)
            .map((one) => `${one.before ?? 'blank'} → ${one.after ?? 'blank'}`)
            .join(', ')}
        </button>
      )}
      {lines.length === 0 && changed === 0 && <p>Nothing changed.</p>}
    </div>
  );
}

/** The way out when a reading's file is not in this browser. */
function MissingSource({ step }: { step: JobStep }) {
  const sourceId = String(step.params['source'] ?? '');
  const why = useJobStore((store) => store.missing[sourceId]);
  const source = useJobStore((store) => store.job?.sources.find((one) => one.id === sourceId));
  const giveSource = useJobStore((store) => store.giveSource);
  if (why === undefined) return null;
  return (
    <p className={styles.give}>
      {why}{' '}
      <Button
        variant="outlined"
        onClick={async (event) => {
          event.stopPropagation();
          const file = await pickFile(SOURCE_FILES);
          if (file === undefined) return;
          try {
            await giveSource(sourceId, file);
          } catch (error) {
            useMethodStore.setState({ trouble: (error as Error).message });
          }
        }}
      >
        Give {source?.file?.name ?? 'the file'}
      </Button>
    </p>
  );
}

/** Takes up a step again that was stopped. */
function OnceMore({ stepKey }: { stepKey: string }) {
  const takeUp = async () => {
    await engineClient().takeUpAgain(stepKey);
    useJobStore.getState().runAgain();
  };
  return (
    <Button size="small" onClick={() => void takeUp()}>
      Run it again
    </Button>
  );
}
