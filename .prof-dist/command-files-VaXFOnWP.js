import { Ut as freeName, Wt as numberedFile, en as EXPORT_FORMATS, t as writeAside, tn as ExportSpec } from "./write-aside-PkVZPj8k.js";
import { r as sourceFiles } from "./many-files-DtVwTGdM.js";
import { n as offerThread, r as offerThreadFor } from "./kernel-thread-4UV4J0Tc.js";
import { readFileSync, readdirSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { availableParallelism } from "node:os";
import { Worker } from "node:worker_threads";
new RegExp(`\\d+|(?<![a-z])(?:january|february|march|april|may|june|july|august|september|october|november|december|jan|feb|mar|apr|jun|jul|aug|sept|sep|oct|nov|dec)(?![a-z])`, "gi");
/**
* Whether names fit a pattern: * stands for any characters and ? for one, as shells have it (POSIX.1-2017, 2.13),
* letters whatever their case.
*/
function fitsPattern(pattern) {
	const pieces = pattern.toLowerCase().split("*");
	return (name) => {
		const text = name.toLowerCase();
		const [first = "", ...rest] = pieces;
		if (!standsAt(text, first, 0)) return false;
		if (rest.length === 0) return text.length === first.length;
		let at = first.length;
		const last = rest.pop();
		for (const piece of rest) {
			while (at <= text.length - piece.length && !standsAt(text, piece, at)) at++;
			if (at > text.length - piece.length) return false;
			at += piece.length;
		}
		return text.length - last.length >= at && standsAt(text, last, text.length - last.length);
	};
}
function standsAt(text, piece, at) {
	if (at + piece.length > text.length) return false;
	for (let k = 0; k < piece.length; k++) if (piece[k] !== "?" && piece[k] !== text[at + k]) return false;
	return true;
}
// service/second-thread.ts
/** The sources are run through tsx; what was built runs as it is. */
var IS_SOURCE = import.meta.url.endsWith(".ts");
/** Starts the thread that reads ahead, if the file is large enough and there is a processor. */
function startSecondThread(bytes) {
	if (availableParallelism() < 2) return;
	offerThreadFor(bytes, (what) => {
		const worker = kernelWorker(what);
		worker.unref();
		worker.on("error", () => offerThread(void 0));
	});
}
function kernelWorker(what) {
	return workerOf("kernel-child", what);
}
/** Starts a file of this folder in its own thread. */
function workerOf(name, workerData) {
	if (!IS_SOURCE) return new Worker(new URL(`./${name}.js`, import.meta.url), { workerData });
	const child = JSON.stringify(new URL(`./${name}.ts`, import.meta.url).href);
	const run = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${child}, ${child}))`;
	return new Worker(run, {
		eval: true,
		workerData
	});
}
// service/command-files.ts
/** The files of a command: what it reads and where it writes. */
/** Something the caller has to put right; said on standard error without a stack. */
var Trouble = class extends Error {};
/** The name of a report with the ending of the format, in a way that no two get the same. */
function outName(file, spec, taken) {
	const plain = basename(file).replace(/\.[^.]+$/, "");
	const { ending } = EXPORT_FORMATS[spec.as];
	return freeName(`${plain}.${ending}`, taken, numberedFile);
}
/** The files that a folder, an archive or a pattern means, in the order of their names. @throws Trouble when none is there */
function filesAt(path, io) {
	if (!isFolder(path) && !isPattern(path)) return [...sourceFiles({
		name: basename(path),
		bytes: readBytes(path, io)
	})];
	return pathsAt(path).map((one) => ({
		name: one.name,
		bytes: readBytes(one.path, io)
	}));
}
var isPattern = (path) => /[*?]/.test(basename(path));
/** Where the files of a folder or a pattern are, in the order of their names. @throws Trouble when none is there */
function pathsAt(path) {
	const whole = isFolder(path);
	if (!whole && !isPattern(path)) throw new Trouble(`${path} is no folder and no pattern with * and ?.`);
	const folder = whole ? path : dirname(path);
	const fits = whole ? (name) => !name.startsWith(".") : fitsPattern(basename(path));
	const names = entriesOf(folder).filter((entry) => entry.isFile() && fits(entry.name)).map((entry) => entry.name).sort((a, b) => a.localeCompare(b, "en", { numeric: true }));
	if (names.length === 0) throw new Trouble(`${path} holds no files.`);
	return names.map((name) => ({
		name,
		path: join(folder, name)
	}));
}
function isFolder(path) {
	return statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;
}
function entriesOf(folder) {
	try {
		return readdirSync(folder, { withFileTypes: true });
	} catch (error) {
		throw new Trouble(`${folder} cannot be read: ${error.message}`);
	}
}
/**
* The export that is asked for: by name, by the ending of the file, or as the job has it.
* @param all several tables go out together
* @throws Trouble for an ending that is of no format, or that says something else than what is written
*/
function specOf(table, out, as, all = false) {
	const ending = /\.([a-z]+)$/i.exec(basename(out))?.[1]?.toLowerCase();
	const formats = Object.entries(EXPORT_FORMATS);
	const named = formats.find(([, format]) => format.ending === ending)?.[0];
	const wanted = as ?? named ?? (out === "" ? table.export?.as ?? "csv" : "csv");
	const format = Object.hasOwn(EXPORT_FORMATS, wanted) ? EXPORT_FORMATS[wanted] : void 0;
	if (format === void 0) throw new Trouble(`There is no format ${wanted}. The formats are ${Object.keys(EXPORT_FORMATS).join(", ")}.`);
	const endings = [...new Set(formats.map(([, one]) => one.ending))].join(", ");
	const written = all && format.many !== true ? "zip" : format.ending;
	if (ending !== void 0 && as === void 0 && named === void 0 && !(all && ending === "zip")) throw new Trouble(`${out} ends in .${ending}, which is no format that is written here. Use one of ${endings}, or say the format with --as.`);
	if (all && written === "zip" && ending !== void 0 && ending !== "zip") throw new Trouble(`A file .${ending} holds one table. With --all name an archive (.zip), or a format that holds several: ${formats.filter(([, one]) => one.many && one.ending !== "zip").map(([, one]) => `.${one.ending}`).join(", ")}.`);
	return table.export?.as === wanted ? table.export : ExportSpec.parse({ as: wanted });
}
/** The same path with a number in front of its ending from the second on. */
function numbered(path, k) {
	return k === 0 || path === "-" ? path : path.replace(/(\.[^./]*)?$/, `-${k + 1}$1`);
}
function readBytes(file, io) {
	try {
		if (file === "-") return io.input();
		startSecondThread(statSync(file).size);
		return readFileSync(file);
	} catch (error) {
		throw new Trouble(`${file} cannot be read: ${error.message}`);
	}
}
function write(out, bytes, io) {
	if (out === "-") {
		io.output(bytes);
		return;
	}
	try {
		writeAside(out, bytes);
	} catch (error) {
		throw new Trouble(`${out} cannot be written: ${error.message}`);
	}
}
function writeJson(out, value, io) {
	write(out, new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`), io);
}
export { outName as a, specOf as c, startSecondThread as d, workerOf as f, numbered as i, write as l, filesAt as n, pathsAt as o, fitsPattern as p, isFolder as r, readBytes as s, Trouble as t, writeJson as u };
