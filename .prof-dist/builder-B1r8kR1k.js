// core/values/counted.ts
/** Counts and numbers as messages and pages show them. */
var LOCALE = "en-GB";
/** Made when the first number is shown: it takes a tenth of the time that a command needs to start. */
var whole;
/** A figure with marks between its thousands: 1,204. */
function grouped(figure, most) {
	if (most === void 0) {
		whole ??= new Intl.NumberFormat(LOCALE);
		return whole.format(figure);
	}
	return figure.toLocaleString(LOCALE, { maximumFractionDigits: most });
}
/** A computed figure without the noise behind its twelfth digit: 0.3, not 0.30000000000000004. */
function plainFigure(figure) {
	return grouped(Number(figure.toPrecision(12)), 12);
}
/** 1 row, 2 rows, 1,204 rows. */
function counted(count, one, many = `${one}s`) {
	return `${grouped(count)} ${count === 1 ? one : many}`;
}
/** Lists a few and counts the rest: April, May and 3 more. */
function few(items, most = 3) {
	if (items.length <= most) return items.join(", ");
	return `${items.slice(0, most).join(", ")} and ${grouped(items.length - most)} more`;
}
// core/table/decoder.ts
/** The 32 characters in which windows-1252 differs from ISO-8859-1 (WHATWG Encoding, index windows-1252). */
var HIGH = "€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ";
/** Some versions of Node take windows-1252 for ISO-8859-1. */
var mistaken;
/**
* @param encoding a WHATWG label
* @throws RangeError for a label that is not known
*/
function decoderOf(encoding) {
	const decoder = new TextDecoder(encoding, { ignoreBOM: true });
	if (decoder.encoding !== "windows-1252") return decoder;
	mistaken ??= decoder.decode(Uint8Array.of(128)) !== "€";
	if (!mistaken) return decoder;
	return { decode: (bytes) => decoder.decode(bytes).replace(/[\u0080-\u009f]/g, (character) => HIGH[character.charCodeAt(0) - 128]) };
}
// core/table/column-types.ts
/** What a cell of a received column holds. */
var Tag = {
	blank: 0,
	text: 1,
	number: 2,
	yesno: 3,
	date: 4,
	time: 5,
	datetime: 6,
	unreadable: 7
};
var TAG_OF_TYPE = {
	number: Tag.number,
	whole: Tag.number,
	yesno: Tag.yesno,
	date: Tag.date,
	time: Tag.time,
	datetime: Tag.datetime
};
// core/table/builder.ts
/** Gives each distinct text a code, in order of first appearance. */
var Dictionary = class {
	texts = [];
	codes = /* @__PURE__ */ new Map();
	code(text) {
		let code = this.codes.get(text);
		if (code === void 0) {
			code = this.texts.length;
			this.codes.set(text, code);
			this.texts.push(text);
		}
		return code;
	}
};
/** Collects a text column cell by cell; null is blank. */
var TextBuilder = class {
	codes;
	length = 0;
	dictionary = new Dictionary();
	constructor(capacity = 1024) {
		this.codes = new Int32Array(capacity);
	}
	get rows() {
		return this.length;
	}
	push(text) {
		if (this.length === this.codes.length) {
			const wider = new Int32Array(this.codes.length * 2);
			wider.set(this.codes);
			this.codes = wider;
		}
		this.codes[this.length++] = text === null ? -1 : this.dictionary.code(text);
	}
	/** Blank cells until the column holds this many rows. */
	padTo(rows) {
		while (this.length < rows) this.push(null);
	}
	finish() {
		return {
			type: "text",
			codes: this.codes.slice(0, this.length),
			dictionary: this.dictionary.texts,
			distinct: true
		};
	}
};
/** Collects unreadable cells for a column of known length. */
var UnreadableBuilder = class {
	rows;
	codes;
	cells = [];
	known = /* @__PURE__ */ new Map();
	/** Rows that were set, in the order in which they were. */
	rowsSet = [];
	constructor(rows) {
		this.rows = rows;
	}
	set(row, text, reason) {
		this.codes ??= new Int32Array(this.rows).fill(-1);
		this.rowsSet.push(row);
		const key = `${reason}\u0000${text}`;
		let code = this.known.get(key);
		if (code === void 0) {
			code = this.cells.length;
			this.known.set(key, code);
			this.cells.push({
				text,
				reason
			});
		}
		this.codes[row] = code;
	}
	attach(type, values) {
		return this.codes === void 0 ? {
			type,
			values
		} : {
			type,
			values,
			unreadable: {
				codes: this.codes,
				cells: this.cells
			}
		};
	}
};
/** A column as received, filled in any order. */
var ReceivedBuilder = class {
	tags;
	values;
	dictionary = new Dictionary();
	cells = [];
	seen = /* @__PURE__ */ new Set();
	/** @param rows as many as there will be, or where to begin */
	constructor(rows) {
		this.tags = new Uint8Array(rows);
		this.values = new Float64Array(rows);
	}
	text(row, text) {
		this.put(row, Tag.text, this.dictionary.code(text));
	}
	counted(row, tag, value) {
		this.put(row, tag, value);
	}
	unreadable(row, text, reason) {
		this.cells.push({
			text,
			reason
		});
		this.put(row, Tag.unreadable, this.cells.length - 1);
	}
	put(row, tag, value) {
		if (row >= this.tags.length) this.resize(Math.max(row + 1, this.tags.length * 2));
		this.tags[row] = tag;
		this.values[row] = value;
		this.seen.add(tag);
	}
	resize(rows) {
		const tags = new Uint8Array(rows);
		tags.set(this.tags.subarray(0, rows));
		this.tags = tags;
		const values = new Float64Array(rows);
		values.set(this.values.subarray(0, rows));
		this.values = values;
	}
	/** A plain text column where only text came, else a received column. */
	finish(rows = this.tags.length) {
		if (rows !== this.tags.length) this.resize(rows);
		if (![...this.seen].every((tag) => tag === Tag.text)) return {
			type: "received",
			tags: this.tags,
			values: this.values,
			dictionary: this.dictionary.texts,
			cells: this.cells
		};
		const codes = new Int32Array(this.tags.length);
		for (let r = 0; r < codes.length; r++) codes[r] = this.tags[r] === Tag.text ? this.values[r] : -1;
		return {
			type: "text",
			codes,
			dictionary: this.dictionary.texts,
			distinct: true
		};
	}
};
function textColumn(cells) {
	const builder = new TextBuilder(Math.max(1, cells.length));
	for (const cell of cells) builder.push(cell);
	return builder.finish();
}
/** One text on every row. */
function constantText(text, rows) {
	return {
		type: "text",
		codes: new Int32Array(rows),
		dictionary: [text],
		distinct: true
	};
}
/** Null is blank. */
function countedColumn(type, cells) {
	return {
		type,
		values: Float64Array.from(cells, (cell) => cell ?? NaN)
	};
}
export { constantText as a, TAG_OF_TYPE as c, counted as d, few as f, UnreadableBuilder as i, Tag as l, plainFigure as m, ReceivedBuilder as n, countedColumn as o, grouped as p, TextBuilder as r, textColumn as s, Dictionary as t, decoderOf as u };
