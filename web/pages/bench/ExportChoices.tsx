import {
  type DelimitedSpec,
  EXPORT_FORMATS,
  type ExportFormat,
  ExportSpec,
  TEXT_ENCODINGS,
} from '../../../core/index.ts';
import { Picker } from '../../parts/sentence/fields.tsx';

const DELIMITERS = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** A format and what is to be chosen about it. */
export function ExportChoices({ spec, onChange }: { spec: ExportSpec; onChange(spec: ExportSpec): void }) {
  const put = (
    change: Partial<DelimitedSpec> | { layout: 'rows' | 'columns' } | { method: boolean } | { piles: boolean },
  ) => onChange({ ...spec, ...change } as ExportSpec);
  return (
    <>
      <Picker<ExportFormat>
        label="Format"
        value={spec.as}
        choices={
          Object.fromEntries(
            Object.entries(EXPORT_FORMATS).map(([as, { title, ending }]) => [as, `${title} (.${ending})`]),
          ) as Record<ExportFormat, string>
        }
        onChange={(as) => onChange(ExportSpec.parse({ as, unreadable: spec.unreadable }))}
      />
      {spec.as === 'csv' && (
        <>
          <Picker
            label="Delimiter"
            value={spec.delimiter}
            choices={DELIMITERS}
            onChange={(delimiter) => put({ delimiter })}
          />
          <Picker
            label="Decimal mark"
            value={spec.decimal}
            choices={{ '.': 'decimal point', ',': 'decimal comma' }}
            onChange={(decimal) => put({ decimal })}
          />
          <Picker
            label="Quoting"
            value={spec.quoting}
            choices={{ needed: 'quotes where they are needed', all: 'quotes around every cell' }}
            onChange={(quoting) => put({ quoting })}
          />
          <Picker
            label="Line ends"
            value={spec.lineEnd}
            choices={{ crlf: 'line ends CR LF', lf: 'line ends LF' }}
            onChange={(lineEnd) => put({ lineEnd })}
          />
          <Picker
            label="Encoding"
            value={spec.encoding}
            choices={TEXT_ENCODINGS}
            onChange={(encoding) => put({ encoding })}
          />
          {spec.encoding.startsWith('utf') && (
            <Picker
              label="Byte order mark"
              value={String(spec.bom)}
              choices={{ false: 'no byte order mark', true: 'with a byte order mark' }}
              onChange={(text) => put({ bom: text === 'true' })}
            />
          )}
          <Picker
            label="Formulas"
            value={String(spec.guard)}
            choices={{ false: 'texts as they are', true: 'guard texts that a spreadsheet would compute' }}
            onChange={(text) => put({ guard: text === 'true' })}
          />
        </>
      )}
      {(spec.as === 'xlsx' || spec.as === 'ods') && (
        <>
          <Picker
            label="Method"
            value={String(spec.method)}
            choices={{ false: 'no sheet for the method', true: 'with a sheet that says the method' }}
            onChange={(text) => put({ method: text === 'true' })}
          />
          <Picker
            label="Piles"
            value={String(spec.piles)}
            choices={{ false: 'no sheets for the piles', true: 'with a sheet for each pile' }}
            onChange={(text) => put({ piles: text === 'true' })}
          />
        </>
      )}
      {spec.as === 'json' && (
        <Picker
          label="Layout"
          value={spec.layout}
          choices={{ rows: 'an object for each row', columns: 'a list for each column' }}
          onChange={(layout) => put({ layout })}
        />
      )}
      <Picker
        label="Unreadable cells"
        value={spec.unreadable}
        choices={{
          text: 'unreadable cells as their text',
          blank: 'unreadable cells blank',
          stop: 'stop at unreadable cells',
        }}
        onChange={(unreadable) => onChange({ ...spec, unreadable })}
      />
    </>
  );
}
