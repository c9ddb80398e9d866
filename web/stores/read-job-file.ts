// Loaded when a job is opened: it knows every kind of step, which the shelf has no use for.
export { Job, readJobFile } from '../../core/index.ts';
