// Loaded when several files come together: the shelf itself has no use for archives.
export { bundleFiles } from '../../core/index.ts';
