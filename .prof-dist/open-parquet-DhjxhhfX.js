import { p as grouped, u as decoderOf } from "./builder-B1r8kR1k.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { a as float32Value, i as decimalValue, o as intervalText, r as FineTime, t as TypedColumn } from "./typed-column-BVS5H0NL.js";
import { t as shortenedNotices } from "./opened-table-CKV_Rk3-.js";
// core/read/tables/open-parquet.ts
/** @throws ReadFailure, and whatever the library throws for a damaged file */
async function parquetTable(bytes, file, name, room) {
	const { parquetMetadata, parquetRead } = await import("./node-q3c3JaLi.js");
	const { compressors } = await import("./src-uRTdDVoa.js");
	const whole = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
	const metadata = parquetMetadata(whole);
	room.take(bytes, unpackedSize(metadata), file);
	for (const element of metadata.schema) settleType(element);
	const fields = topFields(metadata.schema);
	const rows = Number(metadata.num_rows);
	if (rows > MAX_ROWS) throw new ReadFailure(file, `${file} has ${grouped(rows)} rows; at most ${grouped(MAX_ROWS)} are read.`);
	refuseUneven(metadata, rows);
	const columns = fields.map(({ element, children }) => new TypedColumn(children ? "any" : holdsOf(element), Math.min(rows, FIRST_ROWS)));
	await parquetRead({
		file: {
			byteLength: whole.byteLength,
			slice: (from, to) => whole.slice(from, to)
		},
		metadata,
		compressors,
		parsers: PARSERS,
		utf8: false,
		rowFormat: "array",
		onComplete: (records) => {
			for (const record of records) fields.forEach(({ element }, c) => {
				columns[c].push(plain(record[c], element));
			});
		}
	});
	if (columns.some((column) => column.length !== rows)) throw new Error(`it has fewer than the ${grouped(rows)} rows that it says`);
	const names = fields.map(({ element }) => element.name);
	return {
		name,
		rows,
		names,
		columns: columns.map((column) => column.finish()),
		notices: shortenedNotices(names, columns)
	};
}
var utf8 = decoderOf("utf-8");
/** Values as they were written: each digit of decimals and times, a byte order mark inside a text. */
var PARSERS = {
	decimalFromUnscaled: decimalValue,
	intervalFromBytes: intervalText,
	stringFromBytes: (bytes) => bytes && utf8.decode(bytes),
	timestampFromMicroseconds: (units) => new FineTime(units, 1000n),
	timestampFromNanoseconds: (units) => new FineTime(units, 1000000n)
};
/** Newer writers may state the logical type alone, which the library reads for some types only. */
function settleType(element) {
	const logical = element.logical_type;
	if (logical?.type === "DECIMAL") {
		element.converted_type = "DECIMAL";
		element.scale = logical.scale;
	} else if (logical?.type === "DATE") element.converted_type = "DATE";
	else if (element.converted_type === "BSON") delete element.converted_type;
}
var MAX_ROWS = 5e7;
/** Room that is taken before rows come: a damaged file may say that it has any number of them. */
var FIRST_ROWS = 65536;
/** @throws Error where the groups of rows do not add up, or a column has more values than can be */
function refuseUneven({ row_groups: groups }, rows) {
	if (groups.reduce((all, group) => all + Number(group.num_rows), 0) !== rows || rows < 0) throw new Error("its groups have another number of rows than the file");
	for (const { columns } of groups) for (const { meta_data: column } of columns) {
		const values = Number(column?.num_values ?? 0);
		if (!(values >= 0 && values <= MAX_ROWS)) throw new Error("a column says that it has more values than can be");
	}
}
function unpackedSize({ row_groups }) {
	let size = 0;
	for (const { columns } of row_groups) for (const { meta_data } of columns) size += Number(meta_data?.total_uncompressed_size ?? 0);
	return size;
}
/** The columns of the file; those with children are lists, maps or records. */
function topFields(schema) {
	const fields = [];
	const skip = (at) => {
		let next = at + 1;
		for (let k = schema[at].num_children ?? 0; k > 0; k--) next = skip(next);
		return next;
	};
	for (let at = 1; at < schema.length; at = skip(at)) fields.push({
		element: schema[at],
		children: (schema[at].num_children ?? 0) > 0
	});
	return fields;
}
function holdsOf({ type, converted_type: converted, logical_type: logical }) {
	if (converted === "DATE" || logical?.type === "DATE") return "date";
	if (converted === "TIMESTAMP_MILLIS" || converted === "TIMESTAMP_MICROS" || logical?.type === "TIMESTAMP") return "datetime";
	if (type === "INT96") return "datetime";
	if (converted === "TIME_MILLIS" || converted === "TIME_MICROS" || logical?.type === "TIME") return "time";
	if (converted === "DECIMAL" || logical?.type === "DECIMAL" || type === "FLOAT" || type === "DOUBLE") return "number";
	if (type === "BOOLEAN") return "yesno";
	if (type === "INT32" || type === "INT64") return "whole";
	return "text";
}
/** Times of day with their unit, 32-bit floats as they were written. */
function plain(value, element) {
	if (element.type === "FLOAT" && typeof value === "number") return float32Value(value);
	if (holdsOf(element) !== "time" || value === null || value === void 0) return value;
	const unit = element.logical_type?.type === "TIME" ? element.logical_type.unit : void 0;
	const parts = unit === "NANOS" ? 1000000n : unit === "MICROS" || element.converted_type === "TIME_MICROS" ? 1000n : 1n;
	return typeof value === "bigint" || typeof value === "number" ? new FineTime(BigInt(value), parts) : value;
}
export { parquetTable };
