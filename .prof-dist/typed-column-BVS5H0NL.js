import { c as TAG_OF_TYPE, l as Tag, n as ReceivedBuilder } from "./builder-B1r8kR1k.js";
// core/read/tables/exact-values.ts
/** Values of typed files whose digits a double does not always keep. */
/**
* A decimal as a number where a number keeps each of its digits, else as its text.
* @param unscaled the digits as one whole number
* @param scale how many of them are behind the point
*/
function decimalValue(unscaled, scale) {
	const digits = String(unscaled < 0n ? -unscaled : unscaled).padStart(scale + 1, "0");
	const text = (unscaled < 0n ? "-" : "") + (scale === 0 ? digits : `${digits.slice(0, -scale)}.${digits.slice(-scale)}`);
	const value = Number(text);
	if (digits.replace(/^0+/, "").length <= 15) return value;
	const plain = scale === 0 ? text : text.replace(/\.?0+$/, "");
	return String(value) === plain ? value : text;
}
/**
* The decimal that a 32-bit float was written as: where the float itself has more than 9 digits, the shortest decimal
* that gives it back (0.1, where the double beside it is 0.10000000149011612).
*/
function float32Value(value) {
	if (Number.isInteger(value) || !Number.isFinite(value) || Number(value.toPrecision(9)) === value) return value;
	for (let digits = 6; digits < 9; digits++) {
		const short = Number(value.toPrecision(digits));
		if (Math.fround(short) === value) return short;
	}
	return Number(value.toPrecision(9));
}
/** A point in time, or a time of day, in units that may be finer than milliseconds. */
var FineTime = class {
	units;
	perMillisecond;
	/** @param units since 1970 or midnight @param perMillisecond how many units make a millisecond */
	constructor(units, perMillisecond) {
		this.units = units;
		this.perMillisecond = perMillisecond;
	}
	/** Whole milliseconds, rounded down. */
	get milliseconds() {
		return Number((this.units - this.rest) / this.perMillisecond);
	}
	get hasFraction() {
		return this.rest !== 0n;
	}
	get rest() {
		const rest = this.units % this.perMillisecond;
		return rest < 0n ? rest + this.perMillisecond : rest;
	}
	/** ISO 8601 with each digit of the fraction, for values inside lists and records. */
	toJSON() {
		const time = new Date(this.milliseconds).toISOString().slice(0, -1);
		if (!this.hasFraction) return `${time}Z`;
		const places = String(this.perMillisecond).length - 1;
		return `${time}${String(this.rest).padStart(places, "0")}Z`;
	}
};
/** Months, days and milliseconds, each four bytes from the low end (Parquet, LogicalTypes, INTERVAL), as ISO 8601. */
function intervalText(bytes) {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const [months, days, milliseconds] = [
		0,
		4,
		8
	].map((at) => view.getUint32(at, true));
	const time = milliseconds === 0 ? "" : `T${milliseconds / 1e3}S`;
	const text = `${months === 0 ? "" : `${months}M`}${days === 0 ? "" : `${days}D`}${time}`;
	return text === "" ? "PT0S" : `P${text}`;
}
// core/read/tables/typed-column.ts
/** Columns of typed files: what each value is says the file, and nothing is guessed. */
/** Collects values in order. */
var TypedColumn = class {
	holds;
	builder;
	tags = /* @__PURE__ */ new Set();
	row = 0;
	/** Times whose digits beyond the millisecond were dropped. */
	shortened = 0;
	constructor(holds, rows) {
		this.holds = holds;
		this.builder = new ReceivedBuilder(rows);
	}
	get length() {
		return this.row;
	}
	/** @param value null and undefined are blanks; dates as milliseconds of 1970 in a column of dates */
	push(value) {
		const row = this.row++;
		if (value === null || value === void 0) return;
		const counted = this.counted(value);
		if (counted === void 0 || Number.isNaN(counted.value)) {
			this.tags.add(Tag.text);
			this.builder.text(row, textOf(value));
			return;
		}
		const tag = TAG_OF_TYPE[counted.type];
		this.tags.add(tag);
		this.builder.counted(row, tag, counted.value);
	}
	counted(value) {
		const { holds } = this;
		if (typeof value === "boolean") return {
			type: "yesno",
			value: value ? 1 : 0
		};
		if (value instanceof FineTime) {
			if (value.hasFraction) this.shortened++;
			return {
				type: holds === "time" ? "time" : "datetime",
				value: value.milliseconds
			};
		}
		if (value instanceof Date) {
			const ms = value.getTime();
			if (holds === "date") return {
				type: "date",
				value: Math.floor(ms / DAY)
			};
			return {
				type: "datetime",
				value: ms
			};
		}
		if (typeof value === "bigint") {
			const number = Number(value);
			if (!Number.isSafeInteger(number)) return void 0;
			return this.figure(number);
		}
		return typeof value === "number" ? this.figure(value) : void 0;
	}
	figure(value) {
		const { holds } = this;
		if (holds === "date") return {
			type: "date",
			value: Math.floor(value / DAY)
		};
		if (holds === "time" || holds === "datetime") return {
			type: holds,
			value
		};
		if (holds === "yesno") return {
			type: "yesno",
			value: value === 0 ? 0 : 1
		};
		return {
			type: "number",
			value
		};
	}
	finish() {
		const { holds, tags } = this;
		const column = this.builder.finish(this.row);
		if (holds !== "any" && holds !== "text" && column.type === "text" && tags.size === 0) return {
			type: holds,
			values: new Float64Array(this.row).fill(NaN)
		};
		const [only] = tags;
		if (column.type !== "received" || tags.size !== 1 || only === Tag.text) return column;
		const { values } = column;
		for (let r = 0; r < this.row; r++) if (column.tags[r] === Tag.blank) values[r] = NaN;
		const type = Object.keys(TAG_OF_TYPE).find((one) => TAG_OF_TYPE[one] === only);
		return {
			type: holds === "whole" && type === "number" ? "whole" : type,
			values
		};
	}
};
var DAY = 864e5;
function textOf(value) {
	if (typeof value === "string") return value;
	if (typeof value === "number" || typeof value === "bigint") return String(value);
	if (value instanceof Uint8Array) return bytesText(value);
	if (value instanceof FineTime) return value.toJSON();
	return JSON.stringify(value, (_, inner) => typeof inner === "bigint" ? jsonWhole(inner) : inner);
}
/** A whole number of 64 bits as a number where that keeps it, else as its text. */
function jsonWhole(value) {
	const number = Number(value);
	return Number.isSafeInteger(number) ? number : String(value);
}
/** Bytes that are text read as it, others as their digits. */
function bytesText(bytes) {
	try {
		return new TextDecoder("utf-8", {
			fatal: true,
			ignoreBOM: true
		}).decode(bytes);
	} catch {
		return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
	}
}
export { float32Value as a, decimalValue as i, jsonWhole as n, intervalText as o, FineTime as r, TypedColumn as t };
