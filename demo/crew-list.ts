import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { columns, NAMES, truthText, two } from './lines.ts';
import { Random } from './random.ts';

const SHIPS = ['M.V. Orrin', 'M.V. Tolm', 'M.V. Skerrow Star'];

/** A crew list in blocks of lines, a heading for each ship, two pairs on some lines, notes that go on. */
export function crewList({
  seed = 20_310_607,
  ships = SHIPS,
}: Edition & { ships?: readonly string[] } = {}): DemoFiles {
  const random = new Random(seed);
  const lines = ['SKERROW FERRIES', 'CREW LIST AT 30 JUNE 2031', ''];
  const truth: (string | number | null)[][] = [['Ship', 'Name', 'Rank', 'Berth', 'Joined', 'Notes']];
  let berth = 1;
  for (const ship of ships) {
    lines.push(`Ship: ${ship}`, '');
    for (let k = random.whole(4, 6); k > 0; k--) {
      const [name, rank] = [random.pick(NAMES), random.pick(['Master', 'Mate', 'Engineer', 'Deckhand', 'Cook'])];
      const joined = `20${two(random.whole(18, 30))}-${two(random.whole(1, 12))}-${two(random.whole(1, 28))}`;
      const note = random.next() < 0.35 ? random.pick(['relieved at Ullin, back on Friday', 'first aid due']) : null;
      lines.push(`Name:   ${name}`, `Rank:   ${rank.padEnd(12)}  Berth: ${berth}`, `Joined: ${joined}`);
      if (note !== null) {
        const [first, second] = note.split(', ');
        lines.push(`Notes:  ${first}${second === undefined ? '' : ','}`);
        if (second !== undefined) lines.push(`        ${second}`);
      }
      lines.push('');
      truth.push([ship, name, rank, berth++, joined, note]);
    }
  }
  return {
    file: 'crew-list.txt',
    bytes: new TextEncoder().encode(`${lines.join('\r\n')}`),
    truth: truthText(truth),
    job: demoJob('crew-list', 'Crew list', 'crew-list', 'Crew', [
      ['read-blocks', { source: 'crew-list' }],
      ['set-aside', { pile: 'titles', rules: [{ test: 'filled', columns: columns('Other lines') }] }],
      ['fill', { columns: columns('Ship') }],
      ['set-aside', { pile: 'labels', rules: [{ test: 'blank', columns: columns('Name') }] }],
      ['keep-columns', { columns: columns(...truth[0]!.map(String)) }],
      [
        'set-types',
        {
          types: [
            { columns: columns('Joined'), type: 'date' },
            { columns: columns('Berth'), type: 'whole' },
          ],
        },
      ],
    ]),
  };
}
