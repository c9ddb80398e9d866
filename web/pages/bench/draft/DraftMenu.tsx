import Check from '@mui/icons-material/Check';
import MoreHoriz from '@mui/icons-material/MoreHoriz';
import IconButton from '@mui/material/IconButton';
import ListItemIcon from '@mui/material/ListItemIcon';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { type JobTable, READING_WORDS } from '../../../../core/index.ts';
import { useDraftStore } from '../../../stores/draft-store.ts';
import { useJobStore } from '../../../stores/job-store.ts';
import { useLayoutStore } from '../../../stores/layout-store.ts';
import benchStyles from '../bench.module.css';
import styles from './draft.module.css';

/** Asks for a draft, as after one was declined, and says whether new reports are drafted by themselves. */
export function DraftMenu({ table, drafted }: { table: JobTable; drafted: boolean }) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { drafting, draftByItself } = useLayoutStore();
  const busy = useDraftStore((store) => store.progress !== undefined);
  const job = useJobStore((store) => store.job);
  const can = job !== undefined && !busy && !drafted && READING_WORDS.has(table.steps[0]?.kind ?? '');
  const ask = () => {
    setMenu(null);
    const own = job?.tables.find((one) => one.id === table.id);
    if (job !== undefined && own !== undefined) useDraftStore.getState().request(job, own);
  };
  return (
    <span className={benchStyles.facing}>
      {can && table.steps.length === 1 && (
        <button type="button" className={styles.askFor} onClick={ask}>
          Draft the steps
        </button>
      )}
      <IconButton
        size="small"
        className={styles.menu}
        aria-label="More of the method"
        aria-haspopup="menu"
        onClick={(event) => setMenu(event.currentTarget)}
      >
        <MoreHoriz style={{ fontSize: 16 }} />
      </IconButton>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem disabled={!can} onClick={ask}>
          {table.steps.length === 1 ? 'Draft the steps' : 'Draft the rest'}
        </MenuItem>
        <MenuItem role="menuitemcheckbox" aria-checked={drafting} onClick={() => draftByItself(!drafting)}>
          {drafting && (
            <ListItemIcon>
              <Check fontSize="small" />
            </ListItemIcon>
          )}
          Draft each new report automatically
        </MenuItem>
      </Menu>
    </span>
  );
}
