import Close from '@mui/icons-material/Close';
import MoreHoriz from '@mui/icons-material/MoreHoriz';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useEffect, useRef, useState } from 'react';
import type { JobTable, Offer } from '../../../core/index.ts';
import type { Selection } from '../../engine/protocol.ts';
import { useLayoutStore } from '../../stores/layout-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useRunQuery } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { copyRange } from './copy.ts';
import { useAddStep } from './use-add-step.ts';
import { usePreview } from './use-preview.ts';

const NONE: readonly Offer[] = [];
/** Actions that stand on the bar; the others are behind it. */
const ON_BAR = 4;
/** Those that say what they do to the cells are longer. */
const EXAMPLES_ON_BAR = 2;

/** The actions that fit what is selected, docked at the foot of the page so that it covers no data. */
export function ActionBar({ table, step }: { table: JobTable; step: number }) {
  const selection = useViewStore((store) => store.selection);
  const { select, glanceAt } = useViewStore.getState();
  const brief = useMethodStore((store) => store.view?.steps[step]?.columns);
  const addStep = useAddStep(table, step);
  const preview = usePreview(table, step);
  const [more, setMore] = useState<HTMLElement | null>(null);
  // A menu that closes gives the focus around: what is taken is not looked at again.
  const taken = useRef(false);
  const { data: found } = useRunQuery(
    ['offers', table.id, step, selection],
    (engine) => engine.tables.offers(table.id, step, selection!),
    { when: selection !== undefined },
  );
  const offers = found ?? NONE;
  useEffect(() => {
    taken.current = offers === NONE;
  }, [offers]);
  const clear = () => {
    preview.clear();
    select(undefined);
    glanceAt(undefined);
  };
  if (selection?.of === 'range') return <RangeActions table={table} step={step} range={selection} onClear={clear} />;
  if (selection?.of === 'example' && found !== undefined && offers.length === 0)
    return (
      <div className={styles.bar} role="status">
        <span className={styles.barText}>No single step turns it into ‘{selection.wanted}’.</span>
        <CloseBar onClick={clear} />
      </div>
    );
  if (selection === undefined || offers.length === 0) return null;
  const columns = selection.of === 'columns' ? selection.names : [brief?.[selection.column]?.name ?? ''];
  const [column = ''] = columns;
  const named =
    selection.of === 'stretch'
      ? `‘${selection.text}’`
      : selection.of === 'example'
        ? `to ‘${selection.wanted}’`
        : columns.length > 1
          ? `${columns.length} columns`
          : column;
  const onBar = selection.of === 'example' ? EXAMPLES_ON_BAR : ON_BAR;
  const take = (offer: Offer) => {
    taken.current = true;
    preview.clear();
    setMore(null);
    const params = Object.keys(offer.params).length === 0 ? undefined : offer.params;
    void addStep(offer.kind, offer.label, columns, params);
  };
  const show = (offer: Offer) => {
    if (!taken.current) preview.show({ kind: offer.kind, params: offer.params }, offer.label);
  };
  const look = (offer: Offer) => ({
    onMouseEnter: () => show(offer),
    onMouseLeave: preview.clear,
    onFocus: () => show(offer),
    onBlur: preview.clear,
  });
  return (
    <div className={styles.bar} role="toolbar" aria-label="Actions for what is selected">
      <span className={styles.barName}>{named}</span>
      {selection.of === 'columns' && columns.length === 1 && (
        <button type="button" onClick={() => glanceAt(column)}>
          Glance
        </button>
      )}
      {selection.of === 'columns' && brief !== undefined && (
        <Freeze tableId={table.id} columns={columns} names={brief.map((one) => one.name)} />
      )}
      {offers.slice(0, onBar).map((offer) => (
        <button key={offer.label} type="button" onClick={() => take(offer)} {...look(offer)}>
          <span className={styles.barText}>
            {offer.label}
            {offer.outcome !== undefined && <small className={styles.outcome}>{offer.outcome}</small>}
          </span>
        </button>
      ))}
      {offers.length > onBar && (
        <button
          type="button"
          aria-label="More actions"
          aria-haspopup="menu"
          onClick={(event) => setMore(event.currentTarget)}
        >
          <MoreHoriz style={{ fontSize: 16 }} />
        </button>
      )}
      <Menu anchorEl={more} open={more !== null} onClose={() => setMore(null)}>
        {offers.slice(onBar).map((offer) => (
          <MenuItem key={offer.label} onClick={() => take(offer)} {...look(offer)}>
            {offer.label}
            {offer.outcome !== undefined && <small className={styles.outcome}>{offer.outcome}</small>}
          </MenuItem>
        ))}
      </Menu>
      <CloseBar onClick={clear} />
    </div>
  );
}

/** Columns up to the last selected one stay in sight when the table is scrolled sideways. */
function Freeze({
  tableId,
  columns,
  names,
}: {
  tableId: string;
  columns: readonly string[];
  names: readonly string[];
}) {
  const { frozen, freeze } = useLayoutStore();
  const upTo = Math.max(...columns.map((name) => names.indexOf(name))) + 1;
  const held = (frozen[tableId] ?? 0) >= upTo;
  return (
    <button
      type="button"
      aria-pressed={held}
      title={held ? 'Unfreeze the columns' : 'Freeze the columns up to here'}
      onClick={() => freeze(tableId, held ? 0 : upTo)}
    >
      {held ? 'Unfreeze' : 'Freeze'}
    </button>
  );
}

/** A rectangle of cells can be copied, or its columns taken. */
function RangeActions({
  table,
  step,
  range,
  onClear,
}: {
  table: JobTable;
  step: number;
  range: Extract<Selection, { of: 'range' }>;
  onClear(): void;
}) {
  const select = useViewStore((store) => store.select);
  const brief = useMethodStore((store) => store.view?.steps[step]?.columns);
  const rows = range.to.row - range.from.row + 1;
  const names = brief?.slice(range.from.column, range.to.column + 1).map((column) => column.name) ?? [];
  return (
    <div className={styles.bar} role="toolbar" aria-label="Actions for the range">
      <span className={styles.barName}>
        {rows} × {names.length}
      </span>
      <button type="button" onClick={() => void copyRange(table.id, step, range, false)}>
        Copy
      </button>
      <button type="button" onClick={() => void copyRange(table.id, step, range, true)}>
        Copy with names
      </button>
      <button type="button" onClick={() => select({ of: 'columns', names })}>
        {names.length === 1 ? 'Take its column' : 'Take its columns'}
      </button>
      <CloseBar onClick={onClear} />
    </div>
  );
}

function CloseBar({ onClick }: { onClick(): void }) {
  return (
    <button type="button" aria-label="Clear the selection" onClick={onClick}>
      <Close style={{ fontSize: 14 }} />
    </button>
  );
}
