import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useEffect, useState } from 'react';
import type { LinedUpTables } from '../../../engine/protocol.ts';
import { Choose } from '../../../parts/Choose.tsx';
import { TextBox } from '../../../parts/sentence/fields.tsx';
import { useJobStore } from '../../../stores/job-store.ts';
import { keyOf, useEngineQuery } from '../../../stores/use-engine-query.ts';
import styles from './combine.module.css';
import type { PaneProps } from './pane-props.ts';

interface Under {
  table: string;
  from: string;
  to: string;
}

const NONE: LinedUpTables = { here: [], there: [] };

/** Tables under each other, their columns lined up in a small grid. */
export function AppendPane({ table, place, params, onKeep, onClose }: PaneProps) {
  const job = useJobStore((store) => store.job)!;
  const others = job.tables.filter((one) => one.id !== table.id);
  const known = params as { tables?: string[]; columns?: Under[]; nameColumn?: string | null } | undefined;
  const [chosen, setChosen] = useState<readonly string[]>(known?.tables ?? others.slice(0, 1).map((one) => one.id));
  const [nameColumn, setNameColumn] = useState(known?.nameColumn ?? '');
  /** By table and its column, where that was changed by hand or likeness. */
  const [moved, setMoved] = useState<readonly Under[]>(known?.columns ?? []);
  const guessing = known === undefined;
  const { data: lined = NONE } = useEngineQuery(
    ['lined up', keyOf(place), chosen],
    (engine) => engine.combining.linedUp(place, chosen),
    { keep: true },
  );
  useEffect(() => {
    if (!guessing) return;
    setMoved(
      lined.there.flatMap(({ id, columns }) =>
        columns.filter((one) => one.how === 'likeness').map(({ from, to }) => ({ table: id, from, to })),
      ),
    );
  }, [lined, guessing]);
  const under = (id: string, from: string) => moved.find((one) => one.table === id && one.from === from)?.to ?? from;
  const rows = [
    ...new Set([
      ...lined.here,
      ...lined.there.flatMap(({ id, columns }) => columns.map((one) => under(id, one.from)).filter((to) => to !== '')),
    ]),
  ];
  const put = (id: string, name: string, from: string) => {
    const others = moved.filter((one) => one.table !== id || (one.from !== from && one.to !== name));
    setMoved(from === '' || from === name ? others : [...others, { table: id, from, to: name }]);
  };
  const leaveOut = (name: string) =>
    setMoved([
      ...moved.filter((one) => one.to !== name),
      ...lined.there.flatMap(({ id, columns }) =>
        columns.filter((one) => under(id, one.from) === name).map(({ from }) => ({ table: id, from, to: '' })),
      ),
    ]);
  const nameOf = (id: string) => job.tables.find((one) => one.id === id)?.name ?? id;
  return (
    <>
      <div className={styles.chosen} role="group" aria-label="Tables to append">
        {others.map((one) => (
          <label key={one.id}>
            <Checkbox
              checked={chosen.includes(one.id)}
              onChange={() =>
                setChosen(chosen.includes(one.id) ? chosen.filter((id) => id !== one.id) : [...chosen, one.id])
              }
            />
            {one.name}
          </label>
        ))}
      </div>
      <div className={styles.gridPlace}>
        <table className={styles.lines} aria-label="Columns lined up">
          <thead>
            <tr>
              <th scope="col">{table.name}</th>
              {lined.there.map(({ id }) => (
                <th key={id} scope="col">
                  {nameOf(id)}
                </th>
              ))}
              <th aria-label="Leave out" />
            </tr>
          </thead>
          <tbody>
            {rows.map((name) => {
              const own = lined.here.includes(name);
              return (
                <tr key={name}>
                  <th scope="row" className={own ? undefined : styles.missing}>
                    {own ? name : `${name}: not here, blank`}
                  </th>
                  {lined.there.map(({ id, columns }) => {
                    const from = columns.find((one) => under(id, one.from) === name)?.from ?? '';
                    const like = from !== '' && from !== name;
                    return (
                      <td key={id} className={from === '' ? styles.missing : like ? styles.like : undefined}>
                        <Choose
                          label={`Column of ${nameOf(id)} under ${name}`}
                          value={from}
                          choices={[['', 'none, blank'], ...columns.map((one) => [one.from, one.from] as const)]}
                          onChange={(chosen) => put(id, name, chosen)}
                        />
                      </td>
                    );
                  })}
                  <td>
                    {!own && (
                      <button type="button" onClick={() => leaveOut(name)}>
                        leave out
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className={styles.nameColumn}>
        <span>Where each row comes from, in a column called</span>
        <TextBox label="no column" value={nameColumn} onChange={setNameColumn} />
      </div>
      <div className={styles.foot}>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={chosen.length === 0}
          onClick={() =>
            onKeep({
              kind: 'append',
              params: {
                tables: [...chosen],
                columns: moved.filter((one) => chosen.includes(one.table) && one.from !== one.to),
                nameColumn: nameColumn === '' ? null : nameColumn,
              },
            })
          }
        >
          Keep it
        </Button>
      </div>
    </>
  );
}
