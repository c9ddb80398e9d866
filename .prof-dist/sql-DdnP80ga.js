import { d as counted, o as countedColumn } from "./builder-B1r8kR1k.js";
import { Bn as countUnreadable, Pt as readableColumn, Rn as rowNumbers, tn as ExportSpec } from "./write-aside-PkVZPj8k.js";
import { n as methodSql, r as DIALECTS } from "./method-sql-Dny3G1dX.js";
import { n as exportTable } from "./export-Bb_OgxNh.js";
import { t as Trouble } from "./command-files-VaXFOnWP.js";
// core/sql/raw-table.ts
/**
* A table as a script begins with it: the order of its rows in its own column, cells that could not be read blank,
* a column of several kinds as text.
*/
function rawTable({ rows, fields }) {
	return {
		rows,
		fields: [{
			name: "#",
			nameOrigin: "beside",
			column: countedColumn("whole", [...rowNumbers(rows)])
		}, ...fields.map((field) => ({
			...field,
			column: readableColumn(field.column)
		}))]
	};
}
// core/release/raw-file.ts
/** The table that a SQL script begins with, as a file that a database takes. */
function rawFile(name, table, as) {
	const spec = ExportSpec.parse(as === "csv" ? {
		as,
		guard: false,
		lineEnd: "lf"
	} : { as });
	return exportTable({
		name,
		table: rawTable(table)
	}, spec);
}
// service/sql.ts
/** A method for where the data are: as a SQL script, and the table that the script begins with. */
/** @throws Trouble */
function dialectOf(given) {
	const found = DIALECTS.find((one) => one === (given ?? "duckdb"));
	if (found === void 0) throw new Trouble(`There is no dialect ${given}. The dialects are ${DIALECTS.join(", ")}.`);
	return found;
}
/** A method as SQL; raw tables are Parquet files beside the script where the dialect reads them. @throws SqlRefused */
function sqlScript(ran, dialect) {
	return methodSql(ran.job, ran.table.id, ran.run, {
		dialect,
		file: (raw) => `${raw.name}.parquet`
	});
}
/** Which step a number from 1 stands for. @throws Trouble */
function stepIndex(table, given) {
	const step = Number(given);
	if (given === void 0 || !Number.isInteger(step) || step < 1 || step > table.steps.length) throw new Trouble(`Say with --upto after which step of ${table.name} the table is wanted: a number from 1 to ${table.steps.length}${given === void 0 ? "" : `, not ${given}`}.`);
	return step - 1;
}
/** The table after the last step of a run, as a script begins with it. @throws Trouble */
function rawBytes(name, run, as, readable = false) {
	if (as !== "parquet" && as !== "csv") throw new Trouble(`A raw table is written as parquet or csv, and not as ${as}. Say so with the ending of --out, or --as.`);
	const { table } = run.steps.at(-1);
	const bad = readable ? table.fields.find(({ column }) => countUnreadable(column) > 0) : void 0;
	if (bad !== void 0) throw new Trouble(`${counted(countUnreadable(bad.column), "cell")} of ${bad.name} could not be read, which the script would take for blank. Correct them, or run the method with rimefield run.`);
	return rawFile(name, table, as);
}
export { dialectOf, rawBytes, sqlScript, stepIndex };
