/** Checks types: the core alone, without browser or Node, and then everything. */
import { run } from './set-up.mjs';

const well = ['core', '.'].map((project) => run('npx', ['tsc', '-p', project])).every(Boolean);
process.exit(well ? 0 : 1);
