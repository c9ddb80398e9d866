import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Where the server of the browser tests has its drop folder. */
export const DROP_FOLDER = join(tmpdir(), 'rimefield-e2e-drop');
