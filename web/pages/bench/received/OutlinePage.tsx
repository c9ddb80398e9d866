import type { OutlineNode } from '../../../../core/index.ts';
import { useEngineQuery } from '../../../stores/use-engine-query.ts';
import styles from './received.module.css';
import type { Reading } from './use-reading.ts';

/** The paths of nested text; the list whose items become rows is chosen here. */
export function OutlinePage({ reading, fingerprint }: { reading: Reading; fingerprint: string }) {
  const { source } = reading;
  const { data, error } = useEngineQuery(
    ['outline', source, fingerprint],
    (engine) => engine.sources.outline(source),
    // What is wrong with the file is said where it is read.
    { shown: true },
  );
  const nodes = error === undefined ? data : [];
  if (nodes === undefined) return <p className={styles.hint}>Reading the paths …</p>;
  const rows = String(reading.params['rows'] ?? '$');
  const choose = (path: string) => reading.change('choose the list whose items are rows', { rows: path });
  return (
    <div className={styles.outline} role="tree" aria-label="Outline">
      {nodes.map((node) => (
        <OutlineRow key={node.path} node={node} rows={rows} onChoose={() => choose(`${node.path}[*]`)} />
      ))}
      {nodes.length === 0 && <p className={styles.hint}>Nothing is nested here.</p>}
    </div>
  );
}

function OutlineRow({ node, rows, onChoose }: { node: OutlineNode; rows: string; onChoose(): void }) {
  const own = `${node.path}[*]`;
  const chosen = rows === own;
  const onTheWay = rows.startsWith(`${own}.`) || rows.startsWith(`${own}[`);
  const example = node.items?.objects ? '' : node.example;
  const role = chosen ? 'rows' : onTheWay ? 'opened' : undefined;
  return (
    <div
      role="treeitem"
      aria-level={node.depth + 1}
      aria-selected={chosen}
      tabIndex={-1}
      className={`${styles.node} ${role === undefined ? '' : styles.opened}`}
      style={{ paddingLeft: 12 + node.depth * 18 }}
    >
      <span className={example === '' ? styles.whole : undefined} title={`${node.path}: ${kindText(node)}`}>
        <span className={styles.nodeName}>
          {node.name === '' ? 'the whole' : node.name}
          {node.items !== undefined && ' [ ]'}
        </span>
        <span className={styles.nodeKind}>
          {kindText(node)}
          {node.share < 1 && <b> · in {percent(node.share)}</b>}
        </span>
      </span>
      {example !== '' && (
        <span className={styles.example} title={node.example}>
          {example}
        </span>
      )}
      {node.items === undefined ? (
        <span className={styles.becomes}>{stands(node, rows) ? 'a column' : ''}</span>
      ) : (
        <button type="button" aria-pressed={chosen} onClick={onChoose} disabled={chosen}>
          {role ?? 'use as rows'}
        </button>
      )}
    </div>
  );
}

/** Its field becomes a column: it is reached through lists on the way alone. */
function stands(node: OutlineNode, rows: string): boolean {
  if (node.kinds.every((kind) => kind === 'object')) return false;
  const lists = node.path.slice(0, node.path.lastIndexOf('[*]') + 3);
  return !node.path.includes('[*]') || rows.startsWith(lists);
}

function kindText({ kinds, items }: OutlineNode): string {
  if (items === undefined) return kinds.join(' or ');
  const count = items.least === items.most ? String(items.most) : `${items.least} to ${items.most}`;
  const other = kinds.filter((kind) => kind !== 'list');
  return `list · ${count} items${items.objects ? '' : ' of plain values'}${other.length > 0 ? ` · or ${other.join(' or ')}` : ''}`;
}

function percent(share: number): string {
  const whole = Math.round(share * 100);
  return whole === 0 ? 'under 1%' : whole === 100 ? 'over 99%' : `${whole}%`;
}
