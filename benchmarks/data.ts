/** Invented data of any size, the same on every machine: 4 text columns and 12 of numbers with blanks. */
import { Random } from '../demo/random.ts';

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const;
const PORTS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'];

export interface Data {
  rows: number;
  /** code (different in every row), port, route, packed (three pieces); null is blank. */
  text: Record<'code' | 'port' | 'route' | 'packed', (string | null)[]>;
  numbers: Record<(typeof MONTHS)[number], (number | null)[]>;
  /** Numbers as a print-out writes them. */
  written: string[];
  /** Keys to join to, with a value each. */
  keys: { packed: string[]; fare: number[] };
}

export function makeData(rows: number): Data {
  const random = new Random(7);
  const pieces = Array.from({ length: 40_000 }, (_, k) => `H${k % 97}-${String(k % 1440).padStart(4, '0')}-${k}`);
  const text: Data['text'] = { code: [], port: [], route: [], packed: [] };
  const numbers = Object.fromEntries(MONTHS.map((month) => [month, new Array<number | null>(rows)])) as Data['numbers'];
  const written: string[] = [];
  for (let r = 0; r < rows; r++) {
    text.code.push(`B${String(r).padStart(7, '0')}`);
    text.port.push(r % 50 === 0 ? PORTS[(r / 50) % 4]! : null);
    text.route.push(`Route ${random.whole(1, 97)}`);
    text.packed.push(pieces[random.whole(0, pieces.length - 1)]!);
    for (const month of MONTHS) numbers[month][r] = random.next() < 0.05 ? null : random.whole(0, 5000);
    written.push(`${random.whole(1, 999)},${String(random.whole(0, 999)).padStart(3, '0')}.${random.whole(10, 99)}`);
  }
  return { rows, text, numbers, written, keys: { packed: pieces, fare: pieces.map((_, k) => k / 4) } };
}
