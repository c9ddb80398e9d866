import { pageOfRow } from '../read/print.ts';
import type { MethodRun } from '../run/run.ts';
import { NAME } from '../table/origin.ts';
import { columnLetters } from '../table/table.ts';
import type { ReportPlace } from './totals-sheet.ts';

/** The address of a place of a report, as its readers would say it. */
export function placeText(run: MethodRun, place: ReportPlace): string {
  const reading = readingOf(run, place.source);
  const part = reading?.report.parts[place.part];
  if (part === undefined) return 'another report';
  if (place.row === NAME) return `the name of ${part.name}`;
  if (reading!.report.format === 'text') {
    const file = reading!.report.parts.length > 1 ? `${part.name}, ` : '';
    if (part.print !== undefined) {
      const page = pageOfRow(part.print, place.row);
      return `${file}page ${page.number}, line ${place.row - page.first + 1}, cell ${place.column + 1}`;
    }
    return `${file}line ${(part.lines?.[place.row] ?? place.row) + 1}, cell ${place.column + 1}`;
  }
  return `${part.name}!${columnLetters(place.column)}${place.row + 1}`;
}

function readingOf(run: MethodRun, source: string): NonNullable<MethodRun['steps'][number]['reading']> | undefined {
  for (const step of run.steps) {
    if (step.reading?.source === source) return step.reading;
    for (const one of [step, ...(step.inner ?? [])]) {
      for (const other of one.others) {
        const found = readingOf(other.run, source);
        if (found !== undefined) return found;
      }
    }
  }
  return undefined;
}
