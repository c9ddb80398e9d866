import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useState } from 'react';
import { FROM_TABLE, grouped } from '../../../../core/index.ts';
import { NamesEditor } from '../../../parts/sentence/ColumnSetEditor.tsx';
import { freeName, newId, newStep, useJobStore } from '../../../stores/job-store.ts';
import { useMethodStore } from '../../../stores/method-store.ts';
import { keyOf, useEngineQuery } from '../../../stores/use-engine-query.ts';
import { selectedColumns } from '../../../stores/view/selection.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import styles from './combine.module.css';
import type { PaneProps } from './pane-props.ts';

const NONE: never[] = [];

/** Columns that repeat with a key, with whether the key decides them, go into their own table. */
export function SplitOffPane({ table, place, onKeep, onClose }: PaneProps) {
  const brief = useMethodStore((store) => store.view?.steps[place.at]?.columns) ?? NONE;
  const selected = useViewStore(selectedColumns);
  const names = brief.map((column) => column.name);
  const [key, setKey] = useState<readonly string[]>(selected.length > 0 ? selected.slice(0, 1) : names.slice(0, 1));
  const [chosen, setChosen] = useState<readonly string[] | undefined>(
    selected.length > 1 ? selected.slice(1) : undefined,
  );
  const { data: decided = NONE } = useEngineQuery(
    ['decided', keyOf(place), key],
    (engine) => engine.combining.determined(place, key),
    { keep: true },
  );
  const taken = chosen ?? decided.filter((one) => one.broken === 0).map((one) => one.column);
  const split = () => {
    const params = { key: [...key], columns: [...taken] };
    const from = table.steps[place.at]!.id;
    onKeep({ kind: 'split-off', params: { ...params, give: 'rest' } });
    useJobStore.getState().edit('split off a table', (job) => ({
      ...job,
      tables: [
        ...job.tables,
        {
          id: newId(),
          name: freeName(key.join(', '), job),
          steps: [
            newStep({ kind: FROM_TABLE, params: { table: table.id, step: from } }),
            newStep({ kind: 'split-off', params: { ...params, give: 'split-off' } }),
          ],
        },
      ],
    }));
  };
  const wrong = decided.filter((one) => taken.includes(one.column) && one.broken > 0);
  return (
    <>
      <div className={styles.lists}>
        <section aria-label="Key">
          <h3>The key</h3>
          <NamesEditor names={names} value={key} onChange={setKey} />
        </section>
        <section aria-label="Columns that repeat with it">
          <h3>decides</h3>
          <ul className={styles.decided}>
            {decided.map((one) => (
              <li key={one.column}>
                <label>
                  <Checkbox
                    checked={taken.includes(one.column)}
                    onChange={() =>
                      setChosen(
                        taken.includes(one.column)
                          ? taken.filter((name) => name !== one.column)
                          : [...taken, one.column],
                      )
                    }
                  />
                  {one.column}
                </label>
                <b className={one.broken === 0 ? styles.good : styles.look}>
                  {one.broken === 0
                    ? 'always'
                    : `not in ${grouped(one.broken)} of ${grouped(one.keys)}, as ${one.example}`}
                </b>
              </li>
            ))}
          </ul>
        </section>
      </div>
      {wrong.length > 0 && (
        <p className={styles.look} role="status">
          {wrong.map((one) => one.column).join(', ')}: where the key does not decide it, the first value is taken.
        </p>
      )}
      <div className={styles.foot}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={taken.length === 0 || key.length === 0} onClick={split}>
          Split off into a table
        </Button>
      </div>
    </>
  );
}
