import { fileURLToPath } from 'node:url';
import { build, type Plugin } from 'vite';

/** Libraries that few commands need and all would wait for, with the exports that are used. */
const LIBRARIES: Record<string, readonly string[]> = {
  '@e965/xlsx': ['CFB', 'SSF', 'read'],
  '@noble/ciphers/aes': ['cbc', 'ecb'],
  'any-ascii': ['default'],
  re2js: ['RE2JS'],
  yaml: ['LineCounter', 'parseAllDocuments', 'visit'],
};
const STAND_IN = '\0late:';
const fileOf = (library: string) => `${library.replace(/\W+/g, '-').replace(/^-/, '')}.cjs`;

/** A module whose exports load the library when one of them is first used. */
function standIn(library: string): string {
  const exported = LIBRARIES[library]!.map((name) =>
    name === 'default' ? `export default late('default');` : `export const ${name} = late('${name}');`,
  );
  return `import { createRequire } from 'node:module';
let library;
function late(name) {
  const own = () => (library ??= createRequire(import.meta.url)('./${fileOf(library)}'))[name];
  return new Proxy(function () {}, {
    apply: (_, self, given) => Reflect.apply(own(), self, given),
    construct: (_, given) => Reflect.construct(own(), given),
    get: (_, key) => own()[key],
  });
}
${exported.join('\n')}
`;
}

/** Keeps these libraries out of what Node reads at each start, in separate files beside the code. */
export function lateLibraries(out: string): Plugin {
  return {
    name: 'late-libraries',
    enforce: 'pre',
    resolveId: (id) => (id in LIBRARIES ? STAND_IN + id : undefined),
    load: (id) => (id.startsWith(STAND_IN) ? standIn(id.slice(STAND_IN.length)) : undefined),
    async closeBundle() {
      for (const library of Object.keys(LIBRARIES))
        await build({
          configFile: false,
          logLevel: 'error',
          publicDir: false,
          ssr: { noExternal: true },
          build: {
            ssr: fileURLToPath(import.meta.resolve(library)),
            outDir: out,
            emptyOutDir: false,
            target: 'node20',
            minify: true,
            rolldownOptions: { output: { format: 'cjs', entryFileNames: fileOf(library), codeSplitting: false } },
          },
        });
    },
  };
}
