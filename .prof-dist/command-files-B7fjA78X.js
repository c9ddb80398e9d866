import { $t as Job, Gt as numberedFile, O as STEP_WORDS, Wt as freeName, Zt as UseSet, _ as FromTable, cn as mostAlike, n as writeAside, nn as ExportSpec, or as ZodError, sr as toJSONSchema, tn as EXPORT_FORMATS, x as READING_WORDS } from "./sha256-IBMmVKh-.js";
import { o as brief } from "./read-failure-Be5JN9E3.js";
import { n as offerThread, r as offerThreadFor } from "./kernel-thread-4UV4J0Tc.js";
import { r as sourceFiles } from "./many-files-AMXqqNr4.js";
import { readFileSync, readdirSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { availableParallelism } from "node:os";
import { Worker } from "node:worker_threads";
// core/document/unknown-keys.ts
/** Keys of a document that its schema does not know: a misspelt one would otherwise be passed over without a word. */
/** The first key of the input that did not come through the schema, as a path; undefined where all did. */
function unknownKey(input, parsed, path = []) {
	if (Array.isArray(input) && Array.isArray(parsed)) {
		for (const [k, item] of input.entries()) {
			const found = unknownKey(item, parsed[k], [...path, String(k)]);
			if (found !== void 0) return found;
		}
		return;
	}
	if (!isPlain(input) || !isPlain(parsed)) return void 0;
	for (const [key, value] of Object.entries(input)) {
		if (value === void 0) continue;
		if (!Object.hasOwn(parsed, key)) return [...path, key];
		const found = unknownKey(value, parsed[key], [...path, key]);
		if (found !== void 0) return found;
	}
}
function isPlain(value) {
	return typeof value === "object" && value !== null && !Array.isArray(value);
}
/** 'There is no desc here; the nearest is descending' */
function unknownKeyText(path, schema) {
	const key = path.at(-1);
	const nearest = mostAlike(key, [...keysOf(schema)]);
	return `there is no ${key}${path.length > 1 ? ` in ${path.slice(0, -1).join(".")}` : ""}${nearest === void 0 ? "" : `; the nearest name is ${nearest}`}`;
}
/** Names of all properties anywhere in a schema. */
function keysOf(schema) {
	const found = /* @__PURE__ */ new Set();
	const walk = (part) => {
		if (Array.isArray(part)) part.forEach(walk);
		if (!isPlain(part)) return;
		if (isPlain(part["properties"])) for (const key of Object.keys(part["properties"])) found.add(key);
		Object.values(part).forEach(walk);
	};
	walk(toJSONSchema(schema, {
		io: "input",
		unrepresentable: "any"
	}));
	return found;
}
// core/document/job-file.ts
/** The text is not a job file that this version can open. Nothing has been changed. */
var JobFileError = class extends Error {
	name = "JobFileError";
	constructor(message) {
		super(brief(message, 700));
	}
};
/** A job as the text of a job file. The same job always gives the same bytes. */
function writeJobFile(job) {
	return `${JSON.stringify(normalJob(job), null, 2)}\n`;
}
/** The job with every object's keys in the schema's order and every default filled in. */
function normalJob(job) {
	const { sets, ...parsed } = Job.parse(job);
	return {
		...parsed,
		tables: parsed.tables.map((table, t) => ({
			id: table.id,
			name: table.name,
			steps: job.tables[t].steps.map(normalStep),
			...table.checks === void 0 || table.checks.length === 0 ? {} : { checks: table.checks },
			...table.export === void 0 ? {} : { export: table.export },
			...table.accepts === void 0 || table.accepts.length === 0 ? {} : { accepts: table.accepts },
			...table.coverage === void 0 || table.coverage.length === 0 ? {} : { coverage: table.coverage },
			...table.waved === void 0 || table.waved.length === 0 ? {} : { waved: table.waved }
		})),
		...sets === void 0 || sets.length === 0 ? {} : { sets: sets.map((set) => ({
			...set,
			steps: set.steps.map(normalStep)
		})) }
	};
}
function normalStep(step) {
	return {
		id: step.id,
		kind: step.kind,
		params: parseParams(step.kind, step.params),
		...step.name === void 0 || step.name === "" ? {} : { name: step.name },
		...step.note === void 0 || step.note === "" ? {} : { note: step.note },
		...step.muted ? { muted: true } : {}
	};
}
/**
* Params by the kind's own schema.
* @throws JobFileError for an unknown kind, ZodError for params that do not fit
*/
function parseParams(kind, params) {
	const schema = schemaOf(kind);
	if (schema === void 0) throw new JobFileError(`There is no step kind called ${kind} in this version of Rimefield.`);
	return schema.parse(params);
}
/** The params that a kind of step, reading or set takes; undefined for a kind that this version does not know. */
function schemaOf(kind) {
	if (kind === "from-table") return FromTable;
	if (kind === "use-set") return UseSet;
	return READING_WORDS.get(kind)?.params ?? STEP_WORDS.get(kind)?.params;
}
/** @throws JobFileError that says what is wrong and where */
function readJobFile(text) {
	let raw;
	try {
		raw = JSON.parse(text);
	} catch (error) {
		throw new JobFileError(`This is not a job file, or it is cut off: ${error.message}.`);
	}
	if (typeof raw !== "object" || raw === null || raw.rimefield !== "job") throw new JobFileError("This is JSON, but not a Rimefield job: it does not begin with \"rimefield\": \"job\".");
	const { version } = raw;
	if (version !== 1) throw new JobFileError(`This job was saved as version ${String(version)}; this Rimefield reads version 1. Open it with the Rimefield that saved it.`);
	const parsed = Job.safeParse(raw);
	if (!parsed.success) throw new JobFileError(`The job file is broken at ${issueText(parsed.error)}.`);
	const unknown = unknownKey(raw, parsed.data);
	if (unknown !== void 0) throw new JobFileError(`The job file cannot be used: ${unknownKeyText(unknown, Job)}.`);
	return checkSteps(parsed.data);
}
/**
* Params by the kind's own schema, which must know every key of them.
* @throws JobFileError, ZodError
*/
function strictParams(kind, params) {
	const parsed = parseParams(kind, params);
	const unknown = unknownKey(params, parsed);
	if (unknown !== void 0) throw new JobFileError(`${unknownKeyText(unknown, schemaOf(kind))}. Correct the name, or take it out.`);
	const each = parsed["each"];
	if (kind !== "read-files" || each === void 0) return parsed;
	const own = strictParams(each.kind, {
		source: "",
		...each.params
	});
	if (!("source" in each.params)) delete own["source"];
	return {
		...parsed,
		each: {
			...each,
			params: own
		}
	};
}
function checkSteps(job) {
	for (const table of [...job.tables, ...job.sets ?? []]) table.steps.forEach((step, k) => {
		const where = `step ${k + 1} of ${table.name}`;
		try {
			step.params = strictParams(step.kind, step.params);
		} catch (error) {
			if (error instanceof ZodError) throw new JobFileError(`The job file is broken in ${where} (${step.kind}), at ${issueText(error)}.`);
			throw new JobFileError(`The job file cannot be used in ${where}: ${error.message}`);
		}
	});
	return job;
}
function issueText(error) {
	const issue = error.issues[0];
	const path = issue.path.join(".");
	return `${path === "" ? "the top" : path}: ${issue.message}`;
}
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
	if (!IS_SOURCE) return new Worker(new URL("./kernel-child.js", import.meta.url), { workerData: what });
	const child = JSON.stringify(new URL("./kernel-child.ts", import.meta.url).href);
	const run = `import('tsx/esm/api').then(({ tsImport }) => tsImport(${child}, ${child}))`;
	return new Worker(run, {
		eval: true,
		workerData: what
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
export { outName as a, specOf as c, startSecondThread as d, fitsPattern as f, writeJobFile as h, numbered as i, write as l, readJobFile as m, filesAt as n, pathsAt as o, JobFileError as p, isFolder as r, readBytes as s, Trouble as t, writeJson as u };
