import ExpandMore from '@mui/icons-material/ExpandMore';
import Badge from '@mui/material/Badge';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { type Job, type JobSource, type JobTable, nameLikeness } from '../../../core/index.ts';
import { pickFile, SOURCE_FILES } from '../../parts/files.ts';
import { notify } from '../../parts/notify.ts';
import { notifyError } from '../../parts/report-error.ts';
import { patternOf } from '../../stores/folder-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { canKeepPlaces, lookForNext, useWatchStore } from '../../stores/watch-store.ts';
import styles from './bench.module.css';
import { StandingDialog } from './StandingDialog.tsx';
import { WatchDialog } from './WatchDialog.tsx';

const LOOK_EVERY_MS = 4000;

/** The source whose last file has the name most like this one's. */
function likeliest(sources: readonly JobSource[], name: string): string {
  const score = (source: JobSource) => nameLikeness(source.file?.name ?? source.name, name);
  return sources.toSorted((a, b) => score(b) - score(a))[0]!.id;
}

/** The sources that a table reads itself; all of the job's where it reads none. */
function sourcesOf(table: JobTable, job: Job): readonly JobSource[] {
  const own = job.sources.filter((source) => source.id === table.steps[0]?.params['source']);
  return own.length > 0 ? own : job.sources;
}

/** Keeps looking at what the sources of the open job have in sight. */
function useSight(job: Job) {
  const { places, come, open, glance } = useWatchStore();
  useEffect(() => void open(job.id).catch(notifyError), [job.id, open]);
  const isAny = Object.keys(places).length > 0;
  useEffect(() => {
    if (!isAny) return;
    void glance(job);
    const timer = setInterval(() => document.visibilityState === 'visible' && void glance(job), LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, [isAny, job, glance]);
  return { places, come };
}

/** Runs the method on the next report, on many, or on what arrives. */
export function RunAgain({ job, table }: { job: Job; table: JobTable }) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [open, setOpen] = useState<'standing' | 'watch' | undefined>();
  const { places, come } = useSight(job);
  const navigate = useNavigate();
  const ask = useViewStore((store) => store.ask);
  const first = job.sources.find((source) => places[source.id] !== undefined);

  const choose = async () => {
    const file = job.sources.length === 0 ? undefined : await pickFile(SOURCE_FILES, true);
    if (file !== undefined) ask({ as: 'next report', source: likeliest(job.sources, file.name), file });
  };
  const runAgain = async () => {
    if (first === undefined) return choose();
    const chooseInstead = { label: 'Choose a file', run: () => void choose() };
    try {
      const found = await lookForNext(job);
      if (found === undefined)
        notify({ text: `No new file found: ${whereText(first, places)}.`, long: true, act: chooseInstead });
      else ask({ as: 'next report', source: found.source, file: await found.files[0]!.read(), sighted: found.files });
    } catch (error) {
      notify({ text: (error as Error).message, tone: 'warning', long: true, act: chooseInstead });
    }
  };
  const runEach = async () => {
    const file = job.sources.length === 0 ? undefined : await pickFile(SOURCE_FILES, true);
    if (file === undefined) return;
    ask({ as: 'many files', job, table: table.id, source: likeliest(sourcesOf(table, job), file.name), file });
  };
  const told =
    come !== undefined
      ? `${comeText(come.files[0]!)}`
      : first === undefined
        ? ''
        : `Looks at ${whereText(first, places)}`;
  return (
    <>
      <Tooltip title={told}>
        <Badge color="primary" variant="dot" invisible={come === undefined}>
          <Button
            variant="outlined"
            className={styles.plain}
            {...(told === '' ? {} : { 'aria-description': told })}
            onClick={() => void runAgain()}
          >
            Run again
          </Button>
        </Badge>
      </Tooltip>
      <IconButton
        size="small"
        className={styles.joined}
        aria-label="More ways to run"
        aria-haspopup="menu"
        onClick={(event) => setMenu(event.currentTarget)}
      >
        <ExpandMore fontSize="small" />
      </IconButton>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        {first !== undefined && <MenuItem onClick={() => void choose()}>On a file that I choose …</MenuItem>}
        <MenuItem onClick={() => void runEach()}>On many files, each on its own …</MenuItem>
        {canKeepPlaces() && job.sources.length > 0 && (
          <MenuItem onClick={() => setOpen('watch')}>Watch a folder …</MenuItem>
        )}
        <MenuItem onClick={() => setOpen('standing')}>When a file arrives …</MenuItem>
        <MenuItem onClick={() => navigate(`/jobs/${job.id}/runs`)}>Compare earlier runs</MenuItem>
      </Menu>
      {open === 'standing' && <StandingDialog job={job} onClose={() => setOpen(undefined)} />}
      {open === 'watch' && (
        <WatchDialog job={job} first={sourcesOf(table, job)[0]!.id} onClose={() => setOpen(undefined)} />
      )}
    </>
  );
}

function comeText({ name, note }: { name: string; note?: string }): string {
  return note === undefined ? `${name} has come` : `${name} has ${note}`;
}

/** What a source looks at. */
function whereText(source: JobSource, places: ReturnType<typeof useSight>['places']): string {
  const { as, handle } = places[source.id]!;
  if (as === 'file') return handle.name;
  return as === 'folder' ? `${patternOf(source) ?? '*'} in ${handle.name}` : `all files of ${handle.name}`;
}
