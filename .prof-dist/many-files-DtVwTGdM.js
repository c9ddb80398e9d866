import { C as filesOf, Lt as sniff, Rt as unwrapped, Zt as fullTables, i as stopText, n as judge, o as openSource } from "./write-aside-PkVZPj8k.js";
import { r as ReadFailure } from "./read-failure-DVmvxkMf.js";
// core/release/many-files.ts
/** What a method made of one file. */
/** The files of an archive, or the one file that stands alone. @throws ReadFailure */
function sourceFiles(source) {
	const own = unwrapped(source);
	return sniff(own.bytes, own.name) === "files" ? filesOf(own) : [own];
}
/**
* Runs a table with one file after the other as a source. A file that cannot be read, or at which the method stops, is
* told and the others go on. The source that was there is put back at the end.
*
* @throws Cancelled when the context says so
*/
async function* runEach(runner, { job, table, source }, files, context) {
	const before = runner.source(source);
	try {
		for (const file of files) {
			await openSource(file.bytes, file.name);
			yield runFile(runner, {
				job,
				table,
				source
			}, file, context);
		}
	} finally {
		if (before !== void 0) runner.setSource(source, before);
	}
}
/** Runs a table with a file as a source, which stays the runner's. */
function runFile(runner, { job, table, source }, file, context) {
	try {
		sniff(file.bytes, file.name);
	} catch (error) {
		if (!(error instanceof ReadFailure)) throw error;
		return {
			as: "failed",
			file: file.name,
			why: error.message
		};
	}
	runner.setSource(source, { ...file });
	const run = runner.runTable(fullTables(job), table.id, context);
	if (run.stop !== void 0) return {
		as: "failed",
		file: file.name,
		why: stopText(job, table, run.stop)
	};
	if (run.steps.length === 0) return {
		as: "failed",
		file: file.name,
		why: `${table.name} has no steps.`
	};
	return {
		as: "done",
		file: file.name,
		run,
		verdict: judge(job, table, run)
	};
}
export { runFile as n, sourceFiles as r, runEach as t };
