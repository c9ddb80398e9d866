import type { ShownExample, ShownTable } from '../../../demo/run-example.ts';
import styles from './example.module.css';
import examples from './examples.json';

/** What a kind of step does to a few rows, as it was run when the application was made. */
export function StepExample({ kind }: { kind: string }) {
  const example = (examples as unknown as Record<string, ShownExample | undefined>)[kind];
  if (example === undefined) return null;
  return (
    <section className={styles.card} aria-label={`Example: ${example.headline}`}>
      <header>
        Example: <b>{example.headline}</b>
      </header>
      <Rows caption="Before" shown={example.before} />
      {example.other !== undefined && <Rows caption="The other table" shown={example.other} />}
      <Rows caption="After" shown={example.after} />
      {example.aside !== undefined && <Rows caption="Set aside" shown={example.aside} isAside />}
    </section>
  );
}

function Rows({ caption, shown, isAside = false }: { caption: string; shown: ShownTable; isAside?: boolean }) {
  return (
    <table className={isAside ? styles.aside : undefined}>
      <caption>{caption}</caption>
      <thead>
        <tr>
          {shown.names.map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.rows.map((row, r) => (
          <tr key={r}>
            {row.map((cell, c) => (
              <td key={shown.names[c]} className={/^-?[\d.]+$/.test(cell) ? styles.number : undefined}>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
