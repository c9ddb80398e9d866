import { p as grouped } from "./builder-B1r8kR1k.js";
// core/values/text.ts
/** Order of code points; UTF-16 order differs where a surrogate pair meets a character above it. */
function byCodePoint(a, b) {
	const n = Math.min(a.length, b.length);
	for (let k = 0; k < n; k++) {
		const [x, y] = [a.charCodeAt(k), b.charCodeAt(k)];
		if (x === y) continue;
		const [high, low] = [x >= 55296 && x <= 57343, y >= 55296 && y <= 57343];
		return high !== low ? high ? 1 : -1 : x - y;
	}
	return a.length - b.length;
}
/** The text as a pattern that matches just itself. */
function escapeRegExp(text) {
	return text.replace(/[\\^$.*+?()[\]{}|/]/g, "\\$&");
}
/** Characters of what an error says: names that it quotes may be as long as a file. */
var MAX_TOLD = 1e3;
/** A text as messages quote it: what quotes a file or a pattern may be as long as they are. */
function brief(text, most = 240) {
	return text.length > most ? `${text.slice(0, most - 80)} … ${text.slice(-60)}` : text;
}
// core/read/read-failure.ts
/** A source could not be read at all. */
var ReadFailure = class extends Error {
	file;
	name = "ReadFailure";
	constructor(file, message) {
		super(brief(message, MAX_TOLD));
		this.file = file;
	}
};
/** Cells that the parts of a report may span together, filled or not. */
var MAX_SPANNED = 4e7;
/** Columns of one part, as many as sheets of workbooks have. */
var MAX_COLUMNS = 16384;
/** A table that is mostly blank has more than this number of cells for each filled one. */
var MOSTLY_BLANK = 4;
/** How many cells of a table of this size are blank, where they are too many to make room for; else undefined. */
function tooBlank(rows, columns, filled) {
	const size = rows * columns;
	return size > MAX_SPANNED && size > filled * MOSTLY_BLANK ? size - filled : void 0;
}
/** Counts the cells that a report spans: one far outside its table makes millions of blank ones, for which there is no room. */
var CellBudget = class {
	file;
	spanned = 0;
	constructor(file) {
		this.file = file;
	}
	/** Counts a part. @throws ReadFailure when the parts span too many cells */
	add(part, rows, columns) {
		this.check(part, rows, columns);
		this.spanned += rows * columns;
	}
	/** Whether there is room for a part that reaches so far. @throws ReadFailure when there is none */
	check(part, rows, columns) {
		if (this.spanned + rows * columns <= MAX_SPANNED && columns <= 16384) return;
		const count = (of) => grouped(of);
		throw new ReadFailure(this.file, `${part} reaches over ${count(rows)} rows and ${count(columns)} columns; a sheet may have ${count(MAX_COLUMNS)} columns, and all sheets of a report ${count(MAX_SPANNED)} cells together. If a cell stands far outside its table, clear it in a spreadsheet program and save the file again.`);
	}
};
export { MAX_TOLD as a, escapeRegExp as c, tooBlank as i, MAX_COLUMNS as n, brief as o, ReadFailure as r, byCodePoint as s, CellBudget as t };
