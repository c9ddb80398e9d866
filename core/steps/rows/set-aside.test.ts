import { describe, expect, test } from 'vitest';
import { makeTable, type Rule, textColumn } from '../../index.ts';
import { StepFailure } from '../../kinds/step.ts';
import { ruleText } from '../../rules/rules.ts';
import { cellsOf, quiet } from '../../test-support.ts';
import { setAside } from './set-aside.ts';

const table = {
  ...makeTable({
    Port: textColumn(['Hask', 'Hask', 'Hask', 'Hask', 'Ullin', 'Ullin', 'Ullin']),
    A: textColumn(['Title', '07:10', 'Route TOTAL ', null, 'Title', '08:00', 'a note']),
    B: textColumn([null, '5', '5', null, null, '7', null]),
  }),
};
table.fields[0]!.nameOrigin = 'beside';

const away = (...rules: Rule[]) => {
  const { aside } = setAside.run(table, { pile: 'others', rules }, quiet);
  return [...(aside[0]?.rows ?? [])];
};

describe('set aside', () => {
  test.each<[Rule, number[]]>([
    [{ test: 'empty' }, [3]],
    [{ test: 'only', columns: ['A'] }, [0, 4, 6]],
    [{ test: 'blank', columns: { by: 'names', names: ['B'] } }, [0, 3, 4, 6]],
    [{ test: 'filled', columns: { by: 'all-but', names: ['Port'] } }, [1, 2, 5]],
    [{ test: 'equals', column: 'A', text: 'title' }, [0, 4]],
    [{ test: 'equals', column: 'A', text: 'title', exact: true }, []],
    [{ test: 'starts', column: 'A', text: '0' }, [1, 5]],
    [{ test: 'ends', column: 'A', text: 'total' }, [2]],
    [{ test: 'contains', column: 'A', text: 'NOT' }, [6]],
    [{ test: 'matches', column: 'A', text: '^\\d\\d:\\d\\d$' }, [1, 5]],
    [{ test: 'above-first', row: { test: 'starts', column: 'A', text: '0' } }, [0]],
    [{ test: 'above-first', row: { test: 'starts', column: 'A', text: '0' }, within: 'Port' }, [0, 4]],
    [{ test: 'below-last', row: { test: 'starts', column: 'A', text: '0' }, within: 'Port' }, [2, 3, 6]],
    [{ test: 'below-last', row: { test: 'starts', column: 'A', text: 'nowhere' } }, []],
  ])('%j takes rows %j', (rule, rows) => {
    expect(away(rule)).toEqual(rows);
    expect(ruleText(rule)).not.toBe('');
  });

  test('any of several rules; the rest keep their order and trace to where they stood', () => {
    const result = setAside.run(
      table,
      { pile: 'totals', rules: [{ test: 'empty' }, { test: 'ends', column: 'A', text: 'total' }] },
      quiet,
    );
    expect(result.aside).toEqual([{ name: 'totals', mark: 'total', rows: Int32Array.from([2, 3]) }]);
    expect(cellsOf(result.table).map((row) => row[1])).toEqual(['Title', '07:10', 'Title', '08:00', 'a note']);
    expect(result.origin[1]!.cells[0]!.rows).toEqual({ kind: 'take', rows: Int32Array.from([0, 1, 4, 5, 6]) });
  });

  test('a rule that no row follows says so', () => {
    const result = setAside.run(table, { pile: 'others', rules: [{ test: 'equals', column: 'A', text: 'x' }] }, quiet);
    expect(result.notices[0]).toMatchObject({ severity: 'warning' });
    expect(result.table).toBe(table);
  });

  test('a column that is gone stops the step and names the most alike', () => {
    const run = () =>
      setAside.run(table, { pile: 'others', rules: [{ test: 'equals', column: 'Prot', text: 'x' }] }, quiet);
    expect(run).toThrow(StepFailure);
    expect(run).toThrow('There is no column Prot. The columns are Port, A, B. Did you mean Port?');
  });

  test('a broken pattern stops the step and is repeated', () => {
    expect(() => away({ test: 'matches', column: 'A', text: '(' })).toThrow('The pattern ( cannot be used');
  });
});
