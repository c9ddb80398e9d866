import { readDelimited } from './read-delimited.ts';
import type { ReadKind, Source } from './read-kind.ts';
import { readSheets } from './read-sheets.ts';
import { type SourceFormat, sniff } from './sniff.ts';

export type AnyReadKind = ReadKind<{ source: string }>;

function listed<P extends { source: string }>(kind: ReadKind<P>): AnyReadKind {
  return kind as unknown as AnyReadKind;
}

export const READINGS: ReadonlyMap<string, AnyReadKind> = new Map(
  [listed(readSheets), listed(readDelimited)].map((kind) => [kind.kind, kind]),
);

const READING_OF_FORMAT: Record<SourceFormat, string> = { workbook: 'read-sheets', delimited: 'read-delimited' };

/**
 * The reading that suits a source, with its params guessed.
 * @throws ReadFailure
 */
export function guessReading(sourceId: string, source: Source): { kind: string; params: { source: string } } {
  const kind = READING_OF_FORMAT[sniff(source.bytes, source.name)];
  return { kind, params: READINGS.get(kind)!.start(sourceId, source) };
}
