import { beforeEach, describe, expect, test } from 'vitest';
import { dialogAs } from './view/asked.ts';
import { selectedColumns } from './view/selection.ts';
import { useViewStore } from './view-store.ts';

const view = () => useViewStore.getState();

beforeEach(() => view().refresh());

describe('what is looked at on the bench', () => {
  test('one thing is selected at a time', () => {
    view().select({ of: 'columns', names: ['Port', 'Year'] });
    expect(selectedColumns(view())).toEqual(['Port', 'Year']);
    view().select({ of: 'cell', row: 2, column: 1 });
    expect(selectedColumns(view())).toEqual([]);
    expect(view().selection).toEqual({ of: 'cell', row: 2, column: 1 });
  });

  test('another step leaves nothing selected, lit, told or tried', () => {
    view().select({ of: 'range', from: { row: 0, column: 0 }, to: { row: 1, column: 1 } });
    view().light({ litTable: [{ row: 0, column: 0, role: 'value' }], saying: { of: '12', text: 'is one cell' } });
    view().lightRows([{ part: 0, row: 3 }]);
    view().notice({ of: 'after', cells: [], goTo: { row: 0, column: 0 } });
    view().tryOut({ label: 'Sort', at: 1 });
    view().showStep(2);
    expect(view()).toMatchObject({
      step: 2,
      selection: undefined,
      litTable: [],
      litReport: [],
      litRows: [],
      saying: undefined,
      noticed: undefined,
      preview: undefined,
    });
  });

  test('another table begins again; a dialog is closed with it', () => {
    view().ask({ as: 'combine', kind: 'join' });
    view().find(true);
    view().glanceAt('Port');
    view().showTable('t2', { part: 3 });
    expect(view()).toMatchObject({ table: 't2', step: undefined, part: 3, dialog: undefined, finding: false });
    expect(view().glance).toBeUndefined();
  });

  test('going to the same cell twice is two journeys; a cell of the report brings its part along', () => {
    view().goTo({ on: 'report', part: 2, row: 5, column: 0 });
    const first = view().journey;
    expect(view().part).toBe(2);
    view().goTo({ on: 'report', part: 2, row: 5, column: 0 });
    expect(view().journey).toEqual(first);
    expect(view().journey).not.toBe(first);
  });

  test('a dialog is found under its own name only', () => {
    view().ask({ as: 'combine', kind: 'append', step: 1 });
    expect(dialogAs('combine')(view())).toMatchObject({ kind: 'append', step: 1 });
    expect(dialogAs('many files')(view())).toBeUndefined();
  });
});
