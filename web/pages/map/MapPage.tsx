import Add from '@mui/icons-material/Add';
import FitScreen from '@mui/icons-material/FitScreen';
import Remove from '@mui/icons-material/Remove';
import IconButton from '@mui/material/IconButton';
import { useEffect, useMemo, useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import { counted, EXPORT_FORMATS, fullTables, grouped, type Job, sizeText } from '../../../core/index.ts';
import type { TableState } from '../../engine/protocol.ts';
import { JobPage, OpenedJob } from '../../parts/JobPage.tsx';
import { useJobStore } from '../../stores/job-store.ts';
import { lastRowsOf } from '../../stores/storage.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import styles from './map.module.css';
import { type Box, type PlacedEdge, type PlacedNode, placeNodes } from './place-nodes.ts';
import { useZoom } from './use-zoom.ts';

const NONE: readonly TableState[] = [];

/** The map of a job: its sources, tables and exports, and what feeds what. */
export function MapPage() {
  return <OpenedJob page={JobMapPage} />;
}

function JobMapPage({ job }: { job: Job }) {
  const missing = useJobStore((store) => store.missing);
  const navigate = useNavigate();
  useEffect(() => {
    document.title = `Map of ${job.name} · Rimefield`;
  }, [job.name]);
  const { data: states = NONE } = useEngineQuery(
    ['states', keyOf(job), keyOf(missing)],
    async (engine) => engine.combining.states(fullTables(job), await lastRowsOf(job.id)),
    { keep: true },
  );
  const map = useMemo(() => placeNodes(job), [job]);
  const box = useRef<HTMLElement>(null);
  const { zoom, closer, farther, fit, isFitted } = useZoom(box, map.width, map.height);
  const show = (table: string, step?: number) => {
    const last = job.tables.find((one) => one.id === table)!.steps.length - 1;
    navigate(`/jobs/${job.id}`, { state: { table, step: step === last ? undefined : step } });
  };
  return (
    <JobPage
      job={job}
      acts={
        <>
          <span className={styles.about}>
            {counted(job.sources.length, 'source')}, {counted(job.tables.length, 'table')}
          </span>
          <div role="group" aria-label="Zoom" className={styles.zoom}>
            <IconButton size="small" aria-label="Smaller" onClick={farther}>
              <Remove fontSize="inherit" />
            </IconButton>
            <span>{Math.round(zoom * 100)} %</span>
            <IconButton size="small" aria-label="Larger" onClick={closer}>
              <Add fontSize="inherit" />
            </IconButton>
            <IconButton size="small" aria-label="Fit to the page" aria-pressed={isFitted} onClick={fit}>
              <FitScreen fontSize="inherit" />
            </IconButton>
          </div>
          <Link to={`/jobs/${job.id}`} className={styles.back}>
            To the bench
          </Link>
        </>
      }
    >
      <main ref={box} className={styles.sheet}>
        <div className={styles.room} style={{ width: map.width * zoom, height: map.height * zoom }}>
          <div className={styles.map} style={{ width: map.width, height: map.height, transform: `scale(${zoom})` }}>
            <svg width={map.width} height={map.height} aria-hidden="true">
              {map.edges.map((one, k) => (
                <Arrow key={k} edge={one} />
              ))}
            </svg>
            <ul>
              {map.nodes.map((one) => (
                <li
                  key={`${one.node.kind}/${one.node.id}`}
                  className={`${styles.node} ${styles[one.node.kind]}`}
                  style={placeOf(one.box)}
                >
                  <NodeText job={job} placed={one} missing={missing} states={states} onShow={show} />
                </li>
              ))}
            </ul>
            {map.edges.map((one, k) => (
              <Taken key={k} placed={one} states={states} onShow={show} />
            ))}
          </div>
        </div>
      </main>
    </JobPage>
  );
}

function placeOf({ x, y, width, height }: Box) {
  return { left: x - width / 2, top: y - height / 2, width, height };
}

type Show = (table: string, step?: number) => void;

function NodeText({
  job,
  placed: { node },
  missing,
  states,
  onShow,
}: {
  job: Job;
  placed: PlacedNode;
  missing: Readonly<Record<string, string>>;
  states: readonly TableState[];
  onShow: Show;
}) {
  if (node.kind === 'source') {
    const file = job.sources.find((one) => one.id === node.id)?.file;
    const gone = missing[node.id] !== undefined;
    return (
      <>
        <b>{node.name}</b>
        <span>{file?.name ?? 'no file yet'}</span>
        {gone ? <span className={styles.wrong}>not in this browser</span> : file && <span>{sizeText(file.size)}</span>}
      </>
    );
  }
  if (node.kind === 'export') {
    const { as } = job.tables.find((one) => one.id === node.id)!.export!;
    return <span>out as {EXPORT_FORMATS[as].title}</span>;
  }
  const state = states.find((one) => one.id === node.id);
  return (
    <button type="button" onClick={() => onShow(node.id)}>
      <b>{node.name}</b>
      {state === undefined ? (
        <span>running …</span>
      ) : (
        <>
          <span>
            {grouped(state.rows)} rows × {state.columns} columns, {counted(state.steps, 'step')}
          </span>
          <Standing state={state} />
        </>
      )}
    </button>
  );
}

/** What wants a look, and how the checks stand. */
function Standing({ state: { stop, looks, checks } }: { state: TableState }) {
  if (stop !== undefined) return <span className={styles.wrong}>stops at step {stop.index + 1}</span>;
  return (
    <>
      <span className={looks > 0 ? styles.look : styles.good}>
        {looks === 0 ? 'nothing to check' : counted(looks, 'thing to check', 'things to check')}
      </span>
      {checks !== undefined && (
        <span className={checks.failed > 0 ? styles.wrong : styles.good}>
          {checks.failed > 0
            ? `✗ ${checks.failed} of ${counted(checks.all, 'check')} fail`
            : `✓ ${counted(checks.all, 'check holds', 'checks hold')}`}
        </span>
      )}
    </>
  );
}

/** How a table takes what feeds it, and how many rows that is; leads to the step. */
function Taken({
  placed: { edge, from, to },
  states,
  onShow,
}: {
  placed: PlacedEdge;
  states: readonly TableState[];
  onShow: Show;
}) {
  if (edge === undefined) return null;
  const state = states.find((one) => one.id === (edge.from.kind === 'table' ? edge.from.id : edge.to.id));
  const rows = edge.from.kind === 'table' ? state?.rows : state?.read;
  return (
    <button
      type="button"
      className={styles.how}
      style={{ left: (from.x + from.width / 2 + to.x - to.width / 2) / 2, top: (from.y + to.y) / 2 }}
      title={`To step ${edge.step + 1} of ${edge.to.name}`}
      onClick={() => onShow(edge.to.id, edge.step)}
    >
      {edge.from.kind === 'table' && <span>{edge.how}</span>}
      {rows !== undefined && <span>{counted(rows, 'row')}</span>}
    </button>
  );
}

function Arrow({ edge: { from, to } }: { edge: PlacedEdge }) {
  const [x1, x2] = [from.x + from.width / 2, to.x - to.width / 2 - 6];
  const middle = (x1 + x2) / 2;
  return (
    <g className={styles.arrow}>
      <path d={`M ${x1} ${from.y} C ${middle} ${from.y}, ${middle} ${to.y}, ${x2} ${to.y}`} />
      <path className={styles.head} d={`M ${x2 + 6} ${to.y} l -7 -4 v 8 z`} />
    </g>
  );
}
