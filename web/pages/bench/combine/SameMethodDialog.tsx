import Button from '@mui/material/Button';
import { useState } from 'react';
import { type Job, type JobStep, type JobTable, keepAsSet, USE_SET } from '../../../../core/index.ts';
import { Sheet } from '../../../parts/Sheet.tsx';
import { NamesEditor } from '../../../parts/sentence/ColumnSetEditor.tsx';
import { Picker } from '../../../parts/sentence/fields.tsx';
import { freeName, newId, newStep, useJobStore } from '../../../stores/job-store.ts';
import { useEngineQuery } from '../../../stores/use-engine-query.ts';
import styles from './combine.module.css';

const NONE: readonly string[] = [];

/** Runs the steps of a table over other sheets or sources, as they are or as copies. */
export function SameMethodDialog({ table, onClose }: { table: JobTable; onClose(): void }) {
  const job = useJobStore((store) => store.job)!;
  const edit = useJobStore((store) => store.edit);
  const reading = table.steps[0]!;
  const own = String(reading.params['source'] ?? '');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [as, setAs] = useState<'set' | 'copy'>('set');
  const { data: names = NONE } = useEngineQuery(['names', own], (engine) => engine.sources.namesIn(own));
  const sheets = names.length > 1 && reading.kind === 'read-sheets' ? names : NONE;
  const others = job.sources.filter((source) => source.id !== own);
  const take = () => {
    edit('the same method on others', (before) => spread(before, table, reading, chosen, others, as));
    onClose();
  };
  return (
    <Sheet
      title={`The method of ${table.name} on others`}
      width={460}
      onClose={onClose}
      acts={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button variant="contained" disabled={chosen.length === 0} onClick={take}>
            {chosen.length > 1 ? `Make ${chosen.length} tables` : 'Make the table'}
          </Button>
        </>
      }
    >
      {sheets.length === 0 && others.length === 0 ? (
        <p>There is no other sheet or source yet. Drop another file onto the bench, and add it to this job.</p>
      ) : (
        <NamesEditor names={[...sheets, ...others.map((one) => one.name)]} value={chosen} onChange={setChosen} />
      )}
      <div className={styles.choice}>
        <Picker
          label="How the steps are used"
          value={as}
          choices={{ set: 'the same steps for all: a change changes all', copy: 'a copy of the steps for each' }}
          onChange={(way) => setAs(way === 'copy' ? 'copy' : 'set')}
        />
      </div>
    </Sheet>
  );
}

/** The job with a table for each chosen sheet or source, all with the steps of one table. */
function spread(
  job: Job,
  table: JobTable,
  reading: JobStep,
  chosen: readonly string[],
  others: Job['sources'],
  as: 'set' | 'copy',
): Job {
  const later = table.steps.slice(1);
  const shared = as === 'set' && later.length > 0 && !(later.length === 1 && later[0]!.kind === USE_SET);
  let next = shared
    ? keepAsSet(
        job,
        table.id,
        later.map((step) => step.id),
        { set: newId(), step: newId() },
        `Steps of ${table.name}`,
      )
    : job;
  const steps = next.tables.find((one) => one.id === table.id)!.steps.slice(1);
  for (const name of chosen) {
    const source = others.find((one) => one.name === name);
    const params =
      source === undefined
        ? { ...reading.params, sheets: { by: 'names', names: [name] } }
        : { ...reading.params, source: source.id };
    const made: JobTable = {
      id: newId(),
      name: freeName(name, next),
      steps: [newStep({ kind: reading.kind, params }), ...steps.map(({ id: _, ...step }) => newStep(step))],
    };
    next = { ...next, tables: [...next.tables, made] };
  }
  return next;
}
