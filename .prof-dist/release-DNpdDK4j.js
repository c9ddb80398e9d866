import { $t as jobNames, Fn as takeRows, Yn as sentenceText, c as stepSentence, dn as columnLetters, m as walkedSteps, n as judge, nn as ExportStopped, xt as stackNamed } from "./write-aside-PkVZPj8k.js";
import { n as exportTable, t as exportAll } from "./export-Bb_OgxNh.js";
// core/write/exported.ts
/** What a run that came to its end has to export. */
function exportedOf(job, table, run) {
	const names = jobNames(job);
	const sentences = run.steps.map((step) => sentenceText(stepSentence(step.step, names)));
	const brought = /* @__PURE__ */ new Map();
	run.steps.forEach((step, k) => {
		for (const field of step.table.fields) if (field.nameOrigin !== "position" && !brought.has(field.name)) brought.set(field.name, sentences[k]);
	});
	const last = run.steps.length - 1;
	return {
		name: table.name,
		table: run.steps[last].table,
		method: run.steps.map((step, k) => ({
			sentence: sentences[k],
			note: step.step.note,
			rows: step.table.rows
		})),
		piles: pilesOf(run),
		key: keyOf(table, run.steps[last].table),
		brought
	};
}
function pilesOf(run) {
	const walked = walkedSteps(run, run.steps.length - 1);
	return walked.flatMap(({ run: step, index }, k) => {
		const before = walked[k - 1]?.run.table ?? partTable(step);
		return before === void 0 ? [] : step.aside.map((pile) => ({
			name: `${pile.name} (step ${index + 1})`,
			table: pile.columns === void 0 ? takeRows(before, pile.rows) : {
				rows: before.rows,
				fields: pile.columns.map((column) => before.fields[column])
			}
		}));
	});
}
/** What a reading took its table out of, where it set rows of it aside. */
function partTable({ reading }) {
	const part = reading?.report.parts[reading.aside[0]?.part ?? -1];
	if (part === void 0) return void 0;
	return {
		rows: part.rows,
		fields: part.columns.map((column, k) => ({
			name: columnLetters(k),
			nameOrigin: "position",
			column
		}))
	};
}
function keyOf({ checks }, table) {
	const names = new Set(table.fields.map((field) => field.name));
	return checks?.flatMap((check) => check.kind === "key" ? [check.columns] : []).find((columns) => columns.every((name) => names.has(name)));
}
// core/release/release.ts
/**
* A table that may leave its job.
* @throws ExportStopped when a check that stops exports fails, or the method did not come to its end
*/
function released(job, { table, run, lastRows, verdict }) {
	if (run.stop !== void 0 || run.steps.length === 0) throw new ExportStopped(`The method of ${table.name} stops before its end, so there is no table to export. Fix the step that stopped first.`);
	if (table.checks?.some((check) => check.level === "stop")) {
		const { stopping } = verdict ?? judge(job, table, run, lastRows);
		if (stopping.length > 0) throw new ExportStopped(`${table.name} fails a check that stops exports: ${stopping.map((one) => `${one.text} (${one.found})`).join("; ")}`);
	}
	return exportedOf(job, table, run);
}
/** @throws ExportStopped */
function releaseTable(job, finished, spec) {
	return exportTable(released(job, finished), spec);
}
/** All in one file or an archive; nothing where one of them may not leave. @throws ExportStopped */
function releaseAll(job, all, spec) {
	return exportAll(all.map((one) => released(job, one)), job.name, spec);
}
/** Tables that one method made of many files, released before, under each other with the file's name. @throws ExportStopped */
function exportStacked(name, tables, spec) {
	const stacked = stackNamed(tables.map((one) => ({
		name: one.name,
		table: one.exported.table
	})), "File");
	return exportTable({
		name,
		table: stacked
	}, spec);
}
export { released as i, releaseAll as n, releaseTable as r, exportStacked as t };
