import { u as decoderOf } from "./builder-B1r8kR1k.js";
import { a as float32Value, i as decimalValue, n as jsonWhole, r as FineTime, t as TypedColumn } from "./typed-column-BVS5H0NL.js";
import { t as shortenedNotices } from "./opened-table-CKV_Rk3-.js";
// core/read/tables/open-arrow.ts
/** @throws whatever the library throws for a damaged file */
async function arrowTable(bytes, name) {
	const arrow = await import("./Arrow.node-BHSStRrO.js");
	const { DataType: Types } = arrow;
	const reader = arrow.RecordBatchReader.from(bytes).open();
	const table = new arrow.Table(reader.schema, batchesOf(reader));
	if (table.numRows > bytes.length * 8) throw new Error(`it says that it has ${table.numRows} rows, more than it has room for`);
	const holdsOf = (type) => {
		if (Types.isDictionary(type)) return holdsOf(type.dictionary);
		if (Types.isInt(type)) return "whole";
		if (Types.isFloat(type) || Types.isDecimal(type)) return "number";
		if (Types.isBool(type)) return "yesno";
		if (Types.isDate(type)) return "date";
		if (Types.isTimestamp(type)) return "datetime";
		if (Types.isTime(type)) return "time";
		return Types.isUtf8(type) || Types.isLargeUtf8(type) || Types.isBinary(type) ? "text" : "any";
	};
	const columns = table.schema.fields.map((field, c) => {
		const vector = table.getChildAt(c);
		const column = new TypedColumn(holdsOf(field.type), table.numRows);
		for (const value of valuesOf(vector, Types)) column.push(value);
		return column;
	});
	const names = table.schema.fields.map((field) => field.name);
	return {
		name,
		rows: table.numRows,
		names,
		columns: columns.map((column) => column.finish()),
		notices: shortenedNotices(names, columns)
	};
}
/** The library's own walk through a file stays for ever at a block that holds another message than its footer says. */
function batchesOf(reader) {
	if (!reader.isFile()) return [...reader];
	return Array.from({ length: reader.numRecordBatches }, (_, k) => {
		const batch = reader.readRecordBatch(k);
		if (batch === null) throw new Error(`part ${k + 1} of its rows is not where the end of the file says`);
		return batch;
	});
}
var utf8 = decoderOf("utf-8");
/** The values of a vector in order, as they were written; null for blank. */
function* valuesOf(vector, Types) {
	for (const data of vector.data) {
		const read = reader(data, vector, Types);
		for (let r = 0; r < data.length; r++) yield data.getValid(r) ? read(r) : null;
	}
}
/** How a row of one piece of a vector is read. The library's own way loses byte order marks and parts of milliseconds. */
function reader(data, vector, Types) {
	const type = data.type;
	if (Types.isDictionary(type)) {
		const entries = [...valuesOf(data.dictionary, Types)];
		return (row) => entries[Number(data.values[row])];
	}
	if (Types.isUtf8(type) || Types.isLargeUtf8(type)) {
		const { values, valueOffsets } = data;
		return (row) => utf8.decode(values.subarray(Number(valueOffsets[row]), Number(valueOffsets[row + 1])));
	}
	if (Types.isDecimal(type)) {
		const { values, stride } = data;
		return (row) => decimalValue(wholeOf(values.subarray(stride * row, stride * (row + 1))), type.scale);
	}
	if (Types.isTimestamp(type) || Types.isTime(type)) {
		const { values } = data;
		const [times, parts] = [
			[1000n, 1n],
			[1n, 1n],
			[1n, 1000n],
			[1n, 1000000n]
		][type.unit];
		return (row) => new FineTime(BigInt(values[row]) * times, parts);
	}
	if (Types.isFloat(type) && type.precision === Precision.SINGLE) return (row) => float32Value(data.values[row]);
	const piece = new vector.constructor([data]);
	return (row) => {
		const value = piece.get(row);
		if (value === null || typeof value !== "object" || value instanceof Uint8Array || value instanceof Date) return value;
		return JSON.parse(JSON.stringify(value, (_, one) => typeof one === "bigint" ? jsonWhole(one) : one));
	};
}
/** Little-endian words in two's complement as one whole number. */
function wholeOf(words) {
	let whole = 0n;
	for (let k = words.length - 1; k >= 0; k--) whole = whole << 32n | BigInt(words[k]);
	return BigInt.asIntN(words.length * 32, whole);
}
/** Of the flatbuffer schema of Arrow (Precision). */
var Precision = { SINGLE: 1 };
export { arrowTable };
