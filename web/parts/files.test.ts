import { expect, test } from 'vitest';
import { bytesOf } from './files.ts';

test('a file that a browser cannot hold is refused before it is read, with where to run it', async () => {
  const file = { name: 'year.csv', size: 2_400_000_000, arrayBuffer: () => Promise.reject(new Error('read')) };
  await expect(bytesOf(file as unknown as File)).rejects.toThrow(
    /year\.csv has 2\.4 GB; up to 1\.5 GB are read in a browser.*rimefield run JOB/,
  );
  const small = new File(['a,b'], 'a.csv');
  expect(new TextDecoder().decode(await bytesOf(small))).toBe('a,b');
});
