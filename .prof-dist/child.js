import { d as counted } from "./builder-B1r8kR1k.js";
import { Lt as sniff, Zt as fullTables, a as verdictText, en as EXPORT_FORMATS, i as stopText, n as judge, nn as ExportStopped, o as openSource, p as Runner, r as runRecord, tn as ExportSpec } from "./write-aside-PkVZPj8k.js";
import { r as exportChanges } from "./export-Bb_OgxNh.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { r as releaseTable } from "./release-DNpdDK4j.js";
import { t as sha256Of } from "./sha256-sFWLoYVW.js";
import { a as plainNames } from "./drop-folder-uRGwPaPp.js";
// service/folder/run-arrival.ts
/** A job run on a file that arrived: its exports and its record, or why there are none. */
/** Tables that have an export go out as they were last exported; where none has one, the last goes out as CSV. */
async function runArrival({ job, source, file, others }) {
	const runner = new Runner();
	const files = [];
	try {
		sniff(file.bytes, file.name);
		for (const { id, name, bytes } of [...others, {
			id: source,
			...file
		}]) {
			await openSource(bytes, name);
			runner.setSource(id, {
				name,
				bytes
			});
			files.push({
				source: job.sources.find((one) => one.id === id)?.name ?? id,
				file: name,
				size: bytes.length,
				sha256: sha256Of(bytes)
			});
		}
		const chosen = job.tables.filter((table) => table.export !== void 0);
		const outputs = [];
		const records = [];
		const texts = [];
		let good = true;
		for (const table of chosen.length > 0 ? chosen : job.tables.slice(-1)) {
			const run = runner.runTable(fullTables(job), table.id, { progress: () => void 0 });
			if (run.stop !== void 0) return {
				as: "failed",
				why: stopText(job, table, run.stop)
			};
			if (run.steps.length === 0) return {
				as: "failed",
				why: `${table.name} has no steps.`
			};
			const verdict = judge(job, table, run);
			const spec = table.export ?? ExportSpec.parse({ as: "csv" });
			const bytes = await releaseTable(job, {
				table,
				run,
				verdict
			}, spec);
			outputs.push({
				name: `${table.name}.${EXPORT_FORMATS[spec.as].ending}`,
				bytes
			});
			records.push(runRecord({
				job,
				table,
				run,
				files
			}, verdict));
			good &&= verdict.good;
			const made = run.steps.at(-1).table;
			texts.push(`${table.name}: ${counted(made.rows, "row")}, ${verdictText(verdict)}`, ...exportChanges(made, spec).map((change) => `${table.name}: ${change}`));
		}
		const names = plainNames(["record.json", ...outputs.map((one) => one.name)]).slice(1);
		outputs.forEach((one, k) => {
			if (names[k] !== one.name) texts.push(`${one.name} is written as ${names[k]}`);
			one.name = names[k];
		});
		const record = new TextEncoder().encode(`${JSON.stringify(records, null, 2)}\n`);
		return {
			as: "done",
			good,
			text: texts.join("; "),
			files: [...outputs, {
				name: "record.json",
				bytes: record
			}]
		};
	} catch (error) {
		if (error instanceof ReadFailure || error instanceof ExportStopped) return {
			as: "failed",
			why: error.message
		};
		throw error;
	}
}
// service/folder/child.ts
/** Runs jobs in its own process, which may break down without taking the server with it. */
process.on("message", (arrival) => {
	runArrival(arrival).then((result) => process.send(result), (error) => process.send({
		as: "failed",
		why: `The calculation crashed: ${error.message}`
	}));
});
process.on("disconnect", () => process.exit(0));
export {};
