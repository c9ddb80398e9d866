import Popper from '@mui/material/Popper';
import { type KeyboardEvent, lazy, Suspense, useMemo, useRef, useState } from 'react';
import {
  type AnyStepDescriptor,
  type JobTable,
  type Offer,
  STEP_GROUPS,
  type StepSet,
  USE_SET,
} from '../../../core/index.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useRunQuery } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { COMBINING } from './combine/combining.ts';
import { showWanted } from './draft/show-wanted.ts';
import { useFindings } from './draft/use-findings.ts';
import { useAddStep } from './use-add-step.ts';
import { usePreview } from './use-preview.ts';

const KINDS = STEP_GROUPS.flatMap((group) => group.kinds.map((kind) => ({ kind, group: group.title })));

const NO_SETS: readonly StepSet[] = [];

/** Kinds of step by what people call them; the title counts most. */
export function findKinds(typed: string): { kind: AnyStepDescriptor; group: string }[] {
  const words = typed
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  if (words.length === 0) return KINDS;
  const scored = KINDS.map((entry) => {
    const title = entry.kind.title.toLowerCase();
    const finds = entry.kind.searchTerms.join(' ').toLowerCase();
    const score = words.reduce((sum, word) => {
      if (title.startsWith(word)) return sum + 4;
      if (title.includes(word)) return sum + 3;
      if (finds.includes(word)) return sum + 2;
      return entry.kind.summary.toLowerCase().includes(word) ? sum + 1 : Number.NEGATIVE_INFINITY;
    }, 0);
    return { entry, score };
  });
  return scored
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ entry }) => entry);
}

/** One line of the list: what it is called, and what taking it does. */
interface Entry {
  id: string;
  title: string;
  small: string;
  about: string;
  take(): void;
  /** Shows what it would give, for as long as it is looked at. */
  show?(): void;
  /** The kind of step of which an example is shown meanwhile. */
  kind?: string;
}

const StepExample = lazy(async () => ({ default: (await import('./StepExample.tsx')).StepExample }));

const SHOW = {
  title: 'Show the row you want',
  about: 'Type or paste rows as they should look, or load a finished table: Rimefield finds the steps',
  finds: ['show the row you want', 'by example', 'finished table', 'wanted rows'],
};

const NO_OFFERS: readonly Offer[] = [];

/** Finds what to do next: what was seen in the table, what fits the selection, and kinds of step by typed letters. */
export function WhatNext({ table, at }: { table: JobTable; at: number }) {
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const [pointed, setPointed] = useState<string>();
  const list = useRef<HTMLUListElement>(null);
  const addStep = useAddStep(table, at);
  const found = useMemo(() => findKinds(typed), [typed]);
  const sets = useJobStore((store) => store.job?.sets) ?? NO_SETS;
  const seen = useFindings(table, at);
  const preview = usePreview(table, at);
  const selection = useViewStore((store) => store.selection);
  const names = useMethodStore((store) => store.view?.steps[at]?.columns);
  const { data: offers = NO_OFFERS } = useRunQuery(
    ['offers', table.id, at, selection],
    (engine) => engine.tables.offers(table.id, at, selection!),
    { when: open && selection !== undefined },
  );
  const asked = typed.trim().toLowerCase();
  const chosen =
    selection === undefined || selection.of === 'range'
      ? []
      : selection.of === 'columns'
        ? selection.names
        : [names?.[selection.column]?.name ?? ''];
  const showing: Entry = {
    id: 'show-wanted',
    title: SHOW.title,
    small: 'by example',
    about: SHOW.about,
    take: () => showWanted(table.id, useMethodStore.getState().view?.steps[at]),
  };
  const entries: Entry[] = [
    ...(asked === ''
      ? seen.findings.map((finding, k) => ({
          id: `seen-${k}`,
          title: finding.sentence,
          small: 'seen in the table',
          about: finding.text,
          take: () => seen.take(finding),
          show: () => seen.show(finding),
        }))
      : []),
    ...(asked === ''
      ? offers.map((offer, k) => ({
          id: `fits-${k}`,
          title: offer.label,
          small: 'fits what is selected',
          about: chosen.join(', '),
          take: () =>
            void addStep(
              offer.kind,
              offer.label,
              chosen,
              Object.keys(offer.params).length === 0 ? undefined : offer.params,
            ),
          show: () => preview.show({ kind: offer.kind, params: offer.params }, offer.label),
        }))
      : sets
          .filter((set) => set.name.toLowerCase().includes(asked))
          .map((set) => ({
            id: set.id,
            title: `Do ${set.name}`,
            small: 'kept in this job',
            about: set.steps.length === 1 ? '1 step' : `${set.steps.length} steps`,
            take: () => void addStep(USE_SET, `do ${set.name}`, [], { set: set.id }),
          }))),
    ...(asked === '' ? [showing] : []),
    ...found.map(({ kind, group }) => ({
      id: kind.kind,
      title: kind.title,
      small: group,
      about: kind.summary,
      kind: kind.kind,
      take: () => takeKind(kind),
    })),
    ...(asked !== '' && SHOW.finds.some((words) => words.includes(asked)) ? [showing] : []),
  ];
  const takeKind = (kind: AnyStepDescriptor) => {
    const pane = COMBINING[kind.kind];
    const others = (useJobStore.getState().job?.tables.length ?? 0) > 1;
    if (pane !== undefined && (others || !pane.needsOther))
      useViewStore.getState().ask({ as: 'combine', kind: kind.kind });
    else void addStep(kind.kind, kind.title);
  };
  const take = (entry: Entry) => {
    setOpen(false);
    setPointed(undefined);
    setTyped('');
    preview.clear();
    (document.activeElement as HTMLElement | null)?.blur();
    entry.take();
  };
  /** Goes to a line, and shows what it would give. */
  const lookAt = (k: number) => {
    setActive(k);
    setPointed(undefined);
    const entry = entries[k];
    if (entry?.show === undefined) preview.clear();
    else entry.show();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') lookAt(Math.min(entries.length - 1, active + 1));
    else if (event.key === 'ArrowUp') lookAt(Math.max(0, active - 1));
    else if (event.key === 'Enter' && entries[active] !== undefined) take(entries[active]);
    else if (event.key === 'Escape') {
      setTyped('');
      (event.target as HTMLElement).blur();
    } else return;
    event.preventDefault();
  };
  const exampleOf = pointed ?? entries[active]?.kind;
  return (
    <div className={styles.next}>
      {open && exampleOf !== undefined && (
        <Popper open anchorEl={() => list.current!} placement="right-end" style={{ zIndex: 1200 }}>
          <Suspense>
            <StepExample kind={exampleOf} />
          </Suspense>
        </Popper>
      )}
      {open && (
        <ul ref={list} className={styles.found} id="what-next-list" role="listbox" aria-label="Kinds of step">
          {entries.length === 0 && <li className={styles.nothing}>No step matches {typed}. Try another word.</li>}
          {entries.map((entry, k) => (
            <li
              key={entry.id}
              id={`next-${entry.id}`}
              role="option"
              tabIndex={-1}
              aria-selected={k === active}
              className={k === active ? styles.activeKind : undefined}
              ref={(element) => {
                if (k === active) element?.scrollIntoView({ block: 'nearest' });
              }}
              onMouseDown={(event) => {
                event.preventDefault();
                take(entry);
              }}
              onMouseEnter={() => {
                setPointed(entry.kind);
                entry.show?.();
              }}
              onMouseLeave={() => {
                setPointed(undefined);
                preview.clear();
              }}
            >
              <b>{entry.title}</b>
              <small>{entry.small}</small>
              <span>{entry.about}</span>
            </li>
          ))}
        </ul>
      )}
      <input
        id="what-next"
        role="combobox"
        aria-label="What next?"
        aria-expanded={open}
        aria-controls="what-next-list"
        aria-activedescendant={open ? `next-${entries[active]?.id ?? ''}` : undefined}
        autoComplete="off"
        placeholder="What next? Or show the row you want"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setActive(0);
          setOpen(true);
        }}
        onFocus={() => {
          setActive(0);
          setOpen(true);
        }}
        onBlur={() => {
          preview.clear();
          setOpen(false);
        }}
        onKeyDown={onKey}
      />
      <kbd>/</kbd>
    </div>
  );
}
