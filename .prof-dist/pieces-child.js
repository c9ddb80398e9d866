import { a as InPieces, n as linesBefore, r as rowsAsText } from "./in-pieces-DeiJ0gTN.js";
import { basename } from "node:path";
import { parentPort, workerData } from "node:worker_threads";
// service/pieces-child.ts
/** Runs pieces of a file in its own thread. */
var { job, table, source, path, spec, begun } = workerData;
var own = job.tables.find(({ id }) => id === table);
var run = new InPieces(job, own, source, basename(path), (byte) => linesBefore(path, byte));
parentPort.on("message", ({ bytes, length, at }) => {
	const answer = answerTo(bytes.subarray(0, length), at);
	parentPort.postMessage(answer, "text" in answer ? [answer.text.buffer] : []);
});
function answerTo(bytes, at) {
	try {
		run.goOn(begun, at);
		const { table: made, received, aside, unreadable } = run.next(bytes);
		return {
			text: rowsAsText(made, spec),
			made: {
				received,
				rows: made.rows,
				aside,
				unreadable
			},
			end: at + bytes.length
		};
	} catch (error) {
		return {
			failed: error.name,
			message: error.message
		};
	}
}
export {};
