import Popover from '@mui/material/Popover';
import Popper from '@mui/material/Popper';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Blank, Phrase } from '../../../core/index.ts';
import { BlankEditor, picksColumns } from './BlankEditor.tsx';
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
  const beside = editing !== undefined && picksColumns(editing.edit);
  const paper = useRef<HTMLDivElement>(null);
  const shownPaper = useCallback((element: HTMLDivElement | null) => {
    paper.current = element;
    element?.focus();
  }, []);
  useEffect(() => {
    if (!beside) return;
    // A click elsewhere closes it, but for clicks on heads of columns and in its own lists.
    const onDown = (event: PointerEvent) => {
      const target = event.target as HTMLElement;
      if (paper.current?.contains(target) || target.closest('[role=columnheader], [role=listbox], .MuiModal-root'))
        return;
      setOpen(undefined);
    };
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (event.key === 'Escape' && document.querySelector('[role=listbox]') === null) setOpen(undefined);
    };
    document.addEventListener('pointerdown', onDown);
    document.addEventListener('keydown', onKey, { capture: true });
    return () => {
      document.removeEventListener('pointerdown', onDown);
      document.removeEventListener('keydown', onKey, { capture: true });
    };
  }, [beside]);
  const editor = editing !== undefined && (
    <BlankEditor
      edit={editing.edit}
      value={getPath(params, editing.param)}
      context={context}
      onChange={(value) => onChange(setPath(params, editing.param, value), editing.param)}
      onDone={() => setOpen(undefined)}
    />
  );
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
          {more ? 'fewer options' : 'more options'}
        </button>
      )}
      <Popover
        open={editing !== undefined && !beside}
        anchorEl={open?.at}
        onClose={() => setOpen(undefined)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { className: styles.paper, 'aria-label': editing?.edit.label, role: 'dialog' } }}
      >
        {editor}
      </Popover>
      {beside && (
        <Popper open anchorEl={open?.at} placement="bottom-start" className={styles.popper}>
          <div
            ref={shownPaper}
            role="dialog"
            aria-label={editing.edit.label}
            tabIndex={-1}
            className={`${styles.paper} ${styles.floating}`}
            onKeyDown={(event) => event.stopPropagation()}
          >
            {editor}
          </div>
        </Popper>
      )}
    </p>
  );
}
