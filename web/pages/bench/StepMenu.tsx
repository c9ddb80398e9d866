import MoreVert from '@mui/icons-material/MoreVert';
import Divider from '@mui/material/Divider';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import type { MethodEdits } from './use-method-edits.ts';

interface Props {
  index: number;
  muted: boolean;
  last: boolean;
  /** It uses a set of steps. */
  set: boolean;
  edits: MethodEdits;
  onName(): void;
  onNote(): void;
  onCompare(): void;
}

/** What can be done with a step as a whole. */
export function StepMenu({ index, muted, last, set, edits, onName, onNote, onCompare }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const done = (act: () => void) => () => {
    setAnchor(null);
    // After the menu has let go of the focus.
    setTimeout(act);
  };
  const reading = index === 0;
  return (
    <>
      <IconButton
        size="small"
        aria-label={`More about step ${index + 1}`}
        aria-haspopup="menu"
        onClick={(event) => {
          event.stopPropagation();
          setAnchor(event.currentTarget);
        }}
      >
        <MoreVert fontSize="inherit" />
      </IconButton>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        disableRestoreFocus
        onClick={(event) => event.stopPropagation()}
      >
        <MenuItem onClick={done(onName)}>Name it</MenuItem>
        <MenuItem onClick={done(onNote)}>Write a note</MenuItem>
        {!reading && <MenuItem onClick={done(onCompare)}>Compare before and after</MenuItem>}
        <MenuItem onClick={done(() => edits.startTable(index))}>New table from here</MenuItem>
        <Divider />
        {!reading && <MenuItem onClick={done(() => edits.mute(index))}>{muted ? 'Do not skip' : 'Skip'} (M)</MenuItem>}
        {!reading && <MenuItem onClick={done(() => edits.duplicate(index))}>Duplicate (D)</MenuItem>}
        <MenuItem onClick={done(() => void edits.copy([index]))}>Copy (Ctrl C)</MenuItem>
        <MenuItem onClick={done(() => void edits.copy(edits.from(index)))}>Copy from here on</MenuItem>
        {!reading && (
          <MenuItem onClick={done(() => edits.keepSet(edits.from(index)))}>Keep from here on as a set</MenuItem>
        )}
        {set && <MenuItem onClick={done(() => edits.unfold(index))}>Expand into its steps</MenuItem>}
        <MenuItem onClick={done(() => void edits.paste(index))}>Paste after it (Ctrl V)</MenuItem>
        {index > 1 && <MenuItem onClick={done(() => edits.move(index, index - 1))}>Move up (Alt ↑)</MenuItem>}
        {!reading && !last && <MenuItem onClick={done(() => edits.move(index, index + 1))}>Move down (Alt ↓)</MenuItem>}
        {!reading && <MenuItem onClick={done(() => void edits.remove(index))}>Remove (Delete)</MenuItem>}
      </Menu>
    </>
  );
}
