import Popover from '@mui/material/Popover';
import { useState } from 'react';
import type { Blank, Phrase } from '../../../core/index.ts';
import { BlankEditor } from './BlankEditor.tsx';
import type { SentenceContext } from './context.ts';
import { getPath, setPath } from './path.ts';
import styles from './sentence.module.css';

interface Props {
  phrases: readonly Phrase[];
  params: Record<string, unknown>;
  context: SentenceContext;
  selected: boolean;
  onChange(params: Record<string, unknown>, param: string): void;
}

/** Words with blanks that are edited in place. */
export function Sentence({ phrases, params, context, selected, onChange }: Props) {
  const [open, setOpen] = useState<{ at: HTMLElement; param: string } | undefined>();
  const [more, setMore] = useState(false);
  const hidden = phrases.filter((phrase) => typeof phrase !== 'string' && phrase.usual).length;
  const editing = phrases.find((phrase): phrase is Blank => typeof phrase !== 'string' && phrase.param === open?.param);
  return (
    <p className={`${styles.sentence} ${selected ? styles.selected : ''}`}>
      {phrases.map((phrase, k) => {
        if (typeof phrase === 'string') return <span key={k}>{phrase}</span>;
        if (phrase.usual && !more) return null;
        return (
          <span key={phrase.param}>
            {phrase.lead}
            <span
              role="button"
              tabIndex={0}
              className={styles.blank}
              aria-label={`${phrase.edit.label}: ${phrase.text.trim()}`}
              aria-haspopup="dialog"
              onClick={(event) => setOpen({ at: event.currentTarget, param: phrase.param })}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' && event.key !== ' ') return;
                event.preventDefault();
                event.stopPropagation();
                setOpen({ at: event.currentTarget, param: phrase.param });
              }}
            >
              {phrase.text.trim()}
            </span>
          </span>
        );
      })}
      {hidden > 0 && (
        <button
          type="button"
          className={styles.more}
          aria-expanded={more}
          aria-label={more ? 'Leave out what is usual' : `More of this sentence: ${hidden} that are as usual`}
          onClick={() => setMore(!more)}
        >
          {more ? 'less' : `+${hidden}`}
        </button>
      )}
      <Popover
        open={editing !== undefined}
        anchorEl={open?.at}
        onClose={() => setOpen(undefined)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { className: styles.paper, 'aria-label': editing?.edit.label, role: 'dialog' } }}
      >
        {editing !== undefined && (
          <BlankEditor
            edit={editing.edit}
            value={getPath(params, editing.param)}
            context={context}
            onChange={(value) => onChange(setPath(params, editing.param, value), editing.param)}
            onDone={() => setOpen(undefined)}
          />
        )}
      </Popover>
    </p>
  );
}
