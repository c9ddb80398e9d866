import { t as PartRunner } from "./run-part-klpmVD6Q.js";
// service/dataset/part-child.ts
/** Makes parts of a data set in its own process. */
var runner;
process.on("message", (asked) => {
	if ("setup" in asked) {
		runner = new PartRunner(asked.setup);
		return;
	}
	runner.run(asked.file).then((done) => process.send({ done }), (error) => process.send({ why: error.message }));
});
process.on("disconnect", () => process.exit(0));
export {};
