import { $n as array, Pt as readableColumn, a as verdictText, er as boolean, gn as unreadableCells, ir as string, nr as number, o as openSource, p as Runner, r as runRecord, rr as object, t as writeAside, tn as ExportSpec, tr as literal, xt as stackNamed } from "./write-aside-PkVZPj8k.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { n as runFile } from "./many-files-DtVwTGdM.js";
import { n as exportTable } from "./export-Bb_OgxNh.js";
import { t as sha256Of } from "./sha256-sFWLoYVW.js";
import { existsSync, readFileSync, readdirSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
// core/release/part-table.ts
function partTable(file, table) {
	const named = stackNamed([{
		name: file,
		table
	}], "File");
	return {
		table: {
			...named,
			fields: named.fields.map((field) => ({
				...field,
				column: readableColumn(field.column)
			}))
		},
		unreadable: unreadableCells(table)
	};
}
// service/dataset/part-record.ts
/** What is kept of each file of a data set, beside its part. */
/** Records lie in a folder that readers of data sets pass over (by the usage of Hive and Spark, common practice). */
var RECORDS = "_records";
var PartRecord = object({
	rimefield: literal("part"),
	version: literal(1),
	/** Name of the file that the method ran on. */
	file: string(),
	size: number(),
	sha256: string(),
	/** SHA-256 of the method, and of the other files that it reads. */
	method: string(),
	/** The part's file; none where the file failed. */
	part: object({
		name: string(),
		size: number(),
		sha256: string()
	}).optional(),
	/** Why there is no part. */
	failed: string().optional(),
	rows: number(),
	unreadable: number(),
	columns: array(object({
		name: string(),
		type: string()
	})),
	/** Tally and checks are well. */
	good: boolean(),
	verdict: string(),
	checks: array(object({
		text: string(),
		ok: boolean(),
		found: string(),
		level: string()
	})),
	/** What the steps tell to be looked at. */
	looks: array(string())
});
/** Names of a part and of its record, from that of the file. */
function partName(file) {
	return `${file}.parquet`;
}
function recordPath(out, file) {
	return join(out, RECORDS, `${file}.json`);
}
/** The record of a file, or undefined where there is none that holds. */
function readRecord(out, file) {
	try {
		const record = PartRecord.parse(JSON.parse(readFileSync(recordPath(out, file), "utf8")));
		if (record.part === void 0) return record;
		return statSync(join(out, record.part.name), { throwIfNoEntry: false })?.size === record.part.size ? record : void 0;
	} catch {
		return;
	}
}
/** Names of the files that records are there for. */
function recordedFiles(out) {
	const folder = join(out, RECORDS);
	if (!existsSync(folder)) return [];
	return readdirSync(folder).flatMap((name) => name.endsWith(".json") ? [name.slice(0, -5)] : []);
}
// service/dataset/run-part.ts
/** The method on one file, and its part of the data set. */
var PARQUET = ExportSpec.parse({ as: "parquet" });
/** Runs a method on one file after the other. */
var PartRunner = class {
	setup;
	runner = new Runner(0);
	opened;
	constructor(setup) {
		this.setup = setup;
	}
	/**
	* Writes the part first and its record last, so that a record always tells of a whole part.
	* @throws Error of the file system
	*/
	async run(file) {
		const { out, method } = this.setup;
		const bytes = new Uint8Array(readFileSync(file.path));
		const sha256 = sha256Of(bytes);
		const before = readRecord(out, file.name);
		if (before?.sha256 === sha256 && before.method === method) return {
			record: before,
			kept: true
		};
		const known = {
			file: file.name,
			size: bytes.length,
			sha256,
			method
		};
		const { record, part } = await this.made(file.name, bytes, known);
		const path = join(out, partName(file.name));
		if (part === void 0) rmSync(path, { force: true });
		else writeAside(path, part);
		writeAside(recordPath(out, file.name), new TextEncoder().encode(`${JSON.stringify(record)}\n`));
		return {
			record,
			kept: false
		};
	}
	async made(name, bytes, known) {
		const { job, source } = this.setup;
		const table = job.tables.find((one) => one.id === this.setup.table);
		const none = {
			rimefield: "part",
			version: 1,
			...known,
			rows: 0,
			unreadable: 0,
			columns: [],
			good: false
		};
		const failed = (why, more = {}) => ({ record: {
			...none,
			failed: why,
			verdict: "",
			checks: [],
			looks: [],
			...more
		} });
		this.opened ??= this.open();
		await this.opened;
		try {
			await openSource(bytes, name);
			const outcome = runFile(this.runner, {
				job,
				table,
				source
			}, {
				name,
				bytes
			}, { progress: () => void 0 });
			if (outcome.as === "failed") return failed(outcome.why);
			const { run, verdict } = outcome;
			const told = runRecord({
				job,
				table,
				run,
				files: []
			}, verdict);
			const looks = told.steps.flatMap((step) => step.looks.map((look) => `step ${step.step}: ${look}`));
			const more = {
				verdict: verdictText(verdict),
				checks: [...told.checks ?? []],
				looks
			};
			const [stopping] = verdict.stopping;
			if (stopping !== void 0) return failed(`A check fails that stops exports: ${stopping.text} (${stopping.found}).`, more);
			const made = partTable(name, run.steps.at(-1).table);
			const part = await exportTable({
				name: table.name,
				table: made.table
			}, PARQUET);
			return {
				record: {
					...none,
					...more,
					part: {
						name: partName(name),
						size: part.length,
						sha256: sha256Of(part)
					},
					rows: made.table.rows,
					unreadable: made.unreadable,
					columns: made.table.fields.map((field) => ({
						name: field.name,
						type: field.column.type
					})),
					good: verdict.good
				},
				part
			};
		} catch (error) {
			if (error instanceof ReadFailure) return failed(error.message);
			throw error;
		}
	}
	async open() {
		for (const { id, name, bytes } of this.setup.others) {
			await openSource(bytes, name);
			this.runner.setSource(id, {
				name,
				bytes
			});
		}
	}
};
export { RECORDS as n, recordedFiles as r, PartRunner as t };
