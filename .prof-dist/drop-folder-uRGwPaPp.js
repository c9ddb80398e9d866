import { Ut as freeName, Wt as numberedFile, t as writeAside } from "./write-aside-PkVZPj8k.js";
import { closeSync, constants, existsSync, fstatSync, lstatSync, mkdirSync, openSync, readFileSync, readdirSync, realpathSync, renameSync, rmSync } from "node:fs";
import { basename, join } from "node:path";
// service/folder/drop-folder.ts
/** The folders on disk: what comes in, what goes out, and what is set aside. No path leaves them. */
/** Names of half-written files: what browsers, copying programs and editors give them. Common practice. */
var HALF_WRITTEN = /(?:^\.|^~\$|~$|\.(?:part|partial|tmp|temp|crdownload|download|filepart|swp)$)/i;
var MAX_NAME_BYTES = 200;
var MAX_PLAIN_BYTES = 100;
/** A name that could lead out of the folder, or that file systems do not take. */
var BadName = class extends Error {
	name = "BadName";
};
/** More bytes than are read at once. */
var MAX_BYTES = 1 << 30;
var TooLarge = class extends Error {
	name = "TooLarge";
	constructor(file) {
		super(`${file} is larger than 1 GiB. Divide it, or put it on the command line.`);
	}
};
var DropFolder = class {
	root;
	in;
	out;
	aside;
	done;
	/** The server's own: jobs that run by themselves, the log of runs, the lock. */
	own;
	/** Files that are being run. */
	taken;
	/** @throws Error of the file system when the folders cannot be made */
	constructor(root) {
		mkdirSync(root, { recursive: true });
		this.root = realpathSync(root);
		const sub = (name) => {
			const path = join(this.root, name);
			mkdirSync(path, { recursive: true });
			if (!lstatSync(path).isDirectory()) throw new Error(`${path} is not a folder. Choose another drop folder.`);
			return path;
		};
		this.in = sub("in");
		this.out = sub("out");
		this.aside = sub("aside");
		this.done = sub("done");
		this.own = sub(".rimefield");
		this.taken = join(this.own, "taken");
	}
	/** The files that are in, oldest first. Links, folders and half-written files are none. */
	list() {
		return readdirSync(this.in).filter((name) => !HALF_WRITTEN.test(name)).flatMap((name) => {
			const stat = lstatSync(join(this.in, name), { throwIfNoEntry: false });
			return stat?.isFile() ? [{
				name,
				size: stat.size,
				modified: stat.mtimeMs
			}] : [];
		}).sort((a, b) => a.modified - b.modified || (a.name < b.name ? -1 : 1));
	}
	/** Where a file that came in stands. @throws BadName */
	pathIn(name) {
		return join(this.in, ownName(name));
	}
	/** A file that came in, opened so that no link is followed. @throws BadName, Error when it is not there */
	open(name) {
		return opened(this.pathIn(name), name);
	}
	/** The bytes of a file that came in. @throws TooLarge, BadName, Error */
	read(name) {
		return bytesOf(this.pathIn(name), name);
	}
	/** Takes in a file that was written aside, under a name that is free. @returns that name @throws BadName */
	takeIn(aside, name) {
		if (HALF_WRITTEN.test(name)) throw new BadName(`${name} is a name for half-written files.`);
		const own = freeIn(this.in, safeName(name));
		renameSync(aside, join(this.in, own));
		return own;
	}
	/**
	* Takes a file out of what came in, so that nobody writes over it while it is run.
	* @returns undefined when it is another one than was seen, or gone
	*/
	claim(seen) {
		const path = this.pathIn(seen.name);
		if (!isSame(seen, lstatSync(path, { throwIfNoEntry: false }))) return void 0;
		mkdirSync(this.taken, { recursive: true });
		const own = join(this.taken, freeIn(this.taken, fileName(seen.name)));
		renameSync(path, own);
		return new ClaimedFile(this, seen, own);
	}
	/** Puts back what a server had taken that crashed. Only for the server that runs jobs. */
	putBack() {
		if (!existsSync(this.taken)) return;
		for (const name of readdirSync(this.taken)) renameSync(join(this.taken, name), join(this.in, freeIn(this.in, name)));
	}
	/** Moves a file that came in to another folder, under a name that is free there. @returns that name */
	moveTo(folder, name) {
		return this.put(this.pathIn(name), folder, name);
	}
	/** Moves a file, wherever it is, under a name that is free. @returns that name */
	put(path, folder, name) {
		const own = freeIn(this[folder], fileName(name));
		renameSync(path, join(this[folder], own));
		return own;
	}
	/** Sets a bad file aside, with the reason in a text beside it. @returns the name it has there */
	setAside(path, name, reason) {
		const own = freeIn(this.aside, fileName(name));
		writeAside(join(this.aside, `${own}.reason.txt`), new TextEncoder().encode(`${reason}\n`));
		renameSync(path, join(this.aside, own));
		return own;
	}
	/** Removes what servers left that crashed long ago. */
	sweep(olderThanMs = 36e5) {
		for (const name of readdirSync(this.own).filter((one) => /^(?:out|upload)-\d/.test(one))) {
			const path = join(this.own, name);
			const stat = lstatSync(path, { throwIfNoEntry: false });
			if (stat !== void 0 && Date.now() - stat.mtimeMs > olderThanMs) rmSync(path, {
				recursive: true,
				force: true
			});
		}
	}
	/**
	* Puts files into their own folder under out, all of them or none: they are written beside it and renamed.
	* A folder that is there already is the same result, put there before.
	*/
	publish(job, run, files) {
		const place = join(plainName(job), plainName(run));
		const target = join(this.out, place);
		if (existsSync(target)) return place;
		const aside = join(this.own, `out-${process.pid}-${Date.now()}`);
		try {
			const names = plainNames(files.map((file) => file.name));
			for (const [k, file] of files.entries()) writeAside(join(aside, names[k]), file.bytes);
			mkdirSync(join(this.out, plainName(job)), { recursive: true });
			renameSync(aside, target);
		} finally {
			rmSync(aside, {
				recursive: true,
				force: true
			});
		}
		return place;
	}
};
/** A file that was taken out of what came in, to be run. */
var ClaimedFile = class {
	folder;
	seen;
	path;
	constructor(folder, seen, path) {
		this.folder = folder;
		this.seen = seen;
		this.path = path;
	}
	/** @throws TooLarge, Error */
	read() {
		return bytesOf(this.path, this.seen.name);
	}
	/** Whether nobody wrote to it since it was seen: whoever had it open before it was taken may still do. */
	isSame() {
		return isSame(this.seen, lstatSync(this.path, { throwIfNoEntry: false }));
	}
	done() {
		this.folder.put(this.path, "done", this.seen.name);
	}
	setAside(reason) {
		this.folder.setAside(this.path, this.seen.name, reason);
	}
	/** Back to what came in, to be looked at again. */
	putBack() {
		if (existsSync(this.path)) this.folder.put(this.path, "in", this.seen.name);
	}
};
function isSame(seen, found) {
	return found?.isFile() === true && found.size === seen.size && found.mtimeMs === seen.modified;
}
/** @throws BadName, Error when it is not there */
function opened(path, name) {
	if (!lstatSync(path, { throwIfNoEntry: false })?.isFile()) throw new BadName(`There is no file ${name}.`);
	return openSync(path, constants.O_RDONLY | constants.O_NOFOLLOW);
}
function bytesOf(path, name) {
	const file = opened(path, name);
	try {
		if (fstatSync(file).size > 1073741824) throw new TooLarge(name);
		return readFileSync(file);
	} finally {
		closeSync(file);
	}
}
/** The name itself where it stands in one folder and does not lead out of it. @throws BadName */
function ownName(name) {
	if (name === "" || name === "." || name === ".." || basename(name) !== name || /[\\/\0]/.test(name)) throw new BadName(`${JSON.stringify(name.slice(0, 80))} is not the name of a file.`);
	return name;
}
/** The name itself where every system takes it as that of a file, and one for a file that is made. @throws BadName */
function safeName(name) {
	if (fileName(ownName(name)) !== name) throw new BadName(`${JSON.stringify(name.slice(0, 80))} is not the name of a file.`);
	return name;
}
/** A name that every file system takes, made of one that some do not: short enough, without colons and line breaks. */
function fileName(name) {
	return shortened([...name].map((one) => one < " " || one === "" || /[\\/:]/.test(one) ? " " : one).join(""), MAX_NAME_BYTES);
}
/** Cut to a number of bytes in UTF-8, its ending kept. */
function shortened(name, most) {
	if (Buffer.byteLength(name) <= most) return name;
	const ending = /\.[^.]{1,16}$/.exec(name)?.[0] ?? "";
	const room = most - Buffer.byteLength(ending);
	let front = "";
	let size = 0;
	for (const one of name.slice(0, name.length - ending.length)) {
		size += Buffer.byteLength(one);
		if (size > room) break;
		front += one;
	}
	return front + ending;
}
/** A name for a file made of any text, its ending kept. */
function plainName(text) {
	const plain = text.replace(/[^\p{L}\p{N}._ ()-]+/gu, " ").replace(/^[. ]+|[. ]+$/g, "");
	return plain === "" ? "unnamed" : shortened(plain, MAX_PLAIN_BYTES);
}
/** The same names, plain and each another, also where upper and lower case are one. */
function plainNames(names) {
	const taken = /* @__PURE__ */ new Set();
	return names.map((name) => {
		return freeName(plainName(name), taken, numberedFile);
	});
}
function freeIn(folder, name) {
	let own = name;
	for (let n = 2; existsSync(join(folder, own)) || existsSync(join(folder, `${own}.reason.txt`)); n++) own = numberedFile(name, n);
	return own;
}
export { plainNames as a, TooLarge as i, DropFolder as n, MAX_BYTES as r, BadName as t };
