import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, truthText } from './lines.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

const SEASONS = ['Summer', 'Winter'] as const;
const TICKETS = ['Foot', 'Bike', 'Car'] as const;

interface FaresEdition extends Edition {
  seasons?: readonly string[];
  tickets?: readonly string[];
}

/** A page of tables, one for each quay: a header of two rows with spans, routes that span their tickets. */
export function faresPage({
  seed = 20_310_608,
  quays = PORTS,
  seasons = SEASONS,
  tickets = TICKETS,
}: FaresEdition = {}): DemoFiles {
  const random = new Random(seed);
  const truth: (string | number | null)[][] = [['Quay', 'To', 'Ticket', 'Season', 'Single', 'Return']];
  const money = (pence: number) => `£${(pence / 100).toFixed(2)}`;
  const tables = quays.map((port) => {
    const rows = quays
      .filter((other) => other !== port)
      .flatMap((to) => {
        const base = random.whole(40, 90) * 10;
        return tickets.map((ticket, t) => {
          const cells = seasons.flatMap((season, s) => {
            const [single, back] = [1, 1.8].map(
              (way) => Math.round((base * (t * t + 1) * (1 - 0.2 * s) * way) / 10) * 10,
            );
            truth.push([port, to, ticket, season, single! / 100, back! / 100]);
            return [`<td>${money(single!)}</td>`, `<td>${money(back!)}</td>`];
          });
          const route = t === 0 ? `<th rowspan="${tickets.length}">${to}</th>` : '';
          return `  <tr>${route}<td>${ticket}</td>${cells.join('')}</tr>`;
        });
      });
    return [
      `<h2>${port}</h2>`,
      '<table>',
      `  <tr><th rowspan="2">To</th><th rowspan="2">Ticket</th>${seasons.map((season) => `<th colspan="2">${season}</th>`).join('')}</tr>`,
      `  <tr>${seasons.map(() => '<th>Single</th><th>Return</th>').join('')}</tr>`,
      ...rows,
      '</table>',
    ].join('\n');
  });
  const page = `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>Fares</title></head>\n<body>\n<h1>Fares from each quay</h1>\n<p>In pounds; children half.</p>\n${tables.join('\n')}\n<p>Skerrow Ferries</p>\n</body>\n</html>\n`;
  return {
    file: 'fares.html',
    bytes: new TextEncoder().encode(page),
    truth: truthText(truth),
    job: demoJob('fares-page', 'Fares on a web page', 'fares', 'Fares', [
      ['read-sheets', { source: 'fares', nameColumn: 'Quay', merged: 'all' }],
      ['header-from-rows', { rows: 2, within: 'Quay', join: ' / ' }],
      [
        'unpivot',
        {
          columns: { by: 'all-but', names: ['Quay', 'To', 'Ticket'] },
          split: ' / ',
          parts: [{ as: 'column', name: 'Season' }, { as: 'each' }],
        },
      ],
      ['set-types', { types: [{ columns: columns('Single', 'Return'), type: 'number' }] }],
    ]),
  };
}
