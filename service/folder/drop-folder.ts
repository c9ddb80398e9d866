/** The folders on disk: what comes in, what goes out, and what is set aside. No path leaves them. */
import {
  closeSync,
  constants,
  existsSync,
  fstatSync,
  lstatSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
} from 'node:fs';
import { basename, join } from 'node:path';
import { writeAside } from '../write-aside.ts';

/** Names of half-written files: what browsers, copying programs and editors give them. Common practice. */
const HALF_WRITTEN = /(?:^\.|^~\$|~$|\.(?:part|partial|tmp|temp|crdownload|download|filepart|swp)$)/i;
const MOST_NAME_BYTES = 200;

/** A name that could lead out of the folder, or that file systems do not take. */
export class BadName extends Error {
  override name = 'BadName';
}

/** More bytes than are read at once. */
export const MOST_BYTES = 1 << 30;

export class TooLarge extends Error {
  override name = 'TooLarge';
  constructor(file: string) {
    super(`${file} is larger than 1 GiB. Divide it, or put it on the command line.`);
  }
}

export interface FoundFile {
  name: string;
  size: number;
  /** When it was last written to, in milliseconds. */
  modified: number;
}

export class DropFolder {
  readonly root: string;
  readonly in: string;
  readonly out: string;
  readonly aside: string;
  readonly done: string;
  /** The server's own: jobs that run by themselves, the log of runs, the lock. */
  readonly own: string;

  /** @throws Error of the file system when the folders cannot be made */
  constructor(root: string) {
    mkdirSync(root, { recursive: true });
    this.root = realpathSync(root);
    const sub = (name: string) => {
      const path = join(this.root, name);
      mkdirSync(path, { recursive: true });
      if (!lstatSync(path).isDirectory()) throw new Error(`${path} is not a folder of its own.`);
      return path;
    };
    this.in = sub('in');
    this.out = sub('out');
    this.aside = sub('aside');
    this.done = sub('done');
    this.own = sub('.rimefield');
  }

  /** The files that are in, oldest first. Links, folders and half-written files are none. */
  list(): FoundFile[] {
    return readdirSync(this.in)
      .filter((name) => !HALF_WRITTEN.test(name))
      .flatMap((name): FoundFile[] => {
        const stat = lstatSync(join(this.in, name), { throwIfNoEntry: false });
        return stat?.isFile() ? [{ name, size: stat.size, modified: stat.mtimeMs }] : [];
      })
      .sort((a, b) => a.modified - b.modified || (a.name < b.name ? -1 : 1));
  }

  /** Where a file that came in stands. @throws BadName */
  pathIn(name: string): string {
    return join(this.in, safeName(name));
  }

  /** A file that came in, opened so that no link is followed. @throws BadName, Error when it is not there */
  open(name: string): number {
    const path = this.pathIn(name);
    if (!lstatSync(path, { throwIfNoEntry: false })?.isFile()) throw new BadName(`There is no file ${name}.`);
    return openSync(path, constants.O_RDONLY | constants.O_NOFOLLOW);
  }

  /** The bytes of a file that came in. @throws TooLarge, BadName, Error */
  read(name: string): Buffer {
    const file = this.open(name);
    try {
      if (fstatSync(file).size > MOST_BYTES) throw new TooLarge(name);
      return readFileSync(file);
    } finally {
      closeSync(file);
    }
  }

  /** Takes in a file that was written aside, under a name that is free. @returns that name @throws BadName */
  takeIn(aside: string, name: string): string {
    if (HALF_WRITTEN.test(name)) throw new BadName(`${name} is a name for half-written files.`);
    const own = freeName(this.in, safeName(name));
    renameSync(aside, join(this.in, own));
    return own;
  }

  /** Moves a file that came in to another folder, under a name that is free there. @returns that name */
  moveTo(folder: 'done' | 'aside', name: string): string {
    const own = freeName(this[folder], safeName(name));
    renameSync(this.pathIn(name), join(this[folder], own));
    return own;
  }

  /** Sets a bad file aside, with the reason in a text beside it. @returns the name it has there */
  setAside(name: string, reason: string): string {
    const own = freeName(this.aside, safeName(name));
    // The reason first: a file that is aside always has one.
    writeAside(join(this.aside, `${own}.reason.txt`), new TextEncoder().encode(`${reason}\n`));
    renameSync(this.pathIn(name), join(this.aside, own));
    return own;
  }

  /** Removes what servers left that broke down long ago. */
  sweep(olderThanMs = 60 * 60_000): void {
    for (const name of readdirSync(this.own).filter((one) => /^(?:out|upload)-\d/.test(one))) {
      const path = join(this.own, name);
      const stat = lstatSync(path, { throwIfNoEntry: false });
      if (stat !== undefined && Date.now() - stat.mtimeMs > olderThanMs) rmSync(path, { recursive: true, force: true });
    }
  }

  /**
   * Puts files into a folder of their own under out, all of them or none: they are written beside it and renamed.
   * A folder that is there already is the same result, put there before.
   */
  publish(job: string, run: string, files: readonly { name: string; bytes: Uint8Array }[]): string {
    const place = join(plainName(job), plainName(run));
    const target = join(this.out, place);
    if (existsSync(target)) return place;
    const aside = join(this.own, `out-${process.pid}-${Date.now()}`);
    try {
      for (const file of files) writeAside(join(aside, plainName(file.name)), file.bytes);
      mkdirSync(join(this.out, plainName(job)), { recursive: true });
      renameSync(aside, target);
    } finally {
      rmSync(aside, { recursive: true, force: true });
    }
    return place;
  }
}

/** The name itself where it names a file of one folder and nothing else. @throws BadName */
export function safeName(name: string): string {
  const good =
    name !== '' &&
    name !== '.' &&
    name !== '..' &&
    basename(name) === name &&
    !/[\\/:]/.test(name) &&
    [...name].every((character) => character >= ' ' && character !== '\u007f') &&
    Buffer.byteLength(name) <= MOST_NAME_BYTES;
  if (!good) throw new BadName(`${JSON.stringify(name.slice(0, 80))} is not the name of a file.`);
  return name;
}

/** A name for a file made of any text. */
export function plainName(text: string): string {
  const plain = text
    .replace(/[^\p{L}\p{N}._ ()-]+/gu, ' ')
    .replace(/^[. ]+|[. ]+$/g, '')
    .slice(0, 100);
  return plain === '' ? 'unnamed' : plain;
}

function freeName(folder: string, name: string): string {
  let own = name;
  for (let n = 2; existsSync(join(folder, own)) || existsSync(join(folder, `${own}.reason.txt`)); n++)
    own = name.replace(/(\.[^.]*)?$/, ` ${n}$1`);
  return own;
}
