import { f as ByteWriter, n as writeDelimited, u as ParquetPieces } from "./write-delimited-BcYwzydv.js";
import { d as counted, p as grouped } from "./builder-B1r8kR1k.js";
import { Bt as firstInvalidUtf8, T as tokenizeDelimited, Zt as fullTables, gn as unreadableCells, nn as ExportStopped, p as Runner, u as cellsOfReport, w as readDelimited, zt as decodeSource } from "./write-aside-PkVZPj8k.js";
import { d as startSecondThread, f as workerOf, t as Trouble } from "./command-files-VaXFOnWP.js";
import { closeSync, fsyncSync, mkdirSync, openSync, readSync, renameSync, rmSync, statSync, writeSync } from "node:fs";
import fs from "fs";
import { basename, dirname } from "node:path";
import { availableParallelism } from "node:os";
// core/read/delimited/row-ends.ts
/** Where rows of delimited text end, without reading them. */
/**
* Behind the last row that ends with a line feed in these bytes, which begin with a row. Quotes count as the tokenizer
* counts them: they open a cell where they stand first in it.
*
* @returns 0 where no row ends, or the form has what cannot be told so: runs, brackets, comments, signs of several bytes
*/
function endOfRows(bytes, form) {
	if (form.brackets !== null) return 0;
	const quote = form.quote === null || form.quote === "" ? -1 : signOf(form.quote);
	if (quote === void 0) return 0;
	if (quote < 0 || !bytes.includes(quote)) return bytes.lastIndexOf(10) + 1;
	const delimiter = signOf(form.delimiter);
	if (delimiter === void 0 || form.runs || holds(bytes, form.comment)) return 0;
	let end = 0;
	let at = 0;
	for (;;) {
		const open = bytes.indexOf(quote, at);
		const last = bytes.lastIndexOf(10, open < 0 ? bytes.length : open);
		if (last >= at) end = last + 1;
		if (open < 0) return end;
		const before = open === 0 ? 10 : bytes[open - 1];
		if (before !== delimiter && before !== 10 && before !== 13) {
			at = open + 1;
			continue;
		}
		let close = open + 1;
		for (; close < bytes.length; close++) {
			if (bytes[close] !== quote) continue;
			if (bytes[close + 1] !== quote) break;
			close++;
		}
		if (close >= bytes.length) return end;
		at = close + 1;
	}
}
/** The byte of a sign of one ASCII character. */
function signOf(sign) {
	return sign.length === 1 && sign.charCodeAt(0) < 128 ? sign.charCodeAt(0) : void 0;
}
function holds(bytes, comment) {
	const [sign] = comment ?? "";
	return sign !== void 0 && (signOf(sign) === void 0 || bytes.includes(signOf(sign)));
}
// core/release/in-pieces.ts
/** Why a method cannot run piece by piece, or stopped. */
var PiecesFailure = class extends Error {
	name = "PiecesFailure";
};
/** Steps that look at one row at a time, and at nothing else of the table. */
var ROW_BY_ROW = /* @__PURE__ */ new Set([
	...[
		"keep-rows",
		"drop-rows",
		"set-aside"
	],
	...[
		"rename",
		"keep-columns",
		"drop-columns",
		"move-columns"
	],
	...[
		"set-types",
		"replace",
		"clean-text",
		"blank-texts",
		"recode",
		"date-parts",
		"round",
		"extract",
		"join-text"
	],
	...[
		"expression",
		"split-to-columns",
		"split-to-rows",
		"unpivot"
	]
]);
/** Rules that ask where a row stands, or what other rows hold. */
var OF_PLACE = /* @__PURE__ */ new Set([
	"above-first",
	"below-last",
	"right-above",
	"between-rows",
	"place",
	"adds-up",
	"same"
]);
var quiet = { progress: () => void 0 };
/** Runs a method on a text piece by piece; the pieces one after the other give the table of the whole. */
var InPieces = class {
	job;
	table;
	source;
	file;
	lineAt;
	steps;
	runner = new Runner(0);
	encoding;
	/** What stands above the data, which the header is made of again for each piece. */
	front = /* @__PURE__ */ new Uint8Array();
	frontRows = 0;
	columns;
	/** Bytes of the pieces so far. */
	at = 0;
	/**
	* @param lineAt says the line in which a byte of the file stands, both counted from 0; asked only to tell where it failed
	* @throws PiecesFailure that names the step which needs the whole table
	*/
	constructor(job, table, source, file, lineAt) {
		this.job = job;
		this.table = table;
		this.source = source;
		this.file = file;
		this.lineAt = lineAt;
		this.steps = table.steps.filter((step) => step.muted !== true);
		const [reading, ...others] = this.steps;
		if (reading?.kind !== "read-delimited" && reading?.kind !== "read-fixed-width") throw new PiecesFailure(`${table.name} does not begin with delimited text or fixed columns: only those are read piece by piece. Give a smaller file, or split it.`);
		others.forEach((step, k) => {
			const why = whyWhole(step, k === 0);
			if (why !== void 0) throw new PiecesFailure(`Step ${k + 2} of ${table.name} (${step.kind}) needs the whole table: ${why}. Split the file and run the method on each part, or leave the step out.`);
		});
		this.encoding = reading.params["encoding"] ?? null;
	}
	/** What the first piece told; undefined before it ran. */
	get begun() {
		const { encoding, columns, front, frontRows } = this;
		return columns === void 0 ? void 0 : {
			encoding,
			columns,
			front,
			frontRows
		};
	}
	/** Goes on behind a first piece that ran elsewhere, at a byte of the file. */
	goOn({ encoding, columns, front, frontRows }, at) {
		Object.assign(this, {
			encoding,
			columns,
			front,
			frontRows,
			at
		});
	}
	/**
	* How many of these bytes are whole rows. @param isLast nothing follows them
	* @returns 0 where not one row ends in them
	*/
	wholeRows(bytes, isLast) {
		if (isLast) return bytes.length;
		const [reading] = this.steps;
		if (reading.kind === "read-fixed-width") return bytes.lastIndexOf(10) + 1;
		const form = readDelimited.params.parse(reading.params);
		const end = endOfRows(bytes, form);
		if (end > 0) return end;
		const { lines, rows } = tokenizeDelimited(this.file, bytes, this.encoding ?? "utf-8", form, quiet);
		return rows < 2 ? 0 : offsetOfLine(bytes, lines[rows - 1]);
	}
	/** Runs the next piece. @param bytes whole rows @throws PiecesFailure */
	next(bytes) {
		const isFirst = this.columns === void 0;
		if (isFirst && this.encoding === null) this.encoding = encodingOf(bytes, this.file);
		const place = () => `in the piece from line ${grouped(this.lineAt(this.at) + 1)} on`;
		if (/^utf-?8$/i.test(this.encoding) && firstInvalidUtf8(bytes) >= 0) throw new PiecesFailure(`${this.file} is not all ${this.encoding} (${place()}). State its encoding in the reading, as windows-1252, say.`);
		const whole = isFirst ? bytes : joined(this.front, bytes);
		const [reading, ...others] = this.steps;
		const steps = [{
			...reading,
			params: {
				...reading.params,
				encoding: this.encoding
			}
		}, ...others];
		const table = {
			...this.table,
			steps
		};
		this.runner.setSource(this.source, {
			name: this.file,
			bytes: whole
		});
		const tables = fullTables({
			...this.job,
			tables: this.job.tables.map((one) => one.id === table.id ? table : one)
		});
		const run = this.runner.runTable(tables, table.id, quiet);
		if (run.stop !== void 0) throw new PiecesFailure(`${this.file}: ${run.stop.message} (${place()})`);
		const last = run.steps.at(-1);
		const columns = last.table.fields.map((field) => `${field.name} (${field.column.type})`).join(", ");
		if (isFirst) {
			this.columns = columns;
			this.front = this.frontOf(run, whole);
		} else if (columns !== this.columns) throw new PiecesFailure(`${this.file} gives other columns ${place()}: ${columns}; before it was ${this.columns}. Set the types of all columns, and check the lines there.`);
		const again = isFirst ? 0 : this.frontRows;
		const aside = /* @__PURE__ */ new Map();
		run.steps.forEach((step, k) => {
			for (const { name, rows } of step.aside) {
				const own = k === 1 ? rows.filter((row) => row >= again).length : rows.length;
				if (own > 0) aside.set(name, (aside.get(name) ?? 0) + own);
			}
		});
		const received = run.steps[0].table.rows - again;
		this.at += bytes.length;
		this.runner.forget();
		return {
			table: last.table,
			received,
			aside,
			unreadable: unreadableCells(last.table)
		};
	}
	/** The bytes above the first row of data, where a header is made of them. */
	frontOf(run, bytes) {
		if (this.steps[1]?.kind !== "header-from-rows") return /* @__PURE__ */ new Uint8Array();
		const { table } = run.steps[1];
		if (table.rows === 0) throw new PiecesFailure(`${this.file} has no rows below its header.`);
		const rows = table.fields.flatMap((_, column) => cellsOfReport(run, 1, {
			row: 0,
			column
		}).map((cell) => cell.row));
		const first = Math.min(...rows.filter((row) => row >= 0));
		this.frontRows = first;
		const part = run.steps[0].reading.report.parts[0];
		return bytes.slice(0, offsetOfLine(bytes, part.lines?.[first] ?? first));
	}
};
/** Why a step needs the whole table; undefined where it does not. */
function whyWhole({ kind, params }, isSecond) {
	if (kind === "header-from-rows") {
		if (!isSecond) return "a header step must come directly after reading";
		return params["within"] === void 0 ? void 0 : "it looks for a header in every part";
	}
	if (!ROW_BY_ROW.has(kind)) return "its result depends on other rows";
	const rule = findRule(params);
	return rule === void 0 ? void 0 : `its rule (${rule}) asks where a row stands`;
}
function findRule(value) {
	if (Array.isArray(value)) {
		for (const one of value) {
			const found = findRule(one);
			if (found !== void 0) return found;
		}
		return;
	}
	if (typeof value !== "object" || value === null) return void 0;
	const { test, by } = value;
	if (typeof test === "string" && OF_PLACE.has(test)) return test;
	if (by === "blank" || by === "constant") return `columns that are ${by}`;
	return findRule(Object.values(value));
}
function encodingOf(bytes, file) {
	const { encoding } = decodeSource(bytes, null, file);
	if (encoding.startsWith("utf-16")) throw new PiecesFailure(`${file} is ${encoding}, which is not read piece by piece. Save it as UTF-8.`);
	return encoding;
}
/** Where a line begins, counted from 0. */
function offsetOfLine(bytes, line) {
	let at = 0;
	if (holdsLoneReturn(bytes)) {
		for (let left = line; left > 0 && at < bytes.length; at++) if (bytes[at] === 10 || bytes[at] === 13 && bytes[at + 1] !== 10) left--;
		return at;
	}
	for (let left = line; left > 0; left--) {
		const feed = bytes.indexOf(10, at);
		if (feed < 0) return bytes.length;
		at = feed + 1;
	}
	return at;
}
/** Whether a line ends with a carriage return alone. */
function holdsLoneReturn(bytes) {
	for (let at = bytes.indexOf(13); at >= 0; at = bytes.indexOf(13, at + 1)) if (bytes[at + 1] !== 10) return true;
	return false;
}
function joined(one, other) {
	const both = new Uint8Array(one.length + other.length);
	both.set(one);
	both.set(other, one.length);
	return both;
}
// node_modules/hyparquet-writer/src/node.js
/**
* Buffered file writer.
* Writes data to a local file in chunks using node fs.
*
* @param {string} filename
* @returns {Writer}
*/
function fileWriter(filename) {
	const writer = new ByteWriter();
	const chunkSize = 1e6;
	fs.writeFileSync(filename, "", { flag: "w" });
	function flush() {
		const chunk = new Uint8Array(writer.buffer, 0, writer.index);
		fs.writeFileSync(filename, chunk, { flag: "a" });
		writer.index = 0;
	}
	/**
	* Override the ensure method
	* @param {number} size
	*/
	writer.ensure = function(size) {
		if (writer.index > chunkSize) flush();
		if (writer.index + size > writer.buffer.byteLength) {
			const newSize = Math.max(writer.buffer.byteLength * 2, writer.index + size);
			const newBuffer = new ArrayBuffer(newSize);
			new Uint8Array(newBuffer).set(new Uint8Array(writer.buffer));
			writer.buffer = newBuffer;
			writer.view = new DataView(writer.buffer);
		}
	};
	writer.getBuffer = function() {
		throw new Error("getBuffer not supported for FileWriter");
	};
	writer.getBytes = function() {
		throw new Error("getBytes not supported for FileWriter");
	};
	writer.finish = function() {
		flush();
	};
	return writer;
}
// service/piece-pool.ts
var FAILURES = {
	PiecesFailure,
	ExportStopped
};
var PiecePool = class {
	idle;
	all;
	given = [];
	constructor(setup, threads) {
		this.all = Array.from({ length: threads }, () => workerOf("pieces-child", setup));
		this.idle = [...this.all];
		for (const worker of this.all) worker.unref();
	}
	/** Every thread has a piece. */
	get isFull() {
		return this.idle.length === 0;
	}
	get isWorking() {
		return this.given.length > 0;
	}
	/** Hands a piece, and its memory, to a thread that is idle. */
	give({ bytes, length, at }) {
		const worker = this.idle.pop();
		const answer = new Promise((resolve, reject) => {
			const done = (one) => {
				worker.off("error", reject);
				this.idle.push(worker);
				resolve(one);
			};
			worker.once("message", done);
			worker.once("error", reject);
		});
		answer.catch(() => void 0);
		this.given.push(answer);
		worker.ref();
		worker.postMessage({
			bytes,
			length,
			at
		}, [bytes.buffer]);
	}
	/** The piece that was given first. @throws PiecesFailure, ExportStopped */
	async take() {
		const answer = await this.given.shift();
		if (!("failed" in answer)) return answer;
		throw new (FAILURES[answer.failed] ?? Error)(answer.message);
	}
	end() {
		for (const worker of this.all) worker.terminate();
	}
};
// service/in-pieces.ts
/** A method on a file that is too large to hold: read, run and written piece by piece. */
/** Bytes of a piece, and of the first, which tells what all others need. */
var PIECE = 33554432;
var FIRST_PIECE = 4194304;
/** A row that is longer is none: a quote is never closed. */
var MAX_ROW_LENGTH = 536870912;
/** Files from here on are run piece by piece. */
var WHOLE_BYTES = 1e9;
/**
* @param told says how far it is
* @throws Trouble, PiecesFailure, ExportStopped
*/
async function runInPieces({ job, table, source }, path, out, spec, io, told, { piece = PIECE, threads } = {}) {
	const run = new InPieces(job, table, source, basename(path), (byte) => linesBefore(path, byte));
	const { size } = statSync(path);
	const counts = {
		received: 0,
		rows: 0,
		aside: {},
		unreadable: 0,
		pieces: 0
	};
	const aside = out === "-" ? "" : `${out}.${process.pid}.part`;
	if (out !== "-") mkdirSync(dirname(out), { recursive: true });
	const output = writing(out, () => outputOf(spec, aside, io));
	const count = (made, end) => {
		counts.received += made.received;
		counts.rows += made.rows;
		counts.unreadable += made.unreadable;
		counts.pieces++;
		for (const [name, rows] of made.aside) counts.aside[name] = (counts.aside[name] ?? 0) + rows;
		told(`${Math.round(100 * end / size)}%: ${counted(counts.rows, "row")}`);
	};
	let pool;
	try {
		for (const { bytes, length, at } of piecesOf(run, path, size, piece)) {
			const isBegun = run.begun !== void 0;
			if (isBegun && pool === void 0 && spec.as === "csv") pool = poolFor({
				job,
				table: table.id,
				source,
				path,
				spec,
				begun: run.begun
			}, size - at, piece, threads);
			if (pool === void 0) {
				if (!isBegun) startSecondThread(size);
				const made = run.next(bytes.subarray(0, length));
				writing(out, () => output.add(made.table));
				count({
					...made,
					rows: made.table.rows
				}, at + length);
				continue;
			}
			while (pool.isFull) await takeOne(pool);
			pool.give({
				bytes,
				length,
				at
			});
		}
		while (pool?.isWorking === true) await takeOne(pool);
		writing(out, () => {
			output.end();
			if (aside !== "") renameSync(aside, out);
		});
	} catch (error) {
		if (aside !== "") rmSync(aside, { force: true });
		throw error;
	} finally {
		pool?.end();
		told("");
	}
	return counts;
	async function takeOne(from) {
		const { text, made, end } = await from.take();
		writing(out, () => output.addText(text));
		count(made, end);
	}
}
/** Threads beside this one where there is enough for two of them; none where there is one processor. */
function poolFor(setup, left, piece, threads = availableParallelism() < 2 ? 0 : Math.min(MAX_THREADS, availableParallelism())) {
	return threads === 0 || left < 2 * piece ? void 0 : new PiecePool(setup, threads);
}
/** Threads that one which reads and writes can keep busy. */
var MAX_THREADS = 4;
/** A file in pieces of whole rows: in each the bytes up to a length, which begin at a byte of the file. */
function* piecesOf(run, path, size, piece) {
	const file = openSync(path, "r");
	try {
		let left = /* @__PURE__ */ new Uint8Array();
		let at = 0;
		while (at < size || left.length > 0) {
			const wanted = run.begun === void 0 ? Math.min(piece, FIRST_PIECE) : piece;
			const bytes = new Uint8Array(left.length + Math.min(wanted, size - at));
			bytes.set(left);
			for (let filled = left.length; filled < bytes.length;) {
				const read = readSync(file, bytes, filled, bytes.length - filled, at);
				if (read === 0) throw new Trouble(`${path} became shorter while it was read.`);
				filled += read;
				at += read;
			}
			const length = run.wholeRows(bytes, at === size);
			if (length === 0) {
				if (bytes.length > MAX_ROW_LENGTH) throw new Trouble(`A row of ${path} is longer than ${grouped(MAX_ROW_LENGTH / 1048576)} MiB, before byte ${grouped(at)}: a quote may never be closed. Correct it, or say in the reading that there are no quotes.`);
				left = bytes;
				continue;
			}
			left = bytes.slice(length);
			yield {
				bytes,
				length,
				at: at - bytes.length
			};
		}
	} finally {
		closeSync(file);
	}
}
/** @throws Trouble that names the file where the system refuses to write it */
function writing(out, work) {
	try {
		return work();
	} catch (error) {
		const { code, message } = error;
		throw code === void 0 ? error : new Trouble(`${out} cannot be written: ${message}`);
	}
}
/** Line feeds before a byte of a file. */
function linesBefore(path, byte) {
	const file = openSync(path, "r");
	const bytes = Buffer.alloc(1 << 20);
	let lines = 0;
	try {
		for (let at = 0; at < byte;) {
			const read = readSync(file, bytes, 0, Math.min(bytes.length, byte - at), at);
			if (read === 0) break;
			for (let k = bytes.indexOf(10); k >= 0 && k < read; k = bytes.indexOf(10, k + 1)) lines++;
			at += read;
		}
	} finally {
		closeSync(file);
	}
	return lines;
}
/** Delimited text of the rows alone. */
function rowsAsText(table, spec) {
	const names = writeDelimited({
		...table,
		rows: 0
	}, spec).length;
	return writeDelimited(table, spec).subarray(names);
}
function outputOf(spec, aside, io) {
	if (spec.as === "parquet") {
		if (aside === "") throw new Trouble("Parquet is written piece by piece into a file: name it with --out.");
		const pieces = new ParquetPieces(fileWriter(aside));
		return {
			add: (table) => pieces.add(table),
			end: () => pieces.end()
		};
	}
	if (spec.as !== "csv") throw new Trouble(`A file of this size is written as csv or parquet, and not as ${spec.as}. Choose one of them with --as.`);
	const to = aside === "" ? void 0 : openSync(aside, "w");
	const put = (bytes) => {
		if (to === void 0) io.output(bytes);
		else for (let at = 0; at < bytes.length;) at += writeSync(to, bytes, at);
	};
	let isFirst = true;
	return {
		add(table) {
			put(isFirst ? writeDelimited(table, spec) : rowsAsText(table, spec));
			isFirst = false;
		},
		addText: put,
		end() {
			if (to === void 0) return;
			fsyncSync(to);
			closeSync(to);
		}
	};
}
export { InPieces as a, runInPieces as i, linesBefore as n, PiecesFailure as o, rowsAsText as r, WHOLE_BYTES as t };
