// Loaded when a job file comes: it knows every kind of step, which the shelf has no use for.
export { readJobFile } from '../../core/index.ts';
