import Dialog from '@mui/material/Dialog';
import type { ReactNode } from 'react';
import styles from './sheet.module.css';

/** Something that is looked at and answered before the page goes on: a title, what is asked, and at the foot the answers. */
export function Sheet({
  title,
  label = title,
  width,
  trouble,
  acts,
  onClose,
  children,
}: {
  title: string;
  /** What it is called by those who do not see it. */
  label?: string;
  /** In pixels, where there is room. */
  width: number;
  /** Why the last answer could not be carried out. */
  trouble?: string;
  acts: ReactNode;
  onClose(): void;
  children?: ReactNode;
}) {
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{ paper: { className: styles.paper, style: { width }, 'aria-label': label } }}
    >
      <h2 className={styles.title}>{title}</h2>
      {children}
      {trouble !== undefined && trouble !== '' && (
        <p className={styles.trouble} role="alert">
          {trouble}
        </p>
      )}
      <div className={styles.foot}>{acts}</div>
    </Dialog>
  );
}
