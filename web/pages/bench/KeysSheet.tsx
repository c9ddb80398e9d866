import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import styles from './panels.module.css';

const KEYS: readonly [string, readonly [string, string][]][] = [
  [
    'Anywhere',
    [
      ['/', 'What next? Find a step by what it is called'],
      ['Ctrl F', 'Find in the table or the report; :120 goes to row 120'],
      ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
      ['F6, Shift F6', 'From page to page'],
      ['F8, Shift F8', 'Next highlighted cell on the other page'],
      ['Escape', 'Clear the selection, close what is open; again: discard the draft'],
      ['Enter, Ctrl Enter', 'Keep the draft; with Ctrl wherever the focus is'],
      ['1 to 5', 'Apply suggestion 1 to 5'],
      ['Ctrl V', 'Read what is on the clipboard'],
      ['?', 'This sheet'],
    ],
  ],
  [
    'On a step',
    [
      ['↑ ↓', 'The step before, the next one'],
      ['Alt ↑, Alt ↓', 'Move it up or down'],
      ['M', 'Skip it, or run it again'],
      ['D', 'Duplicate it'],
      ['Ctrl C, Ctrl V', 'Copy it, paste steps after it'],
      ['Delete', 'Remove it; leave it out where it is drafted'],
    ],
  ],
  [
    'On a sheet',
    [
      ['Arrows, Page, Home, End', 'From cell to cell; its origin or destination is highlighted'],
      ['Shift and arrows', 'Select a rectangle'],
      ['Enter', 'Pick the cell, and go where it came from'],
      ['Shift Enter', 'Select its column'],
      ['F2, or a letter', 'Type over a cell of the table as it should read'],
      ['M', 'On the report: say what the row is, or the rows that are selected'],
      ['Ctrl C', 'Copy the selection'],
    ],
  ],
  [
    'On the ruler',
    [
      ['← →', 'Move the cut by a character; with Shift by five'],
      ['Delete', 'Remove the cut'],
    ],
  ],
];

/** All keys, for reading. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose(): void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent className={styles.keys}>
        {KEYS.map(([where, keys]) => (
          <section key={where}>
            <h3>{where}</h3>
            <dl>
              {keys.map(([key, does]) => (
                <div key={key}>
                  <dt>
                    <kbd>{key}</kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </DialogContent>
    </Dialog>
  );
}
