import { MARK } from '../glance/table-profile.ts';
import { displayedText, type ReportPart } from '../read/report.ts';
import { type Column, Tag } from '../table/column.ts';
import { cellText } from '../values/cell-text.ts';
import { type NumberForm, readNumber } from '../values/number-text.ts';

/** A figure as it stands in a report. */
export interface Figure {
  value: number;
  /** What its last shown digit counts: it may be rounded by half of that. 0 where it stands exactly. */
  unit: number;
}

/** No figure with a footnote's mark is longer. */
const MAX_MARKED_LENGTH = 40;

/** A figure without grouping, signs or units, as nearly all are. */
const PLAIN = /^\d{1,15}(?:\.(\d{1,9}))?$/;

const SUFFIX: Record<string, number> = { k: 1e3, m: 1e6, bn: 1e9 };

/** The figure in a text, or undefined where it holds none. */
export function figureOfText(text: string, form: NumberForm): Figure | undefined {
  const plain = form.decimal === '.' ? PLAIN.exec(text) : null;
  if (plain !== null) return { value: Number(text), unit: plain[1] === undefined ? 0 : 10 ** -plain[1].length };
  if (!/\d/.test(text)) return undefined;
  const { value } = readNumber(text, form);
  if (!Number.isNaN(value)) return { value, unit: unitOf(text, form.decimal) };
  // A footnote's mark behind a figure takes nothing from it.
  if (text.length > MAX_MARKED_LENGTH) return undefined;
  const bare = text.trim().replace(MARK, '');
  return bare === text.trim() || bare === '' ? undefined : figureOfText(bare, form);
}

/** What the last shown digit counts; plain whole numbers are taken to stand exactly. */
function unitOf(text: string, decimal: string): number {
  const suffix = /(?<=[\d\s])(k|m|bn)\b/i.exec(text.trim())?.[1]?.toLowerCase();
  const scale = (suffix === undefined ? 1 : SUFFIX[suffix]!) * (text.includes('%') ? 0.01 : 1);
  const at = text.lastIndexOf(decimal);
  const decimals = at < 0 ? 0 : (/^\d*/.exec(text.slice(at + 1))?.[0].length ?? 0);
  return decimals === 0 && scale === 1 ? 0 : scale * 10 ** -decimals;
}

/** The figure of a raw cell; a stored number may be shown rounded. */
export function figureAt(
  column: Column,
  row: number,
  form: NumberForm,
  shown?: { part: ReportPart; row: number; column: number },
): Figure | undefined {
  const stored = storedNumber(column, row);
  if (stored !== undefined) {
    if (shown === undefined) return { value: stored, unit: 0 };
    const text = displayedText(shown.part, shown.row, shown.column);
    const seen = text === null ? undefined : figureOfText(text, { ...form, decimal: '.' });
    // A display that says something else (a date, a code) says nothing of rounding.
    const unit = seen === undefined || Math.abs(seen.value - stored) > Math.max(seen.unit, 0.5) ? 0 : seen.unit;
    return {
      value: stored,
      unit: seen !== undefined && seen.value !== stored ? Math.max(unit, Number.isInteger(seen.value) ? 1 : 0) : 0,
    };
  }
  const text = cellText(column, row);
  return text === null ? undefined : figureOfText(text, form);
}

function storedNumber(column: Column, row: number): number | undefined {
  if (column.type === 'received') return column.tags[row] === Tag.number ? column.values[row] : undefined;
  if (column.type !== 'number' && column.type !== 'whole') return undefined;
  const value = column.values[row]!;
  return Number.isNaN(value) ? undefined : value;
}
