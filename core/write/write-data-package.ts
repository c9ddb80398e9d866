import { zipSync } from 'fflate';
import { blankMask } from '../table/column.ts';
import { type Field, uniqueName } from '../table/table.ts';
import type { Exported } from './exported.ts';
import { type ValueKind, valueKind } from './value-kinds.ts';
import { writeDelimited } from './write-delimited.ts';
import { ZIP_TIME } from './zip-time.ts';

/** Types of Table Schema (Frictionless Data, version 1). */
const SCHEMA_TYPES: Record<ValueKind, object> = {
  text: { type: 'string' },
  number: { type: 'number' },
  whole: { type: 'integer' },
  yesno: { type: 'boolean', trueValues: ['yes'], falseValues: ['no'] },
  date: { type: 'date' },
  time: { type: 'time', format: 'any' },
  datetime: { type: 'datetime', format: 'any' },
};

/** A zip of delimited texts with their description: names, types, keys, and which step brought each column. */
export function writeDataPackage(tables: readonly Exported[], name: string): Uint8Array<ArrayBuffer> {
  const taken = new Set<string>();
  const resources = tables.map((one) => ({ one, plain: uniqueName(plainName(one.name), taken).replaceAll(' ', '-') }));
  const description = {
    profile: 'tabular-data-package',
    name: plainName(name),
    title: name,
    resources: resources.map(({ one, plain }) => ({
      profile: 'tabular-data-resource',
      name: plain,
      title: one.name,
      ...(one.method === undefined ? {} : { description: one.method.map((step) => step.sentence).join('. ') }),
      path: `${plain}.csv`,
      format: 'csv',
      mediatype: 'text/csv',
      encoding: 'utf-8',
      dialect: { delimiter: ',', lineTerminator: '\r\n', quoteChar: '"', doubleQuote: true, header: true },
      schema: schemaOf(one),
    })),
  };
  const files: Record<string, Uint8Array> = {
    'datapackage.json': new TextEncoder().encode(`${JSON.stringify(description, null, 2)}\n`),
  };
  for (const { one, plain } of resources) files[`${plain}.csv`] = writeDelimited(one.table);
  return zipSync(files, { mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>;
}

function schemaOf({ table, key, brought }: Exported): object {
  const required = ({ name, column }: Field) => key?.includes(name) && !blankMask(column).includes(1);
  return {
    fields: table.fields.map((field) => {
      const by = brought?.get(field.name);
      return {
        name: field.name,
        ...SCHEMA_TYPES[valueKind(field)],
        ...(by === undefined ? {} : { description: `Brought by: ${by}` }),
        ...(required(field) ? { constraints: { required: true } } : {}),
      };
    }),
    missingValues: [''],
    ...(key === undefined ? {} : { primaryKey: key }),
  };
}

/** Lower case, digits, '.', '-' and '_' only, as the specification asks of names. */
function plainName(name: string): string {
  return (
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9._-]+/g, '-')
      .replace(/^[-.]+|[-.]+$/g, '') || 'table'
  );
}
