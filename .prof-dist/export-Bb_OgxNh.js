import { Cn as countedText, Gt as Deflate, Ht as crc32, Jt as zipSync, Kt as Zip, Sn as cellText, Tn as textView, Ut as freeName, Wn as holdsSpans, bn as VectorPlaces, dn as columnLetters, en as EXPORT_FORMATS, hn as uniqueName, jn as MS, kn as numberText, mn as makeTable, nn as ExportStopped, qn as textsUnmade, qt as strToU8, vn as KERNEL_BYTES, zn as blankMask } from "./write-aside-PkVZPj8k.js";
import { d as counted, f as few, o as countedColumn, p as grouped, s as textColumn } from "./builder-B1r8kR1k.js";
import { a as concatenate, c as kindOf, d as writeParquet, h as valuesOf, i as TextBytes, l as unreadableRows, m as valueKind, n as writeDelimited, o as partCells, p as textsOf, r as writeRows, s as stopsAt, t as guardedText } from "./write-delimited-BcYwzydv.js";
import { a as FREE_FROM, i as takenThread, o as kernels } from "./kernel-thread-4UV4J0Tc.js";
// core/write/fits.ts
/** What a format cannot hold, found before anything is written. */
/** The whole numbers of 64 bits end here. */
var MAX_WHOLE = 2 ** 63;
/** Days from 1970-01-01 that 32 bits hold, and milliseconds that a date of ECMAScript holds. */
var MAX_DAYS = 2 ** 31;
var MAX_MS = 864e13;
var BOUNDS = {
	whole: {
		most: MAX_WHOLE,
		what: "more than the whole numbers of 64 bits",
		remedy: "Set the type of the column to number or text"
	},
	date: {
		most: Math.min(MAX_DAYS, MAX_MS / 864e5),
		what: "beyond the dates",
		remedy: "Set its type to text"
	},
	datetime: {
		most: MAX_MS,
		what: "beyond the dates",
		remedy: "Set its type to text"
	}
};
/**
* @param of the table's name where several go out together
* @throws ExportStopped that names the cell and says what to do
*/
function refuseUnfit(table, spec, of) {
	const lead = of === void 0 ? "" : `${of}: `;
	const { cell, typed, halves, noControls } = EXPORT_FORMATS[spec.as].limits ?? {};
	const isWritten = halves?.(spec) === true ? () => true : isWhole;
	for (const field of table.fields) {
		if (!isWritten(field.name)) throw new ExportStopped(`${lead}The name ${field.name} holds half of a character, which no file can hold. Rename it.`);
		if (noControls === true) refuseControls(field, table.rows, lead);
		refuseTexts(field, table.rows, lead, cell ?? Number.POSITIVE_INFINITY, isWritten);
		if (typed === true) refuseNumbers(field, lead);
	}
}
var isOfBytes = (column) => holdsSpans(column) || textsUnmade(column) !== void 0;
function refuseTexts(field, rows, lead, most, isWritten) {
	const { column, name } = field;
	if (rows === 0 || column.type !== "text" && column.type !== "received") return;
	if (most === Number.POSITIVE_INFINITY && column.type === "text" && isOfBytes(column)) return;
	const { codes, texts } = textView(column);
	const bad = texts.findIndex((text) => text.length > most || !isWritten(text));
	if (bad < 0) return;
	const row = codes.indexOf(bad) + 1;
	const text = texts[bad];
	throw new ExportStopped(isWritten(text) ? `${lead}${name}, row ${row} holds ${grouped(text.length)} characters; a cell of a workbook holds ${grouped(most)}. Choose another format, or shorten the texts.` : `${lead}${name}, row ${row} holds half of a character, which no file can hold. Replace it, or read the report in its own encoding.`);
}
var CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;
function refuseControls({ name, column }, rows, lead) {
	const refuse = (where, text) => {
		const code = CONTROL.exec(text)[0].charCodeAt(0).toString(16).toUpperCase().padStart(4, "0");
		throw new ExportStopped(`${lead}${where} contains the control character U+${code}, which this format cannot store. Remove it with Clean text, or choose another format.`);
	};
	if (CONTROL.test(name)) refuse(`The name ${name}`, name);
	if (rows === 0 || column.type !== "text" && column.type !== "received") return;
	const { codes, texts } = textView(column);
	const bad = texts.findIndex((text) => CONTROL.test(text));
	if (bad >= 0 && codes.includes(bad)) refuse(`${name}, row ${codes.indexOf(bad) + 1}`, texts[bad]);
}
function refuseNumbers(field, lead) {
	const bound = BOUNDS[valueKind(field)];
	if (bound === void 0) return;
	const row = valuesOf(field.column).findIndex((value) => Math.abs(value) >= bound.most);
	if (row >= 0) throw new ExportStopped(`${lead}${field.name}, row ${row + 1} is ${cellText(field.column, row)}, ${bound.what} that this format holds. ${bound.remedy}, or choose another format.`);
}
/** No half of a surrogate pair stands alone (Unicode, D75). */
function isWhole(text) {
	return !/[\ud800-\udfff]/u.test(text);
}
// core/write/write-arrow.ts
/** Offsets of Utf8 columns are signed integers of 32 bits (Arrow columnar format). */
var MAX_TEXT_BYTES = 2 ** 31 - 1;
/** A table as an Apache Arrow file (the IPC file format), columns by their types. @throws ExportStopped */
async function writeArrow(table) {
	const arrow = await import("./Arrow.node-BHSStRrO.js");
	const data = table.fields.map((field) => dataOf(arrow, field, table.rows));
	const schema = new arrow.Schema(table.fields.map(({ name }, c) => new arrow.Field(name, data[c].type, true)));
	const whole = arrow.makeData({
		type: new arrow.Struct(schema.fields),
		length: table.rows,
		children: data
	});
	const batch = new arrow.RecordBatch(schema, whole);
	return new Uint8Array(arrow.tableToIPC(new arrow.Table(schema, [batch]), "file"));
}
function dataOf(arrow, field, rows) {
	const kind = valueKind(field);
	if (kind === "text") return textData(arrow, field.name, textsOf(field.column, rows));
	const values = valuesOf(field.column);
	const { nullBitmap, nullCount } = filledBits(values);
	const common = {
		length: rows,
		nullCount,
		nullBitmap
	};
	switch (kind) {
		case "number": return arrow.makeData({
			type: new arrow.Float64(),
			data: values,
			...common
		});
		case "whole": return arrow.makeData({
			type: new arrow.Int64(),
			data: wide(values),
			...common
		});
		case "yesno": return arrow.makeData({
			type: new arrow.Bool(),
			data: bits(values, (value) => value === 1),
			...common
		});
		case "date": return arrow.makeData({
			type: new arrow.DateDay(),
			data: Int32Array.from(values),
			...common
		});
		case "time": return arrow.makeData({
			type: new arrow.TimeMillisecond(),
			data: Int32Array.from(values),
			...common
		});
		case "datetime": return arrow.makeData({
			type: new arrow.TimestampMillisecond(),
			data: wide(values),
			...common
		});
	}
}
/** Made here and not by the library's builders, which compile scripts from text: the application forbids that. */
function textData(arrow, name, texts) {
	const encoder = new TextEncoder();
	const pieces = texts.map((text) => text === null ? void 0 : encoder.encode(text));
	const valueOffsets = new Int32Array(texts.length + 1);
	pieces.forEach((piece, r) => {
		valueOffsets[r + 1] = valueOffsets[r] + (piece?.length ?? 0);
	});
	const bytes = pieces.reduce((sum, piece) => sum + (piece?.length ?? 0), 0);
	if (bytes > MAX_TEXT_BYTES) throw new ExportStopped(`${name} holds more than 2 GiB of text, and an Arrow text column does not. Choose Parquet.`);
	const data = new Uint8Array(bytes);
	pieces.forEach((piece, r) => {
		if (piece !== void 0) data.set(piece, valueOffsets[r]);
	});
	const filled = Float64Array.from(texts, (text) => text === null ? NaN : 1);
	return arrow.makeData({
		type: new arrow.Utf8(),
		length: texts.length,
		valueOffsets,
		data,
		...filledBits(filled)
	});
}
function wide(values) {
	return BigInt64Array.from(values, (value) => Number.isNaN(value) ? 0n : BigInt(value));
}
function bits(values, test) {
	const out = new Uint8Array(Math.ceil(values.length / 8));
	values.forEach((value, r) => {
		if (test(value)) out[r >> 3] |= 1 << (r & 7);
	});
	return out;
}
function filledBits(values) {
	const nullCount = values.reduce((sum, value) => sum + (Number.isNaN(value) ? 1 : 0), 0);
	return {
		nullBitmap: bits(values, (value) => !Number.isNaN(value)),
		nullCount
	};
}
// core/write/zip-time.ts
/** The time that all files of an archive bear, so that the same files give the same bytes; the earliest a zip knows. */
var ZIP_TIME = new Date(1980, 0, 1);
// core/write/write-data-package.ts
/** Types of Table Schema (Frictionless Data, version 1). */
var SCHEMA_TYPES = {
	text: { type: "string" },
	number: { type: "number" },
	whole: { type: "integer" },
	yesno: {
		type: "boolean",
		trueValues: ["yes"],
		falseValues: ["no"]
	},
	date: { type: "date" },
	time: {
		type: "time",
		format: "any"
	},
	datetime: {
		type: "datetime",
		format: "any"
	}
};
/** A zip of delimited texts with their description: names, types, keys, and which step brought each column. */
function writeDataPackage(tables, name) {
	const taken = /* @__PURE__ */ new Set();
	const resources = tables.map((one) => ({
		one,
		plain: uniqueName(plainName(one.name), taken).replaceAll(" ", "-")
	}));
	const description = {
		profile: "tabular-data-package",
		name: plainName(name),
		title: name,
		resources: resources.map(({ one, plain }) => ({
			profile: "tabular-data-resource",
			name: plain,
			title: one.name,
			...one.method === void 0 ? {} : { description: one.method.map((step) => step.sentence).join(". ") },
			path: `${plain}.csv`,
			format: "csv",
			mediatype: "text/csv",
			encoding: "utf-8",
			dialect: {
				delimiter: ",",
				lineTerminator: "\r\n",
				quoteChar: "\"",
				doubleQuote: true,
				header: true
			},
			schema: schemaOf(one)
		}))
	};
	const files = { "datapackage.json": new TextEncoder().encode(`${JSON.stringify(description, null, 2)}\n`) };
	for (const { one, plain } of resources) files[`${plain}.csv`] = writeDelimited(one.table);
	return zipSync(files, { mtime: ZIP_TIME });
}
function schemaOf({ table, key, brought }) {
	const required = ({ name, column }) => key?.includes(name) && !blankMask(column).includes(1);
	return {
		fields: table.fields.map((field) => {
			const by = brought?.get(field.name);
			return {
				name: field.name,
				...SCHEMA_TYPES[valueKind(field)],
				...by === void 0 ? {} : { description: `Brought by: ${by}` },
				...required(field) ? { constraints: { required: true } } : {}
			};
		}),
		missingValues: [""],
		...key === void 0 ? {} : { primaryKey: key }
	};
}
/** Lower case, digits, '.', '-' and '_' only, as the specification asks of names. */
function plainName(name) {
	return name.toLowerCase().normalize("NFKD").replace(/[^a-z0-9._-]+/g, "-").replace(/^[-.]+|[-.]+$/g, "") || "table";
}
// core/write/write-json.ts
var FORMS = {
	blank: "null",
	text: (text) => JSON.stringify(text),
	plain: {
		stops: stopsAt("\"\\", 32),
		before: "\"",
		behind: "\""
	},
	number: (value) => numberText(value),
	aroundNumbers: {
		before: "",
		behind: ""
	},
	yesno: String
};
/** A row as a JSON object. The names of columns stand in the table's order, whatever they are. */
function objectParts(table) {
	const cells = table.fields.map((field, c) => ({
		front: `${c === 0 ? "{" : ","}${JSON.stringify(field.name)}:`,
		cells: partCells(field.column, FORMS)
	}));
	return [...cells, { front: cells.length === 0 ? "{}" : "}" }];
}
/** Rows with a text before the first and another before each that follows. */
function writeList(parts, rows, first, next, out) {
	writeRows([{ front: first }, ...parts], {
		from: 0,
		to: Math.min(1, rows)
	}, out);
	writeRows([{ front: next }, ...parts], {
		from: 1,
		to: rows
	}, out);
}
/** A list of objects, one a row; or one object with a list for each column. RFC 8259, as UTF-8. */
function writeJson(table, layout) {
	const out = new TextBytes();
	if (layout === "rows") {
		if (table.rows === 0) out.add("[]\n");
		else {
			writeList(objectParts(table), table.rows, "[\n", ",\n", out);
			out.add("\n]\n");
		}
		return out.all();
	}
	out.add("{");
	table.fields.forEach(({ name, column }, c) => {
		out.add(`${c === 0 ? "" : ","}${JSON.stringify(name)}:[`);
		writeList([{
			front: "",
			cells: partCells(column, FORMS)
		}], table.rows, "", ",", out);
		out.add("]");
	});
	out.add("}\n");
	return out.all();
}
/** Newline-delimited JSON: an object on each line, as UTF-8. */
function writeJsonLines(table) {
	const out = new TextBytes();
	writeRows([...objectParts(table), { front: "\n" }], {
		from: 0,
		to: table.rows
	}, out);
	return out.all();
}
// core/write/escape-html.ts
/** Text as it may stand in HTML, in attributes too. */
function escapeHtml(text) {
	return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll("\"", "&quot;");
}
// core/write/write-pages.ts
/** A table as GitHub Flavored Markdown; numbers stand at the right. */
function markdownText(table) {
	const cell = (text) => text.replace(/[\\`*_[\]<>~&|]/g, "\\$&").replace(/\r\n|\r|\n/g, "<br>");
	const line = (cells) => `| ${cells.join(" | ")} |\n`;
	const ends = table.fields.map((field) => field.column.type === "number" || field.column.type === "whole" ? "---:" : "---");
	const lines = [line(table.fields.map((field) => cell(field.name))), line(ends)];
	for (let r = 0; r < table.rows; r++) lines.push(line(table.fields.map((field) => cell(cellText(field.column, r) ?? ""))));
	return lines.join("");
}
/** A table as its own page, as UTF-8. */
function writeHtmlPage(table, name) {
	const out = new TextBytes();
	out.add(`<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${escapeHtml(name)}</title>\n`);
	htmlInto(out, table, name);
	out.add("</html>\n");
	return out.all();
}
function htmlInto(out, table, name, own) {
	const ready = own ?? ((text) => text);
	const head = table.fields.map((field) => `<th>${escapeHtml(ready(field.name))}</th>`).join("");
	out.add(`<table>\n<caption>${escapeHtml(name)}</caption>\n<thead>\n<tr>${head}</tr>\n</thead>\n<tbody>\n`);
	const around = {
		before: "<td>",
		behind: "</td>"
	};
	const cell = (text) => `<td>${escapeHtml(ready(text))}</td>`;
	const forms = {
		blank: "<td></td>",
		text: cell,
		...own === void 0 ? { plain: {
			...around,
			stops: stopsAt("&<>\"")
		} } : {},
		number: (value) => `<td>${numberText(value)}</td>`,
		aroundNumbers: around,
		yesno: (value) => cell(countedText("yesno", value ? 1 : 0))
	};
	const cells = table.fields.map(({ column }) => ({
		front: "",
		cells: partCells(column, forms)
	}));
	writeRows([
		{ front: "<tr>" },
		...cells,
		{ front: "</tr>\n" }
	], {
		from: 0,
		to: table.rows
	}, out);
	out.add("</tbody>\n</table>\n");
}
// core/write/export-changes.ts
/** Names that stay apart where a format ignores their case: Port, PORT becomes Port, PORT 2. */
function namesApart(names) {
	const taken = /* @__PURE__ */ new Set();
	return names.map((name) => name + uniqueName(name.toLowerCase(), taken).slice(name.toLowerCase().length));
}
/** A sentence without a full stop for each change; empty where the file holds the table as it is. */
function exportChanges(table, spec) {
	const guarded = guardedText(table, spec);
	return [...guarded === void 0 ? [] : [`${guarded}; the export's settings can turn that off`], ...renamed(table, spec)];
}
function renamed(table, spec) {
	if (spec.as !== "sqlite") return [];
	const names = table.fields.map((field) => field.name);
	const pairs = namesApart(names).flatMap((own, k) => own === names[k] ? [] : [`${names[k]} is ${own}`]);
	return pairs.length === 0 ? [] : [`SQLite ignores the case of column names, so in the file ${few(pairs)}`];
}
// core/write/write-sqlite.ts
/** SQLite has no types for dates and times: they are kept as ISO 8601 texts, as its date functions read them. */
var DECLARED = {
	text: "TEXT",
	number: "REAL",
	whole: "INTEGER",
	yesno: "INTEGER",
	date: "TEXT",
	time: "TEXT",
	datetime: "TEXT"
};
/** Limits of SQLite: SQLITE_MAX_COLUMN as it is compiled by default. */
var MAX_COLUMNS$1 = 2e3;
/** Tables as one SQLite database (file format 3). A column of yes and no is kept as 1 and 0. @throws ExportStopped */
async function writeSqlite(tables) {
	const { default: init } = await import("./node-XuZAeEsK.js");
	const sqlite = await init();
	const database = new sqlite.oo1.DB(":memory:", "c");
	try {
		const names = namesApart(tables.map((one) => plain(one.name)));
		tables.forEach(({ table, key }, k) => {
			insertTable(sqlite, database, names[k], table, key ?? []);
		});
		return new Uint8Array(sqlite.capi.sqlite3_js_db_export(database));
	} finally {
		database.close();
	}
}
/** SQLite keeps names that begin with sqlite_ for itself. */
function plain(name) {
	return name.replace(/^sqlite_/i, "table_").trim() || "table";
}
function quoted(name) {
	return `"${name.replaceAll("\"", "\"\"").replaceAll("\0", "")}"`;
}
function insertTable(sqlite, database, name, table, key) {
	const kinds = table.fields.map(valueKind);
	if (kinds.length > MAX_COLUMNS$1) throw new ExportStopped(`${name} has ${grouped(kinds.length)} columns, and SQLite holds ${grouped(MAX_COLUMNS$1)}. Drop or unpivot columns, or choose another format.`);
	const columns = namesApart(table.fields.map((field) => field.name)).map(quoted);
	const declared = columns.map((column, c) => `${column} ${DECLARED[kinds[c]]}`);
	if (declared.length === 0) declared.push("\"row\" INTEGER");
	database.exec(`create table ${quoted(name)} (${declared.join(", ")})`);
	const keyed = key.map((one) => table.fields.findIndex((field) => field.name === one));
	if (table.rows > 0 && table.fields.length > 0) {
		const insert = database.prepare(`insert into ${quoted(name)} values (${columns.map(() => "?").join(", ")})`);
		try {
			database.exec("begin");
			const bind = table.fields.map((field, c) => bindOf(sqlite, field.column, kinds[c]));
			for (let r = 0; r < table.rows; r++) {
				for (const [c, put] of bind.entries()) put(insert, c + 1, r);
				insert.stepReset();
			}
			database.exec("commit");
		} finally {
			insert.finalize();
		}
	}
	if (keyed.length > 0) database.exec(`create index ${quoted(`key of ${name}`)} on ${quoted(name)} (${keyed.map((at) => columns[at]).join(", ")})`);
}
function bindOf(sqlite, column, kind) {
	if (DECLARED[kind] === "TEXT") return (insert, at, row) => insert.bind(at, cellText(column, row));
	const values = valuesOf(column);
	const own = {
		number: (insert, at, value) => sqlite.capi.sqlite3_bind_double(insert.pointer, at, value),
		whole: (insert, at, value) => insert.bind(at, BigInt(value)),
		yesno: (insert, at, value) => insert.bind(at, value)
	}[kind];
	return (insert, at, row) => Number.isNaN(values[row]) ? insert.bind(at, null) : own(insert, at, values[row]);
}
// core/write/deflate-stream.ts
/** Three times as fast as the usual 6, and a tenth larger for sheets of workbooks. */
var LEVEL = 1;
/** Bytes from which copies are taken, and bytes that are packed at a time: what fflate lays out for a stream. */
var LOOK_BACK = 32768;
var PIECE$1 = 65536;
/**
* A stream of deflate (RFC 1951) for text, with the check sum of what went in: the same bytes by the kernel and without.
* A zero byte is refused while the look-back fills: fflate could take it for a copy from before the beginning.
*/
var DeflateStream = class {
	send;
	kernelFrom;
	/** CRC-32 of what was pushed, without a sign. */
	crc = 0;
	/** Bytes that were pushed. */
	size = 0;
	packer;
	/**
	* @param send is handed what comes out, piece by piece, all of it before the last push is done
	* @param kernelFrom bytes from which the kernel packs them, where there is one
	*/
	constructor(send, kernelFrom = KERNEL_BYTES) {
		this.send = send;
		this.kernelFrom = kernelFrom;
	}
	/**
	* @param isLast nothing may be pushed behind it
	* @throws RangeError for a zero byte among the first 32,768
	*/
	push(bytes, isLast = false) {
		if (this.size < LOOK_BACK && bytes.subarray(0, LOOK_BACK - this.size).includes(0)) throw new RangeError("Text that is packed holds a zero byte.");
		this.size += bytes.length;
		this.packer ??= this.newPacker(isLast ? bytes.length : Number.MAX_SAFE_INTEGER);
		this.packer.push(bytes, isLast);
		this.crc = crc32(bytes, { before: this.crc });
	}
	/** Nothing is pushed any more, though the last was not. */
	end() {
		this.packer?.end();
	}
	/** @param most bytes that it will be given, as far as is known */
	newPacker(most) {
		return (most < this.kernelFrom ? void 0 : KernelPacker.made(this.send)) ?? new PlainPacker(this.send);
	}
};
var PlainPacker = class {
	stream;
	constructor(send) {
		this.stream = new Deflate({ level: LEVEL }, send);
	}
	push(bytes, isLast) {
		const lastFrom = Math.max(0, Math.ceil(bytes.length / PIECE$1) - 1) * PIECE$1;
		for (let at = 0; at < lastFrom; at += PIECE$1) this.stream.push(bytes.subarray(at, at + PIECE$1), false);
		this.stream.push(bytes.subarray(lastFrom), isLast);
	}
	end() {}
};
var HEAD_BYTES = 2 << 20;
var BEFORE_BYTES = 2 * LOOK_BACK;
var SYMBOLS_BYTES = 1e5;
var TABLES_BYTES = 16384;
var MARGIN = 8;
var WINDOW_BYTES = 98320;
/** Bytes that the kernel is given at a time. */
var GIVEN_BYTES = 4 * PIECE$1;
var OUT_BYTES = 364544;
/** Memory that no stream uses now. */
var idle = [];
var KernelPacker = class KernelPacker {
	laid;
	send;
	next = 0;
	isEnded = false;
	/** @returns undefined where there are no kernels */
	static made(send) {
		const laid = laidOut();
		return laid && new KernelPacker(laid, send);
	}
	constructor(laid, send) {
		this.laid = laid;
		this.send = send;
		laid.state.set([
			LOOK_BACK,
			LOOK_BACK,
			0,
			LOOK_BACK
		]);
		laid.head.fill(0);
		laid.before.fill(0);
		laid.window.fill(0, 0, 32776);
	}
	push(bytes, isLast) {
		let from = 0;
		do {
			const given = bytes.subarray(from, from + GIVEN_BYTES);
			from += GIVEN_BYTES;
			this.give(given, isLast && from >= bytes.length);
		} while (from < bytes.length);
		if (!isLast) return;
		for (const _ of this.laid.rooms) this.take(this.turned());
		this.end();
	}
	end() {
		if (this.isEnded) return;
		this.isEnded = true;
		if (this.laid.thread === void 0) idle.push(this.laid);
		else this.laid.thread.release();
	}
	/** The room that was given longest ago. */
	turned() {
		const { rooms } = this.laid;
		this.next = (this.next + 1) % rooms.length;
		return rooms[this.next];
	}
	give(bytes, isLast) {
		const { kernels: kernel, thread, head, before, symbols, tables, window, state } = this.laid;
		const room = this.turned();
		this.take(room);
		room.given.set(bytes);
		const given = [
			room.given.byteOffset,
			bytes.length,
			isLast ? 1 : 0,
			window.byteOffset + MARGIN,
			state.byteOffset,
			head.byteOffset,
			before.byteOffset,
			symbols,
			tables,
			room.out.byteOffset
		];
		if (thread === void 0) this.send(room.out.slice(0, kernel.deflateStream(...given)));
		else room.turn = thread.begin("deflateStream", given);
	}
	/** Sends what the other thread has packed of a room. */
	take(room) {
		if (room.turn === void 0) return;
		const length = this.laid.thread.finish(room.turn);
		room.turn = void 0;
		this.send(room.out.slice(0, length));
	}
};
function laidOut() {
	const thread = takenThread(3630832);
	if (thread !== void 0) return {
		...vectorsOf(thread.memory, 2),
		kernels: thread.kernels,
		thread
	};
	const before = idle.pop();
	if (before !== void 0) return before;
	const made = kernels(3004144);
	return made && {
		...vectorsOf(made.memory, 1),
		kernels: made.kernels
	};
}
function vectorsOf(memory, rooms) {
	const places = new VectorPlaces(FREE_FROM, memory);
	return {
		head: places.bytes(HEAD_BYTES),
		before: places.bytes(BEFORE_BYTES),
		symbols: places.take(SYMBOLS_BYTES),
		tables: places.take(TABLES_BYTES),
		state: places.words(4),
		window: places.bytes(WINDOW_BYTES),
		rooms: Array.from({ length: rooms }, () => ({
			given: places.bytes(GIVEN_BYTES),
			out: places.bytes(OUT_BYTES),
			turn: void 0
		}))
	};
}
// core/write/sheet-xml/shared-texts.ts
/** The texts of a workbook, each once (ISO/IEC 29500-1, 18.4.9). */
var SharedTexts = class {
	indices = /* @__PURE__ */ new Map();
	index(text) {
		let index = this.indices.get(text);
		if (index === void 0) {
			index = this.indices.size;
			this.indices.set(text, index);
		}
		return index;
	}
	bytes() {
		const out = new TextBytes();
		out.add(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" uniqueCount="${this.indices.size}">`);
		for (const text of this.indices.keys()) out.add(`<si><t${EDGED.test(text) ? " xml:space=\"preserve\"" : ""}>${escapeXml(text)}</t></si>`);
		out.add("</sst>");
		return out.all();
	}
};
/** Blanks that readers of XML may leave out. */
var EDGED = /^\s|\s$|[\t\n]|\s\s/;
var UNFIT = /[\u0000-\u0008\u000b-\u001f\ufffe\uffff]/g;
var MARKED = /[&<>"]|_x[0-9a-f]{4}_/i;
/**
* A text or attribute of Office Open XML. Characters that XML does not hold are written by their number, and texts that
* read like such a number are escaped themselves (ISO/IEC 29500-1, 22.9.2.19: ST_Xstring).
*/
function escapeXml(text) {
	return (MARKED.test(text) ? text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll("\"", "&quot;").replace(/_(?=x[0-9a-f]{4}_)/gi, "_x005F_") : text).replace(UNFIT, (character) => `_x${character.charCodeAt(0).toString(16).padStart(4, "0")}_`);
}
// core/write/sheet-xml/book-parts.ts
/** The small parts of a workbook (ISO/IEC 29500-1, 18.2 and 18.8; 29500-2 for the package). */
var HEAD$1 = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";
var MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
var PACKAGE = "http://schemas.openxmlformats.org/package/2006";
var RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
var CONTENT = "application/vnd.openxmlformats-officedocument.spreadsheetml";
/** Formats of cells, by the index that cells have for them. */
var STYLES = [
	"plain",
	"date",
	"datetime",
	"time",
	"header"
];
function styleOf(style) {
	return STYLES.indexOf(style);
}
/** The first number of formats that are not built in. */
var FIRST_FORMAT = 164;
var DATE_FORMATS = {
	date: "yyyy-mm-dd",
	datetime: "yyyy-mm-dd hh:mm:ss",
	time: "hh:mm:ss"
};
function sheetPath(k) {
	return `xl/worksheets/sheet${k + 1}.xml`;
}
/** All parts but the sheets and the shared texts, as text by their paths. */
function bookParts(sheets) {
	return {
		"[Content_Types].xml": contentTypes(sheets.length),
		"_rels/.rels": relations([["officeDocument", "xl/workbook.xml"]]),
		"xl/workbook.xml": book(sheets),
		"xl/_rels/workbook.xml.rels": relations([
			...sheets.map((_, k) => ["worksheet", `worksheets/sheet${k + 1}.xml`]),
			["styles", "styles.xml"],
			["sharedStrings", "sharedStrings.xml"]
		]),
		"xl/styles.xml": styles()
	};
}
function contentTypes(sheets) {
	return `${HEAD$1}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>${[
		["/xl/workbook.xml", "sheet.main"],
		...Array.from({ length: sheets }, (_, k) => [`/${sheetPath(k)}`, "worksheet"]),
		["/xl/styles.xml", "styles"],
		["/xl/sharedStrings.xml", "sharedStrings"]
	].map(([path, type]) => `<Override PartName="${path}" ContentType="${CONTENT}.${type}+xml"/>`).join("")}</Types>`;
}
function relations(targets) {
	return `${HEAD$1}<Relationships xmlns="${PACKAGE}/relationships">${targets.map(([type, target], k) => `<Relationship Id="rId${k + 1}" Type="${RELATIONS}/${type}" Target="${target}"/>`).join("")}</Relationships>`;
}
function book(sheets) {
	const names = sheets.map(({ name }, k) => `<sheet name="${escapeXml(name)}" sheetId="${k + 1}" r:id="rId${k + 1}"/>`);
	const filters = sheets.flatMap(({ name, filter }, k) => {
		if (filter === void 0) return [];
		const [from, to] = filter.split(":").map((place) => place.replace(/([A-Z]+)(\d+)/, "$$$1$$$2"));
		return [`<definedName name="_xlnm._FilterDatabase" localSheetId="${k}" hidden="1">${escapeXml(`'${name.replaceAll("'", "''")}'!${from}:${to}`)}</definedName>`];
	});
	const defined = filters.length === 0 ? "" : `<definedNames>${filters.join("")}</definedNames>`;
	return `${HEAD$1}<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><bookViews><workbookView/></bookViews><sheets>${names.join("")}</sheets>${defined}</workbook>`;
}
function styles() {
	const kinds = Object.keys(DATE_FORMATS);
	const formats = Object.values(DATE_FORMATS).map((code, k) => `<numFmt numFmtId="${FIRST_FORMAT + k}" formatCode="${escapeXml(code)}"/>`);
	const cells = STYLES.map((style) => {
		const format = kinds.indexOf(style);
		return `<xf ${format < 0 ? "numFmtId=\"0\"" : `numFmtId="${FIRST_FORMAT + format}" applyNumberFormat="1"`} ${style === "header" ? "fontId=\"1\" applyFont=\"1\"" : "fontId=\"0\""} fillId="0" borderId="0" xfId="0"/>`;
	});
	const font = (bold) => `<font>${bold}<sz val="11"/><name val="Calibri"/><family val="2"/></font>`;
	return `${HEAD$1}<styleSheet xmlns="${MAIN}"><numFmts count="${formats.length}">${formats.join("")}</numFmts><fonts count="2">${font("")}${font("<b/>")}</fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="${cells.length}">${cells.join("")}</cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`;
}
// core/write/workbook-dates.ts
/** Days from the workbook's day zero (1900 system, with its leap day of 1900) to 1970-01-01. ISO/IEC 29500. */
var EPOCH = 25569;
/** The number by which a workbook tells a day, a time or both; undefined where it tells none of this cell. */
function serialOf(column, row) {
	if (column.type !== "date" && column.type !== "time" && column.type !== "datetime") return void 0;
	const value = column.values[row];
	if (Number.isNaN(value)) return void 0;
	if (column.type === "time") return value / MS.day;
	const serial = (column.type === "date" ? value : value / MS.day) + EPOCH;
	return serial < 61 || serial >= 2958466 ? void 0 : serial;
}
// core/write/sheet-xml/sheet-bytes.ts
/**
* Writes the XML of one sheet (ISO/IEC 29500-1, 18.3.1.99): a header in bold that stays in sight, and the rows under it.
*
* @param filtered with a filter over the header
* @param send is handed the bytes piece by piece
*/
function writeSheet(table, filtered, widths, texts, send) {
	const out = new TextBytes(void 0, send);
	const range = rangeOf(table);
	const columns = widths.map((width, c) => `<col min="${c + 1}" max="${c + 1}" width="${width}" customWidth="1"/>`);
	out.add(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="${range}"/><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews><cols>${columns.join("")}</cols><sheetData>`);
	const head = table.fields.map(({ name }, c) => `<c r="${columnLetters(c)}1" s="${styleOf("header")}"${sharedCell(texts.index(name))}`);
	out.add(`<row r="1">${head.join("")}</row>`);
	const parts = [
		{
			front: "<row r=\"",
			isNumbered: true,
			behind: "\">"
		},
		...table.fields.map((field, c) => ({
			front: `<c r="${columnLetters(c)}`,
			isNumbered: true,
			cells: cellsOf(field.column, texts)
		})),
		{ front: "</row>" }
	];
	writeRows(parts, {
		from: 0,
		to: table.rows
	}, out, { first: 2 });
	out.add(`</sheetData>${filtered ? `<autoFilter ref="${range}"/>` : ""}</worksheet>`);
	out.flush();
}
/** From the header to the last cell. */
function rangeOf(table) {
	return `A1:${columnLetters(Math.max(0, table.fields.length - 1))}${table.rows + 1}`;
}
/** What follows the place of each cell; nothing for a blank one. */
function cellsOf(column, texts) {
	const { type } = column;
	const told = {
		...partCells(column, {
			blank: "",
			text: (text) => `"${sharedCell(texts.index(text))}`,
			number: (value) => `"><v>${numberText(value)}</v></c>`,
			aroundNumbers: {
				before: "\"><v>",
				behind: "</v></c>"
			},
			yesno: (value) => `" t="b"><v>${value ? 1 : 0}</v></c>`
		}),
		isLeftOut: true
	};
	if (type !== "date" && type !== "time" && type !== "datetime") return told;
	const style = styleOf(type);
	return {
		isLeftOut: true,
		write(row, out) {
			const serial = serialOf(column, row);
			if (serial === void 0) told.write(row, out);
			else out.add(`" s="${style}"><v>${serial}</v></c>`);
		}
	};
}
function sharedCell(index) {
	return ` t="s"><v>${index}</v></c>`;
}
// core/write/sheet-xml/write-book.ts
/** Of an archive (APPNOTE 4.4.4 and 4.4.5): packed by deflate, as fast as it goes. */
var DEFLATED = 8;
var FASTEST = 3;
/** A workbook of Office Open XML. The same sheets give the same bytes. */
function writeBook(sheets) {
	const pieces = [];
	let failed;
	const zip = new Zip((error, piece) => {
		failed ??= error ?? void 0;
		pieces.push(piece);
	});
	const add = (path) => {
		const entry = new Entry(path);
		zip.add(entry);
		return entry;
	};
	const parts = bookParts(sheets.map(({ name, table, filtered }) => ({
		name,
		filter: filtered ? rangeOf(table) : void 0
	})));
	for (const [path, text] of Object.entries(parts)) add(path).push(new TextEncoder().encode(text), true);
	const texts = new SharedTexts();
	for (const [k, { table, filtered, widths }] of sheets.entries()) {
		const file = add(sheetPath(k));
		try {
			writeSheet(table, filtered, widths, texts, (piece) => file.push(piece));
			file.push(/* @__PURE__ */ new Uint8Array(), true);
		} finally {
			file.end();
		}
	}
	add("xl/sharedStrings.xml").push(texts.bytes(), true);
	zip.end();
	if (failed !== void 0) throw failed;
	return concatenate(pieces);
}
var Entry = class {
	filename;
	compression = DEFLATED;
	flag = FASTEST;
	mtime = ZIP_TIME;
	ondata;
	stream = new DeflateStream((packed) => this.ondata?.(null, packed, false));
	constructor(filename) {
		this.filename = filename;
	}
	get size() {
		return this.stream.size;
	}
	get crc() {
		return this.stream.crc;
	}
	push(bytes, isLast = false) {
		this.stream.push(bytes, isLast);
		if (isLast) this.ondata?.(null, /* @__PURE__ */ new Uint8Array(), true);
	}
	/** Nothing is pushed any more, whatever came between. */
	end() {
		this.stream.end();
	}
};
// core/write/write-open-document.ts
/** Sheets of OpenDocument (OASIS ODF 1.3, part 3; the package by part 2). */
var TYPE = "application/vnd.oasis.opendocument.spreadsheet";
var HEAD = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n";
var NAMESPACES = [
	"office",
	"style",
	"text",
	"table"
].map((name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`).concat("xmlns:number=\"urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0\"", "xmlns:fo=\"urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0\"").join(" ");
/** Width of one character in centimetres, about that of 11 point text. */
var CHARACTER_CM = .2;
/** A spreadsheet with real dates and times. The same sheets give the same bytes. */
function writeOpenDocument(sheets) {
	const manifest = `${HEAD}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:media-type="${TYPE}" manifest:version="1.3"/>${["content.xml", "styles.xml"].map((part) => `<manifest:file-entry manifest:full-path="${part}" manifest:media-type="text/xml"/>`).join("")}</manifest:manifest>`;
	const files = {
		mimetype: [strToU8(TYPE), { level: 0 }],
		"META-INF/manifest.xml": strToU8(manifest),
		"styles.xml": strToU8(`${HEAD}<office:document-styles ${NAMESPACES} office:version="1.3"><office:styles/></office:document-styles>`),
		"content.xml": contentOf(sheets)
	};
	return zipSync(files, {
		mtime: ZIP_TIME,
		level: 1
	});
}
function contentOf(sheets) {
	const columnStyles = [...new Set(sheets.flatMap((sheet) => sheet.widths))].map((width) => `<style:style style:name="w${width}" style:family="table-column"><style:table-column-properties style:column-width="${(width * CHARACTER_CM).toFixed(1)}cm"/></style:style>`);
	const filters = sheets.flatMap((sheet, k) => sheet.filtered ? [filterOf(sheet, k)] : []);
	const bytes = [];
	let text = "";
	const add = (piece) => {
		text += piece;
		if (text.length < PIECE) return;
		bytes.push(strToU8(text));
		text = "";
	};
	add(`${HEAD}<office:document-content ${NAMESPACES} office:version="1.3"><office:automatic-styles>${DATE_STYLES}${columnStyles.join("")}</office:automatic-styles><office:body><office:spreadsheet>`);
	for (const sheet of sheets) for (const piece of sheetPieces(sheet)) add(piece);
	if (filters.length > 0) add(`<table:database-ranges>${filters.join("")}</table:database-ranges>`);
	add("</office:spreadsheet></office:body></office:document-content>");
	return concatenate([...bytes, strToU8(text)]);
}
/** Characters that are encoded at a time. */
var PIECE = 1 << 20;
var STYLED = [
	"date",
	"datetime",
	"time"
];
var DAY = "<number:year number:style=\"long\"/><number:text>-</number:text><number:month number:style=\"long\"/><number:text>-</number:text><number:day number:style=\"long\"/>";
var CLOCK = "<number:hours number:style=\"long\"/><number:text>:</number:text><number:minutes number:style=\"long\"/><number:text>:</number:text><number:seconds number:style=\"long\"/>";
var DATE_STYLES = [
	`<number:date-style style:name="f-date">${DAY}</number:date-style>`,
	`<number:date-style style:name="f-datetime">${DAY}<number:text> </number:text>${CLOCK}</number:date-style>`,
	`<number:time-style style:name="f-time">${CLOCK}</number:time-style>`,
	...STYLED.map((type) => `<style:style style:name="${type}" style:family="table-cell" style:data-style-name="f-${type}"/>`),
	"<style:style style:name=\"header\" style:family=\"table-cell\"><style:text-properties fo:font-weight=\"bold\"/></style:style>"
].join("");
function filterOf({ name, table }, k) {
	const sheet = `'${name.replaceAll("'", "''")}'`;
	const last = `${columnLetters(Math.max(0, table.fields.length - 1))}${table.rows + 1}`;
	return `<table:database-range table:name="filter${k + 1}" table:target-range-address="${attribute(`${sheet}.A1:${sheet}.${last}`)}" table:display-filter-buttons="true"/>`;
}
function* sheetPieces({ name, table, widths }) {
	yield `<table:table table:name="${attribute(name)}">`;
	for (const width of widths) yield `<table:table-column table:style-name="w${width}"/>`;
	if (table.fields.length > 0) yield `<table:table-header-rows><table:table-row>${table.fields.map((field) => textCell(field.name, " table:style-name=\"header\"")).join("")}</table:table-row></table:table-header-rows>`;
	const cells = table.fields.map(({ column }) => cellOf(column));
	for (let r = 0; r < table.rows; r++) {
		yield "<table:table-row>";
		for (const cell of cells) yield cell(r);
		yield "</table:table-row>";
	}
	yield "</table:table>";
}
var BLANK = "<table:table-cell/>";
/** How the cells of a column are written. A text that stands in many rows is put together once. */
function cellOf(column) {
	const texts = /* @__PURE__ */ new Map();
	const text = (row) => {
		const own = cellText(column, row);
		if (own === null) return BLANK;
		let cell = texts.get(own);
		if (cell === void 0) {
			cell = textCell(own);
			texts.set(own, cell);
		}
		return cell;
	};
	if (column.type === "text") return text;
	const { values } = column;
	return (row) => {
		const type = column.type === "received" ? kindOf(column.tags[row]) : column.type;
		const value = values[row];
		return type === void 0 || Number.isNaN(value) ? text(row) : countedCell(type, value) ?? text(row);
	};
}
/** @returns undefined for a value that is written as text: years that the format does not have, infinity */
function countedCell(type, value) {
	const shown = countedText(type, value);
	const cell = (kind, attributes) => `<table:table-cell office:value-type="${kind}" ${attributes}><text:p>${shown}</text:p></table:table-cell>`;
	switch (type) {
		case "number":
		case "whole": return Number.isFinite(value) ? cell("float", `office:value="${numberText(value)}"`) : void 0;
		case "yesno": return cell("boolean", `office:boolean-value="${value !== 0}"`);
		case "time": {
			const [hour, minute, second = "00"] = shown.split(":");
			return cell("time", `office:time-value="PT${hour}H${minute}M${second}S" table:style-name="time"`);
		}
		default:
			if (!/^\d{4}-/.test(shown)) return void 0;
			return cell("date", `office:date-value="${type === "datetime" && /T\d\d:\d\d$/.test(shown) ? `${shown}:00` : shown}" table:style-name="${type}"`);
	}
}
/** Line ends that paragraphs do not tell apart stand in an attribute, which readers prefer (part 3, 19.385). */
function textCell(text, style = "") {
	return `<table:table-cell office:value-type="string"${/\r/.test(text) ? ` office:string-value="${attribute(text)}"` : ""}${style}>${text.split(/\r\n|\n|\r/).map((line) => `<text:p>${paragraph(line)}</text:p>`).join("")}</table:table-cell>`;
}
/** Spaces that markup would collapse are elements (part 3, 6.1.2). */
function paragraph(line) {
	return escaped(line).replace(/^ +| {2,}| +$/g, (spaces) => `<text:s text:c="${spaces.length}"/>`).replaceAll("	", "<text:tab/>");
}
var ESCAPES = {
	"&": "&amp;",
	"<": "&lt;",
	">": "&gt;",
	"\"": "&quot;"
};
function escaped(text) {
	return text.replace(/[&<>"]/g, (character) => ESCAPES[character]);
}
function attribute(text) {
	return escaped(text).replace(/[\r\n\t]/g, (character) => `&#${character.charCodeAt(0)};`);
}
// core/write/write-workbook.ts
/**
* Tables as sheets of one workbook: typed cells, real dates, a header that stays in sight with a filter over it.
* @throws ExportStopped when a sheet has no room for a table (1,048,576 rows by 16,384 columns, ISO/IEC 29500)
*/
function writeWorkbook(tables, bookType, beside) {
	const taken = /* @__PURE__ */ new Set(["history"]);
	const sheets = [];
	const add = (name, table, filtered) => {
		refuseTooLarge(table);
		sheets.push({
			name: sheetName(name, taken),
			table,
			filtered,
			widths: widthsOf(table)
		});
	};
	for (const { name, table } of tables) add(name, table, true);
	for (const one of tables) {
		const lead = tables.length > 1 ? `${one.name}: ` : "";
		if (beside.method && one.method !== void 0) add(`${lead}method`, methodTable(one.method), false);
		if (beside.piles) for (const pile of one.piles ?? []) add(`${lead}${pile.name}`, pile.table, true);
	}
	return bookType === "xlsx" ? writeBook(sheets) : writeOpenDocument(sheets);
}
/** Up to 31 characters, none of those that ISO/IEC 29500 leaves out. */
function sheetName(name, taken) {
	const plain = name.replace(/[\\/?*[\]:]/g, " ").replace(/^'+|'+$/g, "").trim().slice(0, 28) || "Table";
	return freeName(plain, taken);
}
var WIDEST = 60;
var NARROWEST = 6;
/** Rows that are looked at for how wide a column is. */
var MEASURED_ROWS = 200;
var MAX_ROWS = 1048576;
var MAX_COLUMNS = 16384;
function refuseTooLarge(table) {
	if (table.rows >= MAX_ROWS || table.fields.length > MAX_COLUMNS) throw new ExportStopped(`The table has ${grouped(table.rows)} rows and ${grouped(table.fields.length)} columns; a sheet holds ${grouped(1048575)} under its header, and ${grouped(MAX_COLUMNS)} columns. Choose another format.`);
}
function widthsOf(table) {
	return table.fields.map(({ name, column }) => {
		let longest = Math.max(NARROWEST, name.length);
		for (let r = 0; r < Math.min(table.rows, MEASURED_ROWS); r++) longest = Math.max(longest, cellText(column, r)?.length ?? 0);
		return Math.min(WIDEST, longest + 2);
	});
}
function methodTable(method) {
	return makeTable({
		Step: countedColumn("whole", method.map((_, k) => k + 1)),
		"What it does": textColumn(method.map(({ sentence }) => sentence)),
		"Rows after it": countedColumn("whole", method.map(({ rows }) => rows)),
		Note: textColumn(method.map(({ note }) => note ?? null))
	});
}
// core/write/export.ts
/** A table as a file in an open format. The same table and choices give the same bytes. */
/** What writes each format. Formats that hold one table only are given one. */
var WRITERS = {
	csv: ([one], _, spec) => writeDelimited(one.table, spec),
	xlsx: (tables, _, spec) => writeWorkbook(tables, "xlsx", spec),
	ods: (tables, _, spec) => writeWorkbook(tables, "ods", spec),
	json: ([one], _, spec) => writeJson(one.table, spec.layout),
	ndjson: ([one]) => writeJsonLines(one.table),
	parquet: ([one]) => writeParquet(one.table),
	arrow: ([one]) => writeArrow(one.table),
	sqlite: (tables) => writeSqlite(tables),
	markdown: ([one]) => encode(markdownText(one.table)),
	html: ([one], name) => writeHtmlPage(one.table, name),
	"data-package": (tables, name) => writeDataPackage(tables, name)
};
/** @throws ExportStopped */
function exportTable(given, spec) {
	return written([given], given.name, spec);
}
/**
* Several tables: in one file where the format can hold them, else as an archive of files.
* @throws ExportStopped
*/
async function exportAll(tables, name, spec) {
	if (EXPORT_FORMATS[spec.as].many === true) return written(tables, name, spec);
	const taken = /* @__PURE__ */ new Set();
	const files = {};
	for (const one of tables) {
		const plain = freeName(one.name.replace(/[\\/:*?"<>|]/g, " ").trim() || "Table", taken);
		files[`${plain}.${EXPORT_FORMATS[spec.as].ending}`] = await exportTable(one, spec);
	}
	return zipSync(files, { mtime: ZIP_TIME });
}
/** In one file. Where several go out, what is wrong with one is reported under its name. */
async function written(given, name, spec) {
	const ready = given.map((one) => {
		const of = given.length > 1 ? one.name : void 0;
		const table = withoutUnreadable(one.table, spec.unreadable, of);
		refuseUnfit(table, spec, of);
		return {
			...one,
			table
		};
	});
	return WRITERS[spec.as](ready, name, spec);
}
var encode = (text) => new TextEncoder().encode(text);
/** Unreadable cells kept as text, made blank, or refused. */
function withoutUnreadable(table, how, of) {
	if (how === "text") return table;
	return {
		...table,
		fields: table.fields.map((field) => {
			const rows = unreadableRows(field);
			if (rows.length === 0) return field;
			if (how === "stop") throw new ExportStopped(`${of === void 0 ? "" : `${of}: `}${field.name} has ${counted(rows.length, "unreadable cell")}, the first in row ${rows[0] + 1}: nothing was exported. Read them by another type, or export them as text or blank.`);
			return {
				...field,
				column: blanked(field.column, rows)
			};
		})
	};
}
function blanked(column, rows) {
	if (column.type === "text") return column;
	if (column.type === "received") {
		const tags = column.tags.slice();
		for (const row of rows) tags[row] = 0;
		return {
			...column,
			tags
		};
	}
	return {
		type: column.type,
		values: column.values
	};
}
export { exportTable as n, exportChanges as r, exportAll as t };
