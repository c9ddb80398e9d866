#!/usr/bin/env node
import { $t as jobNames, Bn as countUnreadable, Vt as bundleFiles, Yn as sentenceText, Zt as fullTables, a as verdictText, c as stepSentence, dn as columnLetters, en as EXPORT_FORMATS, i as stopText, in as checkText, n as judge, nn as ExportStopped, o as openSource, p as Runner, r as runRecord, s as stepHeadline } from "./write-aside-PkVZPj8k.js";
import { d as counted, f as few, p as grouped } from "./builder-B1r8kR1k.js";
import { n as readJobFile, r as writeJobFile, t as JobFileError } from "./job-file-CC8dJtM3.js";
import { i as runInPieces, o as PiecesFailure } from "./in-pieces-DeiJ0gTN.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { r as DIALECTS, t as SqlRefused } from "./method-sql-Dny3G1dX.js";
import { a as outName, c as specOf, l as write, n as filesAt, o as pathsAt, r as isFolder, s as readBytes, t as Trouble, u as writeJson } from "./command-files-VaXFOnWP.js";
import { t as sha256Of } from "./sha256-sFWLoYVW.js";
import { i as released, n as releaseAll, r as releaseTable, t as exportStacked } from "./release-DNpdDK4j.js";
import { t as runEach } from "./many-files-DtVwTGdM.js";
import { r as exportChanges } from "./export-Bb_OgxNh.js";
import { n as RECORDS, r as recordedFiles, t as PartRunner } from "./run-part-klpmVD6Q.js";
import { mkdirSync, readFileSync, statSync } from "node:fs";
import { createHash } from "node:crypto";
import { basename, join } from "node:path";
import { cpus } from "node:os";
import { parseArgs } from "node:util";
import { fork } from "node:child_process";
import { fileURLToPath } from "node:url";
// core/read/print.ts
/** The page of a print that a row stands on. */
function pageOfRow({ pages }, row) {
	return pages.findLast((page) => page.first <= row) ?? pages[0];
}
// core/tally/place-text.ts
/** The address of a place of a report, as its readers would say it. */
function placeText(run, place) {
	const reading = readingOf(run, place.source);
	const part = reading?.report.parts[place.part];
	if (part === void 0) return "another report";
	if (place.row === -1) return `the name of ${part.name}`;
	if (reading.report.format === "text") {
		const file = reading.report.parts.length > 1 ? `${part.name}, ` : "";
		if (part.print !== void 0) {
			const page = pageOfRow(part.print, place.row);
			return `${file}page ${page.number}, line ${place.row - page.first + 1}, cell ${place.column + 1}`;
		}
		return `${file}line ${(part.lines?.[place.row] ?? place.row) + 1}, cell ${place.column + 1}`;
	}
	return `${part.name}!${columnLetters(place.column)}${place.row + 1}`;
}
function readingOf(run, source) {
	for (const step of run.steps) {
		if (step.reading?.source === source) return step.reading;
		for (const one of [step, ...step.inner ?? []]) for (const other of one.others) {
			const found = readingOf(other.run, source);
			if (found !== void 0) return found;
		}
	}
}
// service/command-options.ts
/** What a command is asked: its options, and what it says of itself. */
var USAGE = `Usage: rimefield COMMAND [JOB] [options]

Commands:
  draft FILES  proposes a method for one or several reports, and says why and how sure it is
  run JOB      runs a method on the given files and writes the table
  sql JOB      prints a method as one SQL script, for the columns of the files that are given
  raw JOB      writes the table after a step, as the script begins with it
  check JOB    runs a method and says how its tally and its checks stand; writes nothing
  show JOB     prints the methods as sentences
  serve        serves the application and watches the drop folder, until it is stopped

Options:
  --source NAME=FILE  the file for a source of the job, by the source's name or id; - for standard input. Where
                      the source is read as several files: a folder or an archive, or the option once for each file
  --each NAME=FILES   run: many files for a source, each on its own: a folder, an archive, or a pattern with * and ?
  --table NAME        which table; the last by default
  --out FILE          where to write; - for standard output; with --each a folder, or a file with --stack
  --all               all tables in one file where the format holds several, else as an archive
  --stack             with --each: one table of all, with the names of the files in its first column
  --dataset           with --each: a Parquet data set, a part for each file, in the folder --out. Run again, it goes on
                      where it was stopped, and runs what is new or has changed
  --workers N         with --dataset: on N processes; as many as there are processors by default
  --shard K/N         with --dataset: the K-th of N fixed parts of the files, for as many machines
  --pieces            run: piece by piece in little memory, to csv or parquet, where every step looks at one row at a
                      time; files over 1 GB always are
  --as FORMAT         ${Object.keys(EXPORT_FORMATS).join(", ")}; by the ending of --out if that is one, else csv
  --dialect NAME      sql: ${DIALECTS.join(", ")}; duckdb by default
  --upto STEP         raw: the number of the step after which the table is written, to parquet or csv
  --readable          raw: stop where a typed cell could not be read, which a database would take for blank
  --record FILE       writes a record of the run as JSON: files, counts, tally, checks; - for standard output
  draft:              --out JOB writes the drafted job, --table FILE the table it gives; --like FILE drafts
                      towards a finished table or some of its rows, with --whole all of them; other reports given
                      with it may bring columns; --drafts N writes the best N, numbered. Without --like several
                      reports share one method where one fits
  --quiet             says nothing of progress
  --strict            run: warnings make the exit code 1 too
  --port N, --host H  serve: where; port 4173 of this machine by default. Others may come in only with the token
                      that is printed when it starts
  --folder DIR        serve: the drop folder; the folder drop here by default

What is to check (unreadable cells, totals that disagree, keys without a match and the like) is said on standard
error, a line each. Exit code: 0 all well, 1 a check or a total fails or some of many files failed, 2 it could not run.
draft: 0 sure, 1 likely or a guess, 2 nothing to read.
`;
function parseOptions(args) {
	try {
		return parseArgs({
			args: [...args],
			allowPositionals: true,
			options: {
				source: {
					type: "string",
					multiple: true
				},
				each: { type: "string" },
				stack: { type: "boolean" },
				pieces: { type: "boolean" },
				dataset: { type: "boolean" },
				workers: { type: "string" },
				shard: { type: "string" },
				all: { type: "boolean" },
				quiet: { type: "boolean" },
				strict: { type: "boolean" },
				table: { type: "string" },
				out: { type: "string" },
				as: { type: "string" },
				record: { type: "string" },
				dialect: { type: "string" },
				upto: { type: "string" },
				readable: { type: "boolean" },
				like: { type: "string" },
				whole: { type: "boolean" },
				drafts: { type: "string" },
				port: { type: "string" },
				host: { type: "string" },
				folder: { type: "string" }
			}
		});
	} catch (error) {
		throw new Trouble(`${error.message}\n\n${USAGE}`);
	}
}
/** One line that is written over itself, where standard error is a terminal. */
function progressLine({ values, io }) {
	if (values.quiet || !io.terminal) return () => void 0;
	let last = 0;
	return (text) => {
		if (text !== "" && Date.now() - last < 100) return;
		last = Date.now();
		io.error(`\r\u001b[K${text}`);
	};
}
// service/command-given.ts
/** What a command is given: the job, its table, and files for its sources. */
/** The job file and the table that is asked for. */
function jobOf({ values, positionals, io }) {
	const [jobFile] = positionals;
	if (jobFile === void 0 || positionals.length > 1) throw new Trouble(`Name one job file.\n\n${USAGE}`);
	const job = readJobFile(new TextDecoder().decode(readBytes(jobFile, io)));
	const table = values.table === void 0 ? job.tables.at(-1) : job.tables.find(({ name, id }) => values.table === name || values.table === id);
	if (table === void 0) throw new Trouble(`The job has no table ${values.table ?? ""}. Its tables are ${job.tables.map(({ name }) => name).join(", ") || "none"}.`);
	return {
		job,
		table
	};
}
/** NAME=FILE, and which source of the job that is. */
function sourceOf(job, given, option) {
	const at = given.indexOf("=");
	if (at < 1) throw new Trouble(`${option} takes NAME=FILE, not ${given}.`);
	const [name, path] = [given.slice(0, at), given.slice(at + 1)];
	const source = job.sources.find((one) => one.name === name || one.id === name);
	if (source === void 0) throw new Trouble(`The job has no source ${name}. Its sources are ${job.sources.map((one) => one.name).join(", ")}.`);
	return {
		source,
		path
	};
}
function fileRecord(source, file, bytes) {
	let digest;
	return {
		source,
		file: basename(file),
		size: bytes.length,
		get sha256() {
			digest ??= sha256Of(bytes);
			return digest;
		}
	};
}
/** A runner that has the files of --source. Several for one source are one after the other, as a folder of them is. */
async function filesOf(job, options, budget) {
	const runner = new Runner(budget);
	const bySource = /* @__PURE__ */ new Map();
	for (const one of options.values.source ?? []) {
		const { source, path } = sourceOf(job, one, "--source");
		const files = isFolder(path) ? filesAt(path, options.io) : [{
			name: basename(path),
			bytes: readBytes(path, options.io)
		}];
		const before = bySource.get(source.id)?.files ?? [];
		bySource.set(source.id, {
			source,
			files: [...before, ...files]
		});
	}
	const records = [];
	for (const { source, files } of bySource.values()) {
		if (files.length > 1 && !job.tables.some((table) => readsFiles(table, source.id))) throw new Trouble(`${source.name} is read as one file, and ${counted(files.length, "file")} were given: ${few(files.map((file) => file.name))}. Give one, or run the method on each with --each.`);
		const only = files.length === 1 ? files[0] : {
			name: source.name,
			bytes: bundleFiles(files)
		};
		await openSource(only.bytes, only.name);
		runner.setSource(source.id, only);
		for (const file of files) records.push(fileRecord(source.name, file.name, file.bytes));
	}
	return {
		runner,
		files: records
	};
}
/** Whether a table reads a source as several files. */
function readsFiles(table, sourceId) {
	const [first] = table.steps;
	return first?.kind === "read-files" && first.params["source"] === sourceId;
}
/** Runs the table on the files that are given. @throws Trouble when it stops */
async function ranOn(options, instead) {
	const given = jobOf(options);
	const job = instead ?? given.job;
	const table = job.tables.find((one) => one.id === given.table.id);
	const { runner, files } = await filesOf(job, options);
	const told = progressLine(options);
	try {
		return {
			job,
			table,
			run: runOf(runner, job, table, (done) => told(`${Math.round(done * 100)}%`)),
			files
		};
	} finally {
		told("");
	}
}
/** @throws Trouble when the method stops, or there is none */
function runOf(runner, job, table, progress = () => void 0) {
	const run = runner.runTable(fullTables(job), table.id, { progress });
	if (run.stop !== void 0) throw new Trouble(stopText(job, table, run.stop));
	if (run.steps.length === 0) throw new Trouble(`${table.name} has no steps.`);
	return run;
}
// service/command-says.ts
/** What a command says of a run on standard error. */
/** What the steps of a run, and of the tables that it reads, say is to check; then what could not be read. */
function looksOf({ table, run, job }) {
	const found = /* @__PURE__ */ new Set();
	const walk = (of, title) => {
		of.steps.forEach((step, k) => {
			for (const { severity, text } of step.notices) if (severity === "warning") found.add(`${title}step ${k + 1}: ${text}`);
			for (const other of step.others) {
				const name = job.tables.find((one) => one.id === other.tableId)?.name ?? other.tableId;
				walk(other.run, `${name}, `);
			}
		});
	};
	walk(run, "");
	const cells = (run.steps.at(-1)?.table.fields ?? []).flatMap((field) => {
		const count = countUnreadable(field.column);
		return count === 0 ? [] : [`${field.name} (${grouped(count)})`];
	});
	if (cells.length > 0) found.add(`unreadable cells in ${table.name}: ${cells.join(", ")}`);
	return [...found];
}
/** Totals that disagree; those that one step's left-out rows explain are one line. */
function totalTexts({ run, job }, verdict) {
	const lines = [];
	const byStep = /* @__PURE__ */ new Map();
	for (const entry of verdict.ledger.entries) {
		if (entry.state !== "disagrees") continue;
		const { explanation } = entry;
		if (explanation?.leftOutBy === void 0) {
			lines.push(totalText(run, entry));
			continue;
		}
		const key = explanation.leftOutBy.join();
		const { step } = explanation;
		const sentence = job.tables.find((one) => one.id === step?.table)?.steps[step.index];
		const text = `left out by step ${step.index + 1}${sentence === void 0 ? "" : ` (${sentenceText(stepSentence(sentence, jobNames(job)))})`}`;
		const group = byStep.get(key) ?? {
			text,
			places: []
		};
		byStep.set(key, group);
		group.places.push(placeText(run, entry.place));
	}
	for (const { text, places } of byStep.values()) lines.push(`${counted(places.length, "total")} of the report ${places.length === 1 ? "counts" : "count"} rows ${text}: ${few(places)}. Accept it in the job's tally if that is meant.`);
	return lines;
}
function totalText(run, entry) {
	const why = entry.explanation === void 0 ? "" : ` ${entry.explanation.text}`;
	return `${placeText(run, entry.place)} says ${entry.figure}, the table adds to ${entry.table}.${why}`;
}
function troubleText(verdict) {
	return [verdictText(verdict), ...verdict.checks.filter((one) => !one.ok).map((one) => `${one.text} (${one.found})`)].join("; ");
}
/**
* Says what is to check on standard error, a line each: what steps told, unreadable cells, totals that disagree.
* @returns how many lines
*/
function tellLooks(ran, verdict, io) {
	const lines = [...looksOf(ran)];
	lines.push(...totalTexts(ran, verdict));
	for (const check of verdict.checks) if (!check.ok) lines.push(`check fails: ${check.text} (${check.found})`);
	for (const line of lines) io.error(`rimefield: ${line}\n`);
	return lines.length;
}
/** Texts that were written otherwise than they are. */
function tellChanges(runs, spec, io) {
	for (const run of runs) for (const change of exportChanges(run.steps.at(-1).table, spec)) io.error(`rimefield: ${change}\n`);
}
// service/dataset/run-dataset.ts
/** A method on many thousand files: a part of a data set for each, on several processes, taken up where it was stopped. */
/** The sources are run through tsx; what was built runs as it is. */
var IS_SOURCE = import.meta.url.endsWith(".ts");
var CHILD = fileURLToPath(new URL(IS_SOURCE ? "./part-child.ts" : "./part-child.js", import.meta.url));
/** A fixed part of the files, told by their names alone, whatever else is in the folder. */
function inShard(name, { index, of }) {
	return createHash("sha256").update(name).digest().readUInt32BE(0) % of === index - 1;
}
/** What tells a method with the other files that it reads from every other. */
function methodDigest({ job, table, source, others }) {
	const plain = {
		...job,
		sources: job.sources.map((one) => ({
			...one,
			file: null
		}))
	};
	const parts = [
		writeJobFile(plain),
		table,
		source,
		...others.map((one) => `${one.id} ${sha256Of(one.bytes)}`)
	];
	return sha256Of(new TextEncoder().encode(parts.join("\n")));
}
/**
* @param workers processes; with one, the files are run in this one
* @param told is given each file as it is done, in no order
*/
async function runDataset(setup, files, workers, told) {
	mkdirSync(setup.out, { recursive: true });
	const waiting = files[Symbol.iterator]();
	const lane = async (runner) => {
		for (const file of waiting) try {
			told({
				file: file.name,
				...await runner.run(file)
			});
		} catch (error) {
			told({
				file: file.name,
				why: error.message
			});
		}
		runner.end();
	};
	if (workers === 1) {
		const own = new PartRunner(setup);
		return lane({
			run: (file) => own.run(file),
			end: () => void 0
		});
	}
	await Promise.all(Array.from({ length: Math.min(workers, files.length) }, () => lane(new PartProcess(setup))));
}
/** Files that records are there for, and that the reports no longer hold: their parts are still in the data set. */
function goneFiles(out, files) {
	const known = new Set(files.map((file) => file.name));
	return recordedFiles(out).filter((name) => !known.has(name));
}
/** A process that makes parts, started again when it crashed. */
var PartProcess = class {
	setup;
	child;
	constructor(setup) {
		this.setup = setup;
	}
	/** @throws Error when the process crashed, or could not write */
	run(file) {
		const child = this.started();
		return new Promise((resolve, reject) => {
			const broken = () => {
				this.child = void 0;
				finish();
				reject(/* @__PURE__ */ new Error("The calculation crashed, usually because memory ran out."));
			};
			const answered = (answer) => {
				finish();
				if ("done" in answer) resolve(answer.done);
				else reject(new Error(answer.why));
			};
			const finish = () => child.off("exit", broken).off("error", broken).off("message", answered);
			child.on("exit", broken).on("error", broken).on("message", answered);
			child.send({ file });
		});
	}
	end() {
		this.child?.disconnect();
	}
	started() {
		if (this.child?.connected) return this.child;
		const child = fork(CHILD, {
			serialization: "advanced",
			execArgv: IS_SOURCE ? ["--import", "tsx"] : [],
			stdio: [
				"ignore",
				"ignore",
				"inherit",
				"ipc"
			]
		});
		child.send({ setup: this.setup });
		this.child = child;
		return child;
	}
};
// service/dataset/command.ts
/** What the command line asks of a data set, and says of it. */
/** Lines about single files; the records tell of all. */
var MAX_LINES = 20;
/** @throws Trouble */
function workersOf(given) {
	const workers = given === void 0 ? cpus().length : Number(given);
	if (!Number.isInteger(workers) || workers < 1 || workers > 256) throw new Trouble(`--workers takes a number of processes from 1 to 256, not ${given}.`);
	return workers;
}
/** @throws Trouble */
function shardOf(given) {
	if (given === void 0) return void 0;
	const [, index, of] = /^(\d+)\/(\d+)$/.exec(given)?.map(Number) ?? [];
	if (index === void 0 || of === void 0 || index < 1 || index > of) throw new Trouble(`--shard takes which part of how many, as 3/16, and not ${given}.`);
	return {
		index,
		of
	};
}
/** @returns 0, or 1 when a file failed, a total or check is not well, or a warning with strict */
async function makeDataset(setup, all, { workers, shard }, { io, progress, strict }) {
	const files = shard === void 0 ? all : all.filter((file) => inShard(file.name, shard));
	const began = performance.now();
	const counts = {
		done: 0,
		kept: 0,
		rows: 0,
		failed: 0,
		unwell: 0,
		looks: 0
	};
	const shapes = /* @__PURE__ */ new Map();
	let lines = 0;
	const say = (text) => {
		if (lines++ < MAX_LINES) {
			progress("");
			io.error(`rimefield: ${text}\n`);
		}
	};
	await runDataset(setup, files, workers, (outcome) => {
		counts.done++;
		const seconds = (performance.now() - began) / 1e3;
		progress(`${grouped(counts.done)} of ${grouped(files.length)}: ${Math.round(counts.done / seconds)} a second`);
		if ("why" in outcome) {
			counts.failed++;
			say(`${outcome.file}: ${outcome.why}`);
			return;
		}
		const { record, kept } = outcome;
		if (kept) counts.kept++;
		counts.rows += record.rows;
		if (record.failed !== void 0) {
			counts.failed++;
			say(`${outcome.file}: ${record.failed}`);
			return;
		}
		if (!record.good) {
			counts.unwell++;
			say(`${outcome.file}: ${record.verdict}`);
		}
		if (record.unreadable > 0 || record.looks.length > 0) counts.looks++;
		const shape = record.columns.map((column) => `${column.name} ${column.type}`).join(", ");
		const known = shapes.get(shape);
		if (known === void 0) shapes.set(shape, {
			file: outcome.file,
			count: 1
		});
		else known.count++;
	});
	progress("");
	if (lines > MAX_LINES) io.error(`rimefield: and ${grouped(lines - MAX_LINES)} more: the records in ${RECORDS} tell\n`);
	const [usual, ...odd] = [...shapes].sort((a, b) => b[1].count - a[1].count);
	for (const [shape, { file, count }] of odd.slice(0, 3)) io.error(`rimefield: ${counted(count, "part")}, as that of ${file}, ${count === 1 ? "has" : "have"} other columns than most (${shape}; most have ${usual[0]}): read them by name\n`);
	const gone = goneFiles(setup.out, all);
	if (gone.length > 0) io.error(`rimefield: ${counted(gone.length, "file")} of earlier runs ${gone.length === 1 ? "is" : "are"} no longer there, and what was made of them still is: ${few(gone)}\n`);
	const seconds = (performance.now() - began) / 1e3;
	const parts = counts.done - counts.failed;
	io.error(`rimefield: ${counted(files.length, "file")}${shard === void 0 ? "" : ` of ${grouped(all.length)}`}: ${counted(parts, "part")} with ${counted(counts.rows, "row")}${counts.kept > 0 ? `, ${grouped(counts.kept)} of the files as they were` : ""}${counts.failed > 0 ? `, ${grouped(counts.failed)} failed` : ""}${counts.unwell > 0 ? `, ${grouped(counts.unwell)} with totals or checks to look at` : ""}${counts.looks > 0 ? `, ${grouped(counts.looks)} with something told` : ""}; ${grouped(Math.round(files.length / Math.max(seconds, .001)))} files a second\n`);
	return counts.failed > 0 || counts.unwell > 0 || strict && counts.looks > 0 ? 1 : 0;
}
// service/command-run.ts
/** The command 'run': one table, all tables, many files, or one file piece by piece. */
async function run(options) {
	const { out } = options.values;
	if (out === void 0) {
		jobOf(options);
		throw new Trouble("Say where to write with --out FILE, or --out - for standard output.");
	}
	if (options.values.dataset) return runParts(options, out);
	if (options.values.each !== void 0) return runMany(options, options.values.each, out);
	if (options.values.all) return runWhole(options, out);
	const large = largeSource(options);
	if (large !== void 0) return runLarge(options, large, out);
	const ran = await ranOn(options);
	const spec = specOf(ran.table, out, options.values.as);
	const verdict = judge(ran.job, ran.table, ran.run);
	const told = tellLooks(ran, verdict, options.io);
	let held = false;
	try {
		write(out, await releaseTable(ran.job, {
			...ran,
			verdict
		}, spec), options.io);
		tellChanges([ran.run], spec, options.io);
	} catch (error) {
		if (!(error instanceof ExportStopped) || verdict.stopping.length === 0) throw error;
		held = true;
		options.io.error(`rimefield: nothing was written: ${error.message}\n`);
	}
	if (options.values.record !== void 0) writeJson(options.values.record, runRecord(ran, verdict), options.io);
	return verdict.good && !held && !(options.values.strict && told > 0) ? 0 : 1;
}
/** All tables of the job. Nothing is written when one of them stops, or fails a check that stops exports. */
async function runWhole(options, out) {
	const { job } = jobOf(options);
	const spec = specOf(job.tables.at(-1), out, options.values.as, true);
	const { runner, files } = await filesOf(job, options);
	const ran = job.tables.map((table) => {
		const result = runOf(runner, job, table);
		return {
			job,
			table,
			run: result,
			files,
			verdict: judge(job, table, result)
		};
	});
	let told = 0;
	for (const one of ran) told += tellLooks(one, one.verdict, options.io);
	let held = false;
	try {
		write(out, await releaseAll(job, ran, spec), options.io);
		tellChanges(ran.map((one) => one.run), spec, options.io);
	} catch (error) {
		if (!(error instanceof ExportStopped) || ran.every((one) => one.verdict.stopping.length === 0)) throw error;
		held = true;
		options.io.error(`rimefield: nothing was written: ${error.message}\n`);
	}
	if (options.values.record !== void 0) writeJson(options.values.record, ran.map((one) => runRecord(one, one.verdict)), options.io);
	return ran.every((one) => one.verdict.good) && !held && !(options.values.strict && told > 0) ? 0 : 1;
}
/** The file that is run piece by piece: the only one, when it is large or that is asked for. */
function largeSource({ values }) {
	const [only, ...others] = values.source ?? [];
	if (only === void 0 || others.length > 0) return void 0;
	const path = only.slice(only.indexOf("=") + 1);
	const size = statSync(path, { throwIfNoEntry: false });
	return size?.isFile() && (values.pieces === true || size.size >= 1e9) ? only : void 0;
}
async function runLarge(options, given, out) {
	const { job, table } = jobOf(options);
	const { source, path } = sourceOf(job, given, "--source");
	const spec = specOf(table, out, options.values.as);
	const counts = await runInPieces({
		job,
		table,
		source: source.id
	}, path, out, spec, options.io, progressLine(options));
	const piles = Object.entries(counts.aside).map(([name, rows]) => `${grouped(rows)} ${name}`);
	options.io.error(`rimefield: ${counted(counts.received, "row")} received in ${counted(counts.pieces, "piece")}: ${grouped(counts.rows)} in the table${piles.length === 0 ? "" : `, ${piles.join(", ")}`}; totals and checks are not looked at piece by piece\n`);
	if (counts.unreadable > 0) options.io.error(`rimefield: ${counted(counts.unreadable, "cell")} unreadable\n`);
	if (options.values.record !== void 0) writeJson(options.values.record, {
		rimefield: "record",
		version: 1,
		job: job.name,
		table: table.name,
		ok: true,
		inPieces: counts
	}, options.io);
	return options.values.strict && counts.unreadable > 0 ? 1 : 0;
}
/** Of many files, results of the last run alone are kept: other tables of the job are in it, and are not made again. */
var OF_RUN = 0;
/** The method on each of many files; a file that fails is reported, and the others are finished. */
async function runMany(options, each, out) {
	const { job, table } = jobOf(options);
	const { runner, files } = await filesOf(job, options, OF_RUN);
	const { source, path } = sourceOf(job, each, "--each");
	const inputs = filesAt(path, options.io);
	const stacking = options.values.stack ?? false;
	if (!stacking && out === "-") throw new Trouble("With --each the tables go into a folder: name it with --out FOLDER.");
	const spec = specOf(table, stacking ? out : "", options.values.as);
	const told = progressLine(options);
	const tables = [];
	const records = [];
	let failed = 0;
	const taken = /* @__PURE__ */ new Set();
	let k = 0;
	for await (const outcome of runEach(runner, {
		job,
		table,
		source: source.id
	}, inputs, { progress: () => void 0 })) {
		told(`${k + 1} of ${inputs.length}: ${outcome.file}`);
		const file = fileRecord(source.name, outcome.file, inputs[k++].bytes);
		const record = (more) => records.push({
			...more,
			files: [...files, file]
		});
		if (outcome.as === "failed") {
			failed++;
			told("");
			options.io.error(`rimefield: ${outcome.file}: ${outcome.why}\n`);
			record({
				rimefield: "record",
				version: 1,
				job: job.name,
				table: table.name,
				ok: false,
				stopped: outcome.why
			});
			continue;
		}
		const { run: result, verdict } = outcome;
		record(runRecord({
			job,
			table,
			run: result,
			files: []
		}, verdict));
		const looks = looksOf({
			job,
			table,
			run: result,
			files: []
		});
		if (!verdict.good || options.values.strict && looks.length > 0) failed++;
		if (!verdict.good || looks.length > 0) told("");
		if (!verdict.good) options.io.error(`rimefield: ${outcome.file}: ${troubleText(verdict)}\n`);
		for (const line of looks) options.io.error(`rimefield: ${outcome.file}: ${line}\n`);
		if (verdict.stopping.length > 0) continue;
		const finished = {
			table,
			run: result,
			verdict
		};
		if (stacking) tables.push({
			name: outcome.file,
			exported: released(job, finished)
		});
		else {
			write(join(out, outName(outcome.file, spec, taken)), await releaseTable(job, finished, spec), options.io);
			tellChanges([result], spec, options.io);
		}
	}
	told("");
	if (tables.length > 0) write(out, await exportStacked(table.name, tables, spec), options.io);
	if (options.values.record !== void 0) writeJson(options.values.record, records, options.io);
	return failed > 0 ? 1 : 0;
}
/** A data set of many files, each a part; a file that fails is reported, and the others are finished. */
async function runParts(options, out) {
	const { each, workers, shard } = options.values;
	const { job, table } = jobOf(options);
	if (each === void 0 || out === "-") throw new Trouble("A data set is made of many files in a folder: say which with --each NAME=FILES, and where with --out FOLDER.");
	const { source, path } = sourceOf(job, each, "--each");
	const { runner } = await filesOf(job, options);
	const others = job.sources.flatMap(({ id }) => {
		const known = id === source.id ? void 0 : runner.source(id);
		return known === void 0 ? [] : [{
			id,
			...known
		}];
	});
	const chosen = {
		job,
		table: table.id,
		source: source.id,
		others
	};
	const choices = {
		workers: workersOf(workers),
		shard: shardOf(shard)
	};
	return makeDataset({
		...chosen,
		out,
		method: methodDigest(chosen)
	}, pathsAt(path), choices, {
		io: options.io,
		progress: progressLine(options),
		strict: options.values.strict ?? false
	});
}
// service/commands.ts
var COMMANDS = {
	draft,
	run,
	sql,
	raw,
	check,
	show,
	serve: serveHere
};
var OURS = [
	Trouble,
	JobFileError,
	ExportStopped,
	ReadFailure,
	PiecesFailure,
	SqlRefused
];
/** Does what the arguments say; what the caller has to put right is said on io.error. */
async function rimefield(args, io) {
	const [command, ...rest] = args;
	try {
		if (command === void 0 || command === "--help" || command === "help") {
			say(io, USAGE);
			return 0;
		}
		const found = COMMANDS[command];
		if (found === void 0) throw new Trouble(`There is no command ${command}.\n\n${USAGE}`);
		return await found({
			...parseOptions(rest),
			io
		});
	} catch (error) {
		const message = error instanceof Error ? error.message : String(error);
		if (OURS.some((kind) => error instanceof kind)) io.error(`rimefield: ${message}\n`);
		else io.error(`rimefield: something went wrong in Rimefield itself (${message}). Nothing was changed. Please report it, with the job file and what was run.\n`);
		return 2;
	}
}
function say(io, text) {
	io.output(new TextEncoder().encode(text));
}
/** The method as SQL. */
async function sql(options) {
	const { dialectOf, sqlScript } = await import("./sql-DdnP80ga.js");
	const dialect = dialectOf(options.values.dialect);
	const { text } = sqlScript(await ranOn(options), dialect);
	write(options.values.out ?? "-", new TextEncoder().encode(text), options.io);
	return 0;
}
/** The table after a step, as a script of the method begins with it. */
async function raw(options) {
	const { job, table } = jobOf(options);
	const { out, upto } = options.values;
	const { rawBytes, stepIndex } = await import("./sql-DdnP80ga.js");
	const step = stepIndex(table, upto);
	if (out === void 0) throw new Trouble("Say where to write with --out FILE, or --out - for standard output.");
	const tables = job.tables.map((one) => one === table ? {
		...one,
		steps: one.steps.slice(0, step + 1)
	} : one);
	const { run } = await ranOn(options, {
		...job,
		tables
	});
	write(out, await rawBytes(table.name, run, specOf(table, out, options.values.as).as, options.values.readable), options.io);
	return 0;
}
async function check(options) {
	const ran = await ranOn(options);
	const verdict = judge(ran.job, ran.table, ran.run);
	const { cells, ledger } = verdict;
	const all = ledger.agrees + ledger.disagrees + ledger.cannotTell + ledger.leftOut;
	const lines = [
		`${ran.table.name}: ${grouped(ran.run.steps.at(-1).table.rows)} rows`,
		`${grouped(cells.accounted)} of ${grouped(cells.filled)} filled cells accounted for`,
		all === 0 ? "no rows or columns are marked as totals" : `${grouped(ledger.agrees)} of ${grouped(all)} totals agree`,
		...ledger.entries.filter((entry) => entry.state === "disagrees").slice(0, 20).map((entry) => `  ${totalText(ran.run, entry)}`),
		...verdict.checks.map((one) => `${one.ok ? "holds" : "FAILS"}: ${one.text} (${one.found})`)
	];
	if (options.values.record !== "-") say(options.io, `${lines.join("\n")}\n`);
	if (options.values.record !== void 0) writeJson(options.values.record, runRecord(ran, verdict), options.io);
	return verdict.good ? 0 : 1;
}
function show(options) {
	const { job } = jobOf(options);
	const wanted = options.values.table;
	const lines = job.tables.filter((one) => wanted === void 0 || one.name === wanted || one.id === wanted).flatMap((table) => [
		table.name,
		...table.steps.flatMap((step, k) => [
			`${String(k + 1).padStart(3)}. ${stepHeadline(step, {}, jobNames(job))}${step.muted ? " (skipped)" : ""}`,
			`     ${sentenceText(stepSentence(step, jobNames(job)))}`,
			...step.note === void 0 ? [] : [`     ${step.note}`]
		]),
		...(table.checks ?? []).map((one) => `   - ${checkText(one)}`),
		""
	]);
	say(options.io, lines.join("\n"));
	return 0;
}
async function draft(options) {
	const { values, positionals, io } = options;
	if (positionals.length === 0) throw new Trouble(`Name at least one report.\n\n${USAGE}`);
	const { out, table, like, whole = false, drafts } = values;
	const { draftReports } = await import("./draft-Cqcgy6UJ.js");
	return draftReports({
		files: positionals,
		out,
		table,
		like,
		whole,
		drafts,
		io,
		progress: progressLine(options)
	});
}
async function serveHere({ values, positionals, io }) {
	if (positionals.length > 0) throw new Trouble(`serve takes no file, and ${positionals.join(", ")} was given.`);
	const { serve, serveChoices } = await import("./serve-DqvIScxF.js");
	await serve(serveChoices(values), (text) => say(io, text));
	return 0;
}
// service/cli.ts
process.stdout.on("error", (error) => {
	if (error.code === "EPIPE") process.exit();
	throw error;
});
var code = await rimefield(process.argv.slice(2), {
	input: () => readFileSync(0),
	output: (bytes) => process.stdout.write(bytes),
	error: (text) => process.stderr.write(text),
	terminal: process.stderr.isTTY
});
if (process.argv[2] === "serve") process.exit(code);
process.exitCode = code;
export {};
