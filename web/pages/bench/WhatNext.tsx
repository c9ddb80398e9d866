import { type KeyboardEvent, useMemo, useState } from 'react';
import { type AnyStepWords, type JobTable, STEP_GROUPS, type StepSet, USE_SET } from '../../../core/index.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { COMBINING } from './combine/combining.ts';
import { useAddStep } from './use-add-step.ts';

const KINDS = STEP_GROUPS.flatMap((group) => group.kinds.map((kind) => ({ kind, group: group.title })));

const NO_SETS: readonly StepSet[] = [];

/** Kinds of step by what people call them; the title counts most. */
export function findKinds(typed: string): { kind: AnyStepWords; group: string }[] {
  const words = typed
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  if (words.length === 0) return KINDS;
  const scored = KINDS.map((entry) => {
    const title = entry.kind.title.toLowerCase();
    const finds = entry.kind.finds.join(' ').toLowerCase();
    const score = words.reduce((sum, word) => {
      if (title.startsWith(word)) return sum + 4;
      if (title.includes(word)) return sum + 3;
      if (finds.includes(word)) return sum + 2;
      return entry.kind.about.toLowerCase().includes(word) ? sum + 1 : Number.NEGATIVE_INFINITY;
    }, 0);
    return { entry, score };
  });
  return scored
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ entry }) => entry);
}

/** Finds a kind of step by a few typed letters and puts it behind the selected step. */
export function WhatNext({ table, at }: { table: JobTable; at: number }) {
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const [active, setActive] = useState(0);
  const addStep = useAddStep(table, at);
  const found = useMemo(() => findKinds(typed), [typed]);
  const sets = useJobStore((store) => store.job?.sets) ?? NO_SETS;
  const asked = typed.trim().toLowerCase();
  // Without letters the list begins with the kinds of step, as always.
  const named = asked === '' ? NO_SETS : sets.filter((set) => set.name.toLowerCase().includes(asked));
  const count = named.length + found.length;
  const take = (kind: AnyStepWords) => {
    setOpen(false);
    setTyped('');
    (document.activeElement as HTMLElement | null)?.blur();
    const pane = COMBINING[kind.kind];
    const others = (useJobStore.getState().job?.tables.length ?? 0) > 1;
    if (pane !== undefined && (others || !pane.needsOther))
      useViewStore.getState().ask({ as: 'combine', kind: kind.kind });
    else void addStep(kind.kind, kind.title);
  };
  const takeSet = (set: StepSet) => {
    setOpen(false);
    setTyped('');
    (document.activeElement as HTMLElement | null)?.blur();
    void addStep(USE_SET, `do ${set.name}`, [], { set: set.id });
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setActive((k) => Math.min(count - 1, k + 1));
    else if (event.key === 'ArrowUp') setActive((k) => Math.max(0, k - 1));
    else if (event.key === 'Enter' && named[active] !== undefined) takeSet(named[active]);
    else if (event.key === 'Enter' && found[active - named.length] !== undefined)
      take(found[active - named.length]!.kind);
    else if (event.key === 'Escape') {
      setTyped('');
      (event.target as HTMLElement).blur();
    } else return;
    event.preventDefault();
  };
  return (
    <div className={styles.next}>
      {open && (
        <ul className={styles.found} id="what-next-list" role="listbox" aria-label="Kinds of step">
          {named.map((set, k) => (
            <li
              key={set.id}
              id={`next-${set.id}`}
              role="option"
              tabIndex={-1}
              aria-selected={k === active}
              className={k === active ? styles.activeKind : undefined}
              onMouseDown={(event) => {
                event.preventDefault();
                takeSet(set);
              }}
            >
              <b>Do {set.name}</b>
              <small>kept in this job</small>
              <span>{set.steps.length === 1 ? '1 step' : `${set.steps.length} steps`}</span>
            </li>
          ))}
          {found.length === 0 && named.length === 0 && (
            <li className={styles.nothing}>Nothing is called {typed}. Try another word.</li>
          )}
          {found.map(({ kind, group }, k) => (
            <li
              key={kind.kind}
              id={`next-${kind.kind}`}
              role="option"
              tabIndex={-1}
              aria-selected={k + named.length === active}
              className={k + named.length === active ? styles.activeKind : undefined}
              ref={(element) => {
                if (k + named.length === active) element?.scrollIntoView({ block: 'nearest' });
              }}
              onMouseDown={(event) => {
                event.preventDefault();
                take(kind);
              }}
            >
              <b>{kind.title}</b>
              <small>{group}</small>
              <span>{kind.about}</span>
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
        aria-activedescendant={
          open ? `next-${named[active]?.id ?? found[active - named.length]?.kind.kind ?? ''}` : undefined
        }
        autoComplete="off"
        placeholder="What next?"
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
        onBlur={() => setOpen(false)}
        onKeyDown={onKey}
      />
      <kbd>/</kbd>
    </div>
  );
}
