import { type KeyboardEvent, useMemo, useState } from 'react';
import { type AnyStepKind, type JobTable, STEP_GROUPS } from '../../../core/index.ts';
import styles from './bench.module.css';
import { useAddStep } from './use-add-step.ts';

const KINDS = STEP_GROUPS.flatMap((group) => group.kinds.map((kind) => ({ kind, group: group.title })));

/** Kinds of step by what people call them; the title counts most. */
export function findKinds(typed: string): { kind: AnyStepKind; group: string }[] {
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
  const take = (kind: AnyStepKind) => {
    setOpen(false);
    setTyped('');
    (document.activeElement as HTMLElement | null)?.blur();
    void addStep(kind.kind, kind.title);
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setActive((k) => Math.min(found.length - 1, k + 1));
    else if (event.key === 'ArrowUp') setActive((k) => Math.max(0, k - 1));
    else if (event.key === 'Enter' && found[active] !== undefined) take(found[active].kind);
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
          {found.length === 0 && <li className={styles.nothing}>Nothing is called {typed}. Try another word.</li>}
          {found.map(({ kind, group }, k) => (
            <li
              key={kind.kind}
              id={`next-${kind.kind}`}
              role="option"
              tabIndex={-1}
              aria-selected={k === active}
              className={k === active ? styles.activeKind : undefined}
              ref={(element) => {
                if (k === active) element?.scrollIntoView({ block: 'nearest' });
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
        aria-activedescendant={open && found[active] !== undefined ? `next-${found[active].kind.kind}` : undefined}
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
