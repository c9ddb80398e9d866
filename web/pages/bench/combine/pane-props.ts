import type { JobStep, JobTable } from '../../../../core/index.ts';
import type { Place } from '../../../engine/protocol.ts';

/** What every pane of putting tables together is given. */
export interface PaneProps {
  table: JobTable;
  place: Place;
  /** The step as it is kept, where one is changed. */
  params: Record<string, unknown> | undefined;
  /** Keeps the step, with steps that come before it. */
  onKeep(step: Omit<JobStep, 'id'>, before?: readonly Omit<JobStep, 'id'>[]): void;
  onClose(): void;
}
