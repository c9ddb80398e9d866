import { D as STEP_WORDS, Qt as Job, Xt as UseSet, ar as ZodError, b as READING_WORDS, g as FromTable, or as toJSONSchema, sn as mostAlike } from "./write-aside-PkVZPj8k.js";
import { o as brief } from "./read-failure-DVmvxkMf.js";
// core/document/unknown-keys.ts
/** Keys of a document that its schema does not know: a misspelt one would otherwise be passed over without a word. */
/** The first key of the input that did not come through the schema, as a path; undefined where all did. */
function unknownKey(input, parsed, path = []) {
	if (Array.isArray(input) && Array.isArray(parsed)) {
		for (const [k, item] of input.entries()) {
			const found = unknownKey(item, parsed[k], [...path, String(k)]);
			if (found !== void 0) return found;
		}
		return;
	}
	if (!isPlain(input) || !isPlain(parsed)) return void 0;
	for (const [key, value] of Object.entries(input)) {
		if (value === void 0) continue;
		if (!Object.hasOwn(parsed, key)) return [...path, key];
		const found = unknownKey(value, parsed[key], [...path, key]);
		if (found !== void 0) return found;
	}
}
function isPlain(value) {
	return typeof value === "object" && value !== null && !Array.isArray(value);
}
/** 'There is no desc here; the nearest is descending' */
function unknownKeyText(path, schema) {
	const key = path.at(-1);
	const nearest = mostAlike(key, [...keysOf(schema)]);
	return `there is no ${key}${path.length > 1 ? ` in ${path.slice(0, -1).join(".")}` : ""}${nearest === void 0 ? "" : `; the nearest name is ${nearest}`}`;
}
/** Names of all properties anywhere in a schema. */
function keysOf(schema) {
	const found = /* @__PURE__ */ new Set();
	const walk = (part) => {
		if (Array.isArray(part)) part.forEach(walk);
		if (!isPlain(part)) return;
		if (isPlain(part["properties"])) for (const key of Object.keys(part["properties"])) found.add(key);
		Object.values(part).forEach(walk);
	};
	walk(toJSONSchema(schema, {
		io: "input",
		unrepresentable: "any"
	}));
	return found;
}
// core/document/job-file.ts
/** The text is not a job file that this version can open. Nothing has been changed. */
var JobFileError = class extends Error {
	name = "JobFileError";
	constructor(message) {
		super(brief(message, 700));
	}
};
/** A job as the text of a job file. The same job always gives the same bytes. */
function writeJobFile(job) {
	return `${JSON.stringify(normalJob(job), null, 2)}\n`;
}
/** The job with every object's keys in the schema's order and every default filled in. */
function normalJob(job) {
	const { sets, ...parsed } = Job.parse(job);
	return {
		...parsed,
		tables: parsed.tables.map((table, t) => ({
			id: table.id,
			name: table.name,
			steps: job.tables[t].steps.map(normalStep),
			...table.checks === void 0 || table.checks.length === 0 ? {} : { checks: table.checks },
			...table.export === void 0 ? {} : { export: table.export },
			...table.accepts === void 0 || table.accepts.length === 0 ? {} : { accepts: table.accepts },
			...table.coverage === void 0 || table.coverage.length === 0 ? {} : { coverage: table.coverage },
			...table.waved === void 0 || table.waved.length === 0 ? {} : { waved: table.waved }
		})),
		...sets === void 0 || sets.length === 0 ? {} : { sets: sets.map((set) => ({
			...set,
			steps: set.steps.map(normalStep)
		})) }
	};
}
function normalStep(step) {
	return {
		id: step.id,
		kind: step.kind,
		params: parseParams(step.kind, step.params),
		...step.name === void 0 || step.name === "" ? {} : { name: step.name },
		...step.note === void 0 || step.note === "" ? {} : { note: step.note },
		...step.muted ? { muted: true } : {}
	};
}
/**
* Params by the kind's own schema.
* @throws JobFileError for an unknown kind, ZodError for params that do not fit
*/
function parseParams(kind, params) {
	const schema = schemaOf(kind);
	if (schema === void 0) throw new JobFileError(`There is no step kind called ${kind} in this version of Rimefield.`);
	return schema.parse(params);
}
/** The params that a kind of step, reading or set takes; undefined for a kind that this version does not know. */
function schemaOf(kind) {
	if (kind === "from-table") return FromTable;
	if (kind === "use-set") return UseSet;
	return READING_WORDS.get(kind)?.params ?? STEP_WORDS.get(kind)?.params;
}
/** @throws JobFileError that says what is wrong and where */
function readJobFile(text) {
	let raw;
	try {
		raw = JSON.parse(text);
	} catch (error) {
		throw new JobFileError(`This is not a job file, or it is cut off: ${error.message}.`);
	}
	if (typeof raw !== "object" || raw === null || raw.rimefield !== "job") throw new JobFileError("This is JSON, but not a Rimefield job: it does not begin with \"rimefield\": \"job\".");
	const { version } = raw;
	if (version !== 1) throw new JobFileError(`This job was saved as version ${String(version)}; this Rimefield reads version 1. Open it with the Rimefield that saved it.`);
	const parsed = Job.safeParse(raw);
	if (!parsed.success) throw new JobFileError(`The job file is broken at ${issueText(parsed.error)}.`);
	const unknown = unknownKey(raw, parsed.data);
	if (unknown !== void 0) throw new JobFileError(`The job file cannot be used: ${unknownKeyText(unknown, Job)}.`);
	return checkSteps(parsed.data);
}
/**
* Params by the kind's own schema, which must know every key of them.
* @throws JobFileError, ZodError
*/
function strictParams(kind, params) {
	const parsed = parseParams(kind, params);
	const unknown = unknownKey(params, parsed);
	if (unknown !== void 0) throw new JobFileError(`${unknownKeyText(unknown, schemaOf(kind))}. Correct the name, or take it out.`);
	const each = parsed["each"];
	if (kind !== "read-files" || each === void 0) return parsed;
	const own = strictParams(each.kind, {
		source: "",
		...each.params
	});
	if (!("source" in each.params)) delete own["source"];
	return {
		...parsed,
		each: {
			...each,
			params: own
		}
	};
}
function checkSteps(job) {
	for (const table of [...job.tables, ...job.sets ?? []]) table.steps.forEach((step, k) => {
		const where = `step ${k + 1} of ${table.name}`;
		try {
			step.params = strictParams(step.kind, step.params);
		} catch (error) {
			if (error instanceof ZodError) throw new JobFileError(`The job file is broken in ${where} (${step.kind}), at ${issueText(error)}.`);
			throw new JobFileError(`The job file cannot be used in ${where}: ${error.message}`);
		}
	});
	return job;
}
function issueText(error) {
	const issue = error.issues[0];
	const path = issue.path.join(".");
	return `${path === "" ? "the top" : path}: ${issue.message}`;
}
export { readJobFile as n, writeJobFile as r, JobFileError as t };
