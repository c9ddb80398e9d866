import type { CSSProperties } from 'react';

interface Props {
  label: string;
  text: string;
  /** The key that began it: it stands there in place of the text. */
  typed?: string | undefined;
  className: string | undefined;
  style?: CSSProperties;
  /** Called once with what stands there in the end; after Escape that is what stood there before. */
  onDone(text: string): void;
  /** Tab was pressed: after onDone, the next name is to be written. */
  onNext?(): void;
}

/** A name that is written again in its own place. Keys and clicks stay with it. */
export function NameInput({ label, text, typed, className, style, onDone, onNext }: Props) {
  return (
    <input
      autoFocus
      className={className}
      style={style}
      aria-label={label}
      defaultValue={typed ?? text}
      onFocus={(event) => typed === undefined && event.target.select()}
      onClick={(event) => event.stopPropagation()}
      onBlur={(event) => onDone(event.target.value.trim())}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') event.currentTarget.value = text;
        if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
        if (event.key === 'Tab' && !event.shiftKey && onNext !== undefined) {
          event.preventDefault();
          event.currentTarget.blur();
          onNext();
        }
      }}
    />
  );
}
