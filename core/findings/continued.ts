import { usedTexts } from '../values/cell-text.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** What a label says behind itself where its group goes on, as in 'North (continued)'. */
const BEHIND = /^(?<label>.*\S)(?<mark>\s*(?:\(\p{L}{2,}\.?\)|[-–,]\s*\p{L}{3,}\.?))$/u;

/** What a label says once the word for going on is taken off; undefined where there is none. */
export function continuedLabel(text: string): { label: string; mark: string } | undefined {
  const { label, mark } = BEHIND.exec(text)?.groups ?? {};
  return label === undefined || mark === undefined ? undefined : { label, mark };
}

/** Labels that stand again on the next page, with a word behind them. */
export const continued: Detector = {
  name: 'continued',
  find({ profile }) {
    const steps = profile.table.fields.flatMap((field) => {
      if (field.nameOrigin !== 'beside') return [];
      const texts = usedTexts(field.column);
      const again = [...texts].flatMap((text) => {
        const found = continuedLabel(text);
        return found !== undefined && texts.has(found.label) ? [found.mark] : [];
      });
      const [mark] = again;
      // Different words tell places apart: 'Hask (North)' beside 'Hask (South)'.
      if (mark === undefined || again.some((other) => other !== mark)) return [];
      return [
        {
          kind: 'replace',
          params: { columns: { by: 'names', names: [field.name] }, find: mark, with: '', how: 'part', exact: true },
          why: `${counted(again.length, 'label')} repeated with '${mark.trim()}' at the end`,
        },
      ];
    });
    return steps.length === 0 ? [] : [{ steps, weight: 0.8 }];
  },
};
