import { autocompletion, type Completion, type CompletionContext } from '@codemirror/autocomplete';
import { type Diagnostic, setDiagnostics } from '@codemirror/lint';
import { EditorView } from '@codemirror/view';
import CodeMirror, { type ReactCodeMirrorRef } from '@uiw/react-codemirror';
import { type Ref, useEffect, useImperativeHandle, useMemo, useRef } from 'react';
import { FUNCTIONS } from '../../../core/index.ts';
import { columnText } from './column-text.ts';
import styles from './sentence.module.css';

export interface FormulaFieldHandle {
  /** Puts text in at the cursor, in place of what is selected. */
  insert(text: string): void;
}

interface Props {
  ref?: Ref<FormulaFieldHandle>;
  names: readonly string[];
  value: string;
  trouble: { message: string; from: number; to: number } | undefined;
  onChange(text: string): void;
}

const KEYWORDS = [
  'case',
  'when',
  'then',
  'else',
  'end',
  'and',
  'or',
  'not',
  'in',
  'like',
  'between',
  'is null',
  'null',
];

/** The text of an expression in an editor that completes columns and functions. */
export function FormulaField({ ref, names, value, trouble, onChange }: Props) {
  const editor = useRef<ReactCodeMirrorRef>(null);
  useImperativeHandle(ref, () => ({
    insert(text) {
      const view = editor.current?.view;
      if (view === undefined) return;
      view.dispatch(view.state.replaceSelection(text));
      view.focus();
    },
  }));
  const key = names.join('\n');
  const extensions = useMemo(() => {
    const options: Completion[] = [
      ...key.split('\n').map((name) => ({ label: name, apply: columnText(name), type: 'variable', boost: 2 })),
      ...FUNCTIONS.map((one) => ({
        label: one.name,
        apply: `${one.name}(`,
        info: one.about,
        type: 'function',
      })),
      ...KEYWORDS.map((label) => ({ label, type: 'keyword' })),
    ];
    const complete = (context: CompletionContext) => {
      const before = context.state.sliceDoc(0, context.pos);
      const open = (before.match(/"/g) ?? []).length % 2 === 1;
      const from = open
        ? before.lastIndexOf('"')
        : context.pos - (/[\p{L}_][\p{L}\p{N}_]*$/u.exec(before)?.[0].length ?? 0);
      if (from === context.pos && !context.explicit) return null;
      return { from, options, validFor: /^"?[\p{L}\p{N}_ ]*$/u };
    };
    return [
      autocompletion({ override: [complete], icons: false }),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': 'Expression', spellcheck: 'false' }),
    ];
  }, [key]);
  useEffect(() => {
    const view = editor.current?.view;
    if (view === undefined) return;
    const length = view.state.doc.length;
    const marks: Diagnostic[] =
      trouble === undefined || length === 0
        ? []
        : [
            {
              from: Math.max(0, Math.min(trouble.from, length - 1)),
              to: Math.min(Math.max(trouble.to, trouble.from + 1), length),
              severity: 'error',
              message: trouble.message,
            },
          ];
    view.dispatch(setDiagnostics(view.state, marks));
  }, [trouble]);
  return (
    <CodeMirror
      ref={editor}
      className={styles.formula}
      value={value}
      theme="none"
      basicSetup={false}
      autoFocus
      extensions={extensions}
      onChange={onChange}
    />
  );
}
