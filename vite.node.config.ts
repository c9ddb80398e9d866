import { copyFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { defineConfig } from 'vite';
import { lateLibraries } from './scripts/late-libraries.ts';

const OUT = 'dist/node';
const sqlite = dirname(createRequire(import.meta.url).resolve('@sqlite.org/sqlite-wasm'));

/** The command line and the server, each library inside: what is packed runs with Node alone. */
export default defineConfig({
  plugins: [
    lateLibraries(resolve(OUT)),
    {
      name: 'sqlite-wasm-beside-the-code',
      closeBundle: () => copyFileSync(join(sqlite, 'sqlite3.wasm'), join(OUT, 'sqlite3.wasm')),
    },
  ],
  publicDir: false,
  ssr: { noExternal: true },
  build: {
    ssr: true,
    outDir: OUT,
    emptyOutDir: true,
    target: 'node20',
    minify: true,
    rolldownOptions: {
      input: {
        cli: 'service/cli.ts',
        child: 'service/folder/child.ts',
        'part-child': 'service/dataset/part-child.ts',
        'pieces-child': 'service/pieces-child.ts',
      },
      output: {
        chunkFileNames: '[name]-[hash].js',
        banner: (chunk) => (chunk.name === 'cli' ? '#!/usr/bin/env node' : ''),
      },
    },
  },
});
