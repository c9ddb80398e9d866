import { p as grouped, u as decoderOf } from "./builder-B1r8kR1k.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { t as TypedColumn } from "./typed-column-BVS5H0NL.js";
// core/read/tables/open-sqlite.ts
var utf8 = decoderOf("utf-8");
/** Cells of all tables together. */
var MAX_CELLS = 4e7;
/** @throws ReadFailure, and whatever the library throws for a damaged file */
async function sqliteTables(bytes, file) {
	const { default: init } = await import("./node-XuZAeEsK.js");
	const sqlite = await init();
	const { capi, wasm } = sqlite;
	const textOf = (statement, column) => {
		const at = wasm.exports.sqlite3_column_text(statement, column);
		return utf8.decode(wasm.heap8u().slice(at, at + capi.sqlite3_column_bytes(statement, column)));
	};
	const database = new sqlite.oo1.DB(":memory:", "c");
	try {
		const place = wasm.allocFromTypedArray(Uint8Array.from(bytes));
		const code = capi.sqlite3_deserialize(database.pointer, "main", place, bytes.length, bytes.length, capi.SQLITE_DESERIALIZE_FREEONCLOSE | capi.SQLITE_DESERIALIZE_READONLY);
		database.checkRc(code);
		const names = database.selectValues("select name from sqlite_schema where type in ('table', 'view') and name not like 'sqlite^_%' escape '^' order by type, rowid");
		let cells = 0;
		return names.map((name) => {
			const statement = database.prepare(`select * from "${name.replaceAll("\"", "\"\"")}"`);
			try {
				const columns = statement.getColumnNames().map(() => new TypedColumn("any", 64));
				let rows = 0;
				while (statement.step()) {
					rows++;
					cells += columns.length;
					if (cells > MAX_CELLS) throw new ReadFailure(file, `${file} holds more than ${grouped(MAX_CELLS)} cells. Save the table that is wanted as Parquet or CSV, and give that.`);
					const values = statement.get([]);
					for (let c = 0; c < columns.length; c++) columns[c].push(typeof values[c] === "string" ? textOf(statement.pointer, c) : values[c]);
				}
				return {
					name,
					rows,
					names: statement.getColumnNames(),
					columns: columns.map((column) => column.finish()),
					notices: []
				};
			} finally {
				statement.finalize();
			}
		});
	} finally {
		database.close();
	}
}
export { sqliteTables };
