import { type DemoFiles, demoJob, type Edition } from './demo-job.ts';
import { PORTS } from './quay-returns.ts';
import { Random } from './random.ts';

/** A log of the gates: bracketed times, quoted sailings, counts in words, and a few lines of another kind. */
export function gateLog({ seed = 20_310_603, quays = PORTS }: Edition = {}): DemoFiles {
  const random = new Random(seed);
  const lines: string[] = [];
  const truth: string[] = ['Date,Time,Port,Gate,Event,Sailing,Foot,Cars'];
  let seconds = 6 * 3600;
  for (let k = 0; k < 140; k++) {
    seconds += random.whole(5, 600);
    const day = 2 + Math.floor(seconds / 86_400);
    const clock = seconds % 86_400;
    const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
    const [date, time] = [`2031-06-${two(day)}`, `${two(clock / 3600)}:${two((clock % 3600) / 60)}:${two(clock % 60)}`];
    if (random.next() < 0.05) {
      lines.push(random.next() < 0.5 ? '-- clock set by radio --' : '    retry in 30 s');
      continue;
    }
    const port = random.pick(quays);
    const event = random.pick(['barrier up', 'barrier down', 'queue closed']);
    const sailing = `${port[0]}${random.pick(quays)[0]}-${two(random.whole(6, 22))}${random.pick(['00', '10', '25', '40'])}`;
    const [gate, foot, cars] = [random.whole(1, 3), random.whole(0, 220), random.whole(0, 60)];
    lines.push(`[${date} ${time}] ${port} gate ${gate}: ${event} "${sailing}" (foot ${foot}, cars ${cars})`);
    truth.push(
      [date, time.endsWith(':00') ? time.slice(0, 5) : time, port, gate, event, sailing, foot, cars].join(','),
    );
  }
  return {
    file: 'gate.log',
    bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
    truth: `${truth.join('\r\n')}\r\n`,
    job: demoJob('gate-log', 'Gate log', 'gate-log', 'Events', [
      [
        'read-pattern',
        {
          source: 'gate-log',
          template: '[{Date} {Time}] {Port} gate {Gate}: {Event} "{Sailing}" (foot {Foot}, cars {Cars})',
        },
      ],
      ['set-aside', { pile: 'notes', rules: [{ test: 'filled', columns: { by: 'names', names: ['Line'] } }] }],
      ['drop-columns', { columns: { by: 'names', names: ['Line'] } }],
      [
        'set-types',
        {
          types: [
            { columns: { by: 'names', names: ['Date'] }, type: 'date' },
            { columns: { by: 'names', names: ['Time'] }, type: 'time' },
            { columns: { by: 'names', names: ['Gate', 'Foot', 'Cars'] }, type: 'whole' },
          ],
        },
      ],
    ]),
  };
}
