import { EXPORT_FORMATS, type ExportFormat, ExportSpec, type FormatChoice } from '../../../core/index.ts';
import { Picker } from '../../parts/sentence/fields.tsx';

const UNREADABLE: FormatChoice = {
  param: 'unreadable',
  label: 'Unreadable cells',
  words: [
    ['text', 'unreadable cells as their text'],
    ['blank', 'unreadable cells blank'],
    ['stop', 'stop at unreadable cells'],
  ],
};

/** A format and what is to be chosen about it. */
export function ExportChoices({ spec, onChange }: { spec: ExportSpec; onChange(spec: ExportSpec): void }) {
  const choices = [...(EXPORT_FORMATS[spec.as].choices ?? []), UNREADABLE];
  return (
    <>
      <Picker<string>
        label="Format"
        value={spec.as}
        choices={Object.fromEntries(
          Object.entries(EXPORT_FORMATS).map(([as, { title, ending }]) => [as, `${title} (.${ending})`]),
        )}
        onChange={(as) => onChange(ExportSpec.parse({ as: as as ExportFormat, unreadable: spec.unreadable }))}
      />
      {choices.map(({ param, label, words, when }) => {
        if (when?.(spec) === false) return null;
        const value = (spec as Record<string, unknown>)[param];
        return (
          <Picker
            key={param}
            label={label}
            value={String(value)}
            choices={Object.fromEntries(words.map(([one, text]) => [String(one), text]))}
            onChange={(chosen) => {
              const [picked] = words.find(([one]) => String(one) === chosen)!;
              onChange({ ...spec, [param]: picked } as ExportSpec);
            }}
          />
        );
      })}
    </>
  );
}
