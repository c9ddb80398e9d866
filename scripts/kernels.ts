/** Compiles core/kernels/source/ into core/kernels/module.ts. */
import { writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const folder = join(dirname(fileURLToPath(import.meta.url)), '..', 'core', 'kernels');

/** @throws Error with what the compiler says */
export async function compileKernels(): Promise<string> {
  let made: Uint8Array | undefined;
  const args = ['index.ts', '--baseDir', join(folder, 'source'), '--outFile', 'out.wasm'];
  const options = ['-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd'];
  // The memory is the caller's, who knows how much is needed.
  options.push('--importMemory', '--noExportMemory', '--maximumMemory', '65536');
  const { error, stderr } = await asc.main([...args, ...options], {
    writeFile: (_name, contents) => {
      made = contents as Uint8Array;
    },
  });
  if (error !== null || made === undefined) throw new Error(`The kernels were not compiled:\n${stderr}`);
  const base64 = Buffer.from(made).toString('base64');
  return `// Made by npm run kernels from source/; never edited.\nexport const MODULE =\n  '${base64}';\n`;
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  writeFileSync(join(folder, 'module.ts'), await compileKernels());
