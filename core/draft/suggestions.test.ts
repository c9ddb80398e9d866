import { describe, expect, test } from 'vitest';
import { LABEL_NAMES, labelWords } from '../findings/label-words.ts';
import { profileTable } from '../glance/table-profile.ts';
import { columnLetters, draftsOf, seenFor, seenIn, type Table, tidyTable } from '../index.ts';

const table = (...lines: string[]) =>
  tidyTable({ name: 'table.csv', bytes: new TextEncoder().encode(`${lines.join('\n')}\n`) })!;
/** As a reading gives it, without names. */
const unnamed = (of: Table): Table => ({
  ...of,
  fields: of.fields.map((field, k) => ({ ...field, name: columnLetters(k), nameOrigin: 'position' as const })),
});
const seen = (of: Table) => seenIn(of, { raw: unnamed(of), done: [] });

describe('what is seen in any table', () => {
  test('rows that stand twice, and columns that say nothing', () => {
    const found = seen(
      table(
        'Quay,Route,Foot,Note,Year',
        'Hask,R1,5,,2031',
        'Ullin,R2,7,,2031',
        'Hask,R1,5,,2031',
        'Tarve,R3,9,,2031',
        'Skene,R4,2,,2031',
      ),
    );
    const texts = Object.fromEntries(found.map(({ by, text }) => [by, text]));
    expect(texts['duplicates']).toBe('1 row appears more than once, identical in every column');
    expect(texts['blank-columns']).toBe('Column Note is empty');
    expect(texts['constant-columns']).toBe('Year (2031) says the same in every row');
  });

  test('marks behind figures, keys that are said once, totals left in: at most five, in the order of the work', () => {
    const found = seen(
      table('Quay,Ship,Foot', 'Hask,Orrin,5*', ',Ness,7', ',Tolm,1', 'Ullin,Orrin,2', ',Ness,9*', 'Total,,24'),
    );
    expect(found.length).toBeLessThanOrEqual(5);
    const by = found.map((one) => one.by);
    for (const name of ['totals', 'keys', 'marks']) expect(by).toContain(name);
    expect(by.indexOf('totals')).toBeLessThan(by.indexOf('marks'));
  });

  test('what was dismissed is not shown again', () => {
    const of = table('Quay,Foot,Note', 'Hask,5,', 'Ullin,7,');
    const [blank] = seen(of).filter((one) => one.by === 'blank-columns');
    const again = seenIn(of, { raw: of, done: [] }, [blank!.steps[0]!]);
    expect(again.map((one) => one.by)).not.toContain('blank-columns');
  });

  test('nothing is seen in a table that is tidy', () => {
    const report = { name: 'r.csv', bytes: new TextEncoder().encode('Quay,Foot\nHask,5\nUllin,7\nTarve,9\n') };
    const [draft] = draftsOf('s', report, { progress: () => undefined });
    const of = draft!.run.steps.at(-1)!.table;
    expect(seenIn(of, { raw: draft!.run.steps[0]!.table, done: draft!.steps.slice(1).map((one) => one.kind) })).toEqual(
      [],
    );
  });

  test('a kind of step gets the columns that the data suggest: years, not all but the first', () => {
    const of = table('Quay,Ship,2029,2030,2031', 'Hask,Orrin,5,6,7', 'Ullin,Ness,7,8,9', 'Tarve,Tolm,1,2,3');
    const params = seenFor(of, { raw: of, done: [] }, 'unpivot') as { columns: { by: string; names?: string[] } };
    expect(params.columns).toEqual({ by: 'year' });
    expect(seenFor(of, { raw: of, done: [] }, 'remove-duplicates')).toBeUndefined();
  });
});

describe('labels that say their own name first', () => {
  const labelled = (name: string, ...texts: string[]) => {
    const of = table(`Quay,${name}`, ...texts.map((text, k) => `Q${k},${text}`));
    return {
      ...of,
      fields: of.fields.map((field) => (field.name === name ? { ...field, nameOrigin: 'beside' as const } : field)),
    };
  };
  const found = (of: Table) => labelWords.find({ profile: profileTable(of) } as never);

  test('in capitals they are a name and a value', () => {
    for (const name of LABEL_NAMES)
      expect(found(labelled(name, 'PORT HASK', 'PORT ULLIN'))[0]!.steps[0]!.params).toMatchObject({
        column: name,
        into: ['', 'PORT'],
      });
  });

  test('elsewhere a first word that they share is part of the name', () => {
    expect(found(labelled('Group', 'Port Hask', 'Port Ullin'))).toEqual([]);
    expect(found(labelled('Group', 'PORT HASK', 'QUAY ULLIN'))).toEqual([]);
    expect(found(labelled('Group', 'PORT HASK', 'PORT HASK'))).toEqual([]);
    expect(found(labelled('Name', 'PORT HASK', 'PORT ULLIN'))).toEqual([]);
  });
});
