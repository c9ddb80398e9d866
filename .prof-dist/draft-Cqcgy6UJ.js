import { d as counted, f as few, p as grouped } from "./builder-B1r8kR1k.js";
import { $ as HALF_A_UNIT, $t as jobNames, An as readNumber, C as filesOf, Ct as fittingPatterns, Dn as writtenTexts, E as figureAt, En as usedTexts, Et as numberReading, Fn as takeRows, Ft as toCounted, G as guessHeader, It as dateField, J as depthsOf$1, K as lineNames, Lt as sniff, M as cutText, Nn as areSerialDays, Nt as compilePatterns, O as CATALOGUE, On as NumberForm, P as unpivot, Pn as civilFromDays, Q as ruleMask, Qt as Job, Rn as rowNumbers, Rt as unwrapped, S as baseName, Sn as cellText, St as setTypes, Tn as textView, Tt as doubtText$1, U as setAsideColumns, Un as unseenMask, Vn as isBlank, Yn as sentenceText, _ as READINGS, _n as groupRows, _t as totalWordIn, an as chosenColumns, at as MARK, c as stepSentence, cn as nameLikeness, ct as isYear, d as areSameItems, dt as textAt, et as decimalsOf, f as isNumbering$1, fn as isPlaceName, ft as isUnit, gt as saysTotal, hn as uniqueName, ht as saysSum, it as CellKind, j as Cutting, jn as MS, kn as numberText, kt as compileTemplate, l as tallyOf, ln as monthNames, lt as lookAtText, m as walkedSteps, mt as saysNote, n as judge, nt as findSums, o as openSource, on as StepFailure, ot as distinctTexts, p as Runner, pn as isPositioned, pt as namesRemarks, q as linesToColumns, rn as effectOfPiles, rt as runStarts, s as stepHeadline, st as isFilled, tt as findSumColumns, un as monthsAmong, ut as profileTable, v as guessReading, wt as patternsFor, x as sheetsReport, y as READINGS_OF_FORMAT } from "./write-aside-PkVZPj8k.js";
import { c as escapeRegExp, r as ReadFailure } from "./read-failure-DVmvxkMf.js";
import { i as released, r as releaseTable, t as exportStacked } from "./release-DNpdDK4j.js";
import { t as runEach } from "./many-files-DtVwTGdM.js";
import { r as writeJobFile } from "./job-file-CC8dJtM3.js";
import { c as specOf, i as numbered, l as write, n as filesAt, r as isFolder, s as readBytes, t as Trouble } from "./command-files-VaXFOnWP.js";
import { t as sha256Of } from "./sha256-sFWLoYVW.js";
import { basename } from "node:path";
// core/rows/identifying.ts
var MAX_KEY = 6;
/** The first few columns that tell every row apart, dates and words before figures. */
function identifyingColumns(table) {
	if (table.rows < 2) return void 0;
	const rank = (column) => column.type === "number" ? 2 : column.type === "whole" ? 1 : 0;
	const fields = table.fields.filter((field) => rank(field.column) < 2).sort((a, b) => rank(a.column) - rank(b.column));
	const alone = fields.find((field) => groupRows([field.column], table.rows).count === table.rows);
	if (alone !== void 0) return [alone.name];
	const chosen = [];
	let apart = 1;
	for (const field of fields) {
		if (rank(field.column) > 0) break;
		const count = groupRows([...chosen, field].map((one) => one.column), table.rows).count;
		if (count <= apart) continue;
		chosen.push(field);
		apart = count;
		if (apart === table.rows) return chosen.map((one) => one.name);
		if (chosen.length === MAX_KEY) break;
	}
}
// core/steps/try-steps.ts
/** For steps that are tried outside of any method: nobody waits, and no other table is available. */
var ALONE = {
	progress: () => void 0,
	name: "a step that is tried",
	other(id) {
		throw new StepFailure(`No other table is available, but ${id} is asked for.`);
	}
};
/** A table after some steps; undefined where one of them stops. */
function tableAfter(table, steps, context = ALONE) {
	let now = table;
	try {
		for (const { kind, params } of steps) {
			const step = CATALOGUE.get(kind);
			now = step.run(now, step.params.parse(params), context).table;
		}
		return now;
	} catch (error) {
		if (error instanceof StepFailure || error instanceof SyntaxError) return void 0;
		throw error;
	}
}
/** Equal for steps that do the same: by kind and params, defaults filled in. */
function stepKey({ kind, params }) {
	return JSON.stringify([kind, CATALOGUE.get(kind)?.params.safeParse(params).data ?? params]);
}
// core/findings/types.ts
/** What columns hold, where every cell of them reads so: figures in the table's own form, dates, times. */
var types = {
	name: "types",
	find({ profile, within }) {
		const doubts = [];
		const open = [];
		const typed = [];
		let dates;
		for (const column of profile.columns) {
			const field = profile.table.fields[column.index];
			if (field.column.type !== "text" && field.column.type !== "received") continue;
			const filled = profile.rows - column.counts[CellKind.blank];
			if (filled === 0) continue;
			if (column.counts[CellKind.figure] === filled && isNumbering$1(textsOf$2(column, profile.rows))) continue;
			if (column.counts[CellKind.figure] === filled) {
				const reading = readingOf(column, profile);
				for (const doubt of reading.doubts) if (doubt.code !== "open-marks") doubts.push({
					code: "number",
					column: column.name,
					doubt
				});
				else if (!isProven(profile)) open.push({
					name: column.name,
					doubt
				});
				if (reading.type === "whole") dates ??= dayColumns(profile);
				const beside = reading.type === "whole" ? dates?.find(({ days }) => areSerialDays(column.values, days)) : void 0;
				if (beside !== void 0) {
					typed.push({
						name: column.name,
						set: {
							type: "date",
							serial: 1900
						}
					});
					doubts.push({
						code: "serial-days",
						column: column.name,
						beside: beside.name
					});
				} else if (reading.type !== void 0) typed.push({
					name: column.name,
					set: numberSet(column, profile, reading)
				});
			} else if (column.counts[CellKind.date] + serials(column) === filled) {
				const dates = writtenTexts(field.column).filter((text) => !SERIAL.test(text.trim()));
				const guess = dates.length === 0 ? { type: "date" } : patternsFor(dates);
				if (guess === void 0) continue;
				const isMixed = column.counts[CellKind.date] < filled;
				if (isMixed && guess.type === "time") continue;
				typed.push({
					name: column.name,
					set: {
						...guess,
						...isMixed ? { serial: 1900 } : {}
					}
				});
				if (isMixed) doubts.push({
					code: "dates-and-serials",
					column: column.name,
					serials: serials(column)
				});
				const doubt = dayDoubt(profile, column);
				if (doubt !== void 0) doubts.push(doubt);
			}
		}
		typed.push(...besideTypes(profile, within));
		const [first] = open;
		const doubt = first === void 0 ? doubts[0] : {
			code: "number",
			column: first.name,
			doubt: first.doubt
		};
		if (typed.length === 0) return doubt === void 0 ? [] : [{
			steps: [],
			weight: 0,
			doubt
		}];
		const own = finding(typed, doubt);
		if (first === void 0) return [own];
		const other = profile.decimal === "." ? "," : ".";
		const names = new Set(open.map(({ name }) => name));
		const swapped = typed.map((one) => {
			const column = profile.columns.find(({ name }) => name === one.name);
			const reading = names.has(one.name) ? readingOf(column, profile, other) : void 0;
			return reading?.type === void 0 ? one : {
				...one,
				set: numberSet(column, profile, reading)
			};
		});
		const { asDecimal, asThousands, mark } = first.doubt;
		const [ownValue, otherValue] = mark === profile.decimal ? [asDecimal, asThousands] : [asThousands, asDecimal];
		return [{
			...own,
			gives: `${first.name} as ${ownValue}`
		}, {
			...finding(swapped, doubt),
			weight: own.weight - .2,
			gives: `${first.name} as ${otherValue}`
		}];
	}
};
var textsOf$2 = (column, rows) => Array.from({ length: rows }, (_, r) => textAt(column, r));
function finding(typed, doubt) {
	const sets = /* @__PURE__ */ new Map();
	for (const { name, set } of typed) {
		const key = JSON.stringify(set);
		const group = sets.get(key) ?? {
			columns: {
				by: "names",
				names: []
			},
			...set
		};
		group.columns.names.push(name);
		sets.set(key, group);
	}
	const list = [...sets.values()];
	const said = list.map((set) => `${set.columns.names.slice(0, 3).join(", ")}${set.columns.names.length > 3 ? " …" : ""} ${set.type}${set.number === void 0 ? "" : ` (decimal ${set.number.decimal === "," ? "comma" : "point"})`}`);
	return {
		steps: [{
			kind: "set-types",
			params: { types: list },
			why: `every cell matches: ${said.join("; ")}`
		}],
		weight: .5,
		...doubt === void 0 ? {} : { doubt }
	};
}
/** Labels and lines above tables that are dates throughout. */
function besideTypes(profile, within) {
	return profile.table.fields.flatMap((field) => {
		if (field.nameOrigin !== "beside" || field.name === within || field.column.type !== "text") return [];
		const texts = [...usedTexts(field.column)];
		const found = texts.length > 1 && texts.every((text) => /\d/.test(text)) ? patternsFor(texts) : void 0;
		return found === void 0 ? [] : [{
			name: field.name,
			set: found
		}];
	});
}
/** Columns of dates, with their days since 1970. */
function dayColumns(profile) {
	return profile.columns.flatMap((column) => {
		if (column.counts[CellKind.date] < profile.rows * .5) return [];
		const own = profile.table.fields[column.index].column;
		const texts = writtenTexts(own).filter((text) => !SERIAL.test(text.trim()));
		const patterns = texts.length === 0 ? [] : patternsFor(texts)?.patterns;
		if (patterns === void 0) return [];
		const form = {
			type: "date",
			number: NumberForm.parse({}),
			patterns: compilePatterns("date", patterns, "any", 1950)
		};
		return [{
			name: column.name,
			days: toCounted(own, form).column.values
		}];
	});
}
var SERIAL = /^\d{5}(?:\.\d+)?$/;
/** How many figures of a column of dates are days as workbooks count them, from 1927 to 2064; 0 where any is not. */
function serials(column) {
	const figures = column.counts[CellKind.figure];
	if (figures === 0 || column.counts[CellKind.date] < figures) return 0;
	return column.values.every((value) => Number.isNaN(value) || value >= 1e4 && value < 6e4) ? figures : 0;
}
/** How a column of figures reads by the marks of the whole table. */
function readingOf(column, profile, decimal = profile.decimal) {
	const field = profile.table.fields[column.index].column;
	const key = `${decimal}${profile.decimal}`;
	const known = readings.get(field) ?? /* @__PURE__ */ new Map();
	const reading = known.get(key) ?? readAs(column, field, profile, decimal);
	readings.set(field, known.set(key, reading));
	return reading;
}
/** By the marks that it is read with and those of the table. */
var readings = /* @__PURE__ */ new WeakMap();
function readAs(column, field, profile, decimal) {
	const texts = writtenTexts(field);
	const reading = numberReading(texts, decimal);
	const type = texts.length === 0 ? "number" : reading.type;
	if (type === void 0) return reading;
	const whole = column.values.every((value) => Number.isNaN(value) || Number.isInteger(value));
	return {
		...reading,
		type: decimal === profile.decimal ? whole ? "whole" : "number" : type
	};
}
/** The marks are named where a cell has one that needs it. */
function numberSet(column, profile, { type, number }) {
	return {
		type,
		...number.decimal === "," && writtenTexts(profile.table.fields[column.index].column).some((text) => /[.,]/.test(text)) ? { number: {
			decimal: ",",
			grouping: "any"
		} } : {}
	};
}
/** Dates that could begin with the day or the month. */
function dayDoubt(profile, column) {
	const pairs = [...usedTexts(profile.table.fields[column.index].column)].flatMap((text) => {
		const match = /^(\d{1,2})[/-](\d{1,2})[/-]\d{2,4}/.exec(text.trim());
		return match === null ? [] : [[Number(match[1]), Number(match[2])]];
	});
	return pairs.length > 0 && pairs.every(([a, b]) => a <= 12 && b <= 12) && pairs.some(([a, b]) => a !== b) ? {
		code: "day-or-month",
		column: column.name
	} : void 0;
}
/** A figure somewhere in the table is written as only one of the two decimal marks can. */
function isProven(profile) {
	return profile.isDecimalKnown || profile.columns.some((column) => column.counts[CellKind.figure] > 0 && column.texts.some((text) => /\d[.,]\d{1,2}(?!\d)\D*$|\d[.,]\d{4,}|[.,]\d{3}[.,]\d/.test(text.trim())));
}
// core/values/grouped-by.ts
/** Items by what they have in common, groups and their items in the order in which they came. */
function groupedBy$1(items, keyOf) {
	const groups = /* @__PURE__ */ new Map();
	for (const item of items) {
		const key = keyOf(item);
		const group = groups.get(key);
		if (group === void 0) groups.set(key, [item]);
		else group.push(item);
	}
	return groups;
}
// core/draft/like.ts
var FORM = NumberForm.parse({});
var MAX_GAPS = 20;
/** One form for texts that say the same: numbers without dress, outer blanks gone, a day for its midnight. */
function plainText(text) {
	if (text === null) return "";
	const own = text.replace(/[\u00a0\u202f]/g, " ").trim();
	if (/^-?[\d,]*\.?\d+$/.test(own) && !/^-?0\d/.test(own)) {
		const { value } = readNumber(own, FORM);
		if (!Number.isNaN(value)) return numberText(value);
	}
	return own.replace(/^(\d{4}-\d\d-\d\d)[T ]00:00(?::00)?$/, "$1");
}
function plainColumns(table) {
	return table.fields.map(({ column }) => {
		const { codes, texts } = textView(column);
		const plain = texts.map(plainText);
		return Array.from({ length: table.rows }, (_, r) => codes[r] < 0 ? "" : plain[codes[r]]);
	});
}
/**
* Compares a table with what it should be.
*
* @param partial the wanted table is only some of the rows
*/
function likenessTo(table, wanted, partial) {
	const have = plainColumns(table);
	const need = plainColumns(wanted);
	const columns = pairColumns(table, have, wanted, need);
	const used = columns.flatMap((k, w) => k < 0 ? [] : [{
		k,
		w
	}]);
	const places = groupedBy$1(Array.from({ length: table.rows }, (_, r) => r), (r) => used.map(({ k }) => have[k][r]).join(""));
	const taken = new Uint8Array(table.rows);
	const left = [];
	for (let w = 0; w < wanted.rows; w++) {
		const found = places.get(used.map(({ w: column }) => need[column][w]).join(""))?.shift();
		if (found === void 0) left.push(w);
		else taken[found] = 1;
	}
	const gaps = [];
	let missing = 0;
	let met = (wanted.rows - left.length) * used.length;
	const free = [...taken.keys()].filter((r) => taken[r] === 0).slice(0, 2e3);
	for (const w of left.slice(0, 500)) {
		let [best, most] = [-1, 0];
		for (const r of free) {
			if (taken[r] === 1) continue;
			const same = used.filter(({ k, w: column }) => have[k][r] === need[column][w]).length;
			if (same > most) [best, most] = [r, same];
		}
		if (best < 0 || most < used.length * .5) {
			missing++;
			if (gaps.length < MAX_GAPS) gaps.push({
				row: w,
				column: wanted.fields[0]?.name ?? "",
				wanted: need[0]?.[w] ?? "",
				got: void 0
			});
			continue;
		}
		taken[best] = 1;
		met += most;
		for (const { k, w: column } of used) if (have[k][best] !== need[column][w] && gaps.length < MAX_GAPS) gaps.push({
			row: w,
			column: wanted.fields[column].name,
			wanted: need[column][w],
			got: have[k][best]
		});
	}
	columns.forEach((k, w) => {
		if (k < 0 && gaps.length < MAX_GAPS) gaps.push({
			row: 0,
			column: wanted.fields[w].name,
			wanted: need[w][0] ?? "",
			got: void 0
		});
	});
	const extra = partial ? 0 : taken.reduce((sum, one) => sum + (one === 0 ? 1 : 0), 0);
	const all = wanted.rows * wanted.fields.length + extra * wanted.fields.length;
	return {
		columns,
		share: all === 0 ? 0 : met / all,
		extra,
		missing: missing + Math.max(0, left.length - 500),
		gaps
	};
}
/** For each wanted column the one whose values are most like its own; names decide between equals. */
function pairColumns(table, have, wanted, need) {
	const counts = (cells) => {
		const found = /* @__PURE__ */ new Map();
		for (const cell of cells) found.set(cell, (found.get(cell) ?? 0) + 1);
		return found;
	};
	const own = have.map(counts);
	const pairs = need.flatMap((cells, w) => {
		const wantedCounts = counts(cells);
		return own.flatMap((of, k) => {
			let met = 0;
			for (const [cell, count] of wantedCounts) met += Math.min(count, of.get(cell) ?? 0);
			const share = met / Math.max(1, cells.length);
			const likeness = nameLikeness(table.fields[k].name, wanted.fields[w].name);
			return share + .2 * likeness < .5 && likeness < 1 ? [] : [{
				w,
				k,
				worth: share + .1 * likeness + .001 * wantedCounts.size - 1e-4 * Math.abs(w - k)
			}];
		});
	});
	const columns = new Array(need.length).fill(-1);
	const taken = /* @__PURE__ */ new Set();
	for (const { w, k } of pairs.sort((a, b) => b.worth - a.worth)) {
		if (columns[w] >= 0 || taken.has(k)) continue;
		columns[w] = k;
		taken.add(k);
	}
	return columns;
}
/** Steps that give a table the wanted columns, under their names and in their order. */
function stepsToward(table, wanted, { columns }) {
	const held = columns.flatMap((k, w) => {
		if (k < 0) return [];
		const { name } = table.fields[k];
		const to = wanted.fields[w].name;
		return [{
			name,
			to: isPlaceName(to) ? name : to
		}];
	});
	return held.length === 0 ? [] : columnSteps(table, held);
}
/** Steps after which a table has these columns alone, in this order and under these names. */
function columnSteps(table, held) {
	const steps = [];
	const names = held.map(({ name }) => name);
	if (names.length < table.fields.length || names.some((name, k) => table.fields[k].name !== name)) steps.push({
		kind: "keep-columns",
		params: { columns: {
			by: "names",
			names
		} },
		why: "columns of the finished table, in its order"
	});
	const renames = held.flatMap(({ name, to }) => name === to ? [] : [{
		from: name,
		to
	}]);
	if (renames.length > 0) steps.push({
		kind: "rename",
		params: { names: renames },
		why: "named as in the finished table"
	});
	return steps;
}
// core/offers/offer.ts
var only = (...names) => ({
	by: "names",
	names
});
// core/offers/example-offers.ts
/** Steps that make a cell read as it should: a person typed over one, and the rest of the column follows. */
/** Rows on which a step is tried. */
var MAX_ROWS$4 = 4e3;
var MAX_OFFERS = 5;
var SIGN = /[^\p{L}\p{N}]+/u;
/**
* Steps after which a cell reads as it should, the likeliest first: those under which the other cells of the column look
* like it too.
*
* @param wanted what the cell should read, blank for nothing
*/
function exampleOffers(table, row, column, wanted) {
	const index = table.fields.findIndex((field) => field.name === column);
	if (index < 0 || row >= table.rows) return [];
	const text = cellText(table.fields[index].column, row);
	if ((text ?? "") === wanted) return [];
	const { sample, at } = sampleWith(table, row);
	const before = textsOf$1(sample, index);
	const tried = waysFor(table, column, text, wanted).flatMap((way) => {
		const after = tryOut(sample, index, column, way);
		if (after === void 0 || (after[at] ?? "") !== wanted) return [];
		return [{
			way,
			score: scoreOf(before, after, wanted),
			after
		}];
	});
	const seen = /* @__PURE__ */ new Set();
	return tried.sort((a, b) => b.score - a.score || b.way.plainness - a.way.plainness).filter(({ way, after }) => {
		const key = `${way.kind === "replace"}${after.join("")}`;
		if (seen.has(key)) return false;
		seen.add(key);
		return true;
	}).slice(0, MAX_OFFERS).map(({ way: { plainness: _, ...offer }, after }) => ({
		...offer,
		outcome: outcomeOf(before, after, sample.rows < table.rows)
	}));
}
function waysFor(table, column, text, wanted) {
	if (text === null) return forBlank(column, wanted);
	if (wanted === "") return [{
		label: `‘${text}’ means blank`,
		kind: "blank-texts",
		params: {
			columns: only(column),
			texts: [text]
		},
		plainness: 5
	}];
	return [
		...cleanings(column),
		...typings(table, column),
		...stretches(column, text, wanted),
		...frames(column, text, wanted),
		...parts(column, text, wanted)
	];
}
/** A blank is filled from its neighbours, or everywhere alike. */
function forBlank(column, wanted) {
	const params = (direction) => ({
		columns: only(column),
		direction
	});
	return [
		{
			label: "Fill down",
			kind: "fill",
			params: params("down"),
			plainness: 5
		},
		{
			label: "Fill up",
			kind: "fill",
			params: params("up"),
			plainness: 4
		},
		{
			label: `Fill blanks with ${wanted}`,
			kind: "fill-blanks",
			params: {
				columns: only(column),
				with: wanted
			},
			plainness: 3
		}
	];
}
function cleanings(column) {
	const clean = (label, more, plainness) => ({
		label,
		kind: "clean-text",
		params: {
			columns: only(column),
			...more
		},
		plainness
	});
	return [
		clean("Clean the spaces", {}, 9),
		clean("Capital at each word", { letters: "title" }, 8),
		clean("Capital at the start", { letters: "sentence" }, 8),
		clean("All capitals", { letters: "upper" }, 8),
		clean("All small letters", { letters: "lower" }, 8),
		clean("Only the digits", { leaveOut: [
			"letters",
			"punctuation",
			"blanks"
		] }, 6),
		clean("Without the digits", { leaveOut: ["digits"] }, 6),
		clean("Without letters", { leaveOut: ["letters"] }, 5),
		clean("Without punctuation", { leaveOut: ["punctuation"] }, 6),
		clean("Without blanks", { leaveOut: ["blanks"] }, 6)
	];
}
/** What the cell reads as once it has a type: a date, a number. */
function typings(table, column) {
	const types = [];
	const add = (label, set) => types.push({
		label,
		kind: "set-types",
		params: { types: [{
			columns: only(column),
			...set
		}] },
		plainness: 7
	});
	for (const type of [
		"date",
		"datetime",
		"time"
	]) for (const { pattern } of fittingPatterns(table, [column], type).slice(0, 4)) add(`Read as a ${type}, ${pattern}`, {
		type,
		patterns: [pattern]
	});
	for (const type of ["whole", "number"]) for (const decimal of [".", ","]) add(`Read as a ${type === "whole" ? "whole number" : "number"}${decimal === "," ? ", decimal comma" : ""}`, {
		type,
		number: {
			decimal,
			grouping: "any"
		}
	});
	return types;
}
var inPlace = (column, label, find, put, plainness) => ({
	label,
	kind: "replace",
	params: {
		columns: only(column),
		find,
		with: put,
		how: "pattern",
		exact: true
	},
	plainness
});
/** The wanted text stands in the cell: the text around it is left out. */
function stretches(column, text, wanted) {
	const ways = [];
	for (let at = text.indexOf(wanted); at >= 0; at = text.indexOf(wanted, at + 1)) {
		const [left, right] = [text.slice(0, at), text.slice(at + wanted.length)];
		for (const begin of edges(left, "left")) for (const end of edges(right, "right")) {
			if (begin.said === "" && end.said === "") continue;
			const said = begin.said !== "" && end.said !== "" ? `${begin.said}, ${end.said}` : begin.said + end.said;
			ways.push(inPlace(column, `Only ${said}`, `^${begin.pattern}(.*?)${end.pattern}$`, "$1", begin.plainness + end.plainness));
		}
		if (ways.length > 60) break;
	}
	for (const [name, pattern] of [
		["number", "\\d+"],
		["number", "\\d+[.,]\\d+"],
		["word", "\\p{L}+"],
		["code", "[\\p{L}\\p{N}]+"]
	]) {
		const found = [...text.matchAll(new RegExp(pattern, "gu"))].map(([one]) => one);
		const which = found.indexOf(wanted);
		if (which === 0) ways.push(inPlace(column, `Only the first ${name}`, `^.*?(${pattern}).*$`, "$1", 5));
		else if (which === found.length - 1 && which > 0) ways.push(inPlace(column, `Only the last ${name}`, `^.*?(${pattern})(?!.*?${pattern}).*$`, "$1", 4));
	}
	return ways;
}
/** What stands left or right of the wanted text, as patterns that other cells may follow. */
function edges(rest, side) {
	if (rest === "") return [{
		pattern: "",
		said: "",
		plainness: 5
	}];
	const found = [];
	const left = side === "left";
	const sign = (left ? new RegExp(`${SIGN.source}$`, "u") : new RegExp(`^${SIGN.source}`, "u")).exec(rest)?.[0];
	if (sign !== void 0) {
		const own = escapeRegExp(sign);
		const once = rest.split(sign).length === 2;
		if (left) {
			if (once) found.push({
				pattern: `.*?${own}`,
				said: `behind ‘${sign}’`,
				plainness: 4
			});
			found.push({
				pattern: `.*${own}`,
				said: `behind the last ‘${sign}’`,
				plainness: 3
			});
		} else found.push({
			pattern: `${own}.*`,
			said: `before ‘${sign}’`,
			plainness: 4
		});
	}
	found.push({
		pattern: `.{${rest.length}}`,
		said: `${left ? "behind the first" : "before the last"} ${rest.length === 1 ? "character" : `${rest.length} characters`}`,
		plainness: 2
	});
	found.push({
		pattern: escapeRegExp(rest),
		said: `${left ? "behind" : "before"} ‘${rest}’`,
		plainness: 1
	});
	return found;
}
/** Something is put before or behind. */
function frames(column, text, wanted) {
	const at = wanted.indexOf(text);
	if (at < 0 || text === "") return [];
	const [before, behind] = [wanted.slice(0, at), wanted.slice(at + text.length)];
	const safe = (one) => one.replaceAll("$", "$$$$");
	return [inPlace(column, `Put ${[before === "" ? "" : `‘${before}’ before`, behind === "" ? "" : `‘${behind}’ behind`].filter((one) => one !== "").join(" and ")} each`, "^(.+)$", `${safe(before)}$1${safe(behind)}`, 4)];
}
/** A part of the text, or the whole cell, is said otherwise. */
function parts(column, text, wanted) {
	let front = 0;
	while (front < Math.min(text.length, wanted.length) && text[front] === wanted[front]) front++;
	let back = 0;
	while (back < Math.min(text.length, wanted.length) - front && text[text.length - 1 - back] === wanted[wanted.length - 1 - back]) back++;
	const [was, is] = [text.slice(front, text.length - back), wanted.slice(front, wanted.length - back)];
	const ways = [{
		label: `‘${text}’ becomes ‘${wanted}’ in whole cells`,
		kind: "replace",
		params: {
			columns: only(column),
			find: text,
			with: wanted,
			how: "whole",
			exact: true
		},
		plainness: 2
	}];
	if (was !== "" && was !== text) ways.push({
		label: is === "" ? `Take out ‘${was}’` : `‘${was}’ becomes ‘${is}’`,
		kind: "replace",
		params: {
			columns: only(column),
			find: was,
			with: is,
			how: "part",
			exact: true
		},
		plainness: 3
	});
	return ways;
}
/** The column after a step; undefined where the step does not run or changes the rows. */
function tryOut(table, index, column, way) {
	const after = tableAfter(table, [way]);
	return after?.fields[index]?.name === column && after.rows === table.rows ? textsOf$1(after, index) : void 0;
}
function textsOf$1(table, index) {
	const { column } = table.fields[index];
	return Array.from({ length: table.rows }, (_, r) => cellText(column, r));
}
/** The first rows, and the one that was typed over. */
function sampleWith(table, row) {
	if (table.rows <= MAX_ROWS$4) return {
		sample: table,
		at: row
	};
	const from = Math.max(0, Math.min(table.rows - MAX_ROWS$4, row - MAX_ROWS$4 / 2));
	const rows = Int32Array.from({ length: MAX_ROWS$4 }, (_, k) => from + k);
	return {
		sample: takeRows(table, rows),
		at: row - from
	};
}
/** What a text looks like: letters, digits and signs by kind, runs as one. */
function shapeOf$1(text) {
	return text.replace(/\p{Lu}/gu, "A").replace(/\p{Ll}/gu, "a").replace(/\p{N}/gu, "9").replace(/(.)\1+/g, "$1");
}
/** Share of the filled cells that look like the wanted one afterwards; cells that are lost count against it. */
function scoreOf(before, after, wanted) {
	const shape = shapeOf$1(wanted);
	let [filled, alike, lost] = [
		0,
		0,
		0
	];
	before.forEach((text, r) => {
		if (text === null && after[r] === null) return;
		filled++;
		if (after[r] === null) lost++;
		else if (shapeOf$1(after[r]) === shape) alike++;
	});
	return filled === 0 ? 0 : Math.round(20 * (alike - 2 * lost) / filled);
}
function outcomeOf(before, after, isSample) {
	const filled = before.filter((text, r) => text !== null || after[r] !== null).length;
	const changed = before.filter((text, r) => text !== after[r]).length;
	const blank = before.filter((text, r) => text !== null && after[r] === null).length;
	const of = `${grouped(changed)} of ${grouped(filled)} cells${isSample ? " looked at" : ""}`;
	return blank === 0 ? of : `${of}, ${grouped(blank)} become blank`;
}
// core/draft/mend.ts
/** Rows of the finished table that are looked at. */
var MAX_ROWS$3 = 12;
/**
* For each wanted column that is not met: a step that makes a column of the table read so in every row where this can be decided
* by the columns that are met.
*
* @returns steps that keep the columns in their places, none where nothing is found
*/
function mendingSteps(table, wanted, { columns }) {
	const isMet = (w) => columns[w] >= 0 && holdsAll(table.fields[columns[w]].column, wanted.fields[w].column);
	const met = wanted.fields.flatMap((_, w) => isMet(w) ? [{
		w,
		k: columns[w]
	}] : []);
	const open = wanted.fields.flatMap((_, w) => isMet(w) ? [] : [w]);
	if (open.length === 0) return [];
	const pairs = rowPairs(table, wanted, met);
	if (pairs.length === 0) return [];
	const taken = new Set(met.map(({ k }) => k));
	const steps = [];
	let now = table;
	for (const w of open) {
		const own = columns[w];
		const candidates = own >= 0 ? [own] : table.fields.map((_, k) => k).filter((k) => !taken.has(k));
		for (const k of candidates) {
			const found = stepFor(now, k, wanted, w, pairs);
			if (found === void 0) continue;
			steps.push(found.step);
			now = found.table;
			taken.add(k);
			break;
		}
	}
	return steps;
}
/** Every value of one column stands in the other. */
function holdsAll(column, wanted) {
	const { texts } = textView(column);
	const held = new Set(texts.map(plainText));
	return [...usedTexts(wanted)].every((text) => held.has(plainText(text)));
}
/** Rows of the table that the wanted rows are, where the met columns tell them without doubt. */
function rowPairs(table, wanted, met) {
	if (met.length === 0) return wanted.rows > 0 && table.rows > 0 ? [{
		row: 0,
		wanted: 0
	}] : [];
	const keyed = /* @__PURE__ */ new Map();
	for (let r = 0; r < table.rows; r++) {
		const key = met.map(({ k }) => plainText(cellText(table.fields[k].column, r))).join("");
		keyed.set(key, keyed.has(key) ? -1 : r);
	}
	const pairs = [];
	for (let r = 0; r < Math.min(wanted.rows, MAX_ROWS$3); r++) {
		const key = met.map(({ w }) => plainText(cellText(wanted.fields[w].column, r))).join("");
		const row = keyed.get(key);
		if (row !== void 0 && row >= 0) pairs.push({
			row,
			wanted: r
		});
	}
	return pairs;
}
function stepFor(table, k, wanted, w, pairs) {
	const text = (pair) => cellText(wanted.fields[w].column, pair.wanted) ?? "";
	const name = table.fields[k].name;
	const differing = pairs.find((pair) => (cellText(table.fields[k].column, pair.row) ?? "") !== text(pair));
	if (differing === void 0) return void 0;
	for (const { kind, params, label, outcome } of exampleOffers(table, differing.row, name, text(differing))) {
		if (kind === "fill-blanks" || kind === "replace" && params["how"] !== "pattern") continue;
		const after = tableAfter(table, [{
			kind,
			params
		}]);
		if (after?.rows !== table.rows) continue;
		if (pairs.every((pair) => plainText(cellText(after.fields[k].column, pair.row)) === plainText(text(pair)))) return {
			table: after,
			step: {
				kind,
				params,
				why: `${label}, as in the rows that were shown: ${outcome ?? ""}`
			}
		};
	}
}
// core/draft/proof.ts
/** Rows that tell which columns hold figures. */
var LOOKED_AT = 500;
/**
* The totals of a large report against its rows, without the whole tally: the figures of the rows that the method kept are
* summed up to the rows that it set aside as totals. Undefined where it set none aside.
*/
function proofOnWhole(run, within) {
	const at = run.steps.findIndex(({ aside }) => aside.some((pile) => pile.mark === "total" && pile.columns === void 0));
	const before = run.steps[at - 1]?.table;
	if (before === void 0) return void 0;
	const totals = run.steps[at].aside.filter((pile) => pile.mark === "total").flatMap((pile) => [...pile.rows]);
	const kept = new Uint8Array(before.rows).fill(1);
	for (const { rows } of run.steps[at].aside) for (const r of rows) kept[r] = 0;
	for (const r of totals) kept[r] = 1;
	const sample = profileTable(takeRows(before, rowNumbers(Math.min(LOOKED_AT, before.rows))), before.decimal);
	const form = NumberForm.parse({ decimal: sample.decimal });
	const columns = sample.columns.flatMap(({ index, counts }) => {
		const [blank, figures] = [counts[CellKind.blank] ?? 0, counts[CellKind.figure] ?? 0];
		if (figures === 0 || figures < (sample.rows - blank) / 2) return [];
		const { column } = before.fields[index];
		const values = new Float64Array(before.rows).fill(NaN);
		for (let r = 0; r < before.rows; r++) if (kept[r] !== 0) values[r] = figureAt(column, r, form)?.value ?? NaN;
		return [values];
	});
	if (columns.length === 0) return void 0;
	const hints = new Uint8Array(before.rows);
	for (const r of totals) hints[r] = 1;
	const runs = within !== void 0 && before.fields.some((field) => field.name === within) ? within : void 0;
	const found = findSums({
		columns,
		rows: before.rows,
		starts: runStarts(before, runs).slice(0, -1),
		hints,
		only: hints
	});
	const wanted = new Set(totals);
	return {
		agree: found.filter(({ row }) => wanted.has(row)).reduce((sum, one) => sum + one.fit, 0),
		of: columns.reduce((sum, values) => sum + totals.filter((r) => !Number.isNaN(values[r])).length, 0)
	};
}
// core/glance/period-names.ts
var YEAR = /^(?:(?:FY|GJ|WJ|ejercicio|exercice|année|año|Jahr|year|season|saison|temporada)\s?)?'?(?:1[89]|20|21)\d\d(?:\s?[-/–]\s?(?:\d\d|(?:1[89]|2[01])\d\d))?(?:\s?(?:[*†‡]|\((?:\p{L}{1,2}|\d)\)|[prbe]))?$|^FY\s?\d\d$/iu;
var QUARTER = /^(?:Q[1-4]|[1-4]Q|T[1-4]|[1-4]\.?\s?(?:Quartal|Qu\.?|Q\.?|quarter|qtr|trimestre|trim\.?)|[1-4](?:st|nd|rd|th|er|e|ème|º|\.º|\.er|\.e|o|a)\.?\s?(?:quarter|trimestre|trim\.?|qtr)|(?:first|second|third|fourth) quarter|(?:premier|deuxième|troisième|quatrième) trimestre|(?:primer|segundo|tercer|cuarto) trimestre|quarter [1-4]|trimestre [1-4]|(?:I|II|III|IV)\.?\s?(?:Quartal|trimestre|quarter))(?:[\s/-]*'?(?:\d\d|\d{4}))?$|^(?:\d{4})[\s/-]?(?:Q|T)[1-4]$/iu;
var HALF = /^(?:H[12]|[12]H|S[12]|[12]\.?\s?(?:Halbjahr|Hj\.?|half|semestre|sem\.?)|[12](?:st|nd|er|e|º|\.º|\.er|\.e|ème|o)\.?\s?(?:half(?: year)?|semestre)|(?:first|second) half(?:[ -]year)?|(?:primer|segundo) semestre|(?:premier|second) semestre)(?:[\s/-]*'?(?:\d\d|\d{4}))?$|^\d{4}[\s/-]?(?:H|S)[12]$/iu;
var WEEK = /^(?:(?:calendar )?weeks?|wk|w|kw|woche|semaine|sem\.?|s|semana)\.?\s?\d{1,2}(?:[\s/-]*\d{2,4})?$|^\d{4}-?W\d\d$/iu;
var DATE = /^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}(?:[T ]\d\d:\d\d.*)?$|^\d{4}-\d\d$|^\d{1,2}[./]\d{4}$/;
var CLASS = /^(?:<|>|≤|≥|under|over|unter|über|ab|bis|moins de|plus de|menos de|más de)?\s?\d{1,3}(?:\s?(?:[-–]|to|bis|à|a)\s?\d{1,3}|\s?\+|\s?(?:and over|and more|und mehr|und älter|et plus|y más))(?:\s?\p{L}{1,8})?$|^(?:<|>|≤|≥|under|over|unter|über|bis|moins de|plus de|menos de|más de)\s?\d{1,6}(?:\s?\p{L}{1,8})?$/iu;
var DAYS = "monday tuesday wednesday thursday friday saturday sunday montag dienstag mittwoch donnerstag freitag samstag sonntag lundi mardi mercredi jeudi vendredi samedi dimanche lunes martes miércoles jueves viernes sábado domingo lunedì martedì mercoledì giovedì venerdì sabato domenica".split(" ");
var SHORT_DAYS = "mon tue wed thu fri sat sun mo di mi do fr sa so lu ma me je ve di lun mar mié jue vie sáb dom".split(" ");
/** What each of some names stands for; undefined for names of what is measured. */
function nameKinds(names) {
	const months = monthsAmong(names);
	const plain = names.map((name) => name.trim());
	const byMonth = areYearMonths(plain);
	const counts = countedNames(plain);
	const areSizes = plain.length >= MIN_SIZES && plain.every((name) => SIZE.test(name));
	const short = plain.filter((name) => SHORT_DAYS.includes(name.toLowerCase().replace(".", ""))).length;
	return plain.map((name, k) => {
		if (byMonth) return "month";
		if (counts !== void 0 && WHOLE.test(name)) return counts;
		if (YEAR.test(name)) return "year";
		if (QUARTER.test(name)) return "quarter";
		if (HALF.test(name)) return "half";
		if (months[k]) return "month";
		if (DATE.test(name)) return "date";
		if (WEEK.test(name)) return "week";
		const lower = name.toLowerCase().replace(".", "");
		if (DAYS.includes(lower) || short >= 4 && SHORT_DAYS.includes(lower)) return "day";
		return areSizes || CLASS.test(name) ? "class" : void 0;
	});
}
/** Sizes of clothing; a letter alone may stand for anything. */
var SIZE = /^(?:X{0,3}S|M|X{0,3}L|[2-5]XL)$/i;
var MIN_SIZES = 3;
var WHOLE = /^\d{1,2}$/;
var MIN_COUNTED = 4;
/** Numbers that count up one by one over the columns: the days of a month, its months, or classes. */
function countedNames(names) {
	const numbers = names.filter((name) => WHOLE.test(name)).map(Number);
	if (numbers.length < MIN_COUNTED || numbers.some((value, k) => k > 0 && value !== numbers[k - 1] + 1)) return void 0;
	const [first, last] = [numbers[0], numbers.at(-1)];
	return first === 1 && last >= 28 && last <= 31 ? "day" : first === 1 && last === 12 ? "month" : "class";
}
/** 2030-01, 2030-02: a year that stands with several numbers up to twelve is no year of two calendar years. */
function areYearMonths(names) {
	if (!names.every((name) => /^(?:19|20)\d\d-(?:0[1-9]|1[0-2])$/.test(name))) return false;
	return new Set(names.map((name) => name.slice(0, 4))).size < new Set(names).size;
}
var COLUMN = {
	year: "Year",
	month: "Month",
	quarter: "Quarter",
	half: "Half-year",
	week: "Week",
	date: "Date",
	day: "Day",
	class: "Class"
};
/** What a column of such values is called. */
function columnOfKinds(kinds) {
	const found = new Set(kinds.filter((kind) => kind !== void 0));
	if (found.size === 1) return COLUMN[[...found][0]];
	return found.size === 0 ? "Kind" : "Period";
}
// core/draft/readings.ts
/** Sheets whose styles are looked at, and cells of one. */
var MAX_STYLED = 12;
var MAX_STYLED_CELLS = 1e6;
/** The guess at how a source is read, then the other ways for its format. @throws ReadFailure */
function* readingsOf(sourceId, source) {
	const guess = withMergesDown(withIndents(withoutSummaries(withFileParts(guessReading(sourceId, source), source), source), source), source);
	yield guess;
	if (guess.kind === "read-nested" || guess.kind === "read-pattern") return;
	for (const kind of READINGS_OF_FORMAT[sniff(source.bytes, source.name)]) {
		if (kind === guess.kind) continue;
		try {
			yield {
				kind,
				params: READINGS.get(kind).start(sourceId, source),
				why: "no other reading found a table"
			};
		} catch (error) {
			if (!(error instanceof ReadFailure)) throw error;
		}
	}
}
/** Where a piece of its name tells each file from the others, the whole name says no more; a piece is called by what it is. */
function withFileParts(guess, source) {
	if (guess.kind !== "read-files") return guess;
	const params = guess.params;
	if (params.nameTemplate === null) return guess;
	const { exec } = compileTemplate(params.nameTemplate);
	const told = filesOf(source).map((file) => exec(baseName(file.name))?.[0] ?? "");
	if (told.includes("") || new Set(told).size < told.length) return guess;
	const kinds = nameKinds(told);
	const name = kinds.every((kind) => kind !== void 0) ? columnOfKinds(kinds) : "Part";
	return {
		...guess,
		params: {
			...params,
			nameColumn: null,
			nameTemplate: params.nameTemplate.replace("{Part}", `{${name}}`)
		},
		why: `${guess.why}; their names differ in one part`
	};
}
/** Leaves out sheets that sum the others: they name most of them in their cells. */
function withoutSummaries(guess, source) {
	if (guess.kind !== "read-sheets") return guess;
	const { parts } = sheetsReport(source);
	const params = guess.params;
	const chosen = parts.filter((part) => part.rows > 0 && (params.sheets.by === "all" || params.sheets.names?.includes(part.name)));
	if (chosen.length < 3) return guess;
	const summaries = chosen.filter((part) => namesOthers(part, chosen));
	if (summaries.length === 0 || summaries.length > chosen.length / 2) return guess;
	const names = chosen.filter((part) => !summaries.includes(part)).map((part) => part.name);
	return {
		...guess,
		params: {
			...params,
			sheets: {
				by: "names",
				names
			},
			nameColumn: params.nameColumn ?? "Sheet"
		},
		why: `${guess.why}; ${summaries.map((part) => part.name).join(", ")} ${summaries.length === 1 ? "names" : "name"} the other sheets and ${summaries.length === 1 ? "is" : "are"} left out`
	};
}
/** Indents of cells are read as spaces where they tell levels apart: one column has several of them. */
function withIndents(guess, source) {
	if (guess.kind !== "read-sheets") return guess;
	const { parts } = sheetsReport(source);
	return parts.slice(0, MAX_STYLED).some((part) => {
		if (part.rows * part.columns.length > MAX_STYLED_CELLS) return false;
		const sheet = part.styles?.();
		if (sheet === void 0 || !sheet.styles.some((style) => style.indent > 0)) return false;
		return sheet.columns.some((codes) => {
			const steps = /* @__PURE__ */ new Map();
			for (const code of codes) {
				const indent = sheet.styles[code]?.indent ?? 0;
				steps.set(indent, (steps.get(indent) ?? 0) + 1);
			}
			return steps.size >= 2 && [...steps].some(([step, count]) => step > 0 && count >= 2);
		});
	}) ? {
		...guess,
		params: {
			...guess.params,
			indents: "spaces"
		}
	} : guess;
}
/** Merges behind the first column that show whose rows they are. */
var MIN_MERGES = 2;
/** Cells merged over several rows of which each says something in the column before: the merge belongs to all of them. */
function withMergesDown(guess, source) {
	if (guess.kind !== "read-sheets") return guess;
	const { parts } = sheetsReport(source);
	return parts.slice(0, MAX_STYLED).some((part) => {
		return part.merges.filter(({ row, rows, column, columns }) => {
			const own = part.columns[column - 1];
			if (rows < 2 || columns > 1 || own === void 0) return false;
			for (let r = row; r < Math.min(row + rows, part.rows); r++) if (isBlank(own, r)) return false;
			return true;
		}).length >= MIN_MERGES;
	}) ? {
		...guess,
		params: {
			...guess.params,
			merged: "down"
		}
	} : guess;
}
function namesOthers(part, parts) {
	const others = parts.filter((one) => one !== part).map((one) => one.name.trim().toLowerCase());
	const texts = new Set(part.columns.flatMap((column) => textView(column).texts.map((text) => text.trim().toLowerCase())));
	const named = others.filter((name) => texts.has(name)).length;
	return named >= 2 && named >= others.length * .6;
}
// core/findings/doubt.ts
/** Why a finding may be otherwise, where nothing proves it: a code with what it speaks of, and the sentences of all codes. */
/** A sentence without a full stop. */
function doubtText(doubt) {
	switch (doubt.code) {
		case "totals-off": return `${doubt.off} of ${doubt.of} figures in total rows do not add up`;
		case "called-total": return `${doubt.column} is called a total, but nothing adds up to it`;
		case "sum-of-two": return `${doubt.column} is the sum of two other columns and may be a separate measure`;
		case "may-be-quarters": return `${few(doubt.names)} may be quarters`;
		case "may-be-measures": return `${few(doubt.names)} may be separate measures`;
		case "may-be-classes": return "Columns with similar figures may be classes of one measure";
		case "open-tiers": return "Nothing proves which header row names the measures";
		case "classes-of-one-measure": return `The values of ${doubt.column} may be classes of one measure`;
		case "blocks-by-first-name": return `Only the name ${doubt.name} shows where each record begins`;
		case "name-value-rows": return "Rows of names and values may be the table itself";
		case "letters-beside-figures": return "Letters next to figures may be separate columns";
		case "repeated-lines": return "Repeated lines may contain more than page headings";
		case "no-header": return "No row names the columns";
		case "few-groups": return "Too few groups to tell an omitted key from an empty cell";
		case "single-label": return `Only '${doubt.text}' stands alone above data`;
		case "repeated-labels": return "Some labels appear more than once";
		case "long-labels": return "Some labels are as long as remarks";
		case "lone-row": return `'${doubt.text}' is alone in its row and may be the label of the rows below`;
		case "details-by-blank": return "Only the empty first cell shows which rows belong to the row above";
		case "groups-by-numbering": return `Only the numbering in ${doubt.column} separates groups from their rows`;
		case "lines-as-headings": return "Lines between the blocks may not be headings";
		case "sparse-rows": return "Rows without most fields may or may not be records";
		case "may-be-no-list": return `${doubt.column} may contain plain text, not lists`;
		case "records-by-code": return "Only the leading codes show what each row is";
		case "records-by-kind": return "Only the types of the cells show which rows belong together";
		case "lines-above-or-below": return "Lines of text may belong to the record above or below";
		case "beside-table": return "Cells beside the table may belong to it";
		case "shifted-cells": return "Only gaps show where cells shifted";
		case "texts-of-one-form": return "Texts with the same form may be one column";
		case "other-forms": return "Rows with another form of text may be records";
		case "columns-as-records": return "No figure proves that each column is a record";
		case "two-in-one": return `Values in ${few(doubt.columns)} may belong together`;
		case "number": return doubtText$1(doubt.column, doubt.doubt);
		case "serial-days": return `${doubt.column} is read as days, because its numbers are close to the dates in ${doubt.beside}`;
		case "dates-and-serials": return `${doubt.column} contains dates and ${counted(doubt.serials, "serial number")} of days`;
		case "day-or-month": return `Every date in ${doubt.column} could also be read month first`;
	}
}
// core/draft/review/messages.ts
/** All sentences of the review, each without a full stop. */
function remarkText(remark) {
	switch (remark.code) {
		case "reads-as": return `${Math.round(remark.share * 100)}% of ${remark.column} reads as ${remark.as === "date" ? "dates" : "numbers"}, the rest does not`;
		case "serial-days": return `${remark.column} may contain days as serial numbers, like the dates in ${remark.beside}`;
		case "header-in-rows": return `${counted(remark.rows, "row")} may be a repeated header: ${remark.column} contains its own name`;
		case "furniture-in-rows": return `${remark.column} contains '${remark.text}', which looks like a part of the page`;
		case "cut-texts": return `A column edge cuts words in two: '${remark.text}' in ${remark.column} and ${remark.next}`;
		case "two-names": return `'${remark.column}' may be two names over two columns`;
		case "gaps-in-keys": return `${remark.column} is blank in ${counted(remark.rows, "row")} between rows that fill it`;
		case "unlabelled-rows": return `The first ${counted(remark.rows, "row")} ${remark.rows === 1 ? "has" : "have"} no ${remark.column}`;
		case "label-per-row": return `Each ${remark.column} covers a single row`;
		case "total-in-labels": return `${remark.column} contains '${remark.text}', which looks like a total`;
		case "label-with-more": return `The row of '${remark.text}' contains more than the label in ${remark.column}`;
		case "labels-unproven": return `${remark.column} comes from lone rows, and nothing proves which rows they belong to`;
		case "groups-in-totals": return `'${remark.text}' is set aside as a total, and no column says the groups that ${counted(remark.names, "total")} name`;
		case "measures-as-rows": return `${few(remark.names)} in ${remark.column} may be separate measures`;
		case "values-as-names": return `The column names ${few(remark.names)} may be values`;
		case "numbered-names": return `The column names ${few(remark.names)} may be values of one column`;
		case "aside-like-rows": return `${counted(remark.rows, "row")} on the pile ${remark.pile} ${remark.rows === 1 ? "looks" : "look"} like rows of the table`;
		case "unused-pair": return `'${remark.text}' is set aside and not used as a column`;
		case "page-heads-differ": return `'${remark.text}' is set aside as part of the page, though it differs each time`;
		case "text-dropped": return `'${remark.text}' in ${remark.column} stands alone in its row and is dropped${remark.rows > 1 ? `, like ${counted(remark.rows - 1, "other")}` : ""}`;
		case "one-row-left": return "Only one row is left";
		case "figures-with-marks": return `${remark.column} contains numbers followed by text, such as '${remark.text}'`;
		case "signs-as-values": return `${remark.column} contains '${remark.text}', which may stand for the value above it`;
		case "texts-of-one-form": return `Texts in ${remark.column} are built alike and may be several columns: '${remark.text}'`;
		case "nested-codes": return `The row of ${remark.text} in ${remark.column} may be the group or the sum of the rows below it`;
		case "titles-differ": return `'${remark.text}' differs from sheet to sheet and is not used as a column`;
		case "twin-columns": return `${remark.column} and ${remark.other} contain the same`;
	}
}
// core/draft/reason.ts
/** Why a draft is as sure as it is: a code with what it speaks of, and the sentences of all codes. */
/** A sentence without a full stop. */
function reasonText(reason) {
	switch (reason.code) {
		case "doubt": return doubtText(reason.doubt);
		case "remark": return remarkText(reason.remark);
		case "unread-parts": return `${few(reason.names)} ${reason.names.length === 1 ? "is" : "are"} not read`;
		case "unread-figures": return `${reason.figures} figures of the report are not read`;
		case "close-rival": return "Another reading fits almost as well";
		case "mixed-measures": return `${reason.column} may name measures: the figures differ in form under each`;
		case "unproven": return "No totals prove it, and similar drafts were often wrong";
		case "totals-prove": return `All ${reason.agree} totals agree`;
		case "totals-disagree": return `${reason.disagree} ${reason.disagree === 1 ? "total disagrees" : "totals disagree"}`;
		case "no-key": return "No totals prove it, and no columns identify every row";
		case "few-rows": return "The table has too few rows to prove anything";
		case "words-only": return "All columns contain words, so a header looks like a row";
		case "odd-name": return `${reason.column} is an unusual name for a column`;
		case "structure-proves": return `Every column has one type, and ${reason.key} identifies every row`;
		case "no-rows": return "No rows are left";
		case "one-column": return "Only one column was found";
		case "no-name": return `Column ${reason.column} has no name`;
		case "cells-lost": return `${reason.cells} cells are not accounted for`;
		case "total-column": return `${reason.column} is called a total`;
		case "total-in-rows": return `${reason.column} still contains totals`;
		case "nested-text": return `${reason.column} contains text that should be split`;
		case "packed-cells": return `${reason.column} contains lists`;
		case "mixed-kinds": return `${reason.column} contains values of several types`;
		case "all-reproduced": return "All rows of the finished table are reproduced";
		case "ambiguous": return `${reason.column} may be ${reason.chosen} or ${reason.other}: show the row of ${reason.row} too, which decides`;
		case "codes-not-shown": return `No row that was shown says what ${few(reason.codes)} ${reason.codes.length === 1 ? "becomes" : "become"} in ${reason.column}`;
		case "cells-reproduced": return `${Math.floor(reason.share * 100)}% of the cells in the finished table match`;
	}
}
// core/draft/review/columns.ts
/** What columns of the finished table hold. */
/** Share of a column that must read alike for the rest to stand out. */
var MOSTLY$2 = .75;
var filledOf = (column, rows) => rows - column.counts[CellKind.blank];
var readsAs = {
	code: "reads-as",
	look: ({ profile }) => profile.columns.flatMap((column) => {
		const { type } = profile.table.fields[column.index].column;
		if (type !== "text" && type !== "received") return [];
		const filled = filledOf(column, profile.rows) - column.counts[CellKind.missing];
		return ["number", "date"].flatMap((as) => {
			const share = column.counts[as === "date" ? CellKind.date : CellKind.figure] / Math.max(1, filled);
			return share >= MOSTLY$2 && (share < 1 || as === "date") ? [{
				code: "reads-as",
				column: column.name,
				as,
				share
			}] : [];
		});
	})
};
var serialDays = {
	code: "serial-days",
	look({ profile }) {
		const dates = profile.columns.flatMap((column) => {
			const own = profile.table.fields[column.index].column;
			return own.type === "date" ? [{
				name: column.name,
				days: own.values
			}] : [];
		});
		return profile.columns.flatMap((column) => {
			const { type } = profile.table.fields[column.index].column;
			if (type !== "number" && type !== "whole") return [];
			const beside = dates.find(({ days }) => areSerialDays(column.values, days));
			return beside === void 0 ? [] : [{
				code: "serial-days",
				column: column.name,
				beside: beside.name
			}];
		});
	}
};
var twoNames = {
	code: "two-names",
	look: ({ profile }) => profile.columns.flatMap(({ name }) => /\S\s{3,}\S/.test(name) ? [{
		code: "two-names",
		column: name
	}] : [])
};
var twinColumns = {
	code: "twin-columns",
	look: ({ profile }) => profile.columns.flatMap((column, k) => {
		if (filledOf(column, profile.rows) < 3 || column.counts[CellKind.text] === 0) return [];
		const other = profile.columns.slice(k + 1).find((one) => {
			for (let r = 0; r < profile.rows; r++) if (textAt(column, r) !== textAt(one, r)) return false;
			return true;
		});
		return other === void 0 ? [] : [{
			code: "twin-columns",
			column: column.name,
			other: other.name
		}];
	})
};
/** Fewest names with a number behind one stem, and fewest that look like their values. */
var MIN_NUMBERED = 3;
var shapeOf = (text) => text.replace(/\p{L}+/gu, "a").replace(/\d+/g, "9");
/** Names that are numbers of one stem over columns of one kind, or that are written as the values below them are. */
var numberedNames = {
	code: "numbered-names",
	look({ profile }) {
		const stems = groupedBy$1(profile.columns, ({ name }) => /^(.*\D)\d+$/.exec(name)?.[1] ?? "");
		stems.delete("");
		const numbered = [...stems.values()].find((own) => own.length >= MIN_NUMBERED);
		const alike = profile.columns.filter((column) => {
			if (!/\d/.test(column.name) || /\p{L}{3}/u.test(column.name)) return false;
			const values = Array.from({ length: Math.min(profile.rows, 200) }, (_, r) => textAt(column, r)).filter((text) => text !== "");
			const shape = shapeOf(column.name);
			return values.length > 1 && values.filter((text) => shapeOf(text) === shape).length >= values.length * MOSTLY$2;
		});
		const names = (numbered ?? (alike.length >= 2 ? alike : [])).map(({ name }) => name);
		return names.length === 0 ? [] : [{
			code: "numbered-names",
			names
		}];
	}
};
/** Periods among names that stay names; a few beside other measures may be meant so. */
var valuesAsNames = {
	code: "values-as-names",
	look({ profile }) {
		const names = profile.columns.filter((column) => column.counts[CellKind.figure] > 0).map((column) => column.name);
		const kinds = nameKinds(names);
		const values = names.filter((name, k) => kinds[k] !== void 0 || /^[\d.,\s-]+$/.test(name));
		return values.length >= 3 ? [{
			code: "values-as-names",
			names: values
		}] : [];
	}
};
// core/draft/review/cuts.ts
/** Texts that the edge of a column cuts in two. */
var CUT_READINGS = /* @__PURE__ */ new Set(["read-fixed-width", "read-pdf"]);
var cutTexts = {
	code: "cut-texts",
	look({ run, profile }) {
		if (!CUT_READINGS.has(run.steps[0].step.kind)) return [];
		const told = [];
		const lines = run.steps[0].reading?.report.parts[0]?.text;
		const cuts = run.steps[0].step.params["cuts"] ?? [];
		const columns = profile.columns;
		for (let k = 0; k + 1 < columns.length; k++) for (let r = 0; r < profile.rows; r++) {
			const [left, right] = [textAt(columns[k], r), textAt(columns[k + 1], r)];
			if (!/\p{L}$/u.test(left) || !/^\p{Ll}/u.test(right)) continue;
			if (lines?.some((line) => line.includes(left + right) && cuts.some((cut) => line.slice(0, cut).endsWith(left))) === true) {
				told.push({
					code: "cut-texts",
					column: columns[k].name,
					next: columns[k + 1].name,
					text: left + right
				});
				break;
			}
		}
		return told;
	}
};
// core/findings/answers.ts
/** Columns of answers, rows that gave them, and the highest mark that they give. */
var MIN_RATED = 3;
var MIN_ANSWERS = 5;
var MAX_MARK = 10;
/** Columns of answers on one small scale, under names that are questions: codes or sentences, alone or in tiers. */
function ratings(columns) {
	const marked = columns.map((column) => ({
		column,
		highest: highestMark(column.values, MIN_ANSWERS)
	})).filter(({ highest }) => highest >= MIN_SCALE$1);
	const rated = marked.map(({ column }) => column);
	if (rated.length < MIN_RATED || rated.length < columns.length - 1) return [];
	const scales = marked.map(({ highest }) => highest);
	if (Math.min(...scales) < Math.max(...scales) - 1) return [];
	return rated.filter(({ name }) => /\?/.test(name) || name.split(/\s+/).length >= 4 || CODE$1.test(name)).length >= rated.length * .6 ? rated : [];
}
var MIN_SCALE$1 = 3;
/** The highest of some whole marks up to ten; NaN where there is another figure, or fewer than the least of them. */
function highestMark(values, least) {
	let [most, count] = [0, 0];
	for (const value of values) {
		if (Number.isNaN(value)) continue;
		if (!Number.isInteger(value) || value < 0 || value > MAX_MARK) return NaN;
		most = Math.max(most, value);
		count++;
	}
	return count < least ? NaN : most;
}
/** The code of a question. */
var CODE$1 = /(?:^| \/ )[QFPI]\d{1,2}$/i;
// core/findings/choose-rule.ts
/**
* Rules that pick rows by what they say or which of their cells are filled, so that the rules hold next month: a small
* cover of the wanted rows by rules that none of the others follow.
*
* @param wanted rows to pick
* @param others rows that no rule may pick; rows in neither list do not matter
* @param extra rules to try beside those made of what the rows say, the best last
* @returns undefined where no rules were found
*/
function chooseRules(profile, wanted, others, extra = []) {
	const left = new Set(wanted);
	const chosen = [];
	const tried = [
		...textRules(profile, wanted),
		...stateRules(profile, wanted),
		...extra.map((rule) => ({
			rule,
			worth: .5
		}))
	].flatMap(({ rule, worth }) => {
		const mask = ruleMask(rule, profile.table);
		if (others.some((r) => mask[r] === 1)) return [];
		return [{
			rule,
			worth,
			rows: wanted.filter((r) => mask[r] === 1)
		}];
	});
	while (left.size > 0) {
		let best;
		let most = 0;
		for (const one of tried) {
			const gain = one.rows.filter((r) => left.has(r)).length;
			if (gain === 0) continue;
			const worth = gain + Math.min(gain, wanted.length) * .2 * one.worth + one.worth * .1;
			if (worth > most) [best, most] = [one, worth];
		}
		if (best === void 0 || chosen.length >= 6) return void 0;
		chosen.push(best.rule);
		for (const r of best.rows) left.delete(r);
	}
	return chosen;
}
var MAX_TEXTS$3 = 60;
function textRules(profile, wanted) {
	const found = [];
	for (const column of profile.columns) {
		if (column.counts[CellKind.text] === 0) continue;
		const texts = /* @__PURE__ */ new Map();
		for (const r of wanted) {
			if (column.kinds[r] !== CellKind.text && column.kinds[r] !== CellKind.missing) continue;
			const text = textAt(column, r);
			if (text !== "" && text.length <= 80) texts.set(text, (texts.get(text) ?? 0) + 1);
		}
		if (texts.size === 0) continue;
		const seen = /* @__PURE__ */ new Set();
		const add = (test, text, worth) => {
			const key = `${test}/${text.toLowerCase()}`;
			if (text === "" || seen.has(key)) return;
			seen.add(key);
			found.push({
				rule: {
					test,
					column: column.name,
					text
				},
				worth
			});
		};
		for (const text of [...texts.keys()].slice(0, MAX_TEXTS$3)) {
			const words = text.split(/\s+/);
			const [first, last] = [words[0], words.at(-1)];
			const telling = totalWordIn(text);
			const hint = telling === void 0 ? 0 : 2;
			if (telling !== void 0) {
				if (text.toLowerCase().startsWith(telling.toLowerCase())) add("starts", telling, 3);
				else add("ends", text.slice(text.toLowerCase().lastIndexOf(telling.toLowerCase())), 3);
			}
			if (words.length > 1 && /\p{L}/u.test(first)) add("starts", `${first} `, hint);
			if (words.length > 1 && /\p{L}/u.test(last)) add("ends", ` ${last}`, hint);
			add("equals", text, telling === void 0 ? .5 : 2.5);
		}
	}
	return found;
}
/** Which cells are filled, where all of the rows agree on it. */
function stateRules(profile, wanted) {
	const blankIn = (column, r) => column.kinds[r] === CellKind.blank || column.kinds[r] === CellKind.rule;
	const found = [];
	const blank = profile.columns.filter((column) => wanted.every((r) => column.kinds[r] === CellKind.blank));
	const filled = profile.columns.filter((column) => wanted.every((r) => !blankIn(column, r)));
	const telling = blank.filter((column) => column.counts[CellKind.blank] < profile.rows * .7).sort((a, b) => a.counts[CellKind.blank] - b.counts[CellKind.blank]);
	for (const column of telling.slice(0, 3)) found.push({
		rule: {
			test: "blank",
			columns: {
				by: "names",
				names: [column.name]
			}
		},
		worth: 1
	});
	if (blank.length + filled.length === profile.columns.length && filled.length > 0 && filled.length <= profile.columns.length / 2) found.push({
		rule: {
			test: "only",
			columns: filled.map((column) => column.name)
		},
		worth: 1
	});
	return found;
}
/** Whether a cell of the row says that it is a total. */
function rowSaysTotal(profile, row) {
	return profile.columns.some((column) => column.kinds[row] === CellKind.text && saysTotal(textAt(column, row)) && textAt(column, row).length <= 60);
}
// core/findings/body.ts
var known$2 = /* @__PURE__ */ new WeakMap();
function bodyOf(input) {
	const found = known$2.get(input.profile);
	if (found !== void 0) return found;
	const body = look(input);
	known$2.set(input.profile, body);
	return body;
}
/** What a row says, without what changes from page to page. */
function rowPattern(profile, row) {
	return patternOf(profile.columns.map((column) => textAt(column, row)).join(""));
}
var patternOf = (text) => text.replace(/\s+/g, "").replace(/\d+/g, "#").toLowerCase();
function look(input) {
	const { profile } = input;
	const figures = figureColumns(profile);
	const summed = new Set(figures.map((column) => column.index));
	const keys = profile.columns.filter((column) => !summed.has(column.index));
	const starts = runStarts(profile.table, input.within).slice(0, -1);
	const roles = new Array(profile.rows).fill("data");
	const usual = usualWidth(profile, figures);
	const inFigures = new Int32Array(profile.rows);
	for (const column of figures) for (let r = 0; r < profile.rows; r++) if (column.kinds[r] === CellKind.figure || column.kinds[r] === CellKind.missing) inFigures[r]++;
	for (let r = 0; r < profile.rows; r++) if (profile.filled[r] === 0) roles[r] = profile.columns.some((column) => column.kinds[r] === CellKind.rule) ? "rule" : "blank";
	else if (isTitleAgain(input, r)) roles[r] = "page";
	else if (figures.length > 0 ? inFigures[r] === 0 : profile.filled[r] < Math.max(2, usual * .5)) {
		const filled = keys.filter((column) => column.kinds[r] !== CellKind.blank && column.kinds[r] !== CellKind.rule).length;
		const wide = filled === profile.filled[r] && filled >= Math.max(2, keys.length * .8);
		roles[r] = wide && !rowSaysTotal(profile, r) ? "data" : "lone";
	}
	roles.forEach((role, r) => {
		if (role === "lone" && PAGE$1.test(rowPattern(profile, r))) roles[r] = "page";
	});
	tellNotes(profile, roles, starts, usual, figures);
	tellPages(profile, roles, starts.length);
	return {
		profile,
		roles,
		figures,
		keys,
		starts,
		rowsOf: (role) => roles.flatMap((one, r) => one === role ? [r] : [])
	};
}
/** Cells that a line above the header has at most. */
var MAX_TITLE_CELLS = 8;
/** What stands above the header stands here again. */
function isTitleAgain(input, row) {
	if (input.titles.size === 0 || input.profile.filled[row] > MAX_TITLE_CELLS) return false;
	const first = input.profile.columns.find((column) => textAt(column, row) !== "");
	const begins = first === void 0 ? "" : patternOf(textAt(first, row));
	if (![...input.titles].some((title) => title.startsWith(begins))) return false;
	const pattern = rowPattern(input.profile, row);
	return input.titles.has(pattern) && (pattern.match(/\p{L}/gu)?.length ?? 0) >= 4;
}
/** A pattern of a row that counts pages, in several languages. Common practice. */
var PAGE$1 = /(?:page|seite|blatt|p[áa]g(?:ina|\.)?|feuille|hoja|folio|sida|side|strona)n?[.:]*[#./:-]/;
/** Lone lines that stand again, but for their numbers, away from the rows that they might be labels of. */
function tellPages(profile, roles, sheets) {
	const patterns = groupedBy$1(roles.flatMap((role, r) => role === "lone" ? [r] : []), (r) => rowPattern(profile, r));
	for (const rows of patterns.values()) {
		const texts = rows.map((r) => profile.columns.map((column) => textAt(column, r)).join(" "));
		const distinct = new Set(texts).size;
		const again = rows.length >= 2 && countsUp(texts);
		if (rows.length >= 2 && distinct === 1 && patterns.size === 1 && rows.length > sheets || again && distinct > 1 && rows.every((r) => roles[r + 1] !== "data")) for (const r of rows) roles[r] = "page";
	}
}
/** A number in the texts goes up by one from each to the next, as pages do and years need not. */
function countsUp(texts) {
	const numbers = texts.map((text) => (text.match(/\d+/g) ?? []).map(Number));
	return numbers[0].some((first, k) => first < 1e3 && numbers.every((own, n) => own[k] === first + n));
}
/** A sentence that the columns of a print-out cut in pieces: they go on in small letters. */
function isCutUp(profile, row) {
	const texts = profile.columns.map((column) => textAt(column, row)).filter((text) => text !== "");
	return texts.slice(1).filter((text) => /^[\p{Ll},.;]/u.test(text)).length > texts.length * .3;
}
/** What stands below the last row of data in a sheet, and remarks between. */
function tellNotes(profile, roles, starts, usual, figures) {
	starts.forEach((from, k) => {
		const to = starts[k + 1] ?? roles.length;
		let last = to - 1;
		while (last >= from && roles[last] !== "data") last--;
		for (let r = Math.max(last + 1, from); r < to; r++) if (roles[r] === "lone" && (!rowSaysTotal(profile, r) || figures.length > 0 && profile.filled[r] === 1)) roles[r] = profile.filled[r] >= Math.max(3, usual * .8) && !isCutUp(profile, r) ? "data" : "note";
		for (let r = from; r <= last; r++) {
			if (roles[r] !== "lone") continue;
			const text = profile.columns.map((column) => textAt(column, r)).find((one) => one !== "") ?? "";
			const sentence = /[.!]$/.test(text) && text.split(/\s+/).length >= 5;
			if (saysNote(text) && text.length > 20 || text.length > 120 || sentence) roles[r] = "note";
		}
	});
}
/** Columns that hold figures where rows are wide, but for those that only number or name the rows. */
function figureColumns(profile) {
	return profile.columns.filter((column) => {
		const [figure, text, date, missing] = [
			column.counts[CellKind.figure],
			column.counts[CellKind.text],
			column.counts[CellKind.date],
			column.counts[CellKind.missing]
		];
		if (figure === 0 || figure + missing < (text + date) * 1.5) return false;
		return !isKeyLike(profile, column);
	});
}
/** Years, or numbers that count the rows: they tell rows apart and are never summed. */
function isKeyLike(profile, column) {
	let [figures, years, steps, last] = [
		0,
		0,
		0,
		NaN
	];
	const values = /* @__PURE__ */ new Set();
	for (let r = 0; r < profile.rows; r++) {
		if (column.kinds[r] !== CellKind.figure) continue;
		const value = column.values[r];
		figures++;
		if (isYear(value)) years++;
		if (value === last + 1) steps++;
		last = value;
		if (values.size < 5e3) values.add(value);
	}
	if (figures >= 3 && years === figures && (values.size < figures || /year|jahr|ann|año|anno/i.test(column.name) || column.index === 0)) return !/^\d/.test(column.name);
	return figures >= 4 && steps >= (figures - 1) * .9;
}
function usualWidth(profile, figures) {
	const widths = [];
	for (let r = 0; r < profile.rows; r++) if (profile.filled[r] > 0 && (figures.length === 0 || figures.some((column) => column.kinds[r] === CellKind.figure))) widths.push(profile.filled[r]);
	widths.sort((a, b) => a - b);
	return widths[Math.floor(widths.length * .6)] ?? 0;
}
/** Tiers of a header beyond which none is proposed. */
var MAX_TIERS = 3;
/**
* Where the header stands and over how many rows, with the headings that stand over each table where several stand one
* under the other.
*/
var header = {
	name: "header",
	find(input) {
		const { profile } = input;
		if (!isPositioned(profile.table) || profile.rows < 2) return [];
		const guess = guessHeader(profile.table);
		const places = candidates(profile, guess);
		const found = places.map(({ row, tiers, weight }) => ({
			steps: headerSteps(input, row, tiers),
			weight: weight - 2.5 * unnamedShare(profile, row, tiers) - (isTierLeft(profile, row, tiers) ? TIER_LEFT : 0),
			gives: `header in ${tiers === 1 ? "1 row" : `${tiers} rows`} from row ${row + 1}`
		}));
		const labelled = places.flatMap((place) => {
			const first = firstLabel(input, place);
			return first === void 0 ? [] : [first];
		});
		found.push(...labelled, ...places.flatMap((place) => cornerLabels(input, place) ?? []));
		const lowest = filledIn(profile, guess.row + guess.tiers - 1);
		if (lowest.filter((k) => isPlainFigure(profile, k, guess.row + guess.tiers - 1)).length >= lowest.length * .6) found.push({
			steps: [],
			weight: 1,
			gives: "no header",
			doubt: { code: "no-header" }
		});
		else if (beginsWithData(profile, guess.row)) found.push({
			steps: [],
			weight: 1.9,
			gives: "no header",
			doubt: { code: "no-header" }
		});
		return found;
	}
};
/** Kinds of cell that names of columns are not. */
var NO_NAMES = [CellKind.figure, CellKind.date];
/** Rows that the first one is compared with. */
var MAX_COMPARED = 40;
/** The row has a single cell or is data itself, and the first wide row below it is of the same kinds as those that follow. */
function beginsWithData(profile, row) {
	const isWide = (r) => profile.filled[r] >= Math.max(3, profile.columns.length * .8);
	const wide = [];
	for (let r = 0; r < profile.rows && wide.length < MAX_COMPARED; r++) if (isWide(r)) wide.push(r);
	const [first, ...others] = wide;
	if (first === void 0 || others.length < 3 || first < row || first !== row && profile.filled[row] !== 1) return false;
	const isAlike = profile.columns.map((column) => others.filter((r) => column.kinds[r] === column.kinds[first]).length).every((count) => count >= others.length * .8);
	const noNames = profile.columns.filter((column) => NO_NAMES.includes(column.kinds[first])).length;
	const hasAmounts = profile.columns.some(({ values }) => values[first] % 1 !== 0 && !Number.isNaN(values[first]));
	return isAlike && (first === row ? noNames >= 2 && hasAmounts : noNames >= 1);
}
/** Letters of a text that is a label rather than a remark. */
var MAX_LABEL = 40;
/** The label of the first block stands right above the header, those of the other blocks between the rows. */
function firstLabel(input, { row, tiers, weight }) {
	const { profile } = input;
	const label = row < 1 ? [] : filledIn(profile, row - 1);
	const column = profile.columns[label[0] ?? 0];
	if (!(filledIn(profile, row + tiers - 1).length > 1) || label.length !== 1 || column.kinds[row - 1] !== CellKind.text) return void 0;
	const isLabel = (r) => {
		const text = textAt(column, r);
		return profile.filled[r] === 1 && column.kinds[r] === CellKind.text && text.length <= MAX_LABEL && !saysNote(text) && !saysTotal(text);
	};
	let below = row + tiers;
	while (below < profile.rows && profile.filled[below] === 0) below++;
	if (below >= profile.rows || profile.filled[below] < 2) return void 0;
	const others = [];
	for (let r = below + 1; r + 1 < profile.rows; r++) if (isLabel(r) && profile.filled[r + 1] > 1) others.push(r);
	if (!isLabel(row - 1) || others.length === 0) return void 0;
	const repeats = repeatsOf(profile, row, tiers).like;
	const levels = repeats.length === 0 ? 1 : labelLevels(input, row, repeats, isLabel);
	if (levels === 1 && repeats.length > 0) return void 0;
	return {
		steps: [{
			kind: "carry",
			params: {
				from: column.name,
				rule: {
					test: "only",
					columns: [column.name]
				},
				into: "Group",
				...levels > 1 ? { outer: ["Section"] } : {},
				...input.within === void 0 ? {} : { within: input.within }
			},
			why: `${textAt(column, row - 1)} is directly above the header, and ${counted(others.length, "label")} like it between the rows, for example ${textAt(column, others[0])}`
		}, ...headerSteps(input, row, tiers).slice(levels > 1 ? -1 : 0)],
		weight: weight - 2.5 * unnamedShare(profile, row, tiers) + LABELLED * levels,
		gives: `header in ${tiers === 1 ? "1 row" : `${tiers} rows`} from row ${row + 1}, under the first label`
	};
}
/** Names that a header has beside its corner, where it labels the rows below. */
var MIN_BESIDE_CORNER = 2;
/** The header stands again above each block with another text in its first cell: '2030 | Jan | Feb', '2031 | Jan | Feb'. */
function cornerLabels(input, { row, tiers, weight }) {
	const { profile } = input;
	const names = filledIn(profile, row);
	const corner = profile.columns[names[0] ?? -1];
	if (corner === void 0 || names.length <= MIN_BESIDE_CORNER) return void 0;
	const same = (r) => profile.columns.every((column) => {
		for (let k = 0; k < tiers; k++) if (column !== corner && textAt(column, row + k) !== textAt(column, r + k)) return false;
		return true;
	});
	const labels = [textAt(corner, row)];
	for (let r = row + tiers; r + tiers < profile.rows; r++) if (corner.kinds[r] !== CellKind.blank && same(r)) labels.push(textAt(corner, r));
	if (labels.length < 2 || new Set(labels).size < labels.length) return void 0;
	const [step] = headerSteps(input, row, tiers).slice(-1);
	const at = headerRule({
		...profile,
		columns: profile.columns.filter((column) => column !== corner)
	}, row, false);
	return {
		steps: [{
			...step,
			params: {
				...step.params,
				at: row === 0 ? null : at ?? null,
				corner: "Group"
			},
			why: `the header is repeated ${labels.length - 1} times below, each time with another text in its first cell, for example ${few(labels.slice(0, 3))}`
		}],
		weight: weight - 2.5 * unnamedShare(profile, row, tiers) + LABELLED,
		gives: `header in ${tiers === 1 ? "1 row" : `${tiers} rows`} from row ${row + 1}, its first cells as labels`
	};
}
/** Two where a label stands above the heading of some headers, one above each of them alone, and not above all. */
function labelLevels({ profile }, row, repeats, isLabel) {
	const above = (from) => {
		let at = from - 1;
		while (at >= 0 && profile.filled[at] === 0) at--;
		return at;
	};
	const headings = [row, ...repeats].map(above);
	if (headings.some((at) => at < 0 || !isLabel(at))) return 1;
	const outer = headings.filter((at) => above(at) >= 0 && isLabel(above(at)));
	return outer.length >= 2 && outer.includes(headings[0]) && outer.length < headings.length ? 2 : 1;
}
/** What labels that are carried weigh, and a little for the first of them. */
var LABELLED = 1.4;
function candidates(profile, guess) {
	const found = [{
		...guess,
		weight: 2
	}];
	const add = (row, tiers, weight) => {
		if (row < 0 || tiers < 1 || tiers > MAX_TIERS || row + tiers >= profile.rows) return;
		if (found.some((one) => one.row === row && one.tiers === tiers)) return;
		found.push({
			row,
			tiers,
			weight
		});
	};
	const lowest = guess.row + guess.tiers - 1;
	const isOver = guess.tiers > 1 && (isUnitsRow(profile, lowest) || isFirstOfLabels(profile, lowest));
	if (isOver) found[0].weight = .5;
	if (isTierBelow(profile, lowest + 1) && guess.tiers < MAX_TIERS) {
		found[0].weight = .8;
		add(guess.row, guess.tiers + 1, 2.2);
	}
	const [above, naming] = [aboveFigures(profile), namingRow(profile)];
	for (const bottom of /* @__PURE__ */ new Set([
		lowest,
		lowest - 1,
		lowest + 1,
		above,
		naming,
		firstFull(profile)
	])) {
		if (bottom < 0 || bottom >= profile.rows - 1 || filledIn(profile, bottom).length === 0) continue;
		const units = isUnitsRow(profile, bottom);
		const base = bottom === lowest ? 1.8 : bottom === naming && naming !== above ? 2 : bottom === lowest - 1 && isOver ? 2.2 : .6;
		if (bottom === lowest + 1 && profile.figures[bottom] > 0) continue;
		for (let tiers = 1; tiers <= MAX_TIERS; tiers++) {
			const top = bottom - tiers + 1;
			if (tiers > 1) {
				const filled = filledIn(profile, top);
				if (filled.length < 2 || filled.some((k) => isPlainFigure(profile, k, top))) break;
			}
			add(top, tiers, base - (units ? 1 : 0) - (tiers === guess.tiers ? 0 : .6) + (tiers > guess.tiers ? .2 : 0));
		}
	}
	const scale = scaleRow(profile);
	if (scale !== void 0) add(scale, 1, 2.4);
	return found;
}
/** One text on its own under names, as others like it stand above rows further down: the first label, and no name. */
function isFirstOfLabels(profile, row) {
	const [k, ...more] = filledIn(profile, row);
	if (k === void 0 || more.length > 0) return false;
	const column = profile.columns[k];
	const isLone = (r) => profile.filled[r] === 1 && column.kinds[r] === CellKind.text;
	if (!isLone(row) || (profile.filled[row + 1] ?? 0) < 2) return false;
	for (let r = row + 2; r + 1 < profile.rows; r++) if (isLone(r) && profile.filled[r + 1] > 1) return true;
	return false;
}
/** Cells that a scale of dates or of numbers in a row has at least. */
var MIN_SCALE = 4;
/** The first row that names its columns by dates, or by numbers that count up, with a name or nothing in front. */
function scaleRow(profile) {
	for (let r = 0; r < Math.min(profile.rows - 1, 40); r++) {
		const filled = filledIn(profile, r);
		const names = filled.filter((k) => profile.columns[k].kinds[r] === CellKind.text);
		const marks = filled.filter((k) => !names.includes(k));
		if (marks.length < MIN_SCALE || names.length > 3 || !marks.every((k, n) => n === 0 || k === marks[n - 1] + 1)) continue;
		const texts = marks.map((k) => textAt(profile.columns[k], r));
		const dated = new Set(texts).size === texts.length && !texts.some((text) => /\d:\d/.test(text)) && marks.every((k) => profile.columns[k].kinds[r] === CellKind.date);
		const values = marks.map((k) => profile.columns[k].values[r]);
		const counting = values.every((value, n) => Number.isInteger(value) && (n === 0 || value === values[n - 1] + 1));
		const below = marks.map((k) => profile.columns[k].values[r + 1]);
		const goesOn = below.every((value, n) => n === 0 || value === below[n - 1] + 1);
		if (dated ? !marks.every((k) => profile.columns[k].kinds[r + 1] === CellKind.date) : counting && !goesOn) return r;
	}
}
/** What speaks against a header whose names stand twice, while the row above tells them apart. */
var TIER_LEFT = 1.5;
/** A row of names stands right above, or names stand again under different texts of it. */
function isTierLeft(profile, row, tiers) {
	const above = row - 1;
	const tier = above < 0 ? [] : filledIn(profile, above);
	if (tier.length < 2 || tier.some((k) => isPlainFigure(profile, k, above))) return false;
	if (isTier(profile, above)) return true;
	const lowest = filledIn(profile, row + tiers - 1);
	const under = (k) => tier.findLast((one) => one <= k);
	const again = [...groupedBy$1(lowest, (k) => textAt(profile.columns[k], row + tiers - 1)).values()].filter((own) => new Set(own.map(under)).size > 1);
	return again.length > 0 && again.flat().length >= lowest.length * .5;
}
/** Texts in a row that is no line of a title. */
var MIN_TIER = 4;
/** Several texts over columns of figures, and no pairs of name and value. */
function isTier(profile, row) {
	const filled = filledIn(profile, row);
	const names = filled.filter((k) => profile.columns[k].kinds[row] === CellKind.text);
	if (names.length < MIN_TIER || names.length < filled.length) return false;
	if (names.some((k) => /:(?:\s|$)/.test(textAt(profile.columns[k], row)))) return false;
	return names.filter((k) => profile.columns[k].counts[CellKind.figure] > 0).length >= names.length * .5;
}
/** Names under columns of figures alone, right below those that name all columns: codes of questions, say. */
function isTierBelow(profile, row) {
	if (row >= profile.rows - 1 || profile.figures[row] > 0 || !isTier(profile, row) || isUnitsRow(profile, row)) return false;
	const names = filledIn(profile, row);
	const below = filledIn(profile, row + 1);
	return names.length < below.length && names.every((k) => profile.columns[k].kinds[row + 1] === CellKind.figure);
}
/** Share of the columns with figures below that no tier of the header names. */
function unnamedShare(profile, row, tiers) {
	let [unnamed, all] = [0, 0];
	profile.columns.forEach((column) => {
		if (column.counts[CellKind.figure] === 0) return;
		all++;
		for (let k = 0; k < tiers; k++) if (column.kinds[row + k] !== CellKind.blank) return;
		unnamed++;
	});
	return all === 0 ? 0 : unnamed / all;
}
function isPlainFigure(profile, k, row) {
	const column = profile.columns[k];
	return column.kinds[row] === CellKind.figure && !isYear(column.values[row]);
}
/** The last row of texts above the first rows that are full of figures; -1 where there are none. */
function aboveFigures(profile) {
	for (let r = 1; r < Math.min(profile.rows, 60); r++) {
		if (profile.figures[r] < 1 || profile.filled[r] < 2) continue;
		if ((r + 1 < profile.rows ? profile.figures[r + 1] : 1) === 0) continue;
		let above = r - 1;
		while (above >= 0 && profile.filled[above] === 0) above--;
		return above;
	}
	return -1;
}
/** The last row above the first figures that names several columns, where labels or lines stand between. */
function namingRow(profile) {
	let row = aboveFigures(profile);
	for (let k = 0; k < MAX_BETWEEN && row >= 0 && profile.filled[row] < 2; k++) row--;
	return row >= 0 && profile.filled[row] >= 2 ? row : -1;
}
/** The first row that fills every column that is used; -1 where none does near the top. */
function firstFull(profile) {
	const used = profile.columns.filter((column) => column.counts[CellKind.blank] < profile.rows);
	for (let r = 0; r < Math.min(profile.rows, MAX_TOP$4); r++) if (used.length > 1 && used.every((column) => column.kinds[r] === CellKind.text)) return r;
	return -1;
}
/** Rows at the top that may hold the header. */
var MAX_TOP$4 = 30;
/** Rows between the names of columns and the first figures. */
var MAX_BETWEEN = 5;
function filledIn(profile, row) {
	return profile.columns.flatMap((column, k) => row < profile.rows && column.kinds[row] !== CellKind.blank && column.kinds[row] !== CellKind.rule ? [k] : []);
}
/** A row under the names that says units: few different words, over columns of figures alone. */
function isUnitsRow(profile, row) {
	const filled = filledIn(profile, row);
	if (filled.length === 0 || filled.some((k) => profile.columns[k].kinds[row] === CellKind.figure)) return false;
	const texts = filled.map((k) => textAt(profile.columns[k], row));
	const units = texts.filter((text) => isUnit(text)).length;
	if (units === texts.length) return true;
	return units >= texts.length * .6 && texts.every((text) => text.length <= 14);
}
/** A carried heading, where there is one, and the header itself, for tiers from a row on. */
function headerSteps(input, row, tiers) {
	const { profile } = input;
	const at = headerRule(profile, row, input.within !== void 0);
	const steps = [];
	const { exact: repeats, like } = repeatsOf(profile, row, tiers);
	let { within } = input;
	const heading = headingsOf(profile, row, within === void 0 ? like : repeatsWithin(runStarts(profile.table, within), row, like));
	if (heading !== void 0 && at !== void 0) {
		steps.push({
			kind: "carry",
			params: {
				from: profile.columns[heading.column].name,
				rule: {
					test: "right-above",
					row: at
				},
				into: "Heading",
				...heading.also.length === 0 ? {} : { also: heading.also.map((k) => ({
					from: profile.columns[k].name,
					into: `Heading ${profile.columns[k].name}`
				})) },
				...within === void 0 ? {} : { within }
			},
			why: `${heading.count} tables below each other, each with a heading directly above its header`
		});
		if (like.length > repeats.length && within === void 0) {
			steps.push({
				kind: "set-aside",
				params: {
					pile: "titles",
					rules: [{
						test: "above-first",
						row: at
					}]
				},
				why: "lines above the first table"
			});
			within = "Heading";
		}
	}
	const names = filledIn(profile, row + tiers - 1).length;
	steps.push({
		kind: "header-from-rows",
		params: {
			rows: tiers,
			at: row === 0 && repeats.length === 0 ? null : at ?? null,
			join: " / ",
			fillAcross: true,
			above: true,
			...within === void 0 ? {} : { within },
			repeats: true
		},
		why: `${names} names above columns of figures and words${tiers > 1 ? `, in ${tiers} tiers` : ""}${repeats.length > 0 ? `, repeated ${repeats.length} times below` : ""}`
	});
	return steps;
}
/** The first text of the row finds it again. One that says what it is over is better than a number. */
function headerRule(profile, row, sheets) {
	const filled = filledIn(profile, row);
	const k = filled.find((one) => profile.columns[one].kinds[row] === CellKind.text) ?? filled[0];
	if (k === void 0) return void 0;
	const column = profile.columns[k];
	const code = column.codes[row];
	if (column.codes.indexOf(code) < row && !sheets) {
		const other = filled.find((one) => profile.columns[one].codes.indexOf(profile.columns[one].codes[row]) === row);
		if (other !== void 0) return {
			test: "equals",
			column: profile.columns[other].name,
			text: profile.columns[other].texts[profile.columns[other].codes[row]],
			exact: true
		};
	}
	return {
		test: "equals",
		column: column.name,
		text: column.texts[code],
		exact: true
	};
}
/** Rows further down that read like the header: word for word, or with most of its names. */
function repeatsOf(profile, row, tiers) {
	const exact = [];
	const like = [];
	const same = (r) => profile.columns.every((column) => {
		for (let k = 0; k < tiers; k++) {
			const [a, b] = [column.codes[row + k], column.codes[r + k]];
			if (a !== b && (a < 0 || b < 0 || column.texts[a] !== column.texts[b])) return false;
		}
		return true;
	});
	const lowest = row + tiers - 1;
	const names = new Set(profile.columns.map((column) => textAt(column, lowest)).filter((text) => text !== ""));
	const first = profile.columns.find((column) => column.kinds[row] === CellKind.text);
	for (let r = row + tiers; r + tiers <= profile.rows; r++) {
		if (profile.filled[r + tiers - 1] < 2 || profile.figures[r + tiers - 1] > profile.figures[lowest]) continue;
		if (same(r)) {
			exact.push(r);
			like.push(r);
			continue;
		}
		const own = profile.columns.map((column) => textAt(column, r + tiers - 1)).filter((text) => text !== "");
		const met = own.filter((text) => names.has(text)).length;
		const begins = first !== void 0 && textAt(first, r) === textAt(first, row);
		if (tiers === 1 && begins && met >= 2 && met >= own.length * .6) like.push(r);
	}
	return {
		exact,
		like
	};
}
/** Repeats of the header in the sheet of the header itself. */
function repeatsWithin(starts, row, repeats) {
	const to = starts.find((start) => start > row) ?? Number.POSITIVE_INFINITY;
	return repeats.filter((r) => r < to);
}
/**
* The column in which a heading stands right above the header and above each of its repeats. Beside it may stand what is
* the same each time, as in the head of a page.
*/
function headingsOf(profile, row, repeats) {
	if (repeats.length === 0) return void 0;
	const lines = [];
	for (const at of [row, ...repeats]) {
		let above = at - 1;
		while (above >= 0 && profile.filled[above] === 0) above--;
		if (above < 0 || filledIn(profile, above).some((k) => isPlainFigure(profile, k, above))) return void 0;
		lines.push(above);
	}
	const used = new Set(lines.flatMap((r) => filledIn(profile, r)));
	if (used.size > 5) return void 0;
	const alone = used.size === 1;
	const telling = [...used].filter((k) => {
		const texts = lines.map((r) => textAt(profile.columns[k], r));
		const own = alone ? texts : texts.map((text) => text.replace(/\d+/g, "#"));
		if (own.some((text) => text === "")) return false;
		const distinct = new Set(own);
		const most = Math.max(...[...distinct].map((text) => own.filter((one) => one === text).length));
		return distinct.size >= 2 && most <= Math.max(1, own.length * .6);
	});
	if (telling.length !== 1) return void 0;
	const [column] = telling;
	if (lines.filter((r) => PAGE$1.test(rowPattern(profile, r)) && alone).length >= lines.length * .5) return void 0;
	return {
		column,
		also: [...used].filter((k) => {
			const texts = lines.map((r) => textAt(profile.columns[k], r));
			return k !== column && new Set(texts).size === new Set(lines.map((r) => textAt(profile.columns[column], r))).size && !texts.includes("") && !countsUp(texts);
		}),
		count: lines.length
	};
}
// core/glance/total-names.ts
/**
* What is left of the texts of totals without the word that says so: 'North' of 'Total North'.
*
* @returns undefined where a text names nothing, or two the same
*/
function groupNames(texts) {
	const names = texts.map((text) => nameIn(text));
	return names.every((name) => name !== "") && new Set(names).size === names.length ? names : void 0;
}
/** The name of a group in the text of its total; '' where there is none. */
function nameIn(text) {
	const word = totalWordIn(text);
	if (word === void 0) return "";
	const [own, low] = [text.trim(), word.toLowerCase()];
	const name = (own.toLowerCase().startsWith(low) ? own.slice(word.length) : own.slice(0, own.toLowerCase().lastIndexOf(low))).replace(/^[\s:.,–-]+|[\s:.,–-]+$/gu, "");
	return /\p{L}/u.test(name) ? name : "";
}
/** A pattern of what stands beside the name in the text of a total. */
function wordsOf$1(text, name) {
	const at = text.indexOf(name);
	const [front, behind] = [text.slice(0, at), text.slice(at + name.length)];
	return [front === "" ? "" : `^${escapeRegExp(front)}`, behind === "" ? "" : `${escapeRegExp(behind)}$`].filter((one) => one !== "").join("|");
}
// core/draft/review/labels.ts
/** Labels that were carried onto rows, and names that became values. */
/** Rows that are looked at. */
var MAX_ROWS$2 = 2e4;
var headOf = (table) => table.rows <= MAX_ROWS$2 ? table : takeRows(table, rowNumbers(MAX_ROWS$2));
/** Columns of labels that stood in their own rows, as the finished table has them. */
function carriedColumns({ run, profile }) {
	const names = new Set(run.steps.flatMap(({ step: { kind, params } }) => {
		if (kind === "carry") return [String(params["into"]), ...params["outer"] ?? []];
		return kind === "levels" ? params["into"] : [];
	}));
	return profile.table.fields.flatMap(({ name, column }) => {
		if (!names.has(name)) return [];
		const [view] = profileTable({
			rows: profile.rows,
			fields: [{
				name,
				nameOrigin: "named",
				column
			}]
		}).columns;
		return [{
			name,
			column,
			view
		}];
	});
}
var unlabelledRows = {
	code: "unlabelled-rows",
	look: (input) => carriedColumns(input).flatMap(({ name, view }) => {
		let rows = 0;
		while (rows < input.profile.rows && view.kinds[rows] === CellKind.blank) rows++;
		return rows > 0 ? [{
			code: "unlabelled-rows",
			column: name,
			rows
		}] : [];
	})
};
var labelPerRow = {
	code: "label-per-row",
	look: (input) => carriedColumns(input).flatMap(({ name, view }) => {
		const seen = input.profile.rows;
		return Array.from({ length: seen }, (_, r) => r).filter((r) => r === 0 || textAt(view, r) !== textAt(view, r - 1)).length > seen * .7 && seen > 2 ? [{
			code: "label-per-row",
			column: name
		}] : [];
	})
};
var totalInLabels = {
	code: "total-in-labels",
	look: (input) => carriedColumns(input).flatMap(({ name, column }) => {
		const [text, ...others] = [...usedTexts(column)].filter(saysTotal);
		return text === void 0 ? [] : [{
			code: "total-in-labels",
			column: name,
			text,
			labels: 1 + others.length
		}];
	})
};
/** The tables on both sides of the steps of a kind. */
function stepsOf$1({ run }, kind) {
	return run.steps.flatMap((step, k) => k > 0 && step.step.kind === kind ? [{
		step,
		before: run.steps[k - 1]
	}] : []);
}
var labelWithMore = {
	code: "label-with-more",
	look: (input) => stepsOf$1(input, "carry").flatMap(({ step, before }) => {
		if (step.step.params["up"] === true) return [];
		const { rule } = step.step.params;
		if (rule.column !== void 0 && rule.column !== step.step.params["from"]) return [];
		const own = step.aside.flatMap((pile) => [...pile.rows]).slice(0, MAX_ROWS$2);
		const profile = profileTable(takeRows(before.table, Int32Array.from(own)));
		const rows = [...own.keys()];
		const carried = 1 + (step.step.params["also"]?.length ?? 0);
		const more = rows.find((r) => profile.filled[r] > carried);
		if (more === void 0) return [];
		const text = profile.columns.map((column) => textAt(column, more)).find((cell) => cell !== "") ?? "";
		return [{
			code: "label-with-more",
			column: String(step.step.params["into"]),
			text
		}];
	})
};
/** Lone texts above rows are labels by their place alone; totals that name them prove it. */
var labelsUnproven = {
	code: "labels-unproven",
	look(input) {
		const totals = input.run.steps.flatMap((step, k) => {
			const before = input.run.steps[k - 1]?.table;
			if (before === void 0) return [];
			return step.aside.filter((pile) => pile.mark === "total" && pile.columns === void 0).flatMap((pile) => [...pile.rows.slice(0, MAX_ROWS$2)].map((r) => before.fields.filter((field) => field.nameOrigin !== "beside").map(({ column }) => cellText(column, r) ?? "").join(" ").toLowerCase()));
		});
		return carriedColumns(input).flatMap(({ name, view }) => {
			const labels = new Set(Array.from({ length: input.profile.rows }, (_, r) => textAt(view, r).toLowerCase()));
			labels.delete("");
			const named = [...labels].filter((label) => totals.some((text) => text.includes(label))).length;
			return labels.size > 1 && (named >= labels.size * .9 || totals.length >= labels.size) ? [] : [{
				code: "labels-unproven",
				column: name
			}];
		});
	}
};
/** Different names in totals that show groups, and the share of them that no cell says. */
var MIN_GROUPS = 2;
var UNSAID = .7;
/** Share of totals with a name that are not called as others are. */
var OWN_NAMES = .3;
var MAX_GROUPS = 200;
var groupsInTotals = {
	code: "groups-in-totals",
	look(input) {
		const said = /* @__PURE__ */ new Set();
		for (const { column } of input.table.fields) if (column.type !== "number") for (const text of usedTexts(column)) said.add(text.trim().toLowerCase());
		const names = /* @__PURE__ */ new Map();
		let named = 0;
		input.run.steps.forEach((step, k) => {
			const before = input.run.steps[k - 1]?.table;
			for (const pile of before === void 0 ? [] : step.aside) {
				if (pile.mark !== "total" || pile.columns !== void 0) continue;
				for (const { column } of before.fields) for (const row of pile.rows.slice(0, MAX_ROWS$2)) {
					const text = cellText(column, row) ?? "";
					const name = saysTotal(text) ? nameIn(text) : "";
					if (name === "" || names.size >= MAX_GROUPS) continue;
					names.set(name.toLowerCase(), text);
					named++;
				}
			}
		});
		const unsaid = [...names].filter(([name]) => ![...said].some((text) => text.includes(name)));
		return names.size >= named * OWN_NAMES && unsaid.length >= MIN_GROUPS && unsaid.length >= names.size * UNSAID ? [{
			code: "groups-in-totals",
			text: unsaid[0][1],
			names: unsaid.length
		}] : [];
	}
};
/**
* A column that is called a total sums over these names: then they are classes of one measure. What is planned and how
* far it was missed also add up, to what was done.
*/
function areSummed(names, sums) {
	return sums.some(({ name: sum, of }) => {
		if (!sum.split(" / ").some(saysTotal)) return false;
		const parts = of.map((name) => name.split(" / "));
		const over = (parts[0] ?? []).map((_, t) => new Set(parts.map((own) => own[t]))).filter((own) => own.size > 1);
		const isGrid = of.length === over.reduce((product, own) => product * own.size, 1);
		return names.length > 1 && isGrid && over.some((own) => names.every((name) => own.has(name)));
	});
}
/** Answers that show a scale. */
var MIN_ON_SCALE = 20;
var measuresAsRows = {
	code: "measures-as-rows",
	look: (input) => stepsOf$1(input, "unpivot").flatMap(({ step, before }) => {
		const had = new Set(before.table.fields.map((field) => field.name));
		const brought = step.table.fields.flatMap((field) => {
			if (had.has(field.name)) return [];
			const view = profileTable(headOf({
				rows: step.table.rows,
				fields: [{
					...field,
					nameOrigin: "named"
				}]
			})).columns[0];
			const names = new Set(Array.from({ length: Math.min(step.table.rows, 2e3) }, (_, r) => textAt(view, r)));
			names.delete("");
			return [{
				name: field.name,
				view,
				names: [...names]
			}];
		});
		const periods = (names) => nameKinds(names).filter((kind) => kind !== void 0).length;
		const tiers = brought.filter(({ view, names }) => view.counts[CellKind.text] > 0 || periods(names) > names.length * .8);
		const isScale = brought.some(({ view: { values } }) => !Number.isNaN(highestMark(values, MIN_ON_SCALE)));
		return tiers.flatMap(({ name, view, names }) => isScale || areSummed(names, input.sums) || view.counts[CellKind.figure] > 0 || view.counts[CellKind.text] === 0 || periods(names) >= names.length * .8 ? [] : [{
			code: "measures-as-rows",
			column: name,
			names: names.slice(0, 6),
			tiers: tiers.length
		}]);
	})
};
// core/findings/totals.ts
/** Rows that sum others up, told by what their figures add up to; words are only a hint. */
var totals = {
	name: "totals",
	find(input) {
		const body = bodyOf(input);
		if (body.figures.length === 0) return [];
		const { hints, below } = sumsBelow(body);
		const above = sumsOf$1(body, hints, true);
		const best = explained(above) > explained(below) ? above : below;
		const findings = [];
		const arithmetic = told(body, best, hints, isPositioned(input.raw));
		const finding = asFinding(input, body, arithmetic, best);
		if (finding !== void 0) findings.push(...best === above ? [withLabels(body, arithmetic, finding, input.within)] : [...namedBelow(input, body, best, finding), finding]);
		return findings;
	}
};
var known$1 = /* @__PURE__ */ new WeakMap();
/** Rows that sum those above them. */
function sumsBelow(body) {
	const before = known$1.get(body);
	if (before !== void 0) return before;
	const hints = new Uint8Array(body.profile.rows);
	for (let r = 0; r < hints.length; r++) if (body.roles[r] === "data" && rowSaysTotal(body.profile, r)) hints[r] = 1;
	const found = {
		hints,
		below: sumsOf$1(body, hints, false)
	};
	known$1.set(body, found);
	return found;
}
function sumsOf$1(body, hints, above) {
	return findSums({
		columns: body.figures.map((column) => masked(body, column)),
		rows: body.profile.rows,
		starts: body.starts,
		hints,
		above
	});
}
/** Figures of rows that may be data or totals. */
function masked(body, column) {
	if (body.roles.every((role) => role === "data")) return column.values;
	return column.values.map((value, r) => body.roles[r] === "data" ? value : NaN);
}
var explained = (sums) => sums.reduce((sum, one) => sum + one.fit, 0);
/**
* Rows that are totals: those that add up and have something to tell them from data (a word, a blank key, the end of a
* sheet), and those that only say so, with their keys blank.
*/
function told(body, sums, hints, wordsDo) {
	const { profile } = body;
	const keyed = body.keys.filter((column) => column.counts[CellKind.blank] < profile.rows * .6);
	const blankKeys = (r) => keyed.filter((column) => column.kinds[r] === CellKind.blank).length;
	const usual = median$1(body.rowsOf("data").map(blankKeys));
	const bySum = sums.filter(({ row, fit, figures, kind, of }) => {
		if (hints[row] === 1) return blankKeys(row) > usual || keyed.length <= 1 || fit >= figures * .6 && of.length >= 2;
		if (kind === "mean") return false;
		const ends = body.starts.includes(row + 1) || row === profile.rows - 1 || nextIsNoData(body, row);
		const strong = fit >= 3 && fit === figures && of.length >= 3;
		return blankKeys(row) > usual || ends && (strong || of.length >= 3) || strong && fit >= 4;
	});
	const rows = new Set(bySum.map((one) => one.row));
	const pattern = (r) => keyed.map((column) => column.kinds[r] === CellKind.blank ? "0" : "1").join("");
	const patterns = [...groupedBy$1(body.rowsOf("data"), pattern)].map(([blank, all]) => ({
		blank,
		all,
		proven: all.filter((r) => rows.has(r)).length
	}));
	for (const { blank, all, proven } of patterns) {
		if (!blank.includes("0") || proven < 2 || proven < all.length * .5 || all.length > profile.rows * .5) continue;
		for (const r of all) rows.add(r);
	}
	const added = new Map(sums.map((one) => [one.row, one]));
	for (const column of body.keys) {
		const own = groupedBy$1(body.rowsOf("data"), (r) => textAt(column, r));
		for (const [text, all] of own) {
			if (text === "" || all.length < 2 || all.length > profile.rows * .4) continue;
			const found = all.flatMap((r) => added.get(r) ?? []);
			const isWhole = found.length === all.length;
			const fits = ({ fit, figures }) => fit === figures || isWhole && fit >= 1 && fit >= figures * .5;
			if (found.length >= all.length - 1 && found.every((one) => fits(one) && one.kind === "sum") && found.filter((one) => one.of.length >= 2).length >= 2) for (const r of all) rows.add(r);
		}
	}
	for (let r = 0; wordsDo && r < profile.rows; r++) {
		if (hints[r] !== 1 || rows.has(r)) continue;
		if (blankKeys(r) > usual || keyed.length <= 1 || bySum.some((one) => blankKeys(one.row) === blankKeys(r))) rows.add(r);
	}
	return [...rows].sort((a, b) => a - b);
}
function nextIsNoData(body, row) {
	return body.roles[row + 1] !== "data";
}
function median$1(values) {
	values.sort((a, b) => a - b);
	return values[Math.floor(values.length / 2)] ?? 0;
}
function asFinding({ isSample, within }, body, rows, sums) {
	if (rows.length === 0) return void 0;
	const { profile } = body;
	const wanted = new Set(rows);
	const rules = chooseRules(profile, rows, body.roles.flatMap((role, r) => !wanted.has(r) && (role === "data" || role === "lone") ? [r] : []), [{
		test: "adds-up",
		columns: {
			by: "names",
			names: body.figures.map((column) => column.name)
		},
		...within === void 0 ? {} : { within }
	}]);
	if (rules === void 0) return void 0;
	const fitting = sums.filter((one) => wanted.has(one.row));
	const fit = fitting.reduce((sum, one) => sum + one.fit, 0);
	const added = new Set(fitting.map((one) => one.row));
	const of = (isSample ? rows.filter((r) => added.has(r)) : rows).reduce((sum, r) => sum + body.figures.filter((column) => column.kinds[r] === CellKind.figure).length, 0);
	const levels = new Set(fitting.map((one) => one.level)).size;
	const column = body.keys.find((one) => one.kinds[rows[0]] === CellKind.text);
	const example = column === void 0 ? "" : `, as ${textAt(column, rows[0])}`;
	return {
		steps: [{
			kind: "set-aside",
			params: {
				pile: "totals",
				rules
			},
			why: fit === 0 ? `${counted(rows.length, "row")} called a total${example}, but nothing adds up to them` : `${counted(rows.length, "row")}, each the sum of rows ${levels > 1 ? `or of sums before it, on ${levels} levels` : "before it"}: ${fit} of ${of} figures${example}`
		}],
		weight: fit === 0 ? .5 : 1.5 + Math.min(2, fit / 10),
		...fit < of ? { doubt: {
			code: "totals-off",
			off: of - fit,
			of
		} } : {},
		explained: {
			fit,
			of
		}
	};
}
/** What speaks for names that stand in the rows of sums alone. */
var NAMED_BELOW = .4;
/** Sums below their rows that each name a group, where no row of the group says it: 'Total North' under its ports. */
function namedBelow(input, body, sums, finding) {
	const { profile } = body;
	const rule = finding.steps[0].params.rules;
	const inner = sums.filter(({ row, level, of }) => level === 1 && body.roles[row] === "data" && of.length > 0);
	if (rule.length !== 1 || inner.length < 2 || body.rowsOf("lone").length > 0) return [];
	const column = body.keys.find(({ kinds }) => inner.every(({ row }) => kinds[row] === CellKind.text));
	if (column === void 0) return [];
	const texts = inner.map(({ row }) => textAt(column, row));
	const names = groupNames(texts);
	const elsewhere = new Set(profile.table.fields.flatMap(({ column: own }) => [...usedTexts(own)].map((text) => text.toLowerCase())));
	if (names === void 0 || names.filter((name) => elsewhere.has(name.toLowerCase())).length > 1) return [];
	const taken = new Set(profile.table.fields.map(({ name }) => name));
	const into = uniqueName("Group", taken);
	const example = `'${texts[0]}'`;
	return [{
		...finding,
		steps: [{
			kind: "carry",
			params: {
				from: column.name,
				rule: rule[0],
				into,
				up: true,
				...input.within === void 0 ? {} : { within: input.within }
			},
			why: `${finding.steps[0].why}; only they name their group, for example ${example}`
		}, {
			kind: "replace",
			params: {
				columns: {
					by: "names",
					names: [into]
				},
				find: wordsOf$1(texts[0], names[0]),
				with: "",
				how: "pattern",
				exact: true
			},
			why: `the name of the group stands beside the word for a total, as in ${example}`
		}],
		weight: finding.weight + NAMED_BELOW,
		gives: "groups named by their totals"
	}];
}
/** Totals that stand above their rows are their labels too: what they say is carried or filled down before they go. */
function withLabels(body, rows, finding, within) {
	const { profile } = body;
	const wanted = new Set(rows);
	const data = body.rowsOf("data").filter((r) => !wanted.has(r));
	const labelled = body.keys.filter((column) => rows.some((r) => column.kinds[r] === CellKind.text) && data.every((r) => column.kinds[r] === CellKind.blank));
	if (labelled.length === 0 || data.length === 0) return finding;
	const names = labelled.map((column) => column.name);
	const groups = profile.rows - data.length;
	return {
		...finding,
		steps: [{
			kind: "fill",
			params: {
				columns: {
					by: "names",
					names
				},
				direction: "down",
				...within === void 0 ? {} : { within }
			},
			why: `${names.join(", ")}: appears only in the ${counted(groups, "row")} of sums above each group`
		}, ...finding.steps]
	};
}
// core/findings/derived-rows.ts
/** Decimal digits that agree in a row, added over its columns, beyond what chance gives. */
var MIN_DIGITS = 4;
/** Figures of a row of shares that must follow from the total, beside the whole. */
var MIN_SHARES = 2;
var RESULTS = "results";
var SHARES = "shares";
/** Piles of rows that follow from totals by arithmetic. */
var DERIVED_PILES = [RESULTS, SHARES];
/** Rows calculated from totals: what is left of one sum without another, and the shares of a total. */
var derivedRows = {
	name: "derived-rows",
	find(input) {
		const body = bodyOf(input);
		if (input.isSample || body.figures.length === 0) return [];
		const sums = sumsBelow(body).below.filter(({ kind, fit, figures }) => kind !== "mean" && fit === figures);
		const sumRows = new Set(sums.map(({ row }) => row));
		const shares = sharesOf(body, sumRows);
		const steps = [...settingAside(body, resultsOf(body, sumRows, shares), RESULTS, ", each one sum less another"), ...settingAside(body, shares, SHARES, " of shares of the total above")];
		return steps.length === 0 ? [] : [{
			steps,
			weight: 1.5
		}];
	}
};
function settingAside(body, rows, pile, what) {
	if (rows.length === 0) return [];
	const own = new Set(rows);
	const others = body.roles.flatMap((role, r) => !own.has(r) && (role === "data" || role === "lone") ? [r] : []);
	const rules = chooseRules(body.profile, rows, others);
	const label = body.keys.map((column) => textAt(column, rows[0])).find((text) => text !== "") ?? "";
	const why = `${counted(rows.length, "row")}${what}: ${label}`;
	return rules === void 0 ? [] : [{
		kind: "set-aside",
		params: {
			pile,
			mark: "other",
			rules
		},
		why
	}];
}
/** Rows of which every figure is one sum, or result of sums, less another. */
function resultsOf(body, sums, shares) {
	const found = [];
	const known = [];
	for (const r of body.rowsOf("data")) {
		if (shares.includes(r)) continue;
		if (sums.has(r)) known.push(r);
		else if (known.length >= 2 && isDifference(body.figures, r, known.slice(-6))) {
			found.push(r);
			known.push(r);
		}
	}
	return found;
}
function isDifference(figures, row, known) {
	const own = figures.filter((column) => column.kinds[row] === CellKind.figure);
	const digits = own.reduce((sum, { values }) => sum + Math.log10(1 + Math.abs(values[row])), 0);
	if (own.length === 0 || digits < MIN_DIGITS) return false;
	const isLeft = (a, b) => own.every(({ values }) => {
		const left = values[a] - values[b];
		return Math.abs(left - values[row]) <= 1e-6 * Math.max(1, Math.abs(values[a]), Math.abs(values[b]));
	});
	return known.some((a) => known.some((b) => a !== b && isLeft(a, b)));
}
/** Rows below a sum that say what share of it, in percent or as a fraction, each column has. */
function sharesOf(body, sums) {
	return body.rowsOf("data").filter((r) => {
		const total = [r - 1, r - 2].find((one) => sums.has(one));
		return total !== void 0 && !sums.has(r) && isShares(body.figures, r, total);
	});
}
function isShares(figures, row, total) {
	const own = figures.filter((column) => column.kinds[row] === CellKind.figure);
	return own.some((whole) => {
		const all = whole.values[row];
		if (all !== 100 && all !== 1 || !(whole.values[total] > 0)) return false;
		const parts = own.filter((column) => column !== whole);
		const fitting = parts.filter(({ values }) => {
			const share = all * values[total] / whole.values[total];
			return Math.abs(share - values[row]) <= HALF_A_UNIT * 10 ** -Math.min(6, decimalsOf(values[row]));
		});
		return fitting.length === parts.length && fitting.length >= MIN_SHARES;
	});
}
// core/draft/review/rows.ts
/** Rows of the finished table that are no data, and data that lie on a pile. */
var PAGE = /^(?:page|seite|p[áa]gina|p[áa]g\.?|blatt|folio|sheet)\s*\d+(?:\s*(?:of|von|de|\/)\s*\d+)?$/i;
/** Dots that lead to the next column. */
var LEADER$1 = /\S\s*([.·_-])\1{3,}$/;
var headerInRows = {
	code: "header-in-rows",
	look: ({ profile }) => profile.columns.flatMap((column) => {
		const name = column.name.toLowerCase();
		let rows = 0;
		for (let r = 0; r < profile.rows; r++) if (textAt(column, r).toLowerCase() === name) rows++;
		return rows === 0 ? [] : [{
			code: "header-in-rows",
			column: column.name,
			rows
		}];
	})
};
var furnitureInRows = {
	code: "furniture-in-rows",
	look: ({ profile }) => profile.columns.flatMap((column) => {
		for (let r = 0; r < profile.rows; r++) {
			const text = textAt(column, r);
			if (PAGE.test(text) || LEADER$1.test(text) || column.kinds[r] === CellKind.rule) return [{
				code: "furniture-in-rows",
				column: column.name,
				text
			}];
		}
		return [];
	})
};
var gapsInKeys = {
	code: "gaps-in-keys",
	look({ profile, run }) {
		if (run.steps[0].step.kind === "read-nested" || run.steps[0].step.kind === "read-tables") return [];
		const figures = profile.columns.findIndex((column) => column.counts[CellKind.figure] > 0);
		return profile.columns.slice(0, Math.max(1, figures)).flatMap((column) => {
			const blank = column.counts[CellKind.blank];
			return blank > 0 && blank < profile.rows ? [{
				code: "gaps-in-keys",
				column: column.name,
				rows: blank
			}] : [];
		});
	}
};
var oneRowLeft = {
	code: "one-row-left",
	look: ({ profile }) => profile.rows === 1 ? [{ code: "one-row-left" }] : []
};
/** Rows set aside as notes, titles or others that fill as many cells as rows of the table do. */
var asideLikeRows = {
	code: "aside-like-rows",
	look: ({ run }) => [...piles(run)].flatMap(({ before, pile, kept }) => {
		if (pile.mark === "total" || pile.mark === "header" || pile.mark === "label" || pile.columns !== void 0) return [];
		if (DERIVED_PILES.includes(pile.name)) return [];
		const own = pile.rows.slice(0, MAX_PILE);
		const profile = profileTable(takeRows(before, Int32Array.from([...own, ...kept])));
		const behind = [...kept.keys()].map((k) => own.length + k);
		const usual = median(behind.map((r) => profile.filled[r]));
		const figures = median(behind.map((r) => profile.figures[r]));
		const isNotes = pile.mark === "note" && pile.name !== "units";
		const alike = [...own.keys()].filter((r) => profile.filled[r] >= usual * .8 && (profile.figures[r] >= figures * .8 && figures > 0 || isNotes && profile.filled[r] >= 3));
		return alike.length === 0 ? [] : [{
			code: "aside-like-rows",
			pile: pile.name,
			rows: alike.length
		}];
	})
};
var pageHeadsDiffer = {
	code: "page-heads-differ",
	look({ run }) {
		for (const { before, pile } of piles(run)) {
			if (pile.name !== "page heads") continue;
			const profile = profileTable(takeRows(before, pile.rows.slice(0, MAX_PILE)));
			const alike = groupedBy$1(Array.from({ length: profile.rows }, (_, r) => profile.columns.map((column) => textAt(column, r)).filter((text) => text !== "")), ([first]) => (first ?? "").replace(/\d+/g, "#"));
			for (const lines of alike.values()) {
				const told = lines.map((line) => line.join(" "));
				if (new Set(told).size > 1 && !isNumbered(told)) return [{
					code: "page-heads-differ",
					text: told[1]
				}];
			}
		}
		return [];
	}
};
/** Lines differ by one number alone, which goes up from each to the next. */
function isNumbered(lines) {
	if (new Set(lines.map((line) => line.replace(/\d+/g, "#"))).size > 1) return false;
	const numbers = lines.map((line) => (line.match(/\d+/g) ?? []).map(Number));
	const varying = numbers[0].flatMap((_, k) => new Set(numbers.map((own) => own[k])).size > 1 ? [k] : []);
	return varying.length === 1 && numbers.every((own, n) => n === 0 || own[varying[0]] > numbers[n - 1][varying[0]]);
}
var textDropped = {
	code: "text-dropped",
	look({ run }) {
		const walked = walkedSteps(run, run.steps.length - 1);
		return walked.flatMap(({ run: step }, k) => {
			const before = walked[k - 1]?.run.table;
			const { params, kind } = step.step;
			if (kind !== "unpivot" || params["blanks"] !== "drop" || before === void 0) return [];
			const going = new Set(chosenColumns(unpivot.params.parse(params).columns, before));
			const profile = profileTable(before);
			const stays = profile.columns.filter(({ index }) => !going.has(index));
			const lone = [...Array(Math.min(profile.rows, MAX_PILE)).keys()].filter((r) => profile.filled[r] === 1 && stays.some((column) => isFilled(column, r)));
			const column = stays.find((one) => lone[0] !== void 0 && isFilled(one, lone[0]));
			if (column === void 0) return [];
			return [{
				code: "text-dropped",
				column: column.name,
				text: textAt(column, lone[0]),
				rows: lone.length
			}];
		});
	}
};
var PAIR = /^\p{L}[\p{L}\s./-]{1,30}:\s*\S/u;
/** Lines above or between the rows that name a value, where the same name stands again with another value. */
var unusedPair = {
	code: "unused-pair",
	look({ run }) {
		const values = /* @__PURE__ */ new Map();
		const note = (text) => {
			const at = text.indexOf(":");
			const name = text.slice(0, at).trim().toLowerCase();
			values.set(name, (values.get(name) ?? /* @__PURE__ */ new Set()).add(text.slice(at + 1).trim()));
			return values.get(name).size > 1 ? text : void 0;
		};
		let told;
		for (const { before, pile } of piles(run)) {
			if (pile.mark === "total" || pile.columns !== void 0) continue;
			const own = takeRows(before, pile.rows.slice(0, MAX_PILE));
			const profile = profileTable(own);
			const beside = own.fields.filter((field) => field.nameOrigin === "beside");
			for (let r = 0; r < own.rows; r++) {
				const known = beside.map(({ column }) => cellText(column, r) ?? "").filter((text) => text !== "");
				const cells = profile.columns.map((column) => textAt(column, r)).filter((text) => text !== "");
				for (const [k, cell] of cells.entries()) {
					if (known.some((text) => cell.includes(text))) continue;
					if (PAIR.test(cell)) told ??= note(cell);
					else if (/:$/.test(cell) && cells[k + 1] !== void 0) told ??= note(`${cell} ${cells[k + 1]}`);
				}
			}
		}
		return told === void 0 ? [] : [{
			code: "unused-pair",
			text: told
		}];
	}
};
/** Rows of a pile, and of the table beside it, that are looked at. */
var MAX_PILE = 1e3;
/** Rows that stay, beside which those of a pile are held. */
var MAX_KEPT = 300;
function* piles(run) {
	const walked = walkedSteps(run, run.steps.length - 1);
	for (const [k, { run: step }] of walked.entries()) {
		const before = walked[k - 1]?.run.table;
		if (before === void 0) continue;
		const away = new Set(step.aside.flatMap((one) => [...one.rows]));
		const kept = Array.from({ length: Math.min(before.rows, MAX_KEPT) }, (_, r) => r).filter((r) => !away.has(r));
		for (const pile of step.aside) yield {
			before,
			pile,
			kept
		};
	}
}
function median(values) {
	values.sort((a, b) => a - b);
	return values[values.length >> 1] ?? 0;
}
// core/draft/review/texts.ts
/** What texts of the finished table still hold that belongs in its own columns, or in their own rows. */
/** Share of the texts of a column that must be written alike for the reviewers here to speak. */
var MOSTLY$1 = .6;
/** Rows of a column that are looked at. */
var MAX_ROWS$1 = 2e3;
/** Texts that a form is seen in at least. */
var MIN_TEXTS$1 = 4;
/** The filled texts of a column, row by row; none for a column that is typed. */
function textsOf(profile, column) {
	const { type } = profile.table.fields[column.index].column;
	if (type !== "text" && type !== "received") return [];
	const texts = [];
	for (let r = 0; r < Math.min(profile.rows, MAX_ROWS$1); r++) if (column.kinds[r] === CellKind.text || column.kinds[r] === CellKind.figure) texts.push(textAt(column, r));
	return texts;
}
var share = (texts, test) => texts.filter(test).length / Math.max(1, texts.length);
var WITH_MARK = /^[-+−]?\d[\d.,\s\u00a0\u202f]*(?:\s?\p{L}{1,4}\.?|\s?[%‰°*†‡§#²³¹]+|\s?\(?\p{L}{1,2}\)|\s?\([^)]{1,12}\))$/u;
var CODE_LIKE = /^0\d|^\d{1,4}\p{Lu}$/u;
/** Figures with a unit, a footnote mark or a second figure behind them. */
var figuresWithMarks = {
	code: "figures-with-marks",
	look: ({ profile }) => profile.columns.flatMap((column) => {
		const texts = textsOf(profile, column);
		const marked = texts.filter((text) => WITH_MARK.test(text) && !CODE_LIKE.test(text));
		const like = share(texts, (text) => WITH_MARK.test(text) || /^[-+−]?\d[\d.,\s]*$/.test(text));
		if (texts.length < MIN_TEXTS$1 || marked.length === 0 || like < MOSTLY$1) return [];
		return [{
			code: "figures-with-marks",
			column: column.name,
			text: marked[0]
		}];
	})
};
/** Signs in place of a value: the value above, or none. */
var signsAsValues = {
	code: "signs-as-values",
	look: ({ profile }) => profile.columns.flatMap((column) => {
		const texts = textsOf(profile, column);
		const sign = texts.find((text) => /^["'`´″〃„“”«»=.…-]{1,3}$/.test(text));
		return sign === void 0 || share(texts, (text) => /[\p{L}\d]/u.test(text)) < .1 ? [] : [{
			code: "signs-as-values",
			column: column.name,
			text: sign
		}];
	})
};
/** Words of a text: numbers stand for one another. */
var wordsOf = (text) => text.split(/\s+/).map((word) => word.replace(/\d+/g, "#"));
// core/draft/review/review.ts
/** What a sceptical colleague would point at in the table of a draft. */
/** The most telling first: the first remark is the one that a person reads. */
var REVIEWERS = [
	oneRowLeft,
	cutTexts,
	twoNames,
	headerInRows,
	furnitureInRows,
	readsAs,
	serialDays,
	totalInLabels,
	unlabelledRows,
	labelPerRow,
	labelWithMore,
	unusedPair,
	{
		code: "titles-differ",
		look({ run, table }) {
			const kept = new Set(table.fields.flatMap(({ column }) => Array.from({ length: Math.min(table.rows, MAX_ROWS$1) }, (_, r) => (cellText(column, r) ?? "").toLowerCase())));
			const walked = walkedSteps(run, run.steps.length - 1);
			return walked.flatMap(({ run: step }, k) => {
				const before = walked[k - 1]?.run.table;
				const beside = before?.fields.find((field) => field.nameOrigin === "beside")?.column;
				if (before === void 0 || beside === void 0) return [];
				const parts = [...groupedBy$1(step.aside.filter((pile) => pile.mark === "title").flatMap((pile) => [...pile.rows]), (r) => cellText(beside, r) ?? "").entries()];
				if (parts.length < 2) return [];
				const lines = parts.map(([name, own]) => own.map((r) => before.fields.filter((field) => field.nameOrigin !== "beside").map(({ column }) => cellText(column, r) ?? "").filter((text) => text !== "" && !text.includes(name))));
				const lost = lines[0].flatMap((cells, n) => cells.filter((cell, c) => lines.every((other, p) => p === 0 || (other[n]?.[c] ?? cell) !== cell))).find((text) => !kept.has(text.toLowerCase()) && /\p{L}/u.test(text));
				return lost === void 0 ? [] : [{
					code: "titles-differ",
					text: lost
				}];
			});
		}
	},
	figuresWithMarks,
	signsAsValues,
	{
		code: "nested-codes",
		look: ({ profile }) => profile.columns.slice(0, 4).flatMap((column) => {
			const codes = Array.from({ length: Math.min(profile.rows, MAX_ROWS$1) }, (_, r) => cellText(profile.table.fields[column.index].column, r)?.trim() ?? "");
			if (codes.length < MIN_TEXTS$1 || share(codes, (code) => /^\p{L}?\d+(?:[.\-/]\d+)*\.?$/u.test(code)) < .9) return [];
			const parents = codes.filter((code, r) => {
				const next = codes[r + 1];
				return code !== "" && next !== void 0 && next.length > code.length && next.startsWith(code) && /^[.\-/]/.test(next.slice(code.length));
			});
			return parents.length >= 2 ? [{
				code: "nested-codes",
				column: column.name,
				text: parents[0]
			}] : [];
		})
	},
	{
		code: "texts-of-one-form",
		look: ({ profile }) => profile.columns.flatMap((column) => {
			const texts = [...new Set(textsOf(profile, column))].filter((text) => /\d/.test(text));
			const rows = texts.map(wordsOf).filter((words) => words.length >= 4);
			if (rows.length < MIN_TEXTS$1) return [];
			const [common] = [...groupedBy$1(rows, (words) => words.length).values()].sort((a, b) => b.length - a.length);
			if (common.length < rows.length * .3) return [];
			return common[0].filter((word, k) => /\p{L}{2}/u.test(word) && common.every((words) => words[k] === word)).length >= 2 ? [{
				code: "texts-of-one-form",
				column: column.name,
				text: texts[0]
			}] : [];
		})
	},
	asideLikeRows,
	pageHeadsDiffer,
	textDropped,
	gapsInKeys,
	measuresAsRows,
	valuesAsNames,
	numberedNames,
	twinColumns,
	labelsUnproven,
	groupsInTotals
];
function review(input) {
	return REVIEWERS.flatMap((reviewer) => reviewer.look(input));
}
/** Remarks that hardly ever fit a table that is right: on the corpus none of them did. */
var GRAVE = /* @__PURE__ */ new Set([
	"cut-texts",
	"two-names",
	"header-in-rows",
	"furniture-in-rows",
	"reads-as",
	"unlabelled-rows",
	"label-with-more",
	"groups-in-totals",
	"unused-pair",
	"aside-like-rows",
	"page-heads-differ",
	"text-dropped",
	"one-row-left"
]);
/** Points that a remark takes from a method. */
function remarkWeight(remark) {
	if (remark.code === "measures-as-rows" && remark.tiers > 1) return 2;
	return isGrave(remark) ? 1.5 : .2;
}
function isGrave(remark) {
	if (remark.code === "total-in-labels") return remark.labels > 1;
	return GRAVE.has(remark.code);
}
// core/draft/sample.ts
/** Cells of a table that a search looks at, again and again. */
var SEARCHED_CELLS = 7e3;
/** Cells of a table that is looked at once. */
var SEEN_CELLS = 12e4;
/** Rows that the cells of a sample may be at least and at most. */
var MIN_ROWS$3 = 250;
var MAX_ROWS = 4e3;
/** Rows of a sheet's end. */
var TAIL = 60;
/** Sheets that are looked at for more than how they begin. */
var MAX_SHEETS = 12;
var MIN_OF_SHEET = 60;
var BEGINNING = 16;
/** Tables of which rows were left out, so that sums have lost some of what they sum. */
var cut$1 = /* @__PURE__ */ new WeakSet();
var isCut = (table) => cut$1.has(table);
/**
* The table itself, or of a large one the head and the tail of each sheet: whole neighbourhoods that begin and end where a
* block does, so that the sums of blocks still have their rows.
*
* @param cells how many of them the sample has about
*/
function sampleOf(table, within, cells = SEARCHED_CELLS) {
	const columns = Math.max(1, table.fields.length);
	const limit = Math.min(MAX_ROWS, Math.max(MIN_ROWS$3, Math.floor(cells / columns)));
	if (table.rows <= limit) return table;
	const starts = runStarts(table, within);
	const runs = starts.length - 1;
	const share = Math.max(MIN_OF_SHEET, Math.floor(limit / Math.min(runs, MAX_SHEETS)));
	const isEdge = edgesOf(table);
	const rows = [];
	const take = (from, to) => {
		for (let r = from; r < to; r++) rows.push(r);
	};
	for (let k = 0; k < runs; k++) {
		const [from, to] = [starts[k], starts[k + 1]];
		const own = k < 11 || k === runs - 1 ? share : BEGINNING;
		if (to - from <= own) {
			take(from, to);
			continue;
		}
		const tail = Math.min(TAIL, Math.floor(own / 4));
		take(from, edgeNear(from + own - tail, from + Math.floor((own - tail) / 2), isEdge));
		take(edgeNear(to - tail, to - 2 * tail, isEdge), to);
	}
	const sample = {
		...takeRows(table, Int32Array.from(rows)),
		...table.decimal === void 0 ? {} : { decimal: table.decimal }
	};
	if (rows.length < table.rows) cut$1.add(sample);
	return sample;
}
/** Whether a row has nothing or one cell in it, as those between blocks have. */
function edgesOf(table) {
	const unseen = table.fields.flatMap((field) => field.nameOrigin === "beside" ? [] : [unseenMask(field.column)]);
	return (row) => {
		let filled = 0;
		for (const mask of unseen) if (mask[row] === 0 && ++filled > 1) return false;
		return true;
	};
}
/** The nearest edge above a row, down to another; the row itself where there is none. */
function edgeNear(row, least, isEdge) {
	for (let r = row; r > least; r--) if (isEdge(r) && !isEdge(r - 1)) return r;
	return row;
}
// core/findings/attribute-blocks.ts
/** Names and values in two columns, a block of them for each record, without a column that tells records apart. */
var attributeBlocks = {
	name: "attribute-blocks",
	find(input) {
		const { profile } = input;
		const used = profile.columns.filter((column) => column.counts[CellKind.blank] < profile.rows);
		if (used.length !== 2 || !isPositioned(profile.table)) return [];
		const [names, values] = used;
		const rows = [];
		for (let r = 0; r < profile.rows; r++) if (textAt(names, r) !== "" && textAt(values, r) !== "") rows.push(r);
		const blocks = blocksOf(names, rows);
		if (blocks === void 0) return [];
		const first = textAt(names, rows[0]);
		const leads = blocks.map((block) => textAt(values, block[0]));
		if (new Set(leads).size < leads.length || !isMixed(names, values, rows)) return [];
		return [{
			steps: [
				...profile.rows > rows.length ? [{
					kind: "keep-rows",
					params: { rules: [{
						test: "filled",
						columns: {
							by: "names",
							names: [names.name, values.name]
						}
					}] },
					why: "rows of a name and a value"
				}] : [],
				{
					kind: "carry",
					params: {
						from: values.name,
						rule: {
							test: "equals",
							column: names.name,
							text: first
						},
						into: first
					},
					why: `${counted(blocks.length, "block")} of names and values, each beginning with ${first}`
				},
				{
					kind: "pivot",
					params: {
						rows: {
							by: "names",
							names: [first]
						},
						names: [names.name],
						values: [{
							column: values.name,
							by: "only"
						}]
					},
					why: `${few([...new Set(rows.map((r) => textAt(names, r)))])}: fields of each record`
				}
			],
			weight: 4,
			doubt: {
				code: "blocks-by-first-name",
				name: first
			},
			gives: "a row for each block"
		}];
	}
};
/** Rows from one first name to the next; undefined where they do not say mostly the same names, each once. */
function blocksOf(names, rows) {
	if (rows.length < 6) return void 0;
	const first = textAt(names, rows[0]);
	const blocks = [];
	for (const r of rows) {
		if (textAt(names, r) === first) blocks.push([]);
		blocks.at(-1).push(r);
	}
	const all = new Set(rows.map((r) => textAt(names, r)));
	if (blocks.length < 2 || all.size < 2 || all.size > 40) return void 0;
	return blocks.every((block) => {
		const own = new Set(block.map((r) => textAt(names, r)));
		return own.size === block.length && own.size >= all.size * .5;
	}) ? blocks : void 0;
}
/** Values are of several kinds, as those of one column are not. */
function isMixed(names, values, rows) {
	const kinds = new Set(rows.map((r) => values.kinds[r]));
	kinds.delete(CellKind.missing);
	return kinds.size >= 2 && names.counts[CellKind.figure] === 0;
}
// core/findings/attribute-rows.ts
/** Rows of name and value, several to a record: the names become columns. */
var attributeRows = {
	name: "attribute-rows",
	find(input) {
		const { profile } = input;
		if (profile.columns.length < 3 || profile.columns.length > 6 || profile.rows < 4) return [];
		for (const names of profile.columns) {
			if (names.counts[CellKind.text] < profile.rows) continue;
			const distinct = /* @__PURE__ */ new Set();
			for (let r = 0; r < profile.rows && distinct.size <= 40; r++) distinct.add(textAt(names, r));
			if (distinct.size < 2 || distinct.size > 40 || distinct.size > profile.rows / 2) continue;
			for (const values of profile.columns) {
				if (values === names || !mixes(profile, names, values, distinct)) continue;
				if (!once(profile, profile.columns.filter((column) => column !== names && column !== values), names)) continue;
				return [{
					steps: [{
						kind: "pivot",
						params: {
							names: [names.name],
							values: [{
								column: values.name,
								by: "only"
							}]
						},
						why: `${names.name} holds names (${[...distinct].slice(0, 3).join(", ")} …), and ${values.name} contains their values of different types, once per record`
					}],
					weight: 2.2,
					doubt: { code: "name-value-rows" }
				}];
			}
		}
		return [];
	}
};
/** Under the names the values are of different kinds, and under each of one. */
function mixes(profile, names, values, distinct) {
	const kinds = /* @__PURE__ */ new Map();
	for (let r = 0; r < profile.rows; r++) {
		const own = kinds.get(textAt(names, r)) ?? [
			0,
			0,
			0,
			0,
			0,
			0
		];
		own[values.kinds[r]]++;
		kinds.set(textAt(names, r), own);
	}
	const leading = /* @__PURE__ */ new Set();
	let [pure, all] = [0, 0];
	for (const counts of kinds.values()) {
		const told = [
			counts[CellKind.figure],
			counts[CellKind.text],
			counts[CellKind.date]
		];
		const most = Math.max(...told);
		if (most === 0) continue;
		leading.add(told.indexOf(most));
		pure += most;
		all += told[0] + told[1] + told[2];
	}
	return leading.size >= 2 && distinct.size >= 2 && pure >= all * .95;
}
function once(profile, keys, names) {
	if (keys.length === 0) return false;
	const seen = /* @__PURE__ */ new Set();
	const records = /* @__PURE__ */ new Set();
	for (let r = 0; r < profile.rows; r++) {
		const key = keys.map((column) => column.codes[r]).join("/");
		records.add(key);
		const full = `${key}/${names.codes[r]}`;
		if (seen.has(full)) return false;
		seen.add(full);
	}
	return records.size >= 2 && records.size <= profile.rows * .6;
}
// core/findings/sum-columns.ts
/** Columns that sum others of the same row: quarters, totals of the year, totals beside a cross table. */
var sumColumns = {
	name: "sum-columns",
	find(input) {
		const body = bodyOf(input);
		const rows = body.rowsOf("data");
		const all = body.figures;
		if (all.length < 2 || rows.length === 0) return [];
		const found = sumColumnsOf(all.map((column) => column.values), rows);
		const positioned = isPositioned(input.raw);
		const proven = new Set(found.map(({ column }) => column));
		const groups = groupSums(input.profile, all, rows).filter((k) => !proven.has(k));
		const named = (found.length + groups.length === 0 && !positioned ? [] : [...all.keys()]).filter((k) => !proven.has(k) && !groups.includes(k) && saysSum(lastTier(all[k].name)));
		if (proven.size + named.length + groups.length > all.length - 1) return [];
		const steps = [];
		const names = (of) => [...of].sort((a, b) => a - b).map((k) => all[k].name);
		const every = input.profile.columns.map((column) => column.name);
		if (proven.size + named.length > 0) {
			const going = names([...proven, ...named]);
			steps.push({
				kind: "set-aside-columns",
				params: {
					columns: columnsBy(going, every),
					pile: "totals"
				},
				why: found.length === 0 ? `${few(going)}: called a total` : `${few(going)}: ${sumText(found, all)}`
			});
		}
		if (groups.length > 0) {
			const going = names(groups);
			steps.push({
				kind: "set-aside-columns",
				params: {
					columns: columnsBy(going, every),
					pile: "group figures"
				},
				why: `${few(going)}: repeats the sum of another column on each row of its group`
			});
		}
		if (steps.length === 0) return [];
		const [called] = named;
		return [{
			steps,
			weight: found.length + groups.length === 0 ? .3 : 2,
			doubt: doubtOf(found, all, called),
			explained: {
				fit: found.reduce((sum, one) => sum + one.fit, 0),
				of: found.reduce((sum, one) => sum + one.figures, 0)
			},
			sums: found.map(({ column, of }) => ({
				name: all[column].name,
				of: of.map((k) => all[k].name)
			}))
		}];
	}
};
var searched = /* @__PURE__ */ new WeakMap();
/** Methods that are followed at once ask for the same columns over the same rows. */
function sumColumnsOf(columns, rows) {
	const known = searched.get(columns[0]) ?? [];
	const same = known.find((one) => areSameItems(one.columns, columns) && areSameItems(one.rows, rows));
	if (same !== void 0) return same.found;
	const found = findSumColumns(columns, rows);
	searched.set(columns[0], [...known, {
		columns,
		rows,
		found
	}]);
	return found;
}
function doubtOf(found, all, called) {
	if (called !== void 0) return {
		code: "called-total",
		column: all[called].name
	};
	const pair = found.find((one) => one.of.length === 2 && !saysSum(lastTier(all[one.column].name)));
	return pair === void 0 ? void 0 : {
		code: "sum-of-two",
		column: all[pair.column].name
	};
}
function sumText(found, all) {
	const [{ kind, of }] = found;
	const fit = found.reduce((sum, one) => sum + one.fit, 0);
	const rows = found.reduce((sum, one) => sum + one.figures, 0);
	const parts = of.slice(0, 3).map((k) => all[k].name);
	return `the ${kind} of ${of.length} columns, as ${parts.join(" + ")}${of.length > 3 ? " …" : ""}, in ${fit} of ${rows} rows`;
}
/**
* Columns that say the sum of another over a group of rows on each row of the group, as sums inside nested text do.
* Indexes into the columns of figures.
*/
function groupSums(profile, all, rows) {
	if (rows.length < 3) return [];
	return [...all.keys()].filter((k) => {
		const column = all[k];
		const keys = profile.columns.filter((one) => one.index < column.index && !all.includes(one));
		return all.some((parts, p) => p !== k && isSumOver(column, parts, keys, rows));
	});
}
function isSumOver(column, parts, keys, rows) {
	let [groups, several, from, sum] = [
		0,
		0,
		0,
		0
	];
	const same = (a, b) => column.values[a] === column.values[b] && keys.every((key) => key.codes[a] === key.codes[b]);
	for (let n = 0; n < rows.length; n++) {
		const value = parts.values[rows[n]];
		sum += Number.isNaN(value) ? 0 : value;
		if (n + 1 < rows.length && same(rows[n], rows[n + 1])) continue;
		const whole = column.values[rows[n]];
		if (Number.isNaN(whole) || Math.abs(whole - sum) > 1e-6 + 1e-9 * Math.abs(sum)) return false;
		groups++;
		if (n > from) several++;
		[from, sum] = [n + 1, 0];
	}
	return groups >= 2 && several >= 2;
}
var lastTier = (name) => name.split(" / ").find(saysSum) ?? name;
/** Columns by what their names have in common, so that next month's are found too; by name where that is all. */
function columnsBy(names, all) {
	const others = all.filter((name) => !names.includes(name)).map((name) => name.toLowerCase());
	const lower = names.map((name) => name.toLowerCase());
	if (names.length > 1) {
		const word = common(lower).replace(/[\d\s]+$/, "");
		if (word.length >= 3 && others.every((name) => !name.startsWith(word))) return {
			by: "starts",
			text: names[0].slice(0, word.length)
		};
		const back = [...common(lower.map((name) => [...name].reverse().join("")))].reverse().join("").trim();
		if (back.length >= 3 && others.every((name) => !name.endsWith(back))) return {
			by: "ends",
			text: names[0].slice(names[0].length - back.length)
		};
	}
	return {
		by: "names",
		names: [...names]
	};
}
function common(names) {
	let front = names[0];
	for (const name of names) while (!name.startsWith(front)) front = front.slice(0, -1);
	return front;
}
// core/findings/change-columns.ts
/** Rows in which a change must be met, and the share of them. */
var MIN_ROWS$2 = 3;
var MIN_SHARE$1 = .95;
/** Periods of a report that are compared with each other. */
var MAX_PERIODS = 24;
/** Columns that say how much one period of the same row differs from another, as a difference or in percent. */
var changeColumns = {
	name: "change-columns",
	find(input) {
		const body = bodyOf(input);
		const rows = body.rowsOf("data");
		const periods = periodsOf(body.figures, rows);
		if (rows.length < MIN_ROWS$2 || periods.length < 2 || periods.length > MAX_PERIODS) return [];
		const used = new Set(periods.flatMap(({ columns }) => columns));
		const found = body.figures.flatMap((column) => {
			if (used.has(column)) return [];
			const said = changeOf(column, periods, rows);
			return said === void 0 ? [] : [{
				column,
				said
			}];
		});
		if (found.length === 0) return [];
		const names = found.map(({ column }) => column.name);
		return [{
			steps: [{
				kind: "set-aside-columns",
				params: {
					columns: columnsBy(names, input.profile.columns.map((column) => column.name)),
					pile: "changes"
				},
				why: `${few(names)}: ${found[0].said}, calculated from them`
			}],
			weight: 1.5
		}];
	}
};
/** Columns under the name of a period, alone or as the upper tier over others. */
function periodsOf(figures, rows) {
	const groups = [...groupedBy$1(figures, ({ name }) => name.split(" / ")[0])];
	const kinds = nameKinds(groups.map(([name]) => name));
	return groups.flatMap(([name, columns], k) => {
		if (kinds[k] === void 0 || kinds[k] === "class") return [];
		return [{
			name,
			columns,
			values: Float64Array.from(rows, (r) => columns.reduce((sum, column) => sum + column.values[r], 0))
		}];
	});
}
/** How a column follows from two periods, in a few words; undefined where it does not. */
function changeOf(column, periods, rows) {
	const ways = [
		[(a, b) => `the change from ${a} to ${b} in percent`, (a, b) => 100 * (b / a - 1)],
		[(a, b) => `the change from ${a} to ${b}`, (a, b) => b / a - 1],
		[(a, b) => `${b} in percent of ${a}`, (a, b) => 100 * b / a],
		[(a, b) => `the difference between ${b} and ${a}`, (a, b) => b - a]
	];
	const decimals = Math.max(...rows.map((r) => Number.isNaN(column.values[r]) ? 0 : decimalsOf(column.values[r])));
	const slack = .5 * 10 ** -Math.min(6, decimals) + 1e-9;
	const pairs = periods.flatMap((from) => periods.flatMap((to) => to === from ? [] : [[from, to]]));
	for (const [from, to] of pairs) for (const [said, of] of ways) if (isMet$1(column, rows, (n) => of(from.values[n], to.values[n]), slack)) return said(from.name, to.name);
}
/** Nearly all rows that can be compared hold what is wanted in the n-th of them. */
function isMet$1(column, rows, wantedAt, slack) {
	const mostMissed = rows.length * .050000000000000044;
	let [missed, all] = [0, 0];
	for (const [n, r] of rows.entries()) {
		const [value, wanted] = [column.values[r], wantedAt(n)];
		if (Number.isNaN(value) || !Number.isFinite(wanted)) continue;
		all++;
		if (Math.abs(value - wanted) > slack) missed++;
		if (missed > mostMissed) return false;
	}
	return all >= MIN_ROWS$2 && all - missed >= all * MIN_SHARE$1;
}
// core/findings/continued.ts
/** What a label says behind itself where its group goes on, as in 'North (continued)'. */
var BEHIND$1 = /^(?<label>.*\S)(?<mark>\s*(?:\(\p{L}{2,}\.?\)|[-–,]\s*\p{L}{3,}\.?))$/u;
/** What a label says once the word for going on is taken off; undefined where there is none. */
function continuedLabel(text) {
	const { label, mark } = BEHIND$1.exec(text)?.groups ?? {};
	return label === void 0 || mark === void 0 ? void 0 : {
		label,
		mark
	};
}
/** Labels that stand again on the next page, with a word behind them. */
var continued = {
	name: "continued",
	find({ profile }) {
		const steps = profile.table.fields.flatMap((field) => {
			if (field.nameOrigin !== "beside") return [];
			const texts = usedTexts(field.column);
			const again = [...texts].flatMap((text) => {
				const found = continuedLabel(text);
				return found !== void 0 && texts.has(found.label) ? [found.mark] : [];
			});
			const [mark] = again;
			if (mark === void 0 || again.some((other) => other !== mark)) return [];
			return [{
				kind: "replace",
				params: {
					columns: {
						by: "names",
						names: [field.name]
					},
					find: mark,
					with: "",
					how: "part",
					exact: true
				},
				why: `${counted(again.length, "label")} repeated with '${mark.trim()}' at the end`
			}];
		});
		return steps.length === 0 ? [] : [{
			steps,
			weight: .8
		}];
	}
};
// core/findings/count-columns.ts
/** Columns of codes that are counted, and different codes in them. */
var MIN_CODED = 3;
var MAX_CODES$2 = 12;
var MIN_ROWS$1 = 3;
/** Columns of numbers behind a plan or a register that count its codes row by row. */
var countColumns = {
	name: "count-columns",
	find(input) {
		const body = bodyOf(input);
		const rows = body.rowsOf("data");
		const coded = body.keys.filter((column) => column.counts[CellKind.text] > 0).slice(1);
		if (rows.length < MIN_ROWS$1 || coded.length < MIN_CODED) return [];
		const codes = /* @__PURE__ */ new Set();
		for (const column of coded) for (const r of rows) {
			codes.add(textAt(column, r));
			if (codes.size > MAX_CODES$2) return [];
		}
		codes.delete("");
		const countOf = (r, wanted) => coded.filter((column) => wanted(textAt(column, r))).length;
		const ways = [...codes].flatMap((code) => [{
			said: `how many are ${code}`,
			counts: rows.map((r) => countOf(r, (text) => text === code))
		}, {
			said: `how many are not ${code}`,
			counts: rows.map((r) => countOf(r, (text) => text !== "" && text !== code))
		}]);
		const found = body.figures.flatMap((column) => {
			const way = ways.find(({ counts }) => new Set(counts).size > 1 && isEach(column, rows, counts));
			return way === void 0 || column.index < coded.at(-1).index ? [] : [{
				column,
				said: way.said
			}];
		});
		if (found.length === 0) return [];
		const names = found.map(({ column }) => column.name);
		return [{
			steps: [{
				kind: "set-aside-columns",
				params: {
					columns: columnsBy(names, input.profile.columns.map((column) => column.name)),
					pile: "counts"
				},
				why: `${few(names)}: counted from the ${coded.length} columns of codes, as ${found[0].said}`
			}],
			weight: 1.5
		}];
	}
};
function isEach(column, rows, counts) {
	return rows.every((r, n) => column.values[r] === counts[n]);
}
// core/findings/ditto.ts
/** Signs and words for 'as above' (common practice). */
var DITTO = /^(?:["″〃„”“]|''|``|´´|»|ditto|dito|dto\.?|idem|id\.|do\.)$/iu;
/** Cells that say that they hold what stands above them. */
var ditto = {
	name: "ditto",
	find({ profile, within }) {
		const found = /* @__PURE__ */ new Map();
		let cells = 0;
		for (const column of profile.columns) {
			if (column.counts[CellKind.text] === 0) continue;
			let hasValue = false;
			const signs = /* @__PURE__ */ new Set();
			for (let r = 0; r < profile.rows; r++) {
				const text = textAt(column, r);
				if (text === "") continue;
				const isDitto = DITTO.test(text);
				if (isDitto && !hasValue) break;
				if (isDitto) signs.add(text);
				if (isDitto) cells++;
				hasValue = true;
			}
			if (signs.size > 0) found.set(column, signs);
		}
		if (found.size === 0) return [];
		const columns = {
			by: "names",
			names: [...found.keys()].map((column) => column.name)
		};
		const signs = [...new Set([...found.values()].flatMap((own) => [...own]))];
		const why = `${counted(cells, "cell")} with ${signs.join(" ")} for what stands above`;
		return [{
			steps: [{
				kind: "blank-texts",
				params: {
					columns,
					texts: signs,
					exact: true
				},
				why
			}, {
				kind: "fill",
				params: {
					columns,
					direction: "down",
					...within === void 0 ? {} : { within }
				},
				why
			}],
			weight: 1.4
		}];
	}
};
// core/findings/flags.ts
/** Letters of a flag. */
var MAX_FLAG = 3;
var MIN_PAIRS = 2;
/** A column without a name behind each of several periods, with letters that say something of the figures before them. */
var flags = {
	name: "flags",
	find({ profile }) {
		const kinds = nameKinds(profile.columns.map((column) => column.name));
		const pairs = profile.columns.flatMap((value, k) => {
			const flag = profile.columns[k + 1];
			return kinds[k] !== void 0 && value.counts[CellKind.figure] > 0 && flag !== void 0 && isFlag(flag, profile.rows) ? [{
				value,
				flag,
				kind: kinds[k]
			}] : [];
		});
		const periods = kinds.filter((kind) => kind !== void 0).length;
		if (pairs.length < MIN_PAIRS || pairs.length < periods) return [];
		const flagged = pairs.flatMap(({ value, flag }) => [{
			from: value.name,
			to: `${value.name} / Value`
		}, {
			from: flag.name,
			to: `${value.name} / Flag`
		}]);
		const gone = new Set(flagged.map(({ from }) => from));
		const others = new Set(profile.table.fields.map(({ name }) => name).filter((name) => !gone.has(name)));
		const down = uniqueName(columnOfKinds(pairs.map(({ kind }) => kind)), others);
		return [{
			steps: [{
				kind: "rename",
				params: { names: flagged },
				why: `an unnamed column after each of ${few(pairs.map(({ value }) => value.name))}, with letters in it`
			}, {
				kind: "unpivot",
				params: {
					columns: {
						by: "contains",
						text: " / "
					},
					split: " / ",
					template: null,
					pattern: null,
					parts: [{
						as: "column",
						name: down
					}, { as: "each" }],
					value: uniqueName("Value", others),
					blanks: "drop"
				},
				why: `${few(pairs.map(({ value }) => value.name))} go down, each with its flag`
			}],
			weight: 2.8,
			doubt: { code: "letters-beside-figures" },
			gives: `a value and a flag for each ${down.toLowerCase()}`
		}, {
			steps: [],
			weight: 0,
			gives: "columns unchanged"
		}];
	}
};
function isFlag(column, rows) {
	if (!column.isUnnamed || column.counts[CellKind.figure] > 0) return false;
	for (let r = 0; r < rows; r++) if (textAt(column, r).length > MAX_FLAG) return false;
	return true;
}
// core/findings/footnote-marks.ts
/** Footnote marks behind figures. */
var footnoteMarks = {
	name: "marks",
	find(input) {
		const body = bodyOf(input);
		const found = /* @__PURE__ */ new Set();
		let cells = 0;
		const columns = body.figures.filter((column) => {
			const own = marksOf(column);
			for (const [mark, count] of own) {
				found.add(mark);
				cells += count;
			}
			return own.size > 0;
		});
		if (columns.length === 0) return [];
		return [{
			steps: [{
				kind: "replace",
				params: {
					columns: columns.length === body.figures.length && body.figures.length > 1 && body.keys.length > 0 ? {
						by: "all-but",
						names: body.keys.map((column) => column.name).concat(besideOf$1(input.profile.table))
					} : {
						by: "names",
						names: columns.map((column) => column.name)
					},
					find: `\\s?(?:${[...found].map(escapeRegExp).join("|")})$`,
					with: "",
					how: "pattern",
					exact: true
				},
				why: `${counted(cells, "figure")} followed by a mark: ${[...found].join(" ")}`
			}],
			weight: 1
		}];
	}
};
function besideOf$1(table) {
	return table.fields.filter((field) => field.nameOrigin === "beside").map((field) => field.name);
}
/** Marks behind the figures of a column, with how many cells have each. */
function marksOf(column) {
	const marked = /* @__PURE__ */ new Map();
	column.texts.forEach((text, code) => {
		const plain = text.trim();
		const mark = MARK.exec(plain)?.[0].trim();
		if (mark === void 0 || !/\d/.test(plain) || /^[kKmM%]$/.test(mark)) return;
		if (mark === plain) return;
		marked.set(code, mark);
	});
	const found = /* @__PURE__ */ new Map();
	if (marked.size === 0) return found;
	for (let r = 0; r < column.codes.length; r++) {
		if (column.kinds[r] !== CellKind.figure) continue;
		const mark = marked.get(column.codes[r]);
		if (mark !== void 0) found.set(mark, (found.get(mark) ?? 0) + 1);
	}
	return found;
}
// core/findings/templates.ts
/** Texts that are built alike, as messages of a log: what stands the same in each, and the pieces between. */
var templates = {
	name: "templates",
	find(input) {
		const { profile } = input;
		const steps = [];
		let isWhole = true;
		let unlike = 0;
		for (const column of profile.columns) {
			if (column.counts[CellKind.text] < Math.max(MIN_TEXTS, profile.rows * .9)) continue;
			const texts = distinctTexts(column, MAX_TEXTS$2, (kind) => kind === CellKind.text);
			const found = commonestTemplate(texts, column.name);
			if (found === void 0) continue;
			if (found.others > 0 && !isWhole) continue;
			isWhole &&= found.others === 0;
			unlike = Math.max(unlike, found.others / texts.length);
			steps.push(...found.others > 0 ? [keeping(column, found)] : [], ...takingApart(column, found));
		}
		if (steps.length === 0) return [];
		const doubt = { code: isWhole ? "texts-of-one-form" : "other-forms" };
		return [{
			steps,
			weight: isWhole ? 2 : 1.6 - OTHERS * unlike,
			doubt,
			gives: "texts split into parts"
		}, {
			steps: [],
			weight: 0,
			gives: "texts unchanged"
		}];
	}
};
/** What rows of other forms, which are left out, speak against one form of all. */
var OTHERS = 2;
function keeping(column, { pattern, shown, others }) {
	return {
		kind: "keep-rows",
		params: { rules: [{
			test: "matches",
			column: column.name,
			text: pattern
		}] },
		why: `most texts in ${column.name} have one form: ${shown}; ${counted(others, "other")} ${others === 1 ? "is" : "are"} not`
	};
}
function takingApart(column, { pattern, shown }) {
	return [{
		kind: "extract",
		params: {
			column: column.name,
			by: "pattern",
			pattern
		},
		why: `all texts in ${column.name} have one form: ${shown}`
	}, {
		kind: "drop-columns",
		params: { columns: {
			by: "names",
			names: [column.name]
		} },
		why: "split into its parts"
	}];
}
/** Share of the texts that one template must fit. */
var COMMON = .5;
/** Words by which texts are distinguished from others, the commonest first. */
var MAX_WORDS = 12;
/** The template of all texts, or of the most that share a word. */
function commonestTemplate(texts, name) {
	const all = templateOf(texts, name);
	if (all !== void 0) return {
		...all,
		others: 0
	};
	const byWord = /* @__PURE__ */ new Map();
	for (const text of texts) for (const word of new Set(text.match(TOKEN))) if (/^\p{L}[\p{L}-]+$/u.test(word)) byWord.set(word, [...byWord.get(word) ?? [], text]);
	const families = [...byWord.values()].filter((family) => family.length >= texts.length * COMMON && family.length < texts.length).sort((a, b) => b.length - a.length).slice(0, MAX_WORDS);
	for (const family of families) {
		const found = templateOf(family, name);
		if (found !== void 0) return {
			...found,
			others: texts.length - family.length
		};
	}
}
var MAX_TEXTS$2 = 600;
/** Texts that show a form. */
var MIN_TEXTS = 8;
/** Words and signs one by one; the sign of a figure is part of it. */
var TOKEN = /(?:(?<![\p{L}\p{M}\p{N}_)])[-+−](?=\p{N}))?[\p{L}\p{M}\p{N}_]+(?:[-/.,][\p{L}\p{M}\p{N}_]+)*|[^\s]/gu;
/** Tokens that stand exactly once in each text, in one order, with other things between. */
function templateOf(texts, name, least = MIN_TEXTS) {
	if (texts.length < least || texts.some((text) => text.length > 300)) return void 0;
	const tokens = texts.map((text) => text.match(TOKEN) ?? []);
	if (tokens.some((own) => own.length < 4)) return void 0;
	const countIn = (own, token) => own.filter((one) => one === token).length;
	const first = tokens[0].filter((token) => !/^[-+−]?\d/.test(token) && tokens.every((own) => countIn(own, token) === countIn(tokens[0], token)));
	const anchors = tokens.every((own) => own.filter((one) => first.includes(one)).join(" ") === first.join(" ")) ? first : [];
	const isSentence = anchors.filter((token) => /^\p{L}{2,}$/u.test(token)).length >= 3;
	if (anchors.length < 2 || !(isSentence || anchors.some((token) => /[^\p{L}\p{M}_-]/u.test(token))) || anchors.every((token) => token === "-" || token === ".")) return void 0;
	for (let k = anchors.length - 1; k >= 0; k--) {
		const word = escapeRegExp(anchors[k]);
		const beside = [new RegExp(`${word}\\s+\\p{Lu}`, "u"), new RegExp(`\\p{Lu}[\\p{L}-]*\\s+${word}(?!\\p{L})`, "u")];
		if (/^\p{Lu}\p{Ll}+$/u.test(anchors[k]) && beside.some((form) => texts.every((text) => form.test(text)))) anchors.splice(k, 1);
	}
	const gaps = texts.map((text) => {
		const found = [];
		let at = 0;
		for (const anchor of anchors) {
			const next = text.indexOf(anchor, at);
			found.push(text.slice(at, next).trim());
			at = next + anchor.length;
		}
		return [...found, text.slice(at).trim()];
	});
	const used = Array.from({ length: anchors.length + 1 }, (_, k) => gaps.filter((own) => own[k] !== "").length);
	if (used.some((count) => count > 0 && count < texts.length * .95)) return void 0;
	const varied = used.flatMap((count, k) => count > 0 && new Set(gaps.map((own) => own[k])).size > 1 ? [k] : []);
	if (varied.length < 2 || gaps.some((own) => own.some((piece) => piece.length > 60))) return void 0;
	const taken = /* @__PURE__ */ new Set();
	let pattern = "^\\s*";
	let shown = "";
	for (let k = 0; k <= anchors.length; k++) {
		if (used[k] > 0) {
			const [before, after] = [anchors[k - 1], anchors[k]];
			let own = (gaps.every((own) => /^\d+$/.test(own[k])) && after !== void 0 && /^\p{Ll}{3,}$/u.test(after) && !(before !== void 0 && /^\p{L}{5,}$/u.test(before)) ? after : before !== void 0 && /^\p{L}[\p{L}_]*$/u.test(before) ? before : `${name} ${varied.indexOf(k) + 1}`).normalize("NFD").replace(/[^\w]+/g, "_").replace(/^(?=\d)/, "_");
			while (taken.has(own)) own = `${own}_${taken.size}`;
			taken.add(own);
			pattern += varied.includes(k) ? `(?<${own}>.+?)\\s*` : `${escapeRegExp(gaps[0][k])}\\s*`;
			shown += varied.includes(k) ? `{${own}}` : gaps[0][k];
		}
		if (k < anchors.length) {
			pattern += `${escapeRegExp(anchors[k])}\\s*`;
			shown += ` ${anchors[k]} `;
		}
	}
	return {
		pattern: `${pattern}$`,
		shown: shown.replace(/\s+/g, " ").trim()
	};
}
// core/findings/formed-lines.ts
/** Lines of one form that make a list, and columns beside them, such as that of their bullets. */
var MIN_LINES = 5;
var MAX_COLUMNS$1 = 3;
/** A list in a text without a header: lines of one form, with other lines only above and below. */
var formedLines = {
	name: "formed-lines",
	find({ profile, raw }) {
		if (!isPositioned(raw) || profile.columns.length > MAX_COLUMNS$1) return [];
		for (const column of profile.columns) {
			const [from, to] = longestRun(profile, column);
			if (to - from < MIN_LINES) continue;
			const texts = Array.from({ length: to - from }, (_, k) => textAt(column, from + k));
			const found = templateOf([...new Set(texts)], column.name, MIN_LINES);
			if (found === void 0) continue;
			const others = profile.filled.filter((filled, r) => filled > 0 && (r < from || r >= to)).length;
			const beside = profile.columns.filter((one) => one !== column);
			if (others > texts.length || beside.some((one) => !isBullet(one, from, to))) continue;
			const steps = [...others > 0 ? [keeping(column, {
				...found,
				others
			})] : [], ...takingApart(column, found)];
			if (beside.length > 0) steps.push({
				kind: "drop-columns",
				params: { columns: {
					by: "names",
					names: beside.map(({ name }) => name)
				} },
				why: "signs in front of the lines"
			});
			return [{
				steps,
				weight: 3,
				doubt: { code: "texts-of-one-form" },
				gives: `${counted(texts.length, "line")} of one form`
			}];
		}
		return [];
	}
};
/** Rows of the longest stretch without a gap in which the column has a text: from the first up to behind the last. */
function longestRun(profile, column) {
	let best = [0, 0];
	let from = 0;
	for (let r = 0; r <= profile.rows; r++) {
		if (r < profile.rows && column.kinds[r] === CellKind.text) continue;
		if (r - from > best[1] - best[0]) best = [from, r];
		from = r + 1;
	}
	return best;
}
/** Within the rows the column holds one sign alone, or nothing. */
function isBullet(column, from, to) {
	const texts = /* @__PURE__ */ new Set();
	for (let r = from; r < to; r++) texts.add(textAt(column, r));
	const [text = ""] = texts;
	return texts.size === 1 && text.length <= 2 && !/[\p{L}\p{N}]/u.test(text) && distinctTexts(column, 9).length < 9;
}
// core/findings/column-sets.ts
/** The first of some sets that picks just these columns: said by a rule, next month's are found too. */
function firstPicking(table, names, sets) {
	const wanted = new Set(names);
	return sets.find((set) => {
		const picked = chosenColumns(set, table);
		return picked.length === wanted.size && picked.every((k) => wanted.has(table.fields[k].name));
	});
}
// core/findings/headers-as-values.ts
var MAY_BE_CLASSES = { code: "may-be-classes" };
/** Column names that are values: periods and classes across that go down, over one or more tiers. */
var headersAsValues = {
	name: "across",
	find(input) {
		const body = bodyOf(input);
		const crossed = markedColumns(body);
		if (crossed.length >= MIN_CROSSED) return [goingDown(input, crossed, [], CROSSED), {
			steps: [],
			weight: 0,
			gives: "keep the columns"
		}];
		const going = withoutKeys(input, movable(body));
		if (going.length < 2) return [];
		const stay = {
			steps: [],
			weight: 0,
			gives: "keep the columns"
		};
		const rated = ratings(going);
		if (rated.length > 0) return [ratingsDown(input, rated), stay];
		const tiered = going.filter((column) => column.name.includes(" / "));
		if (tiered.length >= 2 && tiered.length >= going.length * .5) return [...byTiers(input, body, tiered), stay];
		const kinds = nameKinds(going.map((column) => column.name));
		const named = going.filter((_, k) => kinds[k] !== void 0 && kinds[k] !== "class");
		const classes = going.filter((_, k) => kinds[k] === "class");
		if (named.length >= 2 && isQuestions(named)) return [{
			...stay,
			doubt: {
				code: "may-be-quarters",
				names: named.map(({ name }) => name)
			}
		}];
		if (named.length >= 2) return [goingDown(input, named, nameKinds(named.map((c) => c.name)), 2.5), stay];
		if (classes.length >= 2 && classes.length >= going.length - 1) return [goingDown(input, classes.length === going.length - 1 ? going : classes, kinds, 2), stay];
		const common = commonSplit(going.map((column) => column.name));
		if (common !== void 0) return [...bySplit(input, going, common), stay];
		if (going.some((column) => column.isUnnamed)) return [];
		const weight = crossWeight(input, body, going);
		if (weight > -.5) return [goingDown(input, going, [], weight), {
			...stay,
			doubt: MAY_BE_CLASSES
		}];
		if (isRecords(body, going)) return [];
		return sameDecimals(going.map((column) => profileOf([column], body))) ? [{
			...stay,
			doubt: MAY_BE_CLASSES
		}] : [];
	}
};
/** Columns that a sum across must cover to show that the others are keys, such as numbers of accounts. */
var MIN_SUMMED = 3;
/** Where one sum covers all columns from its first to its last, figures in front of the first are keys. */
function withoutKeys(input, going) {
	const summed = input.sums.find(({ of }) => of.length >= MIN_SUMMED)?.of;
	if (summed === void 0 || input.sums.length > 1) return going;
	const own = going.filter(({ name }) => summed.includes(name));
	const behind = going.filter(({ index }) => index >= (own[0]?.index ?? 0));
	const areKeys = going.filter(({ index }) => index < (own[0]?.index ?? 0)).every(({ values }) => values.every((value) => Number.isNaN(value) || Number.isInteger(value)));
	return own.length === summed.length && behind.length === own.length && areKeys ? own : going;
}
/** Columns of figures, and those that are blank throughout between them. */
function movable(body) {
	const figures = new Set(body.figures.map((column) => column.index));
	const kinds = nameKinds(body.profile.columns.map((column) => column.name.split(" / ")[0]));
	const coded = codedPeriods(body.profile.columns, kinds);
	const inGrid = gridColumns(body);
	return body.profile.columns.filter((column, k) => {
		if (figures.has(column.index)) return true;
		const blank = column.counts[CellKind.blank] + column.counts[CellKind.missing] === body.profile.rows;
		if (coded.has(k) || inGrid.has(k)) return true;
		return kinds[k] !== void 0 && (blank || column.counts[CellKind.figure] > 0);
	});
}
/** Columns under two tiers of which each text of the upper stands over the same names: with figures under some, all go. */
function gridColumns({ profile: { columns }, figures }) {
	const tiered = columns.flatMap(({ name }, k) => {
		const [upper, lower, ...more] = name.split(" / ");
		return lower === void 0 || more.length > 0 ? [] : [{
			k,
			upper,
			lower
		}];
	});
	const groups = [...groupedBy$1(tiered, ({ upper }) => upper).values()];
	const lowers = groups.map((own) => own.map(({ lower }) => lower).join("\n"));
	const isGrid = groups.length >= 2 && groups[0].length >= 2 && new Set(lowers).size === 1;
	const hasFigures = tiered.some(({ k }) => figures.includes(columns[k]));
	return new Set(isGrid && hasFigures ? tiered.map(({ k }) => k) : []);
}
/** Every tier of the names goes down, and one mark is left in each row. */
function ratingsDown(input, going) {
	const names = going.map((column) => column.name);
	const depth = Math.max(...names.map((name) => name.split(" / ").length));
	const taken = new Set(othersThan(input, names));
	const parts = Array.from({ length: depth }, (_, t) => ({
		as: "column",
		name: uniqueName(t === 0 ? "Question" : "Part", taken)
	}));
	return {
		steps: [{
			kind: "unpivot",
			params: {
				columns: setOf(input, names),
				split: depth > 1 ? " / " : null,
				template: null,
				pattern: null,
				parts,
				value: uniqueName("Answer", taken),
				blanks: "drop"
			},
			why: `${shownNames(names)}: questions, answered on one scale`
		}],
		weight: 2.4,
		doubt: {
			code: "may-be-measures",
			names
		},
		gives: `${names.length} questions go down`
	};
}
/** Answers on a scale under Q1, Q2, Q3: questions, where quarters would count something. */
function isQuestions(columns) {
	if (!columns.every(({ name }) => /^[QF]\d{1,2}$/i.test(name))) return false;
	return columns.every(({ values }) => !Number.isNaN(highestMark(values, 0)));
}
/** Different texts of a column that are looked at. */
var MAX_PAIRED = 200;
var NAME_AND_FIGURE = /^\p{L}[^()]*\([\d\s.,'%]+\)$/u;
/** Letters of a code, and different codes of a plan such as a rota. */
var MAX_CODE$1 = 6;
var MAX_CODES$1 = 15;
/** Columns of periods that hold a few short codes, the same ones under each. */
function codedPeriods(columns, kinds) {
	const own = columns.flatMap((column, k) => kinds[k] !== void 0 && column.counts[CellKind.text] > 0 ? [k] : []);
	const codes = new Set(own.flatMap((k) => distinctTexts(columns[k], 16)));
	const short = codes.size <= MAX_CODES$1 && [...codes].every((text) => text.length <= MAX_CODE$1);
	const isPaired = own.every((k) => distinctTexts(columns[k], MAX_PAIRED).every((text) => NAME_AND_FIGURE.test(text)));
	return new Set(own.length >= MIN_CROSSED && (short || isPaired) ? own : []);
}
var MIN_CROSSED = 3;
/** What speaks for columns that hold nothing but a mark: their names are what is marked. */
var CROSSED = 1.5;
/** Columns behind the keys that are blank or hold one and the same mark. */
function markedColumns(body) {
	const marks = body.profile.columns.map((column) => {
		const texts = column.counts[CellKind.figure] > 0 ? [] : distinctTexts(column, 16);
		return texts.length === 1 && texts[0].length <= 3 && column.counts[CellKind.blank] > 0 ? texts[0] : void 0;
	});
	const [mark] = marks.filter((text) => text !== void 0);
	const own = body.profile.columns.filter((_, k) => marks[k] === mark && mark !== void 0);
	return own.length >= MIN_CROSSED && own.every((column, k) => k === 0 || column.index === own[k - 1].index + 1) ? own : [];
}
function goingDown(input, going, kinds, weight) {
	const name = columnOfKinds(kinds);
	const periods = kinds.length > 0 && kinds.every((kind) => kind !== void 0);
	const blanks = going.some((column) => column.counts[CellKind.blank] > 0);
	const names = going.map((column) => column.name);
	return {
		steps: [{
			kind: "unpivot",
			params: {
				columns: setOf(input, names),
				split: null,
				template: null,
				pattern: null,
				parts: [{
					as: "column",
					name: freeName$1(input, names, name)
				}],
				value: freeName$1(input, names, "Value"),
				blanks: blanks ? "drop" : "keep"
			},
			why: periods ? `${shownNames(names)} are values of ${name.toLowerCase()}, not names of what is measured` : `${shownNames(names)} measure the same: ${input.sums.length > 0 ? "a column of the report sums them" : "figures of one kind under each"}`
		}],
		weight,
		...periods || weight >= 2.5 ? {} : { doubt: {
			code: "may-be-measures",
			names
		} },
		gives: `${names.length} columns go down as ${name}`
	};
}
/** Names that are all of one kind are recognized by it, so that next month's are found; else all but those that stay. */
function setOf(input, names) {
	return firstPicking(input.profile.table, names, [{ by: "year" }, { by: "month" }]) ?? allBut(input, names);
}
function allBut(input, names) {
	return {
		by: "all-but",
		names: othersThan(input, names)
	};
}
function othersThan(input, names) {
	return input.profile.table.fields.map((field) => field.name).filter((name) => !names.includes(name));
}
function freeName$1(input, gone, wanted) {
	return uniqueName(wanted, new Set(othersThan(input, gone)));
}
/** Each tier of the names is a value or the name of what is measured; the measures stay as columns. */
function byTiers(input, body, going) {
	const names = going.map((column) => column.name.split(" / "));
	const depth = Math.max(...names.map((tiers) => tiers.length));
	const tiers = Array.from({ length: depth }, (_, t) => {
		const texts = names.map((parts) => parts[t] ?? "");
		const distinct = [...new Set(texts.filter((text) => text !== ""))];
		const kinds = nameKinds(distinct);
		const told = kinds.filter((kind) => kind !== void 0);
		return {
			distinct,
			kinds,
			period: distinct.length > 0 && told.length >= distinct.length * .8
		};
	});
	return measuresAt(input, names, tiers, going, body).map(({ each, weight }, k) => {
		const columns = tiers.map((tier, t) => ({
			t,
			name: columnOfKinds(tier.kinds)
		}));
		const used = /* @__PURE__ */ new Set();
		const parts = columns.map(({ t, name }) => {
			if (t === each) return { as: "each" };
			let own = freeName$1(input, going.map((column) => column.name), name);
			while (used.has(own)) own = `${own} ${used.size + 1}`;
			used.add(own);
			return {
				as: "column",
				name: own
			};
		});
		const down = columns.filter(({ t }) => t !== each).map(({ name }) => name.toLowerCase());
		return {
			steps: [{
				kind: "unpivot",
				params: {
					columns: setOfTiers(input, going.map((column) => column.name)),
					split: " / ",
					template: null,
					pattern: null,
					parts,
					value: freeName$1(input, [], "Value"),
					blanks: going.some((column) => column.counts[CellKind.blank] > 0) ? "drop" : "keep"
				},
				why: each < 0 ? `all ${depth} tiers of the names are values` : `${shownNames(tiers[each].distinct)} ${tiers[each].distinct.length === 1 ? "is" : "are"} what is measured, under each of ${shownNames(tiers.filter((_, t) => t !== each).flatMap((tier) => tier.distinct))}`
			}],
			weight: weight - k * .01,
			...weight >= 2.4 ? {} : { doubt: { code: "open-tiers" } },
			gives: each < 0 ? "one column of figures" : `${down.join(" and ")} down, one column for each of ${shownNames(tiers[each].distinct)}`
		};
	});
}
function setOfTiers(input, names) {
	return firstPicking(input.profile.table, names, [{
		by: "contains",
		text: " / "
	}]) ?? allBut(input, names);
}
/** Which tier names what is measured, -1 for none, the likeliest first. */
function measuresAt(input, names, tiers, going, body) {
	const open = tiers.flatMap((tier, t) => tier.period ? [] : [t]);
	const periods = tiers.length - open.length;
	if (open.length === 0) return [{
		each: -1,
		weight: 2.5
	}];
	if (tiers.reduce((product, tier) => product * Math.max(1, tier.distinct.length), 1) > names.length * 1.6) return [];
	const summed = summedTiers(input, tiers.length);
	const isOfKinds = (t) => haveOwnKinds(going, names, t);
	const isClasses = (t) => summed.has(t) || tiers[t].distinct.length > 1 && likeProfiles(profilesOf(going, names, t, body));
	if (periods > 0) {
		const found = [];
		for (const t of open) {
			const proven = summed.size > 0 || !sameDecimals(profilesOf(going, names, t, body));
			found.push({
				each: t,
				weight: summed.has(t) ? .8 : proven ? 2.5 : 2.3
			});
		}
		found.push({
			each: -1,
			weight: open.every((t) => summed.has(t)) ? 2.6 : .4
		});
		return found.sort((a, b) => b.weight - a.weight);
	}
	const found = open.map((t) => ({
		each: t,
		weight: (isOfKinds(t) ? 2.5 : 1.2) + (summed.has(t) ? -1 : 0) + (isClasses(t) ? 0 : .3) + (t === tiers.length - 1 ? .2 : 0)
	}));
	found.push({
		each: -1,
		weight: open.every((t) => summed.has(t)) ? 2.6 : .5
	});
	return found.sort((a, b) => b.weight - a.weight);
}
/** Each text of a tier stands over cells of one kind, and not all over the same: times under one, numbers under another. */
function haveOwnKinds(going, names, tier) {
	const mostly = (column) => [
		CellKind.figure,
		CellKind.text,
		CellKind.date
	].reduce((a, b) => column.counts[b] > column.counts[a] ? b : a);
	const kinds = [...groupedBy$1(going.keys(), (k) => names[k][tier] ?? "").values()].map((own) => new Set(own.map((k) => mostly(going[k]))));
	return kinds.every((own) => own.size === 1) && new Set(kinds.map((own) => [...own][0])).size > 1;
}
/** Tiers over whose texts a column of the report sums: what it sums differs in that tier alone. */
function summedTiers(input, depth) {
	const found = /* @__PURE__ */ new Set();
	for (const { of } of input.sums) {
		const parts = of.map((name) => name.split(" / "));
		if (parts.some((one) => one.length !== depth)) continue;
		for (let t = 0; t < depth; t++) if (new Set(parts.map((one) => one[t])).size > 1) found.add(t);
	}
	return found;
}
/** Of the figures under each text of a tier. */
function profilesOf(going, names, tier, body) {
	return [...groupedBy$1(going.keys(), (k) => names[k][tier] ?? "").values()].map((own) => profileOf(own.map((k) => going[k]), body));
}
function profileOf(columns, body) {
	let [decimals, count, log] = [
		0,
		0,
		0
	];
	for (const column of columns) for (let r = 0; r < column.values.length && count < 2e3; r++) {
		const value = column.values[r];
		if (Number.isNaN(value) || body.roles[r] !== "data") continue;
		count++;
		decimals = Math.max(decimals, Math.min(3, decimalsOf(value)));
		log += Math.log10(1 + Math.abs(value));
	}
	return {
		decimals,
		size: count === 0 ? NaN : log / count
	};
}
/** As many decimals everywhere: sizes alone tell no measures from classes. */
function sameDecimals(profiles) {
	const filled = profiles.filter((one) => !Number.isNaN(one.size));
	return filled.length >= 2 && new Set(filled.map((one) => one.decimals)).size === 1;
}
function likeProfiles(profiles) {
	const filled = profiles.filter((one) => !Number.isNaN(one.size));
	if (filled.length < 2) return true;
	const decimals = new Set(filled.map((one) => one.decimals));
	const sizes = filled.map((one) => one.size);
	return decimals.size === 1 && Math.max(...sizes) - Math.min(...sizes) < .8;
}
/** Dates, words behind the figures, or more keys than a cross table has: rows are records, and figures their measures. */
function isRecords(body, going) {
	const front = body.keys.filter((column) => column.index < going[0].index);
	if (front.length < body.keys.length || front.length > 3) return true;
	return body.keys.some((column) => column.counts[CellKind.date] > column.counts[CellKind.text]);
}
/** How much speaks for a cross table, whose columns are classes of one measure. */
function crossWeight(input, body, going) {
	if (going.length < 2 || body.keys.length === 0) return -1;
	if (isRecords(body, going)) return -1;
	const front = body.keys.filter((column) => column.index < going[0].index);
	const names = going.map((column) => column.name);
	const like = likeProfiles(going.map((column) => profileOf([column], body)));
	if (input.sums.some(({ of }) => of.length >= Math.max(2, going.length * .6) && of.every((name) => names.includes(name)))) return 2.6;
	const corner = front.some((column) => column.isUnnamed && input.profile.table.fields[column.index].nameOrigin !== "beside");
	let weight = -1;
	if (like && going.length >= 3) weight += 1 + Math.min(.8, (going.length - 3) * .15);
	if (corner) weight += 1;
	if (going.some((column) => column.counts[CellKind.missing] > 0) && like) weight += .2;
	return going.every((column) => isYear(Number(column.name))) ? 2 : weight;
}
var SPLITTING = [
	" - ",
	" – ",
	": ",
	"_",
	" ",
	".",
	"-"
];
/** 'Jan plan', 'Plan - Jan': a sign at which every name falls into two, a kind of value and what is measured. */
function commonSplit(names) {
	for (const sign of SPLITTING) {
		if (names.some((name) => name.indexOf(sign) <= 0)) continue;
		for (const where of ["indexOf", "lastIndexOf"]) {
			const pairs = names.map((name) => {
				const place = name[where](sign);
				return [name.slice(0, place), name.slice(place + sign.length)];
			});
			for (const at of [0, 1]) {
				const values = [...new Set(pairs.map((pair) => pair[at]))];
				const measures = new Set(pairs.map((pair) => pair[at === 0 ? 1 : 0]));
				if (values.length < 2 || nameKinds(values).some((kind) => kind === void 0)) continue;
				if (measures.size * values.length <= names.length * 1.5) return {
					sign,
					at,
					pairs
				};
			}
		}
	}
}
function bySplit(input, going, { sign, at, pairs }) {
	const names = going.map((column) => column.name);
	const name = freeName$1(input, names, columnOfKinds(nameKinds([...new Set(pairs.map((pair) => pair[at]))])));
	const measures = [...new Set(pairs.map((pair) => pair[at === 0 ? 1 : 0]))];
	const greedy = names.some((one) => one.indexOf(sign) !== one.lastIndexOf(sign));
	const escaped = escapeRegExp(sign);
	const firstAt = names.every((one, k) => one.indexOf(sign) === pairs[k][0].length);
	const parts = at === 0 ? [{
		as: "column",
		name
	}, { as: "each" }] : [{ as: "each" }, {
		as: "column",
		name
	}];
	return [{
		steps: [{
			kind: "unpivot",
			params: {
				columns: setOfTiers(input, names),
				split: greedy ? null : sign,
				template: null,
				pattern: greedy ? firstAt ? `^(.+?)${escaped}(.+)$` : `^(.+)${escaped}(.+?)$` : null,
				parts,
				value: freeName$1(input, names, "Value"),
				blanks: going.some((column) => column.counts[CellKind.blank] > 0) ? "drop" : "keep"
			},
			why: `column names combine ${name.toLowerCase()} and measure (${shownNames(measures)})`
		}],
		weight: 2.2,
		gives: `${name.toLowerCase()} down, one column for each of ${shownNames(measures)}`
	}];
}
function shownNames(names) {
	return names.length <= 4 ? names.join(", ") : `${names.slice(0, 3).join(", ")} … ${names.at(-1)}`;
}
// core/findings/idle-columns.ts
/** Columns without a name that are blank throughout, as merged titles and margins leave them. */
var blankMargins = {
	name: "blank-margins",
	find({ profile }) {
		const blank = profile.columns.filter((column) => column.counts[CellKind.blank] === profile.rows && column.isUnnamed);
		if (profile.rows === 0 || blank.length === 0 || blank.length === profile.columns.length || isPositioned(profile.table)) return [];
		return [{
			steps: [{
				kind: "drop-columns",
				params: { columns: {
					by: "blank",
					unnamed: true
				} },
				why: `${few(blank.map((column) => column.name))} ${blank.length === 1 ? "is empty and has" : "are empty and have"} no name`
			}],
			weight: .4
		}];
	}
};
// core/findings/indentation.ts
/** Levels told by how far texts stand in. */
var indentation = {
	name: "indentation",
	find(input) {
		const { profile } = input;
		const body = bodyOf(input);
		for (const column of body.keys) {
			if (column.counts[CellKind.text] < profile.rows * .5) continue;
			const { depths, levels } = depthsOf$1(profile.table, column.index);
			if (levels < 2 || levels > 5) continue;
			const deep = depths.filter((depth) => depth > 0).length;
			const down = depths.filter((depth, r) => r > 0 && depth > depths[r - 1] + 1).length;
			if (deep < profile.rows * .3 || down > deep * .1 || depths[0] !== 0) continue;
			const names = levels === 2 ? ["Group"] : levels === 3 ? ["Section", "Group"] : Array.from({ length: levels - 1 }, (_, k) => `Level ${k + 1}`);
			return [{
				steps: [{
					kind: "levels",
					params: {
						column: column.name,
						into: names,
						parents: "set aside"
					},
					why: `texts in ${column.name} have ${levels} levels of indentation`
				}],
				weight: 2
			}];
		}
		return [];
	}
};
// core/findings/keys.ts
/** Keys that stand only on the first row of their group. */
var keys = {
	name: "keys",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		if (profile.rows < 3 || !isPositioned(input.raw)) return [];
		const sparse = [];
		for (const column of body.keys) {
			if (isUnderSameTier(column, body.figures)) break;
			const blank = column.counts[CellKind.blank];
			const filled = profile.rows - blank;
			if (blank === 0) {
				if (sparse.length > 0 || column.counts[CellKind.text] > 0) break;
				continue;
			}
			if (filled === 0) continue;
			if (!startsFilled(column, body.starts, profile)) break;
			if (!isSparseKey(column, sparse, profile)) break;
			sparse.push(column);
		}
		if (sparse.length === 0) return [];
		const gaps = sparse.reduce((sum, column) => sum + column.counts[CellKind.blank], 0);
		return [{
			steps: [{
				kind: "fill",
				params: {
					columns: {
						by: "names",
						names: sparse.map((column) => column.name)
					},
					direction: "down",
					...input.within === void 0 ? {} : { within: input.within }
				},
				why: `${sparse.map((column) => column.name).join(", ")}: filled only on the first row of each group, with ${counted(gaps, "blank")} below`
			}],
			weight: 1,
			...sparse.some((column) => profile.rows - column.counts[CellKind.blank] < 3) ? { doubt: { code: "few-groups" } } : {}
		}];
	}
};
function isUnderSameTier({ name }, figures) {
	const at = name.indexOf(" / ");
	return at > 0 && figures.some((column) => column.name.startsWith(name.slice(0, at + 3)));
}
function startsFilled(column, starts, profile) {
	return starts.every((r) => r >= profile.rows || column.kinds[r] !== CellKind.blank);
}
/** Blank more often than by the way, and what it says comes once in each stretch. */
function isSparseKey(column, outer, profile) {
	const filled = [];
	for (let r = 0; r < profile.rows; r++) if (column.kinds[r] !== CellKind.blank) filled.push(r);
	if (column.counts[CellKind.blank] < Math.max(1, filled.length * .15)) return false;
	let again = 0;
	for (let k = 1; k < filled.length; k++) if (filled[k] === filled[k - 1] + 1 && column.codes[filled[k]] === column.codes[filled[k - 1]]) again++;
	if (again > Math.max(1, filled.length * .1)) return false;
	const above = outer.at(-1);
	if (above === void 0) return true;
	for (let r = 0; r < profile.rows; r++) if (above.kinds[r] !== CellKind.blank && column.kinds[r] === CellKind.blank) return false;
	return true;
}
// core/findings/label-words.ts
/** What the columns of labels are called that a draft carries down. */
var LABEL_NAMES = /* @__PURE__ */ new Set([
	"Heading",
	"Group",
	"Section",
	"Division"
]);
/** Signs round a label. */
var FRAME = /^[*=#~<>+|-]+\s*([^\s*=#~<>+|-].*?)\s*[*=#~<>+|-]+$/u;
/** A number in front of a name: '4010 Harbour dues', '2.3 Earthworks'. */
var NUMBERED = /^(\d[\d.-]*)\s+\p{L}/u;
/** Each label has a number of its own, and they are not years. */
function isNumbering(numbers) {
	return numbers.every((own) => own !== void 0) && new Set(numbers).size === numbers.length && !numbers.every((own) => isYear(Number(own)));
}
/** Labels of a print-out that say their own name first: PORT HASK, PORT ULLIN. */
var labelWords = {
	name: "label-words",
	find({ profile }) {
		const steps = profile.table.fields.flatMap((field) => {
			if (!LABEL_NAMES.has(field.name.split(" ")[0])) return [];
			const { codes, texts: all } = textView(field.column);
			if (codes.includes(-1)) return [];
			const texts = new Set([...new Set(codes)].map((code) => all[code]));
			const [first = ""] = texts;
			if (FRAME.exec(first) !== null && texts.size > 1 && [...texts].every((text) => FRAME.test(text))) return [{
				kind: "replace",
				params: {
					columns: {
						by: "names",
						names: [field.name]
					},
					find: FRAME.source,
					with: "$1",
					how: "pattern",
					exact: true
				},
				why: `all ${texts.size} labels are framed by signs, for example ${first}`
			}];
			const numbers = [...texts].map((text) => NUMBERED.exec(text)?.[1]);
			if (texts.size > 1 && isNumbering(numbers)) return [{
				kind: "split-to-columns",
				params: {
					column: field.name,
					cut: {
						by: "delimiter",
						delimiters: [" "],
						which: "first",
						positions: [],
						trim: true
					},
					into: [uniqueName(`${field.name} code`, new Set(profile.table.fields.map(({ name }) => name))), field.name],
					keep: false
				},
				why: `all ${texts.size} labels begin with a number of their own, for example ${first}`
			}];
			const word = /^\p{Lu}{3,}(?= )/u.exec(first)?.[0];
			if (word === void 0 || texts.size < 2) return [];
			if (![...texts].every((text) => text.startsWith(`${word} `) && text === text.toUpperCase())) return [];
			return [{
				kind: "split-to-columns",
				params: {
					column: field.name,
					cut: {
						by: "delimiter",
						delimiters: [" "],
						which: "first",
						positions: [],
						trim: true
					},
					into: ["", word],
					keep: false
				},
				why: `all ${texts.size} labels begin with ${word}, for example ${first}`
			}];
		});
		const cut = steps.flatMap(({ kind, params }) => kind === "split-to-columns" && !params["into"].includes("") ? [String(params["column"])] : []);
		return steps.length === 0 ? [] : [{
			steps,
			weight: .6,
			...cut.length > 0 ? { doubt: {
				code: "two-in-one",
				columns: cut
			} } : {}
		}];
	}
};
// core/findings/labels.ts
/** Rows of one text above rows of data: labels of one or more levels. */
var labels = {
	name: "labels",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		const lone = body.rowsOf("lone");
		if (lone.length === 0 || !isPositioned(input.raw)) return [];
		const [only] = lone;
		if (lone.length === 1 && body.figures.length > 0 && body.roles.slice(0, only).includes("data")) return aloneAmongRows(profile, body, only);
		const byColumn = groupedBy$1(lone, (r) => profile.columns.findIndex((column) => column.kinds[r] !== CellKind.blank && column.kinds[r] !== CellKind.rule));
		const steps = [...byColumn].sort(([a], [b]) => a - b).flatMap(([k, rows]) => {
			const column = profile.columns[k];
			const others = body.roles.flatMap((role, r) => role === "data" || role === "lone" && !rows.includes(r) ? [r] : []);
			const rules = chooseRules(profile, rows, others, [{
				test: "only",
				columns: [column.name]
			}]);
			const rule = rules?.find((rule) => rule.test === "only") ?? rules?.find((rule) => rule.test === "blank") ?? (rules?.length === 1 ? rules[0] : void 0) ?? {
				test: "only",
				columns: [column.name]
			};
			const levels = levelsOf(rows, body.roles, column);
			const also = levels > 1 ? [] : besideOf(profile, rows, column);
			return [{
				kind: "carry",
				params: {
					from: column.name,
					rule,
					into: levels > 1 ? "Group" : byColumn.size > 1 ? `Group ${column.name}` : "Group",
					...levels > 1 ? { outer: levels === 2 ? ["Section"] : ["Division", "Section"] } : {},
					...also.length === 0 ? {} : { also: also.map(({ name }) => ({
						from: name,
						into: `Group ${name}`
					})) },
					...input.within === void 0 ? {} : { within: input.within }
				},
				why: `${counted(rows.length, "row")} with a single text above rows of data, for example ${textAt(column, rows[0])}${levels > 1 ? `, on ${levels} levels` : ""}`
			}];
		});
		const texts = lone.map((r) => profile.columns.map((column) => textAt(column, r)).find((text) => text !== "") ?? "");
		const doubt = lone.length < 2 ? {
			code: "single-label",
			text: texts[0] ?? ""
		} : new Set(texts).size < texts.length ? { code: "repeated-labels" } : texts.some((text) => text.length > 40) ? { code: "long-labels" } : void 0;
		return [{
			steps,
			weight: 1.2,
			...doubt === void 0 ? {} : { doubt }
		}];
	}
};
/** One row of one text with rows above it is a remark rather than a label, which those above would have too. */
function aloneAmongRows(profile, { roles }, row) {
	const others = roles.flatMap((role, r) => role === "data" ? [r] : []);
	const rules = chooseRules(profile, [row], others);
	if (rules === void 0) return [];
	const text = profile.columns.map((column) => textAt(column, row)).find((one) => one !== "") ?? "";
	return [{
		steps: [{
			kind: "set-aside",
			params: {
				pile: "notes",
				rules
			},
			why: `'${text}' is alone in its row`
		}],
		weight: .6,
		doubt: {
			code: "lone-row",
			text
		}
	}];
}
/** Other columns that nearly every label row fills, with different texts. */
function besideOf(profile, rows, label) {
	return profile.columns.filter((column) => {
		if (column === label || rows.length < 2) return false;
		const texts = rows.map((r) => textAt(column, r)).filter((text) => text !== "");
		return texts.length >= rows.length * .9 && new Set(texts).size > 1;
	});
}
/** How many labels stand right under each other at most; one that goes on is no further level. */
function levelsOf(rows, roles, column) {
	const set = new Set(rows);
	const count = roles.length;
	const texts = new Set(rows.map((r) => textAt(column, r)));
	const goesOn = (r) => texts.has(continuedLabel(textAt(column, r))?.label ?? "");
	let most = 1;
	for (const r of rows) {
		let [at, levels] = [r, 1];
		for (;;) {
			let next = at + 1;
			while (next < count && roles[next] === "blank") next++;
			if (!set.has(next)) break;
			if (!goesOn(at) && !goesOn(next)) levels++;
			at = next;
		}
		most = Math.max(most, levels);
	}
	return Math.min(3, most);
}
// core/findings/leaders.ts
var DOTS = "\\s*(?:\\.{3,}|(?:\\s\\.){3,}|·{3,}|_{4,})$";
var LEADER = new RegExp(`\\S${DOTS}`);
/** Dots behind a text that lead the eye to the next column of a print-out. */
var leaders = {
	name: "leaders",
	find({ profile }) {
		let cells = 0;
		const columns = profile.columns.filter((column) => {
			if (column.counts[CellKind.text] === 0) return false;
			let own = 0;
			for (let r = 0; r < profile.rows; r++) if (LEADER.test(textAt(column, r))) own++;
			if (own < Math.max(2, column.counts[CellKind.text] * .3)) return false;
			cells += own;
			return true;
		});
		if (columns.length === 0) return [];
		return [{
			steps: [{
				kind: "replace",
				params: {
					columns: {
						by: "names",
						names: columns.map(({ name }) => name)
					},
					find: DOTS,
					with: "",
					how: "pattern",
					exact: true
				},
				why: `${counted(cells, "text")} with leader dots`
			}],
			weight: .8
		}];
	}
};
// core/findings/lines.ts
/** Lines such as 'Depot: Hask' above tables, where what they say differs within the file. */
var lines = {
	name: "lines",
	find(input) {
		const { profile } = input;
		if (!isPositioned(profile.table)) return [];
		const within = input.within === void 0 ? {} : { within: input.within };
		const ofSheets = input.within === void 0 ? [] : sheetNames(input);
		const named = [.../* @__PURE__ */ new Set([...lineNames(profile.table, profile.rows), ...ofSheets])].filter((name) => !saysNote(name) && !saysTotal(name));
		if (named.length === 0) return [];
		const { table } = linesToColumns.run(profile.table, {
			names: named,
			...within
		}, ALONE);
		const names = named.filter((name) => {
			const field = table.fields.find((one) => one.nameOrigin === "beside" && one.name.startsWith(name));
			if (field === void 0) return false;
			const values = usedTexts(field.column);
			if (values.size < 2 || [...values].some((value) => value.length > 50)) return false;
			const sheets = table.fields.find((one) => one.name === input.within);
			if (sheets === void 0) return true;
			const titles = new Set([...usedTexts(sheets.column)].map((title) => title.toLowerCase()));
			const wordsOf = (value) => value.toLowerCase().split(/[^\p{L}\p{M}\p{N}]+/u);
			return ![...values].every((value) => titles.has(value.toLowerCase()) || wordsOf(value).some((word) => titles.has(word)));
		});
		if (names.length === 0 || names.length > 12) return [];
		return [{
			steps: [{
				kind: "lines-to-columns",
				params: {
					names,
					...within
				},
				why: `${counted(names.length, "line")} of name and value above the tables, with different values in each: ${names.join(", ")}`
			}],
			weight: 1.5
		}];
	}
};
/** Rows of a sheet among which lines about it stand. */
var MAX_HEAD = 12;
/** Names in front of lines of two cells, once above the table of each sheet. */
function sheetNames({ profile, within }) {
	const starts = runStarts(profile.table, within);
	if (starts.length < 3) return [];
	const sheets = starts.slice(0, -1).map((from, k) => {
		const names = [];
		for (let r = from; r < Math.min(from + MAX_HEAD, starts[k + 1]) && profile.filled[r] <= 2; r++) {
			const [name, value, ...more] = profile.columns.map((column) => textAt(column, r)).filter((text) => text !== "");
			if (name !== void 0 && value !== void 0 && more.length === 0 && /^\p{L}[^:\d]{0,29}$/u.test(name)) names.push(name);
		}
		return names;
	});
	return sheets[0].filter((name) => sheets.every((names) => names.filter((one) => one === name).length === 1));
}
// core/findings/master-detail.ts
/** Rows at the top that may hold the two headers. */
var MAX_TOP$3 = 30;
/** Details of a record, on average. */
var MIN_DETAILS = 1.2;
/**
* Records with their details below them: two headers one under the other, the first over columns of which the second
* leaves the first one blank, and rows below that fill either the one or the other.
*/
var masterDetail = {
	name: "master-detail",
	find({ profile, within }) {
		if (!isPositioned(profile.table) || within !== void 0) return [];
		for (let r = 0; r + 3 < Math.min(profile.rows, MAX_TOP$3); r++) {
			const lead = leadOf(profile, r);
			if (lead === void 0) continue;
			const masters = filledAt(profile, r);
			const names = masters.map((column) => textAt(column, r));
			const count = bodyRows(profile, r + 2).filter((row) => isFilled(lead, row)).length;
			const at = headerRule(profile, r + 1, false);
			return [{
				steps: [{
					kind: "carry",
					params: {
						from: lead.name,
						rule: {
							test: "filled",
							columns: {
								by: "names",
								names: [lead.name]
							}
						},
						into: names[0],
						also: masters.slice(1).map((column, k) => ({
							from: column.name,
							into: names[k + 1]
						}))
					},
					why: `${counted(count, "row")} under ${names.join(", ")}, each with its own rows below`
				}, {
					kind: "header-from-rows",
					params: {
						rows: 1,
						at,
						above: true,
						repeats: true
					},
					why: "the second header names the rows below"
				}],
				weight: 3.6,
				doubt: { code: "details-by-blank" },
				gives: `${names.join(", ")} on each of the rows below`
			}];
		}
		return [];
	}
};
var filledAt = (profile, r) => profile.columns.filter((column) => isFilled(column, r));
var bodyRows = (profile, from) => Array.from({ length: Math.max(0, profile.rows - from) }, (_, k) => from + k).filter((r) => profile.filled[r] > 0);
/** The column that tells records from details, where two headers stand at this row. */
function leadOf(profile, r) {
	const [masters, details] = [filledAt(profile, r), filledAt(profile, r + 1)];
	const [lead] = masters;
	const isNames = (columns, row) => columns.length >= 2 && columns.every((column) => column.kinds[row] === CellKind.text);
	if (lead === void 0 || details.includes(lead) || details[0]?.index !== lead.index + 1) return void 0;
	if (!isNames(masters, r) || !isNames(details, r + 1)) return void 0;
	const rows = bodyRows(profile, r + 2);
	const [heads, lines] = [rows.filter((row) => isFilled(lead, row)), rows.filter((row) => !isFilled(lead, row))];
	const fits = (own, columns) => own.every((row) => filledAt(profile, row).every((column) => columns.includes(column)));
	const isBoth = heads.length >= 2 && lines.length >= heads.length * MIN_DETAILS && rows[0] === heads[0];
	const isFull = (own, columns) => own.filter((row) => profile.filled[row] >= columns.length * .6).length >= own.length * .8;
	return isBoth && fits(heads, masters) && fits(lines, details) && isFull(heads, masters) && isFull(lines, details) ? lead : void 0;
}
// core/findings/measure-names.ts
/** Names of what is measured down a column, over figures written otherwise under each: they become columns. */
var measureNames = {
	name: "measure-names",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		const [values] = body.figures;
		if (values === void 0 || body.figures.length !== 1 || profile.rows < 4) return [];
		for (const names of body.keys) {
			if (names.counts[CellKind.text] < profile.rows) continue;
			const byName = /* @__PURE__ */ new Map();
			for (let r = 0; r < profile.rows; r++) {
				const name = textAt(names, r);
				const rows = byName.get(name);
				if (rows === void 0) byName.set(name, [r]);
				else rows.push(r);
				if (byName.size > 12) break;
			}
			if (byName.size < 2 || byName.size > 12) continue;
			const each = profile.rows / byName.size;
			if ([...byName.values()].some((rows) => rows.length !== each)) continue;
			const more = body.keys.filter((column) => column !== names && saysUnits(column) && isDeterminedBy(column, byName));
			if (!isEven(profile, names, [values, ...more], byName.size)) continue;
			const decimals = [...byName.values()].map((rows) => Math.max(...rows.map((r) => decimalsAt(values, r))));
			const behindKey = body.keys.some((column) => column.index < names.index && !column.isUnnamed);
			const called = CALLED.test(names.name) || names.isUnnamed && behindKey;
			if (new Set(decimals).size < 2 && !called && more.length === 0) continue;
			const fields = profile.table.fields.map((field) => field.name);
			const gone = [
				names,
				values,
				...more
			].map((column) => column.name);
			return [{
				steps: [{
					kind: "pivot",
					params: {
						rows: {
							by: "names",
							names: fields.filter((name) => !gone.includes(name))
						},
						names: [names, ...more].map((column) => column.name),
						values: [{
							column: values.name,
							by: "only"
						}]
					},
					why: `${few([...byName.keys()])}: measures, not values of ${names.name}${more.length > 0 ? `; ${few(more.map((column) => column.name))} gives the unit of each` : ""}`
				}],
				weight: called ? 1.5 : .8,
				doubt: {
					code: "classes-of-one-measure",
					column: names.name
				},
				gives: `one column for each of ${names.name}`
			}, {
				steps: [],
				weight: 0,
				gives: `${names.name} stays a column`
			}];
		}
		return [];
	}
};
/** What a column of measures is called, in several languages. Common practice. */
var CALLED = /^(?:measures?|indicators?|variables?|metrics?|kennzahl(?:en)?|merkmale?|gr(?:öß|oess)en?|messgr(?:öß|oess)en?|indicateurs?|mesures?|grandeurs?|indicador(?:es)?|medidas?|magnitud(?:es)?)$/i;
function saysUnits({ texts }) {
	return texts.length > 0 && texts.filter(isUnit).length >= texts.length * .6;
}
/** Under each name it says one thing, and not the same under all. */
function isDeterminedBy(column, byName) {
	const said = [...byName.values()].map((rows) => new Set(rows.map((r) => textAt(column, r))));
	return said.every((texts) => texts.size === 1) && new Set(said.map((texts) => [...texts][0])).size >= 2;
}
function decimalsAt(column, row) {
	const value = column.values[row];
	return Number.isNaN(value) ? 0 : decimalsOf(value);
}
/** Every record has each name once, and the other columns tell records apart. */
function isEven(profile, names, others, count) {
	const beside = profile.table.fields.filter((field) => field.nameOrigin === "beside").map((field) => field.column);
	const keys = profile.columns.filter((column) => column !== names && !others.includes(column));
	const records = /* @__PURE__ */ new Map();
	for (let r = 0; r < profile.rows; r++) {
		const key = [...keys.map((column) => column.codes[r]), ...beside.map((column) => column.type === "text" ? column.codes[r] : 0)].join("/");
		records.set(key, (records.get(key) ?? 0) + 1);
	}
	return records.size >= 2 && [...records.values()].every((times) => times === count);
}
// core/findings/missing.ts
/** Texts that stand where a value is missing. */
var missing = {
	name: "missing",
	find(input) {
		const body = bodyOf(input);
		const texts = /* @__PURE__ */ new Set();
		let cells = 0;
		const columns = input.profile.columns.filter((column) => {
			const count = column.counts[CellKind.missing];
			if (count === 0) return false;
			if (!(body.figures.includes(column) || column.counts[CellKind.figure] > 0) && count > (input.profile.rows - column.counts[CellKind.blank]) * .6) return false;
			for (let r = 0; r < input.profile.rows; r++) if (column.kinds[r] === CellKind.missing) texts.add(textAt(column, r));
			cells += count;
			return true;
		});
		if (columns.length === 0) return [];
		const blank = new Set([...texts].map((text) => text.toLowerCase()));
		return [{
			steps: [{
				kind: "blank-texts",
				params: {
					columns: !input.profile.columns.some((column) => !columns.includes(column) && column.counts[CellKind.text] > 0 && column.kinds.some((kind, r) => kind === CellKind.text && blank.has(textAt(column, r).toLowerCase()))) && columns.length >= 4 && columns.length >= body.figures.length ? { by: "all" } : {
						by: "names",
						names: columns.map((column) => column.name)
					},
					texts: [...texts],
					exact: false
				},
				why: `${counted(cells, "cell")} with ${[...texts].slice(0, 4).map((text) => `'${text}'`).join(", ")} where others hold values`
			}],
			weight: 1
		}];
	}
};
// core/findings/nested-codes.ts
var CODE = /^\p{L}?\d+(?<rest>(?:[.\-/]\d+)*)\.?$/u;
/** Levels above the last. */
var MAX_LEVELS = 2;
/** Numbered rows such as 1, 1.1, 1.2: those that others go on are groups, and what they say holds for the others. */
var nestedCodes = {
	name: "nested-codes",
	find({ profile, raw, within }) {
		if (!isPositioned(raw) || profile.rows < 4) return [];
		const column = profile.columns.slice(0, 3).find((one) => isNested(profile, one));
		const name = profile.columns.find((one) => one.index > (column?.index ?? 0) && one.counts[CellKind.text] > 0);
		if (column === void 0 || name === void 0) return [];
		const depths = depthsOf(profile, column);
		const deepest = Math.max(...depths);
		if (deepest - 1 > MAX_LEVELS) return [];
		const levels = Array.from({ length: deepest - 1 }, (_, k) => k + 1);
		const sums = sumsOf(profile, column, depths);
		const isProven = sums.of > 0 && sums.fit === sums.of;
		const into = levels.length === 1 ? ["Group"] : ["Section", "Group"];
		return [{
			steps: levels.map((level) => ({
				kind: "carry",
				params: {
					from: name.name,
					rule: {
						test: "matches",
						column: column.name,
						text: `^\\s*\\p{L}?\\d+${"[.\\-/]\\d+".repeat(level - 1)}\\.?\\s*$`
					},
					into: into[level - 1],
					...within === void 0 ? {} : { within }
				},
				why: `${counted(depths.filter((depth) => depth === level).length, "row")} whose ${column.name} others go on`
			})),
			weight: isProven ? 4.5 : 2.2,
			explained: sums,
			...isProven ? {} : { doubt: {
				code: "groups-by-numbering",
				column: column.name
			} },
			gives: `rows of the last level, with ${into.join(" and ")}`
		}, {
			steps: [],
			weight: 0,
			gives: "numbered rows unchanged"
		}];
	}
};
/** How many numbers each code has; 0 for rows without one. */
function depthsOf(profile, column) {
	return Array.from({ length: profile.rows }, (_, r) => {
		const rest = CODE.exec(textAt(column, r))?.groups?.["rest"];
		return rest === void 0 ? 0 : 1 + (rest.match(/\d+/g)?.length ?? 0);
	});
}
/** Figures of groups that are the sum of the rows straight below their level, of how many. */
function sumsOf(profile, codes, depths) {
	let [fit, of] = [0, 0];
	const deepest = Math.max(...depths);
	for (let r = 0; r < profile.rows; r++) {
		const depth = depths[r];
		if (depth === 0 || depth === deepest) continue;
		for (const column of profile.columns) {
			if (column === codes || column.kinds[r] !== CellKind.figure || column.counts[CellKind.text] > 0) continue;
			let sum = 0;
			for (let k = r + 1; k < profile.rows && (depths[k] === 0 || depths[k] > depth); k++) if (depths[k] === depth + 1 && column.kinds[k] === CellKind.figure) sum += column.values[k];
			of++;
			if (Math.abs(sum - column.values[r]) <= 1e-6 * Math.max(1, Math.abs(sum))) fit++;
		}
	}
	return {
		fit,
		of
	};
}
/** Codes throughout, each above the last level with rows that go on it right below, on which all others stand. */
function isNested(profile, column) {
	const depths = depthsOf(profile, column);
	const deepest = Math.max(...depths);
	const numbered = depths.filter((depth, r) => depth > 0 || profile.filled[r] > 0 && !rowSaysTotal(profile, r));
	if (deepest < 2 || depths.filter((depth) => depth > 0).length < numbered.length * .9) return false;
	let parents = 0;
	for (let r = 0; r < profile.rows; r++) {
		if (depths[r] === 0 || depths[r] === deepest) continue;
		const code = textAt(column, r).replace(/\.$/, "");
		const next = r + 1 < profile.rows ? textAt(column, r + 1) : "";
		if (!next.startsWith(code) || !/^[.\-/]/.test(next.slice(code.length))) return false;
		parents++;
	}
	return parents >= 2;
}
// core/findings/notes.ts
/** Remarks, sources and legends: below the last row of data in each sheet, or between. */
var notes = {
	name: "notes",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		const wanted = body.rowsOf("note");
		if (wanted.length === 0 || !isPositioned(input.raw)) return [];
		const others = body.roles.flatMap((role, r) => role === "note" || role === "blank" ? [] : [r]);
		const anchor = [...body.figures, ...body.keys].find((column) => wanted.every((r) => column.kinds[r] === CellKind.blank || column.kinds[r] === CellKind.rule) && others.some((r) => column.kinds[r] !== CellKind.blank));
		const rules = [];
		let left = wanted;
		if (anchor !== void 0) {
			const row = {
				test: "filled",
				columns: {
					by: "names",
					names: [anchor.name]
				}
			};
			const within = input.within === void 0 ? {} : { within: input.within };
			const behind = (r) => {
				const to = body.starts.find((start) => start > r) ?? profile.rows;
				for (let k = r; k < to; k++) if (anchor.kinds[k] !== CellKind.blank && !isRule(anchor.kinds[k])) return false;
				return true;
			};
			if (wanted.filter(behind).length > 0 && others.filter(behind).every((r) => body.roles[r] === "rule")) {
				rules.push({
					test: "below-last",
					row,
					...within
				});
				left = wanted.filter((r) => !behind(r));
			}
		}
		if (left.length > 0) {
			const chosen = chooseRules(profile, left, others);
			if (chosen !== void 0) rules.push(...chosen);
		}
		if (rules.length === 0) return [];
		return [{
			steps: [{
				kind: "set-aside",
				params: {
					pile: "notes",
					rules
				},
				why: `${counted(wanted.length, "line")} of text ${left.length === 0 ? "below the last row of figures" : "without figures"}`
			}],
			weight: 1
		}];
	}
};
var isRule = (kind) => kind === CellKind.rule;
// core/findings/outer-rows.ts
var MAX_HEADING = 50;
/** Share of lines that begin with a space where they go on with the entry above. Common practice of logs. */
var CONTINUED = .9;
/**
* Rows of nested or blocked text that are no records: outer items without inner ones, and blocks that only say what the
* blocks below belong to.
*/
var outerRows = {
	name: "outer-rows",
	find(input) {
		const { profile } = input;
		if (isPositioned(input.raw) || profile.rows < 3) return [];
		const filled = (column, r) => column.kinds[r] !== CellKind.blank;
		const lead = profile.columns.map((column) => ({
			column,
			blank: column.counts[CellKind.blank]
		})).filter(({ blank }) => blank > 0 && blank <= profile.rows * .4).sort((a, b) => a.blank - b.blank);
		for (const { column } of lead) {
			const rows = [];
			for (let r = 0; r < profile.rows; r++) if (!filled(column, r)) rows.push(r);
			const inner = profile.columns.filter((one) => rows.every((r) => !filled(one, r)));
			const outer = profile.columns.filter((one) => rows.some((r) => filled(one, r)));
			if (inner.length < 2 || inner.length < profile.columns.length * .4) continue;
			const childless = rows.every((r) => input.childless.has(r));
			const own = new Set(rows);
			const theirs = outer.filter((one) => profile.rows - one.counts[CellKind.blank] === rows.filter((r) => filled(one, r)).length);
			const carried = theirs.filter((one) => one.counts[CellKind.text] + one.counts[CellKind.date] > 0 && rows.filter((r) => filled(one, r)).every((r) => r + 1 < profile.rows)).filter((one) => one.index < column.index && rows.some((r) => filled(one, r) && !own.has(r + 1)));
			const apart = outer.length === 1 && outer[0] === profile.columns.at(-1);
			if (!childless && carried.length === 0 && !apart) continue;
			const steps = [];
			if (carried.length > 0) steps.push({
				kind: "fill",
				params: {
					columns: {
						by: "names",
						names: carried.map((one) => one.name)
					},
					direction: "down"
				},
				why: `${carried.map((one) => one.name).join(", ")}: appears once, above its records`
			});
			steps.push({
				kind: "set-aside",
				params: {
					pile: carried.length > 0 ? "labels" : "without items",
					...carried.length > 0 ? {} : { mark: "other" },
					rules: [{
						test: "blank",
						columns: {
							by: "names",
							names: [column.name]
						}
					}]
				},
				why: `${counted(rows.length, "row")} without ${inner.slice(0, 3).map((one) => one.name).join(", ")}: no separate records`
			});
			const spare = theirs.filter((one) => !carried.includes(one));
			if (spare.length > 0 && carried.length > 0) steps.push({
				kind: "drop-columns",
				params: { columns: {
					by: "names",
					names: spare.map((one) => one.name)
				} },
				why: "empty in every record"
			});
			const [heading] = outer;
			const texts = new Set(rows.filter((r) => r + 1 < profile.rows && !own.has(r + 1)).map((r) => textAt(heading, r)));
			const isHeadings = apart && texts.size > 1 && [...texts].every((text) => text.length <= MAX_HEADING && !/\d.*\d/.test(text));
			const goingOn = apart && areContinued(heading, rows) ? joined$1(column, profile.columns[heading.index - 1], heading, rows) : [];
			if (goingOn.length > 0) return [{
				steps: goingOn,
				weight: 1.6,
				doubt: { code: "lines-above-or-below" },
				gives: "indented lines joined to the record above"
			}, {
				steps,
				weight: .8,
				doubt: { code: "sparse-rows" },
				gives: "indented lines left out"
			}];
			if (isHeadings) return [{
				steps: [{
					kind: "carry",
					params: {
						from: heading.name,
						rule: {
							test: "blank",
							columns: {
								by: "names",
								names: [column.name]
							}
						},
						into: "Heading"
					},
					why: `${counted(texts.size, "line")} between the blocks, each above some of them, for example ${[...texts][0]}`
				}, {
					kind: "drop-columns",
					params: { columns: {
						by: "names",
						names: [heading.name]
					} },
					why: "empty in every record"
				}],
				weight: 1.4,
				doubt: { code: "lines-as-headings" }
			}, {
				steps,
				weight: .8,
				doubt: { code: "sparse-rows" }
			}];
			return [{
				steps,
				weight: .8,
				doubt: { code: "sparse-rows" }
			}, {
				steps: [],
				weight: 0,
				doubt: { code: "sparse-rows" }
			}];
		}
		return [];
	}
};
/** Lines that stand in go on with what the entry above says. */
function areContinued(column, rows) {
	const standIn = rows.filter((r) => /^\s/u.test(column.texts[column.codes[r]] ?? "")).length;
	return rows[0] > 0 && standIn >= rows.length * CONTINUED;
}
/** The lines below an entry behind its own text, in one column. */
function joined$1(lead, text, line, rows) {
	const own = new Set(rows);
	let [most, count] = [0, 0];
	for (let r = 0; r <= rows.at(-1); r++) {
		count = own.has(r) ? count + 1 : 0;
		most = Math.max(most, count);
	}
	const names = Array.from({ length: most }, (_, k) => `${line.name} of line ${k + 2}`);
	return [
		{
			kind: "clean-text",
			params: { columns: {
				by: "names",
				names: [line.name]
			} },
			why: "spaces in front tell where a line belongs, and are no part of it"
		},
		{
			kind: "fold-rows",
			params: { first: {
				test: "filled",
				columns: {
					by: "names",
					names: [lead.name]
				}
			} },
			why: `${counted(rows.length, "line")} that begin with a space go on with the entry above`
		},
		{
			kind: "join-text",
			params: {
				columns: {
					by: "names",
					names: [text.name, ...names]
				},
				with: " ",
				into: text.name,
				keep: false
			},
			why: `they go on with what ${text.name} says`
		}
	];
}
// core/findings/packed-lists.ts
/** Signs between the items of a list in a cell, the plainest first. */
var SIGNS$1 = [
	"\n",
	"; ",
	";",
	" | ",
	"|",
	" / ",
	" + ",
	" & ",
	", ",
	",",
	"/"
];
/** Lists packed into cells, alone or several in step, and the sums that the report put beside them. */
var packedLists = {
	name: "packed-lists",
	find(input) {
		const { profile } = input;
		if (profile.rows < 2 || input.done.includes("split-to-rows")) return [];
		const lists = profile.columns.flatMap((column) => listOf(profile, column) ?? []);
		if (lists.length === 0) return [];
		const groups = [];
		for (const list of lists) {
			const group = groups.find(([first]) => inStep(first, list));
			if (group === void 0) groups.push([list]);
			else group.push(list);
		}
		const best = groups.sort((a, b) => b.length - a.length || b[0].share - a[0].share)[0];
		const inner = best.length === 1 ? innerOf(best[0]) : void 0;
		if (best.length === 1 && inner === void 0 && !isSureAlone(profile, best[0])) return [];
		const names = best.map(({ column }) => column.name);
		const signs = [...new Set(best.map(({ sign }) => sign))];
		const delimiters = signs.length === 1 ? [signs[0].trim() || signs[0]] : signs;
		const steps = [...sumsBeside(input, best)];
		steps.push({
			kind: "split-to-rows",
			params: {
				columns: names,
				cut: {
					by: "delimiter",
					delimiters,
					which: "every",
					positions: [],
					trim: true
				},
				numbering: null
			},
			why: `${names.join(", ")}: lists${names.length > 1 ? " of the same length" : ""} in ${Math.round(best[0].share * 100)}% of the cells, separated by '${delimiters[0] === "\n" ? "line breaks" : delimiters[0]}'`
		});
		if (inner !== void 0) steps.push({
			kind: "split-to-columns",
			params: {
				column: names[0],
				cut: {
					by: "delimiter",
					delimiters: [inner.sign],
					which: "every",
					positions: [],
					trim: true
				},
				into: piecesNamed(names[0], inner),
				keep: false
			},
			why: `each item in ${names[0]} contains ${inner.count} values separated by '${inner.sign}'`
		});
		return [{
			steps,
			weight: best.length > 1 ? 2.5 : 1.2,
			...best.length > 1 ? {} : { doubt: {
				code: "may-be-no-list",
				column: names[0]
			} }
		}];
	}
};
/** Items of a cell, on average, beyond which it is text and no list. */
var MAX_ITEMS = 40;
function listOf(profile, column) {
	if (column.counts[CellKind.text] + column.counts[CellKind.figure] === 0 || column.counts[CellKind.date] > column.counts[CellKind.text]) return void 0;
	const filled = profile.rows - column.counts[CellKind.blank];
	if (column.texts.some((text) => /^\s*[[{]/.test(text))) return void 0;
	if (column.counts[CellKind.text] < filled * .3) return void 0;
	for (const sign of SIGNS$1) {
		if (sign === "," && column.texts.every((text) => !text.includes(",") || onlyThousands(text))) continue;
		const counts = column.texts.map((text) => text.includes(sign) ? text.split(sign).length : 1);
		const lengths = new Int32Array(profile.rows);
		let several = 0;
		for (let r = 0; r < profile.rows; r++) {
			const code = column.codes[r];
			lengths[r] = code < 0 ? 0 : counts[code];
			if (lengths[r] > 1) several++;
		}
		const share = several / Math.max(1, filled);
		const items = lengths.reduce((sum, length) => sum + length, 0);
		if (share >= .4 && items <= filled * MAX_ITEMS) return {
			column,
			sign,
			lengths,
			share
		};
	}
}
var onlyThousands = (text) => /\p{L}/u.test(text) && !text.replace(/\d{1,3}(?:,\d{3})+(?!\d)/g, "").includes(",");
function inStep(a, b) {
	let [same, all] = [0, 0];
	for (let r = 0; r < a.lengths.length; r++) {
		if (a.lengths[r] === 0 && b.lengths[r] === 0) continue;
		all++;
		if (a.lengths[r] === b.lengths[r]) same++;
	}
	return all > 0 && same >= all * .97 && new Set(a.lengths).size > 1;
}
/** A sign that parts each item of a list into as many things. */
function innerOf({ column, sign }) {
	const items = column.texts.slice(0, 300).flatMap((text) => text.includes(sign) ? text.split(sign) : []);
	if (items.length < 4) return void 0;
	for (const inner of [
		"|",
		":",
		"=",
		"/",
		","
	]) {
		if (sign.trim() === inner) continue;
		const count = items[0].split(inner).length;
		if (count >= 2 && items.every((item) => item.split(inner).length === count)) return {
			sign: inner,
			count
		};
	}
}
/** Names of the things in an item, by the column's own name where it says them: 'Records (ref|name)'. */
function piecesNamed(name, { sign, count }) {
	const said = /[([]([^()[\]]+)[)\]]/.exec(name)?.[1]?.split(sign) ?? name.split(sign);
	return Array.from({ length: count }, (_, k) => said.length === count ? said[k].trim() : `${name} ${k + 1}`);
}
/** A word, a name or a code, or a figure with its unit. */
var ITEM = /^[\p{L}\p{N}'"][\p{L}\p{N}\p{M} .'"&()+:=-]*[\p{L}\p{N}.)'"%€]$|^[\p{L}\p{N}]$/u;
/** Share of the items that must be such. */
var MIN_WORDS = .9;
/** A list that stands alone must vary in length and say the same items again and again. */
function isSureAlone(profile, { column, sign, lengths }) {
	if (sign.trim() === "," && namesRemarks(column.name)) return false;
	if (new Set(lengths).size < 3) return false;
	const items = /* @__PURE__ */ new Map();
	let [all, words] = [0, 0];
	let longest = 0;
	for (let r = 0; r < profile.rows; r++) {
		const code = column.codes[r];
		if (code < 0) continue;
		for (const item of column.texts[code].split(sign)) {
			const plain = item.trim();
			longest = Math.max(longest, plain.length);
			items.set(plain, (items.get(plain) ?? 0) + 1);
			all++;
			if (ITEM.test(plain)) words++;
		}
	}
	if (words < all * MIN_WORDS) return false;
	const limit = sign.trim() === "," ? .4 : .75;
	return longest <= 60 && all >= 4 && items.size <= all * limit;
}
/** Columns that only sum the items of a list of figures. */
function sumsBeside(input, lists) {
	const { profile } = input;
	const forms = [NumberForm.parse({ decimal: profile.decimal }), NumberForm.parse({ decimal: profile.decimal === "." ? "," : "." })];
	const going = [];
	let rows = 0;
	for (const column of bodyOf(input).figures) for (const list of lists) {
		if (list.column === column) continue;
		for (const one of forms) {
			let [fit, all] = [0, 0];
			for (let r = 0; r < Math.min(profile.rows, 300); r++) {
				const code = list.column.codes[r];
				if (code < 0 || column.kinds[r] !== CellKind.figure) continue;
				const items = list.column.texts[code].split(list.sign).map((item) => lookAtText(item, one).value);
				if (items.some(Number.isNaN)) continue;
				all++;
				if (Math.abs(items.reduce((sum, item) => sum + item, 0) - column.values[r]) < 1e-6) fit++;
			}
			if (all < 3 || fit < all * .95) continue;
			if (!going.includes(column.name)) going.push(column.name);
			rows = fit;
		}
	}
	if (going.length === 0) return [];
	return [{
		kind: "set-aside-columns",
		params: {
			columns: {
				by: "names",
				names: going
			},
			pile: "totals"
		},
		why: `${going.join(", ")}: the sum of the list next to it, in ${rows} rows`
	}];
}
// core/findings/page-furniture.ts
/** What a page needs and a table does not: blank rows, drawn lines, page heads, the row of units. */
var pageFurniture = {
	name: "furniture",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		const steps = [];
		const data = body.roles.flatMap((role, r) => role === "blank" || role === "rule" || role === "page" ? [] : [r]);
		const units = [];
		for (const from of body.starts) {
			let r = from;
			while (r < profile.rows && body.roles[r] === "blank") r++;
			if (r < profile.rows && isUnitsRow(profile, r) && profile.filled[r] >= 1 && body.roles[r] !== "data") units.push(r);
		}
		if (units.length > 0) {
			const wanted = body.rowsOf("lone").filter((r) => units.includes(r) || isUnitsRow(profile, r));
			const rules = chooseRules(profile, wanted, data.filter((r) => !wanted.includes(r)));
			const column = profile.columns.find((one) => one.kinds[wanted[0] ?? 0] === CellKind.text);
			if (rules !== void 0 && column !== void 0 && wanted.length > 0) steps.push({
				kind: "set-aside",
				params: {
					pile: "units",
					mark: "note",
					rules
				},
				why: `${counted(wanted.length, "row")} of units below the names, for example ${textAt(column, wanted[0])}`
			});
		}
		const pages = body.rowsOf("page");
		if (pages.length > 0) {
			const rules = chooseRules(profile, pages, data);
			if (rules !== void 0) steps.push({
				kind: "set-aside",
				params: {
					pile: "page heads",
					mark: "repeat",
					rules
				},
				why: `${counted(pages.length, "line")} repeated on each page, except for their numbers`
			});
		}
		const blanks = [];
		const why = [];
		if (body.roles.includes("blank")) {
			blanks.push({ test: "empty" });
			why.push(counted(body.rowsOf("blank").length, "blank row"));
		}
		const drawn = body.rowsOf("rule");
		if (drawn.length > 0) {
			const column = profile.columns.filter((one) => drawn.every((r) => one.kinds[r] === CellKind.rule))[0];
			const pattern = column === void 0 ? profile.columns.filter((one) => drawn.some((r) => one.kinds[r] === CellKind.rule)).map((one) => drawnLine(one.name)) : [drawnLine(column.name)];
			blanks.push(...pattern.slice(0, 4));
			why.push(counted(drawn.length, "drawn line"));
		}
		if (blanks.length > 0) steps.push({
			kind: "set-aside",
			params: {
				pile: "blanks",
				rules: blanks
			},
			why: why.join(" and ")
		});
		const doubted = pages.some((r) => !PAGE$1.test(rowPattern(profile, r)) && !input.titles.has(rowPattern(profile, r)));
		return steps.length === 0 ? [] : [{
			steps,
			weight: 1,
			...doubted ? { doubt: { code: "repeated-lines" } } : {}
		}];
	}
};
function drawnLine(column) {
	return {
		test: "matches",
		column,
		text: "^[\\s=_~+|*.─═━·-]{3,}$"
	};
}
// core/findings/record-codes.ts
/** Kinds of record in one file at most, and letters of the code in front that tells them apart. */
var MAX_KINDS = 6;
var MAX_CODE = 4;
/** Records of several kinds under a leading code: heads whose cells hold for the details below, details, and trailers. */
var recordCodes = {
	name: "record-codes",
	find({ profile }) {
		if (!isPositioned(profile.table) || profile.rows < 6) return [];
		const column = profile.columns.find((one) => one.counts[CellKind.blank] < profile.rows);
		const kinds = column === void 0 ? void 0 : kindsOf(profile, column);
		if (column === void 0 || kinds === void 0) return [];
		const { detail, heads, trailers } = kinds;
		const is = (code) => ({
			test: "equals",
			column: column.name,
			text: code,
			exact: true
		});
		return [{
			steps: [
				...heads.map((code) => {
					const [first, ...others] = filledColumns(profile, kinds.rows.get(code)).filter((one) => one !== column);
					const named = (one) => `${code} ${one.name}`;
					return {
						kind: "carry",
						params: {
							from: first.name,
							rule: is(code),
							into: named(first),
							also: others.map((one) => ({
								from: one.name,
								into: named(one)
							}))
						},
						why: `${counted(kinds.rows.get(code).length, "row")} that begin with ${code} come before rows with ${detail}`
					};
				}),
				...trailers.length === 0 ? [] : [{
					kind: "set-aside",
					params: {
						pile: "trailers",
						rules: trailers.map(is)
					},
					why: `rows with ${few(trailers)} in front end a block`
				}],
				{
					kind: "drop-columns",
					params: { columns: {
						by: "names",
						names: [column.name]
					} },
					why: `each row that is left has ${detail} there`
				}
			],
			weight: 3.4,
			doubt: { code: "records-by-code" },
			gives: `${detail} rows with what ${few(heads)} says`
		}];
	}
};
function kindsOf(profile, column) {
	const filled = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => profile.filled[r] > 0);
	const codes = filled.map((r) => textAt(column, r));
	if (codes.some((code) => code === "" || code.length > MAX_CODE)) return void 0;
	const rows = groupedBy$1(filled, (r) => textAt(column, r));
	if (rows.size < 2 || rows.size > MAX_KINDS) return void 0;
	const shapes = [...rows].map(([code, own]) => {
		const shape = filledColumns(profile, own);
		return own.every((r) => profile.filled[r] >= shape.length - 1 && profile.filled[r] <= shape.length + 1) ? {
			code,
			width: shape.length,
			first: own[0]
		} : void 0;
	});
	if (shapes.some((shape) => shape === void 0)) return void 0;
	if (new Set(shapes.map((shape) => shape.width)).size < shapes.length) return void 0;
	const detail = [...rows].sort((a, b) => b[1].length - a[1].length)[0][0];
	const others = [...rows.keys()].filter((code) => code !== detail);
	const next = (code) => codes.flatMap((one, k) => one === code ? [codes[k + 1]] : []);
	const heads = others.filter((code) => next(code).every((one) => one !== void 0 && one !== code) && next(code).includes(detail));
	const trailers = others.filter((code) => !next(code).includes(detail));
	return heads.length > 0 && heads.length + trailers.length === others.length && codes[0] !== detail ? {
		rows,
		detail,
		heads,
		trailers
	} : void 0;
}
/** Columns that most of the rows fill. */
function filledColumns(profile, rows) {
	return profile.columns.filter((column) => rows.filter((r) => column.kinds[r] !== CellKind.blank).length >= rows.length * .8);
}
// core/findings/records.ts
/** Records that stand over two or more rows, told by kinds of cell that come again every n rows. */
var records = {
	name: "records",
	find(input) {
		const { profile } = input;
		if (!isPositioned(profile.table) || profile.rows < 6) return [];
		const rows = [];
		for (let r = 0; r < profile.rows; r++) if (profile.filled[r] > 0) rows.push(r);
		for (const height of [
			2,
			3,
			4
		]) {
			const found = recordsOf(profile, rows, height);
			if (found === void 0) continue;
			const rule = ruleFor(profile, found.first, rows);
			if (rule === void 0) continue;
			return [{
				steps: [{
					kind: "fold-rows",
					params: { first: rule },
					why: `types of cells repeat every ${height} rows, ${found.first.length} times: each record spans ${height}`
				}],
				weight: 3.2,
				doubt: { code: "records-by-kind" },
				gives: `one row for ${height} of the report`
			}, {
				steps: [],
				weight: 0,
				gives: "rows unchanged"
			}];
		}
		return [];
	}
};
/** The longest stretch in which lines of a record follow each other in turn, its header with it. */
function recordsOf(profile, rows, height) {
	const used = profile.columns.filter((column) => column.counts[CellKind.blank] < profile.rows);
	const signature = (r) => used.map((column) => kindOf(column.kinds[r]));
	const signatures = rows.map(signature);
	const like = (a, b) => {
		let [same, all] = [0, 0];
		for (let k = 0; k < a.length; k++) {
			if (a[k] === CellKind.blank && b[k] === CellKind.blank) continue;
			all++;
			if (a[k] === b[k]) same++;
		}
		return all === 0 ? 1 : same / all;
	};
	for (let start = 0; start + height * 3 <= rows.length && start < 24; start++) {
		let length = 0;
		while (start + length + height < rows.length && like(signatures[start + length], signatures[start + length + height]) >= .7) length++;
		const count = Math.floor((length + height) / height);
		if (count < 3 || count * height < (rows.length - start) * .7) continue;
		if (Array.from({ length: height }, (_, k) => like(signatures[start + k], signatures[start + (k + 1) % height])).some((share) => share > .6)) continue;
		const [a, b] = [signatures[start], signatures[start + 1]];
		const both = a.flatMap((kind, k) => kind !== CellKind.blank && b[k] !== CellKind.blank ? [k] : []);
		if (both.length > 0 && both.every((k) => a[k] === b[k])) continue;
		const first = Array.from({ length: count }, (_, n) => rows[start + n * height]);
		if (start >= height) first.unshift(rows[start - height]);
		return { first };
	}
}
var kindOf = (kind) => kind === CellKind.missing ? CellKind.figure : kind === CellKind.rule ? CellKind.blank : kind;
/** Rows that begin a record: by a cell that only they fill, or by how they read. */
function ruleFor(profile, first, rows) {
	const own = new Set(first);
	const from = first[0];
	const others = rows.filter((r) => r > from && r <= first.at(-1) && !own.has(r));
	const lead = profile.columns.find((column) => first.every((r) => isFilled(column, r)) && others.every((r) => !isFilled(column, r)));
	if (lead !== void 0) return {
		test: "filled",
		columns: {
			by: "names",
			names: [lead.name]
		}
	};
	const shaped = chooseRules(profile, first.slice(1), others, []);
	if (shaped?.length === 1 && first.length > 2) return shaped[0];
	const height = first[2] - first[1];
	if (first.slice(1).every((r, k) => k === 0 || r - first[k] === height)) return {
		test: "place",
		which: "every",
		from: from + 1,
		count: height
	};
}
// core/findings/remarks-below.ts
/** Lines below one record at most. */
var MAX_LINES = 4;
/**
* Lines of one text below the records that they belong to: remarks, or words that found no room. Every record fills a
* column that these lines leave blank, and the first stands below a record.
*/
var remarksBelow = {
	name: "remarks-below",
	find({ profile, raw, within }) {
		if (!isPositioned(raw) || profile.rows < 4) return [];
		const found = textColumn(profile);
		if (found === void 0) return [];
		const { lead, column, lines } = found;
		const below = lines.map((r) => textAt(column, r));
		const names = Array.from({ length: found.most }, (_, k) => `${column.name} of line ${k + 2}`);
		const goesOn = below.filter((text) => /^\p{Ll}/u.test(text)).length >= lines.length * .7 && areFull(column, profile.rows, lines);
		const joined = goesOn ? [column.name, ...names] : names;
		const taken = profile.table.fields.map(({ name }) => name);
		const into = goesOn ? column.name : taken.includes("Remark") ? `${column.name} below` : "Remark";
		const why = `${counted(lines.length, "line")} with one text below a record, as '${below[0].slice(0, 40)}'`;
		const steps = [{
			kind: "fold-rows",
			params: { first: {
				test: "filled",
				columns: {
					by: "names",
					names: [lead.name]
				}
			} },
			why
		}, joined.length === 1 ? {
			kind: "rename",
			params: { names: [{
				from: joined[0],
				to: into
			}] },
			why: "text of the lines"
		} : {
			kind: "join-text",
			params: {
				columns: {
					by: "names",
					names: joined
				},
				with: " ",
				into,
				keep: false
			},
			why: goesOn ? `they go on with what ${column.name} says` : "the lines of a record are one text"
		}];
		return within === void 0 ? [{
			steps,
			weight: 1.6,
			doubt: { code: "lines-above-or-below" },
			gives: "lines joined to the record above"
		}, {
			steps: [],
			weight: 0,
			gives: "lines as separate rows"
		}] : [];
	}
};
/** Letters of a text that may have found no room in its cell. */
var MIN_FULL = 18;
/** The texts above the lines are long, and longer than others: they broke off. */
function areFull(column, rows, lines) {
	const own = new Set(lines);
	const [full, rest] = [[], []];
	for (let r = 0; r < rows; r++) {
		if (own.has(r) || textAt(column, r) === "") continue;
		(own.has(r + 1) ? full : rest).push(textAt(column, r).length);
	}
	const mean = (lengths) => lengths.reduce((sum, one) => sum + one, 0) / Math.max(1, lengths.length);
	return mean(full) >= MIN_FULL && mean(full) > mean(rest);
}
function textColumn(profile) {
	const filled = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => profile.filled[r] > 0);
	const lines = filled.filter((r) => profile.filled[r] === 1 && profile.figures[r] === 0);
	if (lines.length < 2 || lines[0] === filled[0]) return void 0;
	const column = profile.columns.find((one) => isFilled(one, lines[0]));
	if (column === void 0 || lines.some((r) => column.kinds[r] !== CellKind.text)) return void 0;
	const own = new Set(lines);
	const records = filled.filter((r) => !own.has(r));
	const lead = profile.columns.find((one) => one.index < column.index && records.every((r) => isFilled(one, r)) && lines.every((r) => !isFilled(one, r)));
	if (lead === void 0 || records.length < 3) return void 0;
	let [most, count] = [0, 0];
	for (const r of filled) {
		count = own.has(r) ? count + 1 : 0;
		most = Math.max(most, count);
	}
	return most > MAX_LINES ? void 0 : {
		lead,
		column,
		lines,
		most
	};
}
// core/findings/ruled-tiers.ts
/** Rows at the top in which tiers are looked for. */
var MAX_TOP$2 = 20;
/** Names in the lower of two tiers. */
var MIN_NAMES = 3;
/** A drawn line between two tiers of a header, which would part them: names above it, more names below, figures behind. */
var ruledTiers = {
	name: "ruled-tiers",
	find({ profile }) {
		if (!isPositioned(profile.table) || !partsTiers(profile)) return [];
		const drawn = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => isDrawn(profile, r));
		const columns = profile.columns.filter((column) => drawn.every((r) => column.kinds[r] === CellKind.rule));
		return columns.length === 0 ? [] : [{
			steps: [{
				kind: "set-aside",
				params: {
					pile: "blanks",
					rules: [drawnLine(columns[0].name)]
				},
				why: `${counted(drawn.length, "drawn line")}, one of them between two tiers of the header`
			}],
			weight: 1
		}];
	}
};
var isDrawn = ({ filled, columns }, row) => filled[row] === 0 && columns.some((column) => column.kinds[row] === CellKind.rule);
function partsTiers(profile) {
	const namesIn = (row) => profile.figures[row] === 0 ? profile.filled[row] : 0;
	for (let r = 1; r + 1 < Math.min(profile.rows, MAX_TOP$2); r++) {
		const [upper, lower] = [namesIn(r - 1), namesIn(r + 1)];
		if (!isDrawn(profile, r) || upper < 2 || lower < MIN_NAMES || upper >= lower) continue;
		let below = r + 2;
		while (below < profile.rows && profile.filled[below] === 0) below++;
		if (below < profile.rows && profile.figures[below] > 0) return true;
	}
	return false;
}
// core/findings/running-balance.ts
/** Rows that must go on from the row before for a column to be a balance, and the share of them. */
var MIN_STEPS = 4;
var MIN_SHARE = .8;
/** Columns of figures of an account at most. */
var MAX_FIGURES = 6;
/** A column that goes on by what moved in each row, as on an account: rows that only say the balance once more. */
var runningBalance = {
	name: "running-balance",
	find(input) {
		const body = bodyOf(input);
		const { profile } = body;
		const rows = body.rowsOf("data");
		if (body.figures.length > MAX_FIGURES) return [];
		for (const balance of body.figures) {
			const others = body.figures.filter((column) => column !== balance);
			for (const moved of movements(others)) {
				const again = rowsAgain(balance, moved, rows);
				if (again === void 0) continue;
				const gone = new Set(again);
				const rules = chooseRules(profile, again, rows.filter((r) => !gone.has(r)));
				if (rules === void 0) continue;
				return [{
					steps: [{
						kind: "set-aside",
						params: {
							pile: "balances",
							mark: "repeat",
							rules
						},
						why: `${counted(again.length, "row")} without a movement that repeat ${balance.name}`
					}],
					weight: 2
				}];
			}
		}
		return [];
	}
};
/** One column of signed figures, or one that adds and one that takes away. */
function movements(columns) {
	const at = (column, row) => Number.isNaN(column.values[row]) ? 0 : column.values[row];
	return columns.flatMap((column) => [
		{
			columns: [column],
			of: (row) => at(column, row)
		},
		{
			columns: [column],
			of: (row) => -at(column, row)
		},
		...columns.filter((other) => other !== column).map((other) => ({
			columns: [column, other],
			of: (row) => at(column, row) - at(other, row)
		}))
	]);
}
/** Rows without a movement whose balance is that of a row beside them; undefined where the column is no balance. */
function rowsAgain(balance, moved, rows) {
	const value = (row) => row === void 0 ? NaN : balance.values[row];
	const moves = (row) => moved.columns.some((column) => column.kinds[row] === CellKind.figure);
	const isNear = (a, b) => Math.abs(a - b) <= 1e-6 + 1e-9 * Math.abs(b);
	let [steps, goOn] = [0, 0];
	const idle = [];
	for (const [k, row] of rows.entries()) {
		if (!isFilled(balance, row)) continue;
		if (!moves(row)) idle.push(k);
		else if (k > 0 && moved.of(row) !== 0) {
			steps++;
			if (isNear(value(rows[k - 1]) + moved.of(row), value(row))) goOn++;
		}
	}
	if (steps < MIN_STEPS || goOn < steps * MIN_SHARE || idle.length === 0) return void 0;
	const isAgain = (k) => {
		const [before, own, next] = [
			value(rows[k - 1]),
			value(rows[k]),
			rows[k + 1]
		];
		return isNear(before, own) || next !== void 0 && moves(next) && isNear(own + moved.of(next), value(next));
	};
	return idle.every(isAgain) ? idle.map((k) => rows[k]) : void 0;
}
// core/findings/shifted-cells.ts
/** Rows whose cells slipped to the right, out of the last named column, with a gap where they slipped. */
var shiftedCells = {
	name: "slipped",
	find(input) {
		const { profile } = input;
		const named = profile.columns.filter((column) => !column.isUnnamed);
		if (profile.columns.at(-1) === void 0 || named.length < 2) return [];
		const spare = profile.columns.filter((column) => !named.includes(column) && column.index > named.at(-1).index);
		if (spare.length === 0 || spare.length > 3) return [];
		const over = [];
		for (let r = 0; r < profile.rows; r++) if (spare.some((column) => column.kinds[r] !== CellKind.blank)) over.push(r);
		if (over.length === 0 || over.length > profile.rows * .6) return [];
		const gaps = (r) => named.filter((column) => column.kinds[r] === CellKind.blank).length;
		if (over.some((r) => gaps(r) < spare.filter((column) => column.kinds[r] !== CellKind.blank).length)) return [];
		const names = spare.map((column) => column.name);
		return [{
			steps: [{
				kind: "close-gaps",
				params: {
					columns: {
						by: "names",
						names: [...named, ...spare].map((column) => column.name)
					},
					direction: "left",
					front: false,
					rules: names.map((name) => ({
						test: "filled",
						columns: {
							by: "names",
							names: [name]
						}
					}))
				},
				why: `${counted(over.length, "row")} extend past the last named column and contain a gap`
			}, {
				kind: "drop-columns",
				params: { columns: {
					by: "names",
					names
				} },
				why: "empty once the gaps are closed"
			}],
			weight: 2,
			doubt: { code: "shifted-cells" }
		}];
	}
};
// core/findings/side-by-side-tables.ts
/** Tables that stand side by side under headers of the same names. */
var sideBySideTables = {
	name: "beside",
	find(input) {
		const { profile } = input;
		if (!isPositioned(profile.table) || profile.rows < 2) return [];
		const guess = guessHeader(profile.table);
		const tops = [guess.row + guess.tiers - 1, guess.row];
		for (const row of tops) {
			const tables = tablesAt(profile, row);
			const at = headerRule(profile, row, input.within !== void 0);
			if (tables.length < 2 || at === void 0) continue;
			const names = tables[0].map((k) => textAt(profile.columns[k], row)).filter((name) => name !== "");
			const within = input.within === void 0 ? {} : { within: input.within };
			const labels = labelsOverAll(profile, tables);
			const carried = labels.length === 0 ? [] : [carriedLabels(profile, tables, labels, within)];
			return [{
				steps: [...carried, {
					kind: "stack-beside",
					params: {
						at,
						...within
					},
					why: `${tables.length} tables side by side, each with ${names.slice(0, 3).join(", ")}`
				}],
				weight: 2.5 + carried.length
			}];
		}
		return cards(input);
	}
};
/** Rows at the top in which cards may begin. */
var MAX_TOP$1 = 12;
/** Blocks of a name and a value in each row, several beside each other with the same names. */
function cards({ profile, within }) {
	for (let r = 0; r < Math.min(profile.rows, MAX_TOP$1); r++) {
		const texts = profile.columns.map((column) => textAt(column, r));
		const [first] = texts.filter((text, k) => text !== "" && texts.indexOf(text, k + 1) > 0);
		if (first === void 0) continue;
		const fronts = texts.flatMap((text, k) => text === first ? [k] : []);
		const namesAt = (k) => new Set(distinctTexts(profile.columns[k], MAX_NAMES + 1));
		const [names, ...others] = fronts.map(namesAt);
		const known = others[0] ?? /* @__PURE__ */ new Set();
		const isNames = known.size >= 2 && known.size <= MAX_NAMES;
		const areSame = others.every((own) => own.size === known.size && [...own].every((name) => names.has(name)));
		const haveValues = fronts.every((k) => profile.columns[k + 1] !== void 0 && !fronts.includes(k + 1) && texts[k + 1] !== "");
		const areNames = fronts.every((k) => profile.columns[k].counts[CellKind.figure] === 0);
		const at = headerRule(profile, r, within !== void 0);
		if (!isNames || !areSame || !haveValues || !areNames || at === void 0) continue;
		return [{
			steps: [{
				kind: "stack-beside",
				params: {
					at,
					...within === void 0 ? {} : { within }
				},
				why: `${fronts.length} blocks of names and values side by side, each beginning with ${first}`
			}],
			weight: 2.5
		}];
	}
	return [];
}
/** Names of the fields of a card at most. */
var MAX_NAMES = 30;
/** Rows of one text in the first column that stand over all of the tables: what follows each begins in every table. */
function labelsOverAll(profile, tables) {
	const column = profile.columns[tables[0][0]];
	const labels = [];
	let isBelow = false;
	for (let r = 0; r < profile.rows; r++) {
		if (profile.filled[r] !== 1 || column.kinds[r] !== CellKind.text) {
			isBelow ||= profile.filled[r] > 1;
			continue;
		}
		let next = r + 1;
		while (next < profile.rows && profile.filled[next] === 0) next++;
		if (tables.every((table) => next < profile.rows && table.some((k) => profile.columns[k].kinds[next] === CellKind.text))) labels.push(textAt(column, r));
		else if (isBelow && next < profile.rows) return [];
	}
	return labels.length >= 2 && new Set(labels).size === labels.length ? labels : [];
}
function carriedLabels(profile, tables, labels, within) {
	const { name } = profile.columns[tables[0][0]];
	return {
		kind: "carry",
		params: {
			from: name,
			rule: {
				test: "only",
				columns: [name]
			},
			into: "Group",
			...within
		},
		why: `${counted(labels.length, "row")} with a single text above tables that are side by side, for example ${labels[0]}`
	};
}
/** Columns of each table: the header begins again with its first name, and says mostly the same. */
function tablesAt(profile, row) {
	const names = profile.columns.map((column) => textAt(column, row).toLowerCase());
	const first = names.find((name) => name !== "");
	if (first === void 0) return [];
	if (names.indexOf(first) > 0 && profile.columns.slice(0, names.indexOf(first)).some((_, k) => !blankFrom(profile, k, row))) return [];
	const tables = [];
	names.forEach((name, k) => {
		const column = profile.columns[k];
		if (name === "" && blankFrom(profile, k, row)) return;
		if (name === first && column.kinds[row] === CellKind.text) tables.push([]);
		tables.at(-1)?.push(k);
	});
	if (tables.length < 2) return [];
	const lead = tables[0].map((k) => names[k]);
	if (lead.length < 2) return [];
	return tables.every((table) => {
		const own = table.map((k) => names[k]);
		return own.filter((name) => lead.includes(name)).length >= Math.min(lead.length, own.length) * .8;
	}) ? tables : [];
}
function blankFrom(profile, k, row) {
	const { kinds } = profile.columns[k];
	for (let r = row; r < profile.rows; r++) if (kinds[r] !== CellKind.blank) return false;
	return true;
}
// core/findings/side-notes.ts
/** Columns without names behind a blank one, filled in few rows: a legend or remarks beside the table. */
var sideNotes = {
	name: "side-notes",
	find(input) {
		const { profile } = input;
		const isBlank = (column) => column.counts[CellKind.blank] === profile.rows;
		const isNamed = (column) => !column.isUnnamed;
		let last = profile.columns.length - 1;
		while (last >= 0 && !isNamed(profile.columns[last])) last--;
		const behind = profile.columns.slice(last + 1);
		const gap = behind.findIndex(isBlank);
		const beside = behind.slice(gap + 1).filter((column) => !isBlank(column));
		if (last < 1 || gap < 0 || behind.slice(0, gap).some((column) => !isBlank(column)) || beside.length === 0) return [];
		if (beside.some((column) => profile.rows - column.counts[CellKind.blank] > profile.rows * .6)) return [];
		const names = beside.map((column) => column.name);
		return [{
			steps: [{
				kind: "set-aside-columns",
				params: {
					columns: {
						by: "names",
						names
					},
					pile: "beside"
				},
				why: `${few(names)}: unnamed, after an empty column, and mostly empty`
			}],
			weight: 1,
			doubt: { code: "beside-table" }
		}];
	}
};
// core/findings/spacing.ts
/** No-break, doubled and invisible spaces in texts, and blanks round them, which make equal things differ. */
var STRAY = /[\u00a0\u2007\u202f\u00ad\u200b-\u200d\u2060\ufeff]|\S\s{2,}\S|^\s|\s$/u;
var spacing = {
	name: "spacing",
	find(input) {
		let cells = 0;
		const columns = input.profile.columns.filter((column) => {
			if (column.counts[CellKind.text] === 0) return false;
			const stray = column.texts.map((text) => STRAY.test(text));
			if (!stray.includes(true)) return false;
			let own = 0;
			for (let r = 0; r < column.codes.length; r++) if (column.kinds[r] === CellKind.text && stray[column.codes[r]] && textAt(column, r) !== "") own++;
			cells += own;
			return own > 0;
		});
		if (columns.length === 0) return [];
		return [{
			steps: [{
				kind: "clean-text",
				params: { columns: {
					by: "names",
					names: columns.map((column) => column.name)
				} },
				why: `${counted(cells, "cell")} with extra, no-break or invisible spaces`
			}],
			weight: .3
		}];
	}
};
// core/findings/transposed.ts
/** What rows of other kinds than figures below the names weigh: a header over a cross table has none. */
var OTHER_KINDS = 4;
var SUMMED = 3;
/** A record in each column: the names stand in the first column, and kinds of cell agree along rows, not down columns. */
var transposed = {
	name: "transposed",
	find(input) {
		const { profile } = input;
		if (!isPositioned(profile.table) || input.within !== void 0) return [];
		const first = profile.columns.findIndex((column) => column.counts[CellKind.blank] < profile.rows);
		if (first < 0) return [];
		const lead = profile.columns[first];
		const all = profile.columns.slice(first + 1).filter((column) => column.counts[CellKind.blank] < profile.rows);
		const rows = [];
		for (let r = 0; r < profile.rows; r++) if (profile.filled[r] >= Math.max(3, all.length * .5)) rows.push(r);
		if (rows.length < 3 || rows.length > 80 || all.length < 3) return [];
		if (rows.slice(1).some((r) => lead.kinds[r] !== CellKind.text)) return [];
		const units = unitColumn(all, rows);
		const sums = sumColumn(all, rows);
		const records = all.filter((column) => column !== units && column !== sums);
		if (records.length < 3) return [];
		if (rows.some((r, k) => k > 0 && rows[k - 1] < r - 2)) return [];
		if (new Set(rows.map((r) => textAt(lead, r))).size < rows.length * .9) return [];
		const along = purity(rows.map((r) => records.map((column) => column.kinds[r])));
		const down = purity(records.map((column) => rows.map((r) => column.kinds[r])));
		const kinds = new Set(rows.map((r) => leading(records.map((column) => column.kinds[r]))));
		if (along < .97 || down > .8 || kinds.size < 2) return [];
		const figures = rows.filter((r) => leading(records.map((column) => column.kinds[r])) === CellKind.figure).length;
		if (figures >= rows.length - 1) return [];
		if (records.some((column) => column.kinds[rows[0]] === CellKind.blank) && figures >= rows.length - 2) return [];
		const name = lead.name;
		const lone = profile.rows > rows.length;
		const figured = rows.filter((r) => sums?.kinds[r] === CellKind.figure).length;
		return [{
			steps: [
				...[{
					column: units,
					pile: "units",
					why: "the unit of each row of figures"
				}, {
					column: sums,
					pile: "totals",
					why: "the sum of the columns before it, row by row"
				}].flatMap(({ column, pile, why }) => column === void 0 ? [] : [{
					kind: "set-aside-columns",
					params: {
						pile,
						columns: {
							by: "names",
							names: [column.name]
						}
					},
					why
				}]),
				...lone ? [{
					kind: "keep-rows",
					params: { rules: [{
						test: "filled",
						columns: {
							by: "names",
							names: [records[0].name, records[1].name]
						}
					}] },
					why: `${rows.length} rows span ${records.length + 1} columns`
				}] : [],
				{
					kind: "transpose",
					params: {
						names: name,
						into: "Column"
					},
					why: `cells agree in kind along ${rows.length} rows (${Math.round(along * 100)}%) and not down columns (${Math.round(down * 100)}%): each column is a record`
				},
				{
					kind: "drop-columns",
					params: { columns: {
						by: "names",
						names: ["Column"]
					} },
					why: "only the column letters"
				}
			],
			weight: OTHER_KINDS + (figured >= 2 ? SUMMED : 0),
			doubt: { code: "columns-as-records" },
			...figured === 0 ? {} : { explained: {
				fit: figured,
				of: figured
			} },
			gives: "a row for each column of the report"
		}];
	}
};
/** A column behind the names that says the unit of the figures beside it, and nothing beside words. */
function unitColumn(columns, rows) {
	const [column, next] = columns;
	if (column === void 0 || next === void 0) return void 0;
	const filled = rows.slice(1).filter((r) => column.kinds[r] !== CellKind.blank);
	const figures = rows.slice(1).filter((r) => next.kinds[r] === CellKind.figure);
	return filled.length > 0 && filled.every((r) => figures.includes(r) && column.kinds[r] === CellKind.text) && filled.length < rows.length - 1 ? column : void 0;
}
/** The last column, where it is the sum of those before it in each row of figures and blank in the others. */
function sumColumn(columns, rows) {
	const last = columns.at(-1);
	if (last === void 0) return void 0;
	const filled = rows.slice(1).filter((r) => last.kinds[r] !== CellKind.blank);
	const isSum = (r) => {
		const sum = columns.slice(0, -1).reduce((total, { values }) => total + (Number.isNaN(values[r]) ? 0 : values[r]), 0);
		return last.kinds[r] === CellKind.figure && Math.abs(sum - last.values[r]) <= 1e-6 * Math.max(1, Math.abs(sum));
	};
	return filled.length > 0 && filled.length < rows.length - 1 && filled.every(isSum) ? last : void 0;
}
function leading(kinds) {
	const counts = [
		0,
		0,
		0,
		0,
		0,
		0
	];
	for (const kind of kinds) if (kind !== CellKind.blank && kind !== CellKind.missing) counts[kind]++;
	return counts.indexOf(Math.max(...counts));
}
/** Share of the cells that are of the kind that leads in their line. */
function purity(lines) {
	let [pure, all] = [0, 0];
	for (const kinds of lines) {
		const lead = leading(kinds);
		for (const kind of kinds) {
			if (kind === CellKind.blank || kind === CellKind.missing) continue;
			all++;
			if (kind === lead) pure++;
		}
	}
	return all === 0 ? 0 : pure / all;
}
// core/findings/two-in-one.ts
/** Two things in one column: a name with its code in brackets, a kind with a figure behind a sign. */
var twoInOne = {
	name: "two-in-one",
	find(input) {
		const steps = input.profile.columns.flatMap((column) => {
			const isText = column.counts[CellKind.text] >= Math.max(2, (input.profile.rows - column.counts[CellKind.blank]) * .9);
			const all = isText || column.counts[CellKind.figure] > 1 ? distinctTexts(column, MAX_TEXTS$1) : [];
			const step = currencies(column, all) ?? (isText ? split(column, all) : void 0);
			return step === void 0 ? [] : [step];
		});
		return steps.length === 0 ? [] : [{
			steps,
			weight: 1,
			doubt: {
				code: "two-in-one",
				columns: steps.map(({ params }) => params.column)
			}
		}];
	}
};
/** Different texts of a column that are looked at. */
var MAX_TEXTS$1 = 2001;
function split(column, all) {
	return all.length < 2 ? void 0 : inBrackets(column, all) ?? parted(column, all) ?? figuresInStep(column, all);
}
/** Texts of which each must hold as many figures. */
var MIN_IN_STEP = 5;
var MAX_IN_STEP = 4;
/** '-4.01; 56.47': as many figures in each text, as of points. */
function figuresInStep(column, all) {
	if (all.length < MIN_IN_STEP) return void 0;
	for (const sign of [
		"; ",
		";",
		", ",
		"|"
	]) {
		const items = all.map((text) => text.split(sign));
		const count = items[0].length;
		if (count < 2 || count > MAX_IN_STEP || !items.every((own) => own.length === count && own.every(isFigure))) continue;
		const into = Array.from({ length: count }, (_, k) => `${column.name} ${k + 1}`);
		return cut(column, [sign.trim()], into, "every", `${count} figures separated by '${sign.trim()}'`);
	}
}
var isFigure = (text) => /^[-+−]?\d+(?:\.\d+)?$/.test(text.trim());
/** Texts may differ in one of about thirty. */
var NEARLY_ALL = .97;
var SIGNS = [
	" - ",
	" – ",
	" — ",
	" | ",
	": ",
	" / ",
	" · ",
	"/",
	"|",
	":",
	" "
];
/** 'Name (CODE)', 'Name [CODE]'. */
function inBrackets(column, all) {
	for (const [open, close, pattern] of [[
		" (",
		")",
		/^[^()]+\s\(([^()]+)\)$/
	], [
		" [",
		"]",
		/^[^[\]]+\s\[([^[\]]+)\]$/
	]]) {
		const inside = all.flatMap((text) => pattern.exec(text)?.[1] ?? []);
		if (inside.length < all.length * NEARLY_ALL || new Set(inside).size < 2) continue;
		const second = isCode(inside) ? `${column.name} code` : `${column.name} in brackets`;
		return cut(column, [open, close], [
			column.name,
			second,
			""
		], "every", "a name followed by brackets");
	}
}
/** 'EUR 12.50' beside 'GBP 3.10': amounts in several currencies, each with its code of three letters (ISO 4217). */
function currencies(column, all) {
	const pairs = all.map((text) => text.split(" "));
	const codeAt = pairs[0]?.length === 2 ? pairs[0].findIndex((text) => /^[A-Z]{3}$/.test(text)) : -1;
	if (codeAt < 0) return void 0;
	const areAmounts = pairs.every((own) => own.length === 2 && isAmount(own[1 - codeAt]));
	const codes = new Set(pairs.map((own) => own[codeAt]));
	if (!areAmounts || codes.size < 2 || ![...codes].every((code) => /^[A-Z]{3}$/.test(code))) return void 0;
	return cut(column, [" "], codeAt === 0 ? ["Currency", column.name] : [column.name, "Currency"], "first", `amounts with their currency: ${[...codes].join(", ")}`);
}
var isAmount = (text) => /^[-+−(]?\d[\d.,'\u00a0\u202f]*\)?$/.test(text);
/** Two things with a sign between, in nearly every text or wherever the second is said. */
function parted(column, all) {
	for (const sign of SIGNS) {
		const withSign = all.filter((text) => text.includes(sign));
		const isCutOnce = sign === " " || /\s/.test(sign) && isCodedInFront(withSign, sign);
		const once = isCutOnce ? withSign : withSign.filter((text) => text.split(sign).length === 2);
		const pairs = once.map((text) => {
			const at = text.indexOf(sign);
			return [text.slice(0, at).trim(), text.slice(at + sign.length).trim()];
		});
		const [left, right] = [pairs.map(([one]) => one), pairs.map(([, other]) => other)];
		const which = isCutOnce ? "first" : "every";
		const why = `two values separated by '${sign}': ${left[0]} and ${right[0]}`;
		if (sign === "/" && isKindAndFigure(pairs, all.length, withSign.length)) return cut(column, [sign], [column.name, `${column.name} figure`], which, why);
		if (once.length < all.length * NEARLY_ALL || !areTwoThings(sign, left, right, all.length)) continue;
		const other = `${column.name} code`;
		const names = isCode(left) ? [other, column.name] : isCode(right) ? [column.name, other] : [`${column.name} 1`, `${column.name} 2`];
		const isWide = all.every((text) => /\S\s{2,}\S/.test(text));
		if (sign === " " && !isWide && new Set(right).size < new Set(left.map((code, k) => `${code} ${right[k]}`)).size * .9) continue;
		return cut(column, [sign], names, which, why);
	}
}
/** A code with a digit stands in front of the first sign in each text, which may come again in the name. */
function isCodedInFront(texts, sign) {
	const fronts = texts.map((text) => text.slice(0, text.indexOf(sign)).trim());
	return isCode(fronts) && fronts.every((front) => /\d/.test(front));
}
/** 'lorry/4.8' beside kinds without a figure. */
function isKindAndFigure(pairs, all, withSign) {
	return pairs.length >= 3 && pairs.length === withSign && pairs.length >= all * .6 && isFigures(pairs.map(([, figure]) => figure)) && !pairs.some(([kind]) => /\d/.test(kind)) && new Set(pairs.map(([kind]) => kind)).size >= 2;
}
/** What stands left and right is of two kinds: a code and a name, words and figures, or classes under each other. */
function areTwoThings(sign, left, right, all) {
	const [lefts, rights] = [new Set(left).size, new Set(right).size];
	if (lefts < 2 || rights < 2) return false;
	if (sign === " ") return isCode(left) && !isCode(right) && left.every((text) => /\d/.test(text));
	const codes = isCode(left) !== isCode(right);
	const figures = isFigures(left) !== isFigures(right) && !isCode(left) && !isCode(right);
	if (sign.trim() === sign) return figures || codes && sign !== "/" && sign !== ":";
	return codes || figures || lefts * rights <= all * 2 && lefts < all * .5;
}
function cut(column, delimiters, into, which, why) {
	return {
		kind: "split-to-columns",
		params: {
			column: column.name,
			cut: {
				by: "delimiter",
				delimiters,
				which,
				positions: [],
				trim: true
			},
			into,
			keep: false
		},
		why: `${column.name} contains ${why}`
	};
}
/** Short, without blanks, with a digit or in capitals throughout. */
function isCode(texts) {
	return texts.every((text) => text.length <= 12 && /^[\p{Lu}\d./_-]+$/u.test(text) && /[\p{Lu}\d]/u.test(text));
}
function isFigures(texts) {
	return texts.every((text) => /^[+-]?\d[\d\s.,]*(?:\s?(?:%|€|\p{L}{1,3}))?$/u.test(text));
}
// core/findings/units.ts
/** A figure and the unit behind it: letters, or a sign such as those of degrees and per mille. */
var WITH_UNIT = /^(?<figure>[-+−]?\d[\d.,'\u00a0\u202f ]*?)\s?(?<unit>\p{L}{1,5}[²³]?\.?|°[CF]?|‰)$/u;
/** Share of the cells that must have the unit. */
var MOSTLY = .9;
/** Cells that a unit is seen in at least. */
var MIN_CELLS = 3;
/** Units written into each cell behind the figure: they go into the name of the column. */
var units = {
	name: "units",
	find({ profile }) {
		const form = NumberForm.parse({ decimal: profile.decimal });
		const taken = new Set(profile.table.fields.map(({ name }) => name));
		const steps = profile.columns.flatMap((column) => {
			const unit = unitOf(column, profile.rows, form);
			if (unit === void 0) return [];
			const name = `${column.name} (${unit.text})`;
			const replace = {
				kind: "replace",
				params: {
					columns: {
						by: "names",
						names: [column.name]
					},
					find: `(?<=\\d)\\s?${escapeRegExp(unit.text)}$`,
					with: "",
					how: "pattern",
					exact: true
				},
				why: `${counted(unit.cells, "value")} in ${column.name} ${unit.cells === 1 ? "ends" : "end"} in ${unit.text}`
			};
			return taken.has(name) || column.name.toLowerCase().includes(unit.text.toLowerCase()) ? [replace] : [replace, {
				kind: "rename",
				params: { names: [{
					from: column.name,
					to: name
				}] },
				why: `${unit.text} is the unit of its numbers`
			}];
		});
		return steps.length === 0 ? [] : [{
			steps,
			weight: 1
		}];
	}
};
/** The one unit of a column, where nearly every cell has it and none has another. */
function unitOf(column, rows, form) {
	if (column.counts[CellKind.text] < MIN_CELLS) return void 0;
	const found = /* @__PURE__ */ new Set();
	let [cells, filled] = [0, 0];
	for (let r = 0; r < rows; r++) {
		const kind = column.kinds[r];
		if (kind === CellKind.blank || kind === CellKind.missing) continue;
		filled++;
		const { figure, unit } = WITH_UNIT.exec(textAt(column, r))?.groups ?? {};
		if (figure === void 0 || unit === void 0) {
			if (kind !== CellKind.figure) return void 0;
			continue;
		}
		if (/^0\d/.test(figure) || Number.isNaN(readNumber(figure.trim(), form).value)) return void 0;
		cells++;
		found.add(unit);
		if (found.size > 1) return void 0;
	}
	const [text] = found;
	return text === void 0 || cells < filled * MOSTLY || /^\p{Lu}$/u.test(text) ? void 0 : {
		text,
		cells
	};
}
// core/findings/week-blocks.ts
/** Columns of a calendar at least, as of a week without its days off. */
var MIN_DAYS = 5;
/** Blocks that show one. */
var MIN_BLOCKS = 3;
/** Rows at the top in which its names stand. */
var MAX_TOP = 20;
/** Under names such as those of weekdays, blocks of rows: first the numbers or dates of the days, then what is counted. */
var weekBlocks = {
	name: "week-blocks",
	find(input) {
		const found = isPositioned(input.profile.table) ? calendarOf(input.profile) : void 0;
		return found === void 0 ? [] : [{
			steps: stepsOf(input, found),
			weight: 6,
			gives: "a row for each day"
		}];
	}
};
function calendarOf(profile) {
	for (let header = 0; header < Math.min(profile.rows, MAX_TOP); header++) {
		const days = profile.columns.filter((column) => column.kinds[header] === CellKind.text);
		const label = profile.columns[(days[0]?.index ?? 0) - 1];
		if (days.length < MIN_DAYS || label === void 0 || profile.filled[header] !== days.length) continue;
		const found = blocksBelow(profile, header, days, label);
		if (found !== void 0) return {
			header,
			days,
			label,
			...found
		};
	}
}
/** Each block begins with a row that counts days without a label, and has the same labels below it. */
function blocksBelow(profile, header, days, label) {
	const blocks = [];
	for (let r = header + 1; r < profile.rows; r++) {
		if (!days.some((column) => NUMBERS.includes(column.kinds[r]))) continue;
		if (!isFilled(label, r)) {
			if (!countsDays(days, r)) return void 0;
			blocks.push([]);
		} else if (blocks.length === 0) return void 0;
		else blocks.at(-1).push(textAt(label, r));
	}
	const [measures] = blocks;
	const areSame = blocks.every((own) => own.join("\n") === measures.join("\n"));
	return blocks.length < MIN_BLOCKS || !areSame || measures.length === 0 || new Set(measures).size < measures.length ? void 0 : {
		measures,
		blocks: blocks.length
	};
}
var NUMBERS = [CellKind.figure, CellKind.date];
/** Days in a row, each one later than the one before. */
function countsDays(days, row) {
	const filled = days.filter((column) => isFilled(column, row));
	return filled.every((column, k) => {
		if (column.kinds[row] === CellKind.date) return true;
		const value = column.values[row];
		return value >= 1 && value <= 31 && (k === 0 || value === filled[k - 1].values[row] + 1);
	});
}
function stepsOf(input, { header, days, label, measures, blocks }) {
	const { profile } = input;
	const names = days.map((column) => textAt(column, header));
	const head = headerSteps(input, header, 1);
	const carried = head.flatMap(({ kind, params }) => kind === "carry" ? [String(params["into"])] : []);
	const within = input.within === void 0 ? {} : { within: input.within };
	const dayOf = (name) => `${name} / Day`;
	const [first, ...others] = names;
	return [
		...head,
		{
			kind: "set-aside",
			params: {
				pile: "blanks",
				rules: [{ test: "empty" }]
			},
			why: "rows between the weeks"
		},
		{
			kind: "carry",
			params: {
				from: first,
				rule: {
					test: "blank",
					columns: {
						by: "names",
						names: [label.name]
					}
				},
				into: dayOf(first),
				also: others.map((from) => ({
					from,
					into: dayOf(from)
				})),
				...within
			},
			why: `${counted(blocks, "row")} of days, each above what is counted on them`
		},
		{
			kind: "rename",
			params: { names: names.map((from) => ({
				from,
				to: `${from} / Value`
			})) },
			why: "beside their days"
		},
		{
			kind: "unpivot",
			params: {
				columns: {
					by: "contains",
					text: " / "
				},
				split: " / ",
				template: null,
				pattern: null,
				parts: [{
					as: "column",
					name: "Weekday"
				}, { as: "each" }],
				value: "Value",
				blanks: "drop"
			},
			why: `${few(names)} are values of weekday, each with its day`
		},
		{
			kind: "pivot",
			params: {
				rows: {
					by: "names",
					names: [
						...profile.table.fields.filter((field) => field.nameOrigin === "beside").map(({ name }) => name),
						...carried,
						"Weekday",
						"Day"
					]
				},
				names: [label.name],
				values: [{
					column: "Value",
					by: "only"
				}]
			},
			why: `${few(measures)} are what is counted on each day`
		}
	];
}
// core/findings/catalogue.ts
/** All detectors in the order of the work; those of one stage are choices beside each other. */
var STAGES = [
	[sideBySideTables],
	[records],
	[lines, weekBlocks],
	[ruledTiers],
	[
		header,
		formedLines,
		transposed,
		attributeBlocks,
		outerRows,
		recordCodes,
		masterDetail
	],
	[pageFurniture],
	[remarksBelow],
	[notes],
	[shiftedCells, sideNotes],
	[indentation, nestedCodes],
	[runningBalance],
	[derivedRows],
	[totals],
	[labels],
	[continued],
	[labelWords],
	[ditto],
	[keys],
	[sumColumns],
	[changeColumns],
	[countColumns],
	[packedLists],
	[attributeRows],
	[footnoteMarks],
	[units],
	[missing],
	[flags],
	[headersAsValues],
	[measureNames],
	[spacing],
	[leaders],
	[templates],
	[twoInOne],
	[blankMargins],
	[types]
];
// core/draft/score.ts
/** How many cells are of the kind that leads in their column, of how many that hold anything. */
function purityOf({ columns }) {
	let [pure, filled] = [0, 0];
	for (const { counts } of columns) {
		const kinds = [
			counts[CellKind.figure],
			counts[CellKind.text],
			counts[CellKind.date]
		];
		pure += Math.max(...kinds);
		filled += kinds.reduce((sum, one) => sum + one, 0);
	}
	return {
		pure,
		filled
	};
}
/** What a table without any name of a column loses. */
var NO_HEADER = 4;
/** How plainly a method describes the report, beside what its detectors said: see docs/draft.md for the reasons. */
function quality(steps, input) {
	const { profile } = input;
	if (profile.rows === 0 || profile.columns.length === 0) return -50;
	const body = bodyOf(input);
	let score = 0;
	const { pure, filled } = purityOf(profile);
	score += filled === 0 ? -5 : -25 * (1 - pure / filled);
	const names = profile.columns.map((column) => column.name);
	const kinds = nameKinds(names);
	const unnamed = profile.columns.filter((column) => column.counts[CellKind.blank] < profile.rows && column.isUnnamed && profile.table.fields[column.index].nameOrigin !== "beside").length;
	const numbered = names.filter((name) => / \d+$/.test(name) && names.includes(name.replace(/ \d+$/, ""))).length;
	const named = profile.columns.filter((column) => profile.table.fields[column.index].nameOrigin !== "beside").length;
	score -= unnamed === named ? Math.min(NO_HEADER, 1.5 * unnamed) : 1.5 * unnamed;
	score -= numbered;
	score -= .4 * kinds.filter((kind) => kind !== void 0).length;
	score -= .3 * names.filter((name) => name.includes(" / ")).length;
	score -= 2 * names.filter((name, k) => /^[\d.,\s-]+$/.test(name) && kinds[k] === void 0).length;
	const other = body.roles.filter((role) => role !== "data").length;
	score -= 8 * (other / profile.rows) + (other > 0 ? 1 : 0);
	let totals = 0;
	for (let r = 0; r < profile.rows; r++) if (rowSaysTotal(profile, r)) totals++;
	if (body.figures.length > 0) score -= totals === 0 ? 0 : 1 + Math.min(6, 20 * (totals / profile.rows));
	for (const column of body.keys.slice(0, 3)) score -= 2 * (column.counts[CellKind.blank] / profile.rows);
	score -= .15 * steps;
	return score;
}
// core/draft/search.ts
var NOTHING_GIVEN = {
	steps: [],
	without: []
};
/** Methods that are followed at once. */
var WIDTH = 8;
/** Points behind the best at which a method is followed no further. */
var BEHIND = 4;
var NAMED = 2.2;
/** What must speak for another way to name it as a choice. */
var OFFERED = .9;
/**
* Whole methods for a table, the best first: each stage's detectors add their choices to every method that is followed,
* and the most promising go on.
*
* @param raw the table as it was read, or a sample of it
* @param progress told from 0 to 1; may throw to give up
* @returns none where a given step does not run on the sample
*/
function searchMethods(raw, within, progress, childless = /* @__PURE__ */ new Set(), given = NOTHING_GIVEN) {
	const start = begun(raw, given.steps, within, childless);
	if (start === void 0) return [];
	const left = new Set(given.without.map(stepKey));
	let beam = [start];
	STAGES.forEach((detectors, stage) => {
		const next = [];
		for (const one of beam) {
			progress(stage / STAGES.length);
			const findings = detectors.flatMap((detector) => detector.find(handOf(one, raw, within, childless))).filter((finding) => !finding.steps.some((step) => left.has(stepKey(step))));
			const gone = findings.flatMap((finding) => {
				const after = apply(one, finding, findings, raw.decimal);
				return after === void 0 ? [] : [after];
			});
			next.push(...gone.length === 0 ? [one] : gone);
		}
		next.sort((a, b) => b.weight - a.weight);
		beam = next.slice(0, WIDTH).filter((one) => one.weight >= next[0].weight - BEHIND);
	});
	const headed = isPositioned(raw) ? 0 : NAMED;
	const scored = beam.map((one) => ({
		...one,
		weight: one.weight + headed + quality(one.steps.length, handOf(one, raw, within, childless))
	}));
	const seen = /* @__PURE__ */ new Set();
	return scored.sort((a, b) => b.weight - a.weight).filter((one) => {
		const key = one.steps.map(stepKey).join();
		if (seen.has(key)) return false;
		seen.add(key);
		return true;
	});
}
/** A method that begins with these steps; undefined where one of them does not run. */
function begun(raw, steps, within, childless) {
	let one = {
		steps: [],
		table: raw,
		weight: 0,
		explained: {
			fit: 0,
			of: 0
		},
		gives: [],
		choices: [],
		titles: /* @__PURE__ */ new Set(),
		sums: [],
		doubts: []
	};
	for (const step of steps) {
		const sums = step.kind === setAsideColumns.kind ? sumColumns.find(handOf(one, raw, within, childless)).flatMap((finding) => finding.sums ?? []) : [];
		one = apply(one, {
			steps: [step],
			weight: 0,
			sums
		}, [], raw.decimal);
		if (one === void 0) return void 0;
	}
	return one;
}
function handOf(one, raw, within, childless) {
	return {
		profile: profileTable(one.table, raw.decimal),
		raw,
		isSample: isCut(raw),
		childless: one.table === raw ? childless : /* @__PURE__ */ new Set(),
		done: one.steps.map(({ kind }) => kind),
		within: one.table.fields.some((field) => field.name === within) ? within : void 0,
		titles: one.titles,
		sums: one.sums
	};
}
/** The method with the steps of a finding; undefined where one of them does not run. */
function apply(one, finding, all, decimal) {
	let { table, titles } = one;
	const steps = [...one.steps];
	try {
		for (const step of finding.steps) {
			const kind = CATALOGUE.get(step.kind);
			const params = kind.params.parse(step.params);
			const result = kind.run(table, params, ALONE);
			const above = result.aside.filter((pile) => pile.mark === "title");
			if (above.length > 0) {
				const profile = profileTable(table, decimal);
				titles = /* @__PURE__ */ new Set([...titles, ...above.flatMap((pile) => [...pile.rows].map((r) => rowPattern(profile, r)))]);
			}
			table = result.table;
			steps.push({
				...step,
				params
			});
		}
	} catch (error) {
		if (error instanceof StepFailure) return void 0;
		throw error;
	}
	const others = all.filter((other) => other !== finding && other.gives !== void 0 && finding.gives !== void 0 && (other.steps.length === 0 || other.weight >= OFFERED));
	return {
		steps,
		table,
		titles,
		weight: one.weight + finding.weight,
		explained: {
			fit: one.explained.fit + (finding.explained?.fit ?? 0),
			of: one.explained.of + (finding.explained?.of ?? 0)
		},
		gives: finding.gives === void 0 || finding.steps.length === 0 ? one.gives : [...one.gives, finding.gives],
		choices: [...one.choices, ...finding.steps.length === 0 ? [] : others.map((other) => ({
			from: one.steps.length,
			to: steps.length,
			gives: other.gives,
			steps: other.steps
		}))],
		doubts: finding.doubt === void 0 ? one.doubts : [...one.doubts, finding.doubt],
		sums: finding.sums === void 0 ? one.sums : [...one.sums, ...finding.sums]
	};
}
var sureness_weights_default = {
	evidence: [
		"lead",
		"totals that agree",
		"share of totals that disagree",
		"steps",
		"steps that reshape without a total",
		"remarks",
		"grave remarks",
		"doubts",
		"cells of a column in another kind",
		"columns of words",
		"rows",
		"columns without a name"
	],
	weights: [
		.1215,
		0,
		0,
		0,
		0,
		-1.1127,
		0,
		0,
		-30.9709,
		0,
		.2028,
		0
	],
	bias: .6015,
	sure: .878
};
// core/draft/sureness.ts
/** Points by which a method must lead the next that gives another table, to be sure. */
var CLEAR = .6;
/** Figures of totals that must agree to prove a layout. */
var PROVEN = 3;
/** Kinds of step that move cells to other rows or columns: a wrong one of them is not seen in any cell. */
var RESHAPING = /* @__PURE__ */ new Set([
	"unpivot",
	"pivot",
	"carry",
	"fold-rows",
	"transpose",
	"levels",
	"extract",
	"stack-beside",
	"fill"
]);
/** The evidence as numbers of a size: counts as logarithms, leads up to 5 points. */
function evidenceOf(evidence) {
	const { candidate, profile, tally, proof, lead, remarks } = evidence;
	const agree = agreeing(evidence);
	const disagree = tally?.ledger.disagrees ?? (proof === void 0 ? 0 : proof.of - proof.agree);
	const columns = Math.max(1, profile.columns.length);
	const { pure, filled } = purityOf(profile);
	const words = profile.columns.filter(({ counts }) => counts[CellKind.text] > 0).length;
	const unnamed = profile.columns.filter(({ isUnnamed }) => isUnnamed).length;
	const reshaping = candidate.steps.filter(({ kind }) => RESHAPING.has(kind)).length;
	return [
		Math.max(0, Math.min(5, lead)),
		Math.log1p(agree),
		disagree / Math.max(1, agree + disagree),
		candidate.steps.length,
		agree === 0 ? reshaping : 0,
		Math.min(4, remarks.length),
		Math.min(4, remarks.filter(isGrave).length),
		Math.min(4, candidate.doubts.length),
		filled === 0 ? 1 : 1 - pure / filled,
		words / columns,
		Math.log1p(profile.rows),
		unnamed / columns
	];
}
/** The probability that a draft with this evidence gives the right table, by weights that `npm run draft:fit` found. */
function probabilityOf(evidence, { weights, bias } = sureness_weights_default) {
	return 1 / (1 + Math.exp(-evidence.reduce((sum, value, k) => sum + value * weights[k], bias)));
}
/** How sure a method is, and why. Sure is said only with proof: a draft that is wrong must never be. */
function surenessOf(known) {
	const evidence = evidenceOf(known);
	const probability = probabilityOf(evidence);
	const judged = judgedBy(known);
	const isSureByRules = judged.sureness === "sure";
	const said = isSureByRules && agreeing(known) === 0 && probability < sureness_weights_default.sure ? {
		sureness: "likely",
		because: { code: "unproven" }
	} : judged;
	return {
		...said,
		why: reasonText(said.because),
		probability,
		isSureByRules,
		evidence
	};
}
var agreeing = ({ tally, proof }) => tally?.ledger.agrees ?? proof?.agree ?? 0;
function judgedBy({ candidate, table, profile, tally, proof, unread: left, lead, remarks }) {
	const against = speaksAgainst(profile, tally);
	if (against !== void 0) return {
		sureness: "guess",
		because: against
	};
	const unread = (tally?.cells.fates ?? []).filter((fate) => fate.as === "unread").reduce((sum, fate) => sum + fate.figures, 0);
	const [doubt] = tally === void 0 && proof !== void 0 ? candidate.doubts.filter(({ code }) => code !== "totals-off") : candidate.doubts;
	if (doubt !== void 0) return {
		sureness: "likely",
		because: {
			code: "doubt",
			doubt
		}
	};
	if (left.length > 0) return {
		sureness: "likely",
		because: {
			code: "unread-parts",
			names: left
		}
	};
	if (unread > 0) return {
		sureness: "likely",
		because: {
			code: "unread-figures",
			figures: unread
		}
	};
	const [remark] = remarks;
	if (remark !== void 0) return {
		sureness: "likely",
		because: {
			code: "remark",
			remark
		}
	};
	if (lead < CLEAR) return {
		sureness: "likely",
		because: { code: "close-rival" }
	};
	const mixed = mixesMeasures(profile);
	if (mixed !== void 0) return {
		sureness: "likely",
		because: {
			code: "mixed-measures",
			column: mixed
		}
	};
	const { agrees, disagrees, cannotTell } = tally?.ledger ?? {
		agrees: proof?.agree ?? 0,
		disagrees: proof === void 0 ? 0 : proof.of - proof.agree,
		cannotTell: 0
	};
	const { fit, of } = tally === void 0 && proof !== void 0 ? {
		fit: proof.agree,
		of: proof.of
	} : candidate.explained;
	if (fit >= PROVEN && fit === of && disagrees === 0 && cannotTell === 0 && agrees > 0) return {
		sureness: "sure",
		because: {
			code: "totals-prove",
			agree: agrees
		}
	};
	if (of > 0 && fit < of) return {
		sureness: "likely",
		because: {
			code: "doubt",
			doubt: {
				code: "totals-off",
				off: of - fit,
				of
			}
		}
	};
	if (disagrees > 0) return {
		sureness: "likely",
		because: {
			code: "totals-disagree",
			disagree: disagrees
		}
	};
	const key = keyOf(table);
	if (key === void 0) return {
		sureness: "likely",
		because: { code: "no-key" }
	};
	const weak = weakStructure(profile);
	if (weak !== void 0) return {
		sureness: "likely",
		because: weak
	};
	return {
		sureness: "sure",
		because: {
			code: "structure-proves",
			key
		}
	};
}
/** Rows of a table whose structure alone proves it. */
var MIN_ROWS = 4;
/** Why structure without totals does not prove a table. */
function weakStructure(profile) {
	if (profile.rows < MIN_ROWS) return { code: "few-rows" };
	if (!profile.columns.some((column) => column.counts[CellKind.figure] + column.counts[CellKind.date] > 0)) return { code: "words-only" };
	const odd = profile.columns.find((column) => !/^[\p{L}\p{N}%€$£#_(]/u.test(column.name));
	return odd === void 0 ? void 0 : {
		code: "odd-name",
		column: odd.name
	};
}
/** What makes a draft no more than a guess. */
function speaksAgainst(profile, tally) {
	if (profile.rows === 0) return { code: "no-rows" };
	if (profile.columns.length < 2) return { code: "one-column" };
	const named = profile.columns.findIndex((column) => !column.isUnnamed);
	const unnamed = profile.columns.find((column, k) => column.isUnnamed && column.counts[CellKind.blank] < profile.rows && (k > named || column.counts[CellKind.figure] > 0));
	if (unnamed !== void 0) return {
		code: "no-name",
		column: unnamed.name
	};
	if (tally !== void 0) {
		const { cells, ledger } = tally;
		if (cells.accounted < cells.filled) return {
			code: "cells-lost",
			cells: cells.filled - cells.accounted
		};
		if (ledger.disagrees > ledger.agrees) return {
			code: "totals-disagree",
			disagree: ledger.disagrees
		};
	}
	for (const column of profile.columns) {
		if (saysTotal(column.name) && column.counts[CellKind.figure] > 0 && column.name.length < 40) return {
			code: "total-column",
			column: column.name
		};
		if (column.counts[CellKind.text] > 0 && column.texts.some((text) => /^[[{]/.test(text) || text.length > 400)) return {
			code: "nested-text",
			column: column.name
		};
		if (column.counts[CellKind.text] > 0 && isPacked(column)) return {
			code: "packed-cells",
			column: column.name
		};
		const kinds = [
			column.counts[CellKind.figure],
			column.counts[CellKind.text],
			column.counts[CellKind.date]
		];
		const all = kinds.reduce((sum, count) => sum + count, 0);
		if (Math.max(...kinds) < all * .97) return {
			code: "mixed-kinds",
			column: column.name
		};
		if (column.counts[CellKind.text] > 0 && column.texts.some((text) => saysTotal(text) && text.length < 40) && kinds[1] < profile.rows) return {
			code: "total-in-rows",
			column: column.name
		};
	}
}
/** Most texts hold signs between items. */
function isPacked({ codes, texts }) {
	let [packed, all] = [0, 0];
	const signs = texts.map((text) => /[|;\n]/.test(text));
	for (const code of codes) {
		if (code < 0) continue;
		all++;
		if (signs[code]) packed++;
	}
	return packed > all * .3;
}
/** The fewest columns of words, dates and years whose values together tell every row apart; undefined where none do. */
function keyOf(table) {
	const fields = table.fields.filter(({ name, column }) => column.type !== "number" && column.type !== "whole" || /^\P{L}*(?:year|jahr|ann[ée]e|año)/iu.test(name));
	return identifyingColumns({
		rows: table.rows,
		fields
	})?.join(" and ");
}
/** Figures of one column are written with other decimals under each of a few words: measures that stand down a column. */
function mixesMeasures(profile) {
	const figures = profile.columns.filter((column) => column.counts[CellKind.figure] > 0);
	for (const words of profile.columns) {
		if (words.counts[CellKind.text] < profile.rows) continue;
		const groups = groupedBy$1(words.codes.keys(), (r) => words.codes[r]);
		if (groups.size < 2 || groups.size > 12 || groups.size > profile.rows / 2) continue;
		if (figures.some((column) => decimalsDiffer(column, [...groups.values()]))) return words.name;
	}
}
/** Under some words all figures are whole, and under others hardly any. */
function decimalsDiffer(column, groups) {
	const shares = groups.flatMap((rows) => {
		const values = rows.map((r) => column.values[r]).filter((value) => !Number.isNaN(value) && Math.abs(value) < 1e6);
		return values.length < 2 ? [] : [values.filter((value) => !Number.isInteger(value)).length / values.length];
	});
	return shares.includes(0) && shares.some((share) => share > .6) && shares.every((share) => share === 0 || share > .4);
}
// core/draft/toward/goal.ts
/** Digits behind a zero in front are a code. */
var NUMBER = /^-?(?:0|[1-9]\d*)(?:\.(\d+))?$/;
function goalOf(table, isWhole) {
	const columns = table.fields.map(({ name, column }) => {
		const texts = Array.from({ length: table.rows }, (_, r) => plainText(cellText(column, r)));
		const isNumber = texts.some((text) => text !== "") && texts.every((text) => text === "" || NUMBER.test(text));
		return {
			name,
			texts,
			distinct: new Set(texts),
			numbers: isNumber ? Float64Array.from(texts, (text) => text === "" ? NaN : Number(text)) : void 0,
			places: Math.max(0, ...texts.map((text) => NUMBER.exec(text)?.[1]?.length ?? 0))
		};
	});
	return {
		rows: table.rows,
		columns,
		isWhole
	};
}
var plains = /* @__PURE__ */ new WeakMap();
function plainColumn(column) {
	let plain = plains.get(column);
	if (plain === void 0) {
		const view = textView(column);
		const texts = view.texts.map(plainText);
		const rowsOf = /* @__PURE__ */ new Map();
		view.codes.forEach((code, r) => {
			const text = code < 0 ? "" : texts[code];
			const rows = rowsOf.get(text);
			if (rows === void 0) rowsOf.set(text, [r]);
			else rows.push(r);
		});
		plain = {
			codes: view.codes,
			texts,
			distinct: new Set(rowsOf.keys()),
			rowsOf
		};
		plains.set(column, plain);
	}
	return plain;
}
var plainAt = ({ codes, texts }, row) => codes[row] < 0 ? "" : texts[codes[row]];
/** Numbers of a column; undefined where it holds none. */
function numbersOf(column) {
	return column.type === "number" || column.type === "whole" ? column.values : void 0;
}
function meets(value, wanted, places) {
	if (Number.isNaN(wanted)) return Number.isNaN(value) ? "exact" : void 0;
	const apart = Math.abs(value - wanted);
	if (apart <= 1e-9 * Math.max(1, Math.abs(wanted))) return "exact";
	return (places > 0 || Math.abs(wanted) >= 100) && apart <= .5 * 10 ** -places + 1e-9 ? "rounded" : void 0;
}
// core/draft/toward/pair-rows.ts
/** Rows of the goal that a search looks at; all are compared once it is done. */
var MAX_LOOKED = 40;
var MAX_TRIES = 3e3;
var MAX_CANDIDATES = 8;
function lookedRows(goal) {
	const n = Math.min(goal.rows, MAX_LOOKED);
	return Array.from({ length: n }, (_, k) => Math.floor(k * goal.rows / n));
}
/** Columns of the table that hold every text of a goal's column, the likeliest by name and by how few texts first. */
function holding(table, goal, w) {
	const { distinct, name } = goal.columns[w];
	return table.fields.flatMap((field, k) => {
		const plain = plainColumn(field.column);
		for (const text of distinct) if (!plain.distinct.has(text)) return [];
		return [{
			k,
			worth: nameLikeness(field.name, name) - plain.distinct.size / (table.rows * 10 + 1)
		}];
	}).sort((a, b) => b.worth - a.worth).slice(0, MAX_CANDIDATES).map(({ k }) => k);
}
/** The most columns that can be paired so that each row that is looked at is a row of the table. */
function pairRows(table, goal) {
	const looked = lookedRows(goal);
	const candidates = goal.columns.map((_, w) => holding(table, goal, w));
	const order = goal.columns.map((_, w) => w).filter((w) => candidates[w].length > 0).sort((a, b) => candidates[a].length - candidates[b].length || size(goal, b) - size(goal, a) || a - b);
	const plain = table.fields.map(({ column }) => plainColumn(column));
	let best;
	let tries = 0;
	const columns = new Array(goal.columns.length).fill(-1);
	const step = (at, rows, met) => {
		if (best !== void 0 && met + order.length - at <= best.met) return;
		if (at === order.length) {
			best = {
				columns: [...columns],
				rows,
				met
			};
			return;
		}
		const w = order[at];
		for (const k of candidates[w]) {
			if (columns.includes(k) || tries >= MAX_TRIES) continue;
			tries++;
			const next = narrowed(rows, looked, goal.columns[w].texts, plain[k]);
			if (next === void 0) continue;
			columns[w] = k;
			step(at + 1, next, met + 1);
			columns[w] = -1;
		}
		step(at + 1, rows, met);
	};
	step(0, looked.map(() => void 0), 0);
	return {
		columns: best?.columns ?? columns,
		looked,
		rows: best?.rows ?? looked.map(() => void 0)
	};
}
var size = (goal, w) => goal.columns[w].distinct.size;
/** Names from which on two columns are called alike. */
var ALIKE = .5;
/** Whether each column of numbers is held by a column of a like name: small numbers stand in many columns by chance. */
function areNamesAlike(table, goal, columns) {
	return goal.columns.every(({ numbers, name }, w) => numbers === void 0 || columns[w] < 0 || nameLikeness(table.fields[columns[w]].name, name) >= ALIKE);
}
/** The rows that read so in one column more; undefined where a row of the goal is left without any. */
function narrowed(rows, looked, wanted, column) {
	const next = [];
	for (const [n, g] of looked.entries()) {
		const text = wanted[g];
		const before = rows[n];
		const after = before === void 0 ? column.rowsOf.get(text) ?? [] : before.filter((r) => plainAt(column, r) === text);
		if (after.length === 0) return void 0;
		next.push(after);
	}
	return next;
}
/** Some column tells which rows of the table the rows may be. */
var isRowTold = ({ rows }) => rows.some((own) => own !== void 0);
/** Each row that was looked at is one row of the table. */
var isPinned = ({ rows }) => rows.every((own) => own?.length === 1);
/** For each row of the goal the rows that it may be, by the columns that are met. */
function rowsByKey(table, goal, columns) {
	const met = columns.flatMap((name, w) => {
		const field = table.fields.find((one) => one.name === name);
		return name === void 0 || field === void 0 ? [] : [{
			w,
			plain: plainColumn(field.column)
		}];
	});
	const places = /* @__PURE__ */ new Map();
	for (let r = 0; r < table.rows; r++) {
		const key = met.map(({ plain }) => plainAt(plain, r)).join("");
		const rows = places.get(key);
		if (rows === void 0) places.set(key, [r]);
		else rows.push(r);
	}
	return Array.from({ length: goal.rows }, (_, g) => places.get(met.map(({ w }) => goal.columns[w].texts[g]).join("")) ?? []);
}
// core/draft/toward/state.ts
/** The state after more steps; undefined where one of them stops. */
function after(state, steps) {
	if (steps.length === 0) return state;
	const table = tableAfter(state.table, steps, contextOf(state.others));
	return table === void 0 ? void 0 : {
		...state,
		table,
		steps: [...state.steps, ...steps]
	};
}
/** The first column that the steps add; undefined where one stops, or none is added. */
function added(state, steps) {
	const next = after(state, steps);
	if (next === void 0) return void 0;
	const known = new Set(state.table.fields.map((field) => field.name));
	const made = next.table.fields.find((field) => !known.has(field.name));
	return made === void 0 ? void 0 : {
		state: next,
		column: made.name
	};
}
/** What a step is given that may ask for the other tables. */
function contextOf(others) {
	return {
		...ALONE,
		other(id) {
			const found = others.find((one) => one.id === id);
			return found === void 0 ? ALONE.other(id) : found;
		}
	};
}
/** A name that no column of the table has. */
function freeName(table, name) {
	return uniqueName(name === "" ? "Column" : name, new Set(table.fields.map((field) => field.name)));
}
/** A column in an expression. */
var quoted = (name) => `"${name.replaceAll("\"", "\"\"")}"`;
/** A text in an expression. */
var literal = (text) => `'${text.replaceAll("'", "''")}'`;
var expressionStep = (into, text, why) => ({
	kind: "expression",
	params: {
		into,
		text
	},
	why
});
// core/draft/toward/arithmetic.ts
var MAX_COLUMNS = 16;
/** With more columns three of them are not tried together. */
var MAX_IN_THREES = 8;
/** Calculations over the numbers of a table, the plainest first. */
function* calculations(table) {
	const columns = table.fields.flatMap(({ name, column }, k) => {
		const values = numbersOf(column);
		return values === void 0 ? [] : [{
			k,
			name: quoted(name),
			values
		}];
	}).slice(0, MAX_COLUMNS);
	const made = (of, text, at) => ({
		of,
		text,
		at
	});
	for (const a of columns) {
		yield made([a.k], a.name, (r) => a.values[r]);
		yield made([a.k], `-${a.name}`, (r) => -a.values[r]);
	}
	for (const [n, a] of columns.entries()) for (const b of columns.slice(n + 1)) {
		yield made([a.k, b.k], `${a.name} + ${b.name}`, (r) => a.values[r] + b.values[r]);
		yield made([a.k, b.k], `${a.name} * ${b.name}`, (r) => a.values[r] * b.values[r]);
	}
	for (const a of columns) for (const b of columns) {
		if (a === b) continue;
		yield made([a.k, b.k], `${a.name} - ${b.name}`, (r) => a.values[r] - b.values[r]);
		yield made([a.k, b.k], `${a.name} / nullif(${b.name}, 0)`, (r) => a.values[r] / b.values[r]);
	}
	for (const factor of [
		1e3,
		100,
		10,
		60
	]) for (const a of columns) {
		yield made([a.k], `${a.name} / ${factor}`, (r) => a.values[r] / factor);
		yield made([a.k], `${a.name} * ${factor}`, (r) => a.values[r] * factor);
	}
	for (let from = 0; from < columns.length; from++) for (let to = from + 3; to <= columns.length; to++) {
		const own = columns.slice(from, to);
		yield made(own.map(({ k }) => k), own.map(({ name }) => name).join(" + "), (r) => own.reduce((sum, { values }) => sum + values[r], 0));
	}
	for (const a of columns) for (const b of columns) {
		if (a === b) continue;
		const of = [a.k, b.k];
		const [x, y] = [a.values, b.values];
		yield made(of, `100 * ${a.name} / nullif(${b.name}, 0)`, (r) => 100 * x[r] / y[r]);
		yield made(of, `(${a.name} - ${b.name}) / nullif(${b.name}, 0)`, (r) => (x[r] - y[r]) / y[r]);
		yield made(of, `100 * (${a.name} - ${b.name}) / nullif(${b.name}, 0)`, (r) => 100 * (x[r] - y[r]) / y[r]);
		yield made(of, `(${a.name} - ${b.name}) / nullif(${a.name}, 0)`, (r) => (x[r] - y[r]) / x[r]);
		yield made(of, `${a.name} / nullif(${a.name} + ${b.name}, 0)`, (r) => x[r] / (x[r] + y[r]));
		yield made(of, `100 * ${a.name} / nullif(${a.name} + ${b.name}, 0)`, (r) => 100 * x[r] / (x[r] + y[r]));
		yield made(of, `${a.name} * ${b.name} / 100`, (r) => x[r] * y[r] / 100);
	}
	if (columns.length > MAX_IN_THREES) return;
	for (const a of columns) for (const b of columns) for (const c of columns) {
		if (a === b || b === c || a === c) continue;
		const of = [
			a.k,
			b.k,
			c.k
		];
		const [x, y, z] = [
			a.values,
			b.values,
			c.values
		];
		yield made(of, `${a.name} + ${b.name} - ${c.name}`, (r) => x[r] + y[r] - z[r]);
		yield made(of, `${a.name} - ${b.name} - ${c.name}`, (r) => x[r] - y[r] - z[r]);
		yield made(of, `${a.name} * ${b.name} + ${c.name}`, (r) => x[r] * y[r] + z[r]);
		yield made(of, `(${a.name} + ${b.name}) / nullif(${c.name}, 0)`, (r) => (x[r] + y[r]) / z[r]);
		yield made(of, `(${a.name} - ${b.name}) * ${c.name}`, (r) => (x[r] - y[r]) * z[r]);
		yield made(of, `${a.name} * ${b.name} * ${c.name}`, (r) => x[r] * y[r] * z[r]);
	}
}
/** @param places to which it is rounded; undefined: not at all */
function calculationStep(into, text, places) {
	return expressionStep(into, places === void 0 ? text : `round(${text}, ${places})`, "calculated as in the rows of the finished table");
}
/** One number times the same factor in each pair; undefined where there is none. */
function commonFactor(pairs, places) {
	const telling = pairs.filter(({ own, wanted }) => own !== 0 && !Number.isNaN(own) && !Number.isNaN(wanted));
	if (new Set(telling.map(({ own }) => own)).size < 3) return void 0;
	const best = telling.reduce((a, b) => Math.abs(b.own) > Math.abs(a.own) ? b : a);
	for (let digits = 0; digits <= 4; digits++) {
		const factor = Math.round(best.wanted / best.own * 10 ** digits) / 10 ** digits;
		if (factor === 0 || factor === 1) continue;
		if (telling.every(({ own, wanted }) => meets(own * factor, wanted, places) !== void 0)) return factor;
	}
}
// core/draft/toward/other-tables.ts
/** Share of the texts here that the other table must know. */
var MIN_KNOWN = .5;
var MAX_KEYS = 6;
/** Keys under which each row here meets at most one row there, those that know most rows first. */
function keysTo(table, other) {
	const here = table.fields.map(({ column }) => plainColumn(column));
	const there = other.fields.map(({ column }) => plainColumn(column));
	const knownShare = (a, b) => {
		const texts = [...a.distinct].filter((text) => text !== "");
		return texts.length === 0 ? 0 : texts.filter((text) => b.distinct.has(text)).length / texts.length;
	};
	const pairs = here.flatMap((a, left) => there.flatMap((b, right) => {
		const known = knownShare(a, b);
		return known < MIN_KNOWN || a.distinct.size < 2 ? [] : [{
			left,
			right,
			known
		}];
	}));
	const isUnique = (columns) => new Set(Array.from({ length: other.rows }, (_, r) => columns.map((k) => plainAt(there[k], r)).join(""))).size === other.rows;
	const single = pairs.filter(({ right }) => isUnique([right]));
	const double = pairs.flatMap((a, n) => pairs.slice(n + 1).flatMap((b) => a.left === b.left || a.right === b.right || single.includes(a) || single.includes(b) || !isUnique([a.right, b.right]) ? [] : [{
		left: [a.left, b.left],
		right: [a.right, b.right],
		known: Math.min(a.known, b.known)
	}]));
	return [...single.map(({ left, right, known }) => ({
		left: [left],
		right: [right],
		known
	})), ...double].sort((a, b) => b.known - a.known).slice(0, MAX_KEYS);
}
/** Columns of the other tables that hold some texts, for the rows of a table. */
function brought(table, others, wanted) {
	return others.flatMap(({ id, name, table: other }) => {
		const holding = other.fields.flatMap((field, k) => {
			const { distinct } = plainColumn(field.column);
			for (const text of wanted) if (text !== "" && !distinct.has(text)) return [];
			return [k];
		});
		if (holding.length === 0) return [];
		return keysTo(table, other).flatMap(({ left, right }) => {
			const here = left.map((k) => plainColumn(table.fields[k].column));
			const there = right.map((k) => plainColumn(other.fields[k].column));
			const rows = /* @__PURE__ */ new Map();
			for (let r = 0; r < other.rows; r++) rows.set(there.map((column) => plainAt(column, r)).join(""), r);
			return holding.filter((k) => !right.includes(k)).map((k) => {
				const column = plainColumn(other.fields[k].column);
				return {
					at(row) {
						const met = rows.get(here.map((one) => plainAt(one, row)).join(""));
						return met === void 0 ? "" : plainAt(column, met);
					},
					step: {
						kind: "look-up",
						params: {
							table: id,
							keys: left.map((l, n) => ({
								left: table.fields[l].name,
								right: other.fields[right[n]].name
							})),
							columns: [other.fields[k].name]
						},
						why: `${other.fields[k].name} stands in ${name}`
					}
				};
			});
		});
	});
}
/** Look-ups in one table by the same keys are one step. */
function withLookUpsJoined(steps) {
	const joined = [];
	for (const step of steps) {
		const last = joined.at(-1);
		const key = ({ kind, params }) => JSON.stringify([
			kind,
			params["table"],
			params["keys"]
		]);
		if (step.kind === "look-up" && last !== void 0 && key(last) === key(step)) {
			const columns = [...last.params["columns"], ...step.params["columns"]];
			joined[joined.length - 1] = {
				...last,
				params: {
					...last.params,
					columns
				},
				why: `${last.why}; ${step.why}`
			};
		} else joined.push(step);
	}
	return joined;
}
// core/draft/toward/ways.ts
var two = (n) => String(n).padStart(2, "0");
var quarter = (month) => Math.ceil(month / 3);
var WEEKDAYS = [
	"Monday",
	"Tuesday",
	"Wednesday",
	"Thursday",
	"Friday",
	"Saturday",
	"Sunday"
];
/** Forms of a day: as text, and as an expression over the column or as a part of Date parts. */
var DATE_FORMS = [
	{
		label: "year",
		text: ([y]) => String(y),
		expression: (c) => `extract(year from ${c})`
	},
	{
		label: "month",
		text: ([, m]) => String(m),
		expression: (c) => `extract(month from ${c})`
	},
	{
		label: "month",
		text: ([y, m]) => `${y}-${two(m)}`,
		expression: (c) => `left(cast(${c} as text), 7)`
	},
	{
		label: "month name",
		text: ([, m]) => monthNames("en", false)[m - 1],
		part: {
			part: "month-name",
			name: "month name"
		}
	},
	{
		label: "month name",
		text: ([, m]) => monthNames("en", false)[m - 1].slice(0, 3),
		expression: (c) => `substring('JanFebMarAprMayJunJulAugSepOctNovDec' from 3 * extract(month from ${c}) - 2 for 3)`
	},
	{
		label: "month and year",
		text: ([y, m]) => `${monthNames("en", false)[m - 1].slice(0, 3)} ${y}`,
		expression: (c) => `substring('JanFebMarAprMayJunJulAugSepOctNovDec' from 3 * extract(month from ${c}) - 2 for 3) || ' ' || extract(year from ${c})`
	},
	{
		label: "month and year",
		text: ([y, m]) => `${two(m)}/${y}`,
		expression: (c) => `lpad(cast(extract(month from ${c}) as text), 2, '0') || '/' || extract(year from ${c})`
	},
	{
		label: "quarter",
		text: ([, m]) => String(quarter(m)),
		expression: (c) => `extract(quarter from ${c})`
	},
	{
		label: "quarter",
		text: ([, m]) => `Q${quarter(m)}`,
		expression: (c) => `'Q' || extract(quarter from ${c})`
	},
	...[
		"-",
		" ",
		""
	].map((between) => ({
		label: "year and quarter",
		text: ([y, m]) => `${y}${between}Q${quarter(m)}`,
		expression: (c) => `extract(year from ${c}) || '${between}Q' || extract(quarter from ${c})`
	})),
	{
		label: "quarter and year",
		text: ([y, m]) => `Q${quarter(m)} ${y}`,
		expression: (c) => `'Q' || extract(quarter from ${c}) || ' ' || extract(year from ${c})`
	},
	{
		label: "weekday",
		text: (_, day) => WEEKDAYS[dateField(day, "isodow") - 1],
		part: {
			part: "weekday-name",
			name: "weekday"
		}
	},
	{
		label: "ISO week",
		text: (_, day) => String(dateField(day, "week")),
		expression: (c) => `extract(week from ${c})`
	},
	{
		label: "day",
		text: ([, , d]) => String(d),
		expression: (c) => `extract(day from ${c})`
	},
	...[
		"month",
		"quarter",
		"year"
	].map((period) => ({
		label: `first day of the ${period}`,
		text: ([y, m]) => `${y}-${two(period === "month" ? m : period === "quarter" ? 3 * quarter(m) - 2 : 1)}-01`,
		expression: (c) => `date_trunc('${period}', ${c})`
	})),
	...[
		[".", "dmy"],
		["/", "dmy"],
		["/", "mdy"],
		["-", "dmy"]
	].map(([between, order]) => ({
		label: "date in another form",
		text: ([y, m, d]) => (order === "dmy" ? [
			two(d),
			two(m),
			y
		] : [
			two(m),
			two(d),
			y
		]).join(between),
		expression: (c) => {
			const part = (name) => `lpad(cast(extract(${name} from ${c}) as text), 2, '0')`;
			return `${(order === "dmy" ? [part("day"), part("month")] : [part("month"), part("day")]).join(` || '${between}' || `)} || '${between}' || extract(year from ${c})`;
		}
	}))
];
/** Parts and forms of the dates of a column. */
function dateWays(table, k) {
	const { name, column } = table.fields[k];
	if (column.type !== "date" && column.type !== "datetime") return [];
	const dayAt = (row) => column.type === "date" ? column.values[row] : Math.floor(column.values[row] / MS.day);
	return DATE_FORMS.map(({ label, text, expression, part }) => ({
		of: k,
		label: `${label} of ${name}`,
		at(row) {
			const day = dayAt(row);
			return Number.isNaN(day) ? "" : text(civilFromDays(day), day);
		},
		steps: (into) => {
			const why = `the ${label} of ${name}, as in the finished table`;
			if (part === void 0) return [expressionStep(into, expression(quoted(name)), why)];
			return [{
				kind: "date-parts",
				params: {
					column: name,
					parts: [part.part]
				},
				why
			}, {
				kind: "rename",
				params: { names: [{
					from: `${name} ${part.name}`,
					to: into
				}] },
				why
			}];
		}
	}));
}
var DIVIDERS = [
	" - ",
	" – ",
	" / ",
	", ",
	": ",
	" (",
	"-",
	"/",
	",",
	":",
	"|",
	";",
	"_",
	".",
	" "
];
var MAX_PIECES = 5;
var MAX_TEXTS = 2e4;
/** Texts by which a way to cut them is judged. */
var MAX_SAMPLE = 200;
var IN_BRACKETS = /^(.*?)\s*\(([^()]*)\)$/;
/** Pieces of the texts of a column. */
function pieceWays(table, k) {
	const { name, column } = table.fields[k];
	if (column.type !== "text" && column.type !== "received") return [];
	const { codes, texts } = textView(column);
	if (texts.length === 0 || texts.length > MAX_TEXTS) return [];
	const way = (label, make, steps) => {
		const made = /* @__PURE__ */ new Map();
		return {
			of: k,
			label,
			at(row) {
				const code = codes[row];
				if (code < 0) return "";
				let text = made.get(code);
				if (text === void 0) {
					text = plainText(make(texts[code]) ?? null);
					made.set(code, text);
				}
				return text;
			},
			steps
		};
	};
	const sample = texts.slice(0, MAX_SAMPLE);
	const ways = [];
	const cut = (given, label) => {
		const cutting = Cutting.parse(given);
		const pieces = sample.map((text) => cutText(text, cutting));
		if (pieces.filter((own) => own.length > 1).length < sample.length * .5) return;
		const most = Math.min(MAX_PIECES, Math.max(...pieces.map((own) => own.length)));
		for (let p = 0; p < most; p++) ways.push(way(`piece ${p + 1} of ${name}`, (text) => cutText(text, cutting)[p], (into) => [{
			kind: "split-to-columns",
			params: {
				column: name,
				cut: cutting,
				into: Array.from({ length: most }, (_, n) => n === p ? into : ""),
				keep: true
			},
			why: `${label}, as in the finished table`
		}]));
	};
	for (const divider of DIVIDERS) {
		if (sample.filter((text) => text.includes(divider)).length < sample.length * .5) continue;
		for (const which of [
			"every",
			"first",
			"last"
		]) cut({
			delimiters: [divider],
			which
		}, `${name} is cut at ${divider.trim() === "" ? "the blank" : `'${divider.trim()}'`}`);
	}
	cut({ by: "class" }, `${name} is cut where letters and digits meet`);
	if (sample.filter((text) => IN_BRACKETS.test(text)).length >= sample.length * .5) for (const p of [1, 2]) ways.push(way(p === 1 ? `${name} before the bracket` : `${name} in the bracket`, (text) => IN_BRACKETS.exec(text)?.[p] ?? (p === 1 ? text : null), (into) => [{
		kind: "extract",
		params: {
			column: name,
			by: "pattern",
			pattern: p === 1 ? "^(?<Piece>[^(]*)" : "\\((?<Piece>[^()]*)\\)$"
		},
		why: `taken from ${name}, as in the finished table`
	}, {
		kind: "rename",
		params: { names: [{
			from: "Piece",
			to: into
		}] },
		why: "named as in the finished table"
	}]));
	const longest = Math.max(...sample.map((text) => text.length));
	for (let n = 1; n < Math.min(longest, 12); n++) for (const end of ["left", "right"]) ways.push(way(`${end === "left" ? "first" : "last"} ${n} of ${name}`, (text) => end === "left" ? text.slice(0, n) : text.slice(-n), (into) => [expressionStep(into, `${end}(${quoted(name)}, ${n})`, `the ${end === "left" ? "first" : "last"} ${n} characters of ${name}, as in the finished table`)]));
	for (const [how, make] of [["upper", (text) => text.toUpperCase()], ["lower", (text) => text.toLowerCase()]]) ways.push(way(`${name} in ${how} case`, make, (into) => [expressionStep(into, `${how}(${quoted(name)})`, `${name} in ${how} case, as in the finished table`)]));
	ways.push(way(`${name} with a capital at each word`, inTitleCase, (into) => [expressionStep(into, quoted(name), `${name} once more`), {
		kind: "clean-text",
		params: {
			columns: {
				by: "names",
				names: [into]
			},
			letters: "title"
		},
		why: `${name} with a capital at each word, as in the finished table`
	}]));
	return ways;
}
var inTitleCase = (text) => text.toLowerCase().replace(/(?<!\p{L})\p{L}/gu, (letter) => letter.toUpperCase());
var known = /* @__PURE__ */ new WeakMap();
/** Ways that look at one column of the table, whatever the rows are. */
function columnWays(table) {
	let ways = known.get(table);
	if (ways === void 0) {
		ways = table.fields.flatMap((_, k) => [...dateWays(table, k), ...pieceWays(table, k)]);
		known.set(table, ways);
	}
	return ways;
}
/** Whether a way makes all of some texts, in whatever rows. */
function makesAll(table, way, texts) {
	const made = /* @__PURE__ */ new Set();
	for (let r = 0; r < table.rows; r++) made.add(way.at(r) ?? "");
	return [...texts].every((text) => made.has(text));
}
/** A wanted text with the text of a column in it: what stands around it is the same in each row. */
function frameWays(table, row, wanted) {
	if (wanted === "") return [];
	const ways = [];
	const readings = table.fields.map(({ column }) => plainColumn(column));
	const text = (k, r) => plainAt(readings[k], r);
	const here = table.fields.map((_, k) => text(k, row));
	here.forEach((own, a) => {
		if (own === "" || own === wanted) return;
		const at = wanted.indexOf(own);
		if (at < 0) return;
		const [front, rest] = [wanted.slice(0, at), wanted.slice(at + own.length)];
		const nameA = table.fields[a].name;
		const add = (parts, label) => ways.push({
			of: a,
			label,
			at: (r) => parts.map((part) => part.k === void 0 ? part.text : text(part.k, r)).join(""),
			steps: (into) => [expressionStep(into, parts.flatMap((part) => part.k !== void 0 ? [`cast(${quoted(table.fields[part.k].name)} as text)`] : part.text === "" ? [] : [literal(part.text)]).join(" || "), `${label}, as in the finished table`)]
		});
		if (own.length >= 2) add([
			{ text: front },
			{ k: a },
			{ text: rest }
		], `${nameA} with text around it`);
		here.forEach((second, b) => {
			if (b === a || second === "") return;
			const next = rest.indexOf(second);
			if (next < 0 || next > 4) return;
			const [between, end] = [rest.slice(0, next), rest.slice(next + second.length)];
			if (end.length > 3 || front.length > 3) return;
			add([
				{ text: front },
				{ k: a },
				{ text: between },
				{ k: b },
				{ text: end }
			], `${nameA} and ${table.fields[b].name} joined`);
		});
	});
	return ways;
}
// core/draft/toward/solve-groups.ts
var MAX_KEY_CHOICES = 3;
var MAX_KEY_SETS = 48;
/** Calculations of a row that are tried as what is summed. */
var MAX_CALCULATED = 40;
/** Different texts of a column by one of which rows may be left out. */
var MAX_FILTERED = 12;
/** What a group of rows may be measured by, the likeliest first. */
function measuresOf(table, keys) {
	const fields = table.fields.filter(({ name }) => !keys.includes(name));
	const numeric = fields.filter(({ column }) => numbersOf(column) !== void 0);
	const dated = fields.filter(({ column }) => column.type === "date" || column.type === "datetime");
	const all = (columns, ways) => ways.flatMap((by) => columns.map(({ name }) => ({
		column: name,
		by
	})));
	return [
		...all(numeric, ["sum"]),
		{
			column: "",
			by: "rows"
		},
		...all(numeric, [
			"mean",
			"max",
			"min",
			"median",
			"share"
		]),
		...all(dated, ["max", "min"]),
		...all(fields, [
			"distinct",
			"count",
			"first",
			"last"
		])
	];
}
function keyChoices(state, goal, w) {
	const { table } = state;
	const { distinct, name } = goal.columns[w];
	const direct = holding(table, goal, w).map((k) => ({
		column: table.fields[k].name,
		steps: []
	}));
	if (direct.length > 0) return direct.slice(0, MAX_KEY_CHOICES);
	const made = [];
	const add = (steps) => {
		const found = added(state, steps);
		if (found !== void 0) made.push({
			column: found.column,
			steps
		});
	};
	for (const { step } of brought(table, state.others, distinct)) if (made.length < MAX_KEY_CHOICES) add([step]);
	for (const way of columnWays(table)) {
		if (made.length >= MAX_KEY_CHOICES) break;
		if (makesAll(table, way, distinct)) add(way.steps(freeName(table, name)));
	}
	return made;
}
/** The groups of a table that the goal's rows are, with each of its columns a key or a measure of them. */
function solveGroups(state, goal) {
	const choices = goal.columns.map((_, w) => keyChoices(state, goal, w));
	const isNumber = goal.columns.map(({ numbers }) => numbers !== void 0);
	const mayBeKey = (w) => choices[w].length > 0;
	const mustBeKey = (w) => mayBeKey(w) && !isNumber[w];
	const named = (w) => isNumber[w] && choices[w].some(({ column }) => nameLikeness(column, goal.columns[w].name) === 1);
	const own = goal.columns.map((_, w) => w);
	const sets = [
		own.filter((w) => mustBeKey(w)),
		own.filter((w) => mustBeKey(w) || named(w)),
		...own.filter((w) => isNumber[w] && mayBeKey(w)).map((extra) => own.filter((w) => mustBeKey(w) || w === extra))
	].filter((set, n, all) => set.length > 0 && all.findIndex((one) => one.join() === set.join()) === n);
	let best;
	let tried = 0;
	for (const keys of sets) {
		if (keys.length === goal.columns.length && goal.columns.length > 1) continue;
		if (!areKeys(goal, keys)) continue;
		for (const chosen of product(keys.map((w) => choices[w]))) {
			if (++tried > MAX_KEY_SETS) return best?.solution;
			if (new Set(chosen.map(({ column }) => column)).size < chosen.length) continue;
			const begun = after(state, withLookUpsJoined(chosen.flatMap(({ steps }) => steps)));
			if (begun === void 0) continue;
			const found = groupedBy(begun, goal, keys, chosen.map(({ column }) => column));
			if (found === void 0) continue;
			const met = found.columns.filter((column) => column !== void 0).length;
			if (met === goal.columns.length) return found;
			if (best === void 0 || met > best.met) best = {
				solution: found,
				met
			};
		}
	}
	return best?.solution;
}
/** No two rows of the goal read the same in these columns. */
function areKeys(goal, keys) {
	const seen = /* @__PURE__ */ new Set();
	for (let g = 0; g < goal.rows; g++) seen.add(keys.map((w) => goal.columns[w].texts[g]).join(""));
	return seen.size === goal.rows;
}
function* product(lists) {
	const [first, ...rest] = lists;
	if (first === void 0) {
		yield [];
		return;
	}
	for (const one of first) for (const others of product(rest)) yield [one, ...others];
}
function groupedBy(begun, goal, keys, columns) {
	const open = goal.columns.flatMap((_, w) => keys.includes(w) ? [] : [w]);
	let best;
	for (const state of groupedStates(begun, columns)) {
		const found = measured(state, goal, keys, columns, open);
		if (best === void 0 && found === void 0) return void 0;
		if (found !== void 0 && found.found.length > (best?.found.length ?? -1)) best = found;
		if (best?.found.length === open.length) break;
	}
	if (best === void 0) return void 0;
	return finished(best.state, goal, keys, columns, best.found);
}
/** The table as it is, then with a calculated column, then with some rows left out. */
function* groupedStates(begun, keys) {
	yield begun;
	yield* calculatedStates(begun, keys);
	yield* filteredStates(begun);
}
/** The measures that say what the goal's columns say, for all of its rows. */
function measured(state, goal, keys, columns, open) {
	const measures = measuresOf(state.table, columns);
	state.budget.left -= state.table.rows * measures.length;
	if (state.budget.left < 0) return void 0;
	const names = measures.map((_, n) => `\u0002${n}`);
	const grouped = after(state, [groupStep(columns, measures, names)]);
	if (grouped === void 0) return void 0;
	const byWanted = goal.columns.map((_, w) => keys.includes(w) ? columns[keys.indexOf(w)] : void 0);
	const groups = rowsByKey(grouped.table, goal, byWanted).map((rows) => rows[0]);
	if (groups.includes(void 0)) return void 0;
	const made = names.map((name) => grouped.table.fields.find((field) => field.name === name).column);
	return {
		state,
		found: open.flatMap((w) => {
			const { texts, numbers, places, name } = goal.columns[w];
			const [chosen, ...others] = measures.flatMap((one, n) => {
				const column = made[n];
				const values = numbersOf(column);
				if (numbers !== void 0 && values !== void 0) {
					const all = groups.map((row, g) => meets(values[row], numbers[g], places));
					return all.includes(void 0) ? [] : [{
						n,
						one,
						rounded: all.includes("rounded")
					}];
				}
				const plain = plainColumn(column);
				return groups.every((row, g) => plainAt(plain, row) === texts[g]) ? [{
					n,
					one,
					rounded: false
				}] : [];
			}).toSorted((a, b) => Number(a.rounded) - Number(b.rounded) || saidBy(b.one, name) - saidBy(a.one, name) || a.n - b.n);
			if (chosen !== void 0) {
				const ambiguity = others.filter(({ rounded }) => rounded === chosen.rounded).flatMap((other) => {
					const [a, b] = [plainColumn(made[chosen.n]), plainColumn(made[other.n])];
					for (let r = 0; r < grouped.table.rows; r++) if (plainAt(a, r) !== plainAt(b, r)) return [{
						code: "ambiguous",
						column: name,
						chosen: measureText(chosen.one),
						other: measureText(other.one),
						row: columns.map((key) => plainAt(plainColumn(grouped.table.fields.find((one) => one.name === key).column), r)).join(", ")
					}];
					return [];
				})[0];
				return [{
					w,
					measures: [chosen.one],
					rounded: chosen.rounded,
					ambiguity
				}];
			}
			if (numbers === void 0) return [];
			return ratioOf(measures, made.map(numbersOf), groups, numbers, places, w);
		})
	};
}
var MEASURE_NAMES = [
	["sum", /total|sum/i],
	["mean", /mean|average|avg/i],
	["max", /max|highest|greatest|largest|peak|latest/i],
	["min", /min|lowest|least|smallest|earliest/i],
	["distinct", /different|distinct|unique/i],
	["rows", /count|number|entries|rows|records|lines/i],
	["first", /first/i],
	["last", /last/i],
	["share", /share|percent|%/i]
];
/** How far a name speaks for a measure: by the column's name in it, and by its word for the measure. */
function saidBy({ column, by }, name) {
	const told = MEASURE_NAMES.find(([, words]) => words.test(name))?.[0];
	const likeness = column !== "" && name.toLowerCase().includes(column.toLowerCase()) ? 1 : nameLikeness(column, name);
	return (likeness >= .6 ? likeness : 0) + (told === by ? 1 : 0) + (by === "rows" ? .1 : 0);
}
var measureText = ({ column, by }) => by === "rows" ? "the number of rows" : `the ${by} of ${column}`;
/** One sum divided by another, or one less another. */
function ratioOf(measures, made, groups, wanted, places, w) {
	const sums = measures.flatMap((one, n) => made[n] !== void 0 && (one.by === "sum" || one.by === "rows") ? [{
		one,
		values: made[n]
	}] : []);
	const ways = [
		{
			text: (a, b) => `${a} / nullif(${b}, 0)`,
			at: (a, b) => a / b
		},
		{
			text: (a, b) => `100 * ${a} / nullif(${b}, 0)`,
			at: (a, b) => 100 * a / b
		},
		{
			text: (a, b) => `${a} - ${b}`,
			at: (a, b) => a - b
		},
		{
			text: (a, b) => `${a} + ${b}`,
			at: (a, b) => a + b
		}
	];
	for (const { text, at } of ways) for (const a of sums) for (const b of sums) {
		if (a === b) continue;
		const all = groups.map((row, g) => meets(at(a.values[row], b.values[row]), wanted[g], places));
		if (all.includes(void 0)) continue;
		return [{
			w,
			measures: [a.one, b.one],
			text: ([x, y]) => text(quoted(x), quoted(y)),
			rounded: all.includes("rounded"),
			ambiguity: void 0
		}];
	}
	return [];
}
function groupStep(by, measures, names) {
	return {
		kind: "group",
		params: {
			by: {
				by: "names",
				names: by
			},
			measures: measures.map((one, n) => ({
				...one,
				name: names[n]
			}))
		},
		why: "the rows of the finished table are groups of these"
	};
}
/** The table with one more column, calculated from the numbers of each row: sums of products and the like. */
function* calculatedStates(state, keys) {
	let tried = 0;
	for (const { text, of } of calculations(state.table)) {
		if (of.length < 2 || of.some((k) => keys.includes(state.table.fields[k].name))) continue;
		if (!/[*]/.test(text)) continue;
		if (++tried > MAX_CALCULATED) return;
		const next = after(state, [expressionStep(freeName(state.table, "Product"), text, "calculated as in the rows of the finished table")]);
		if (next !== void 0) yield next;
	}
}
/** The table without the rows of one text, or with these alone. */
function* filteredStates(state) {
	for (const { name, column } of state.table.fields) {
		const { distinct } = plainColumn(column);
		if (distinct.size < 2 || distinct.size > MAX_FILTERED || numbersOf(column) !== void 0) continue;
		for (const text of distinct) for (const kind of ["keep-rows", "drop-rows"]) {
			if (text === "") continue;
			const next = after(state, [{
				kind,
				params: { rules: [{
					test: "one-of",
					column: name,
					texts: [text]
				}] },
				why: "only then the figures are those of the finished table"
			}]);
			if (next !== void 0 && next.table.rows > 0) yield next;
		}
	}
}
function finished(state, goal, keys, columns, found) {
	const taken = new Set(columns);
	const measures = [];
	const nameOf = (one, wanted) => {
		const known = measures.find(({ column, by }) => column === one.column && by === one.by);
		if (known !== void 0) return known.name;
		const name = uniqueName(wanted, taken);
		measures.push({
			...one,
			name
		});
		return name;
	};
	const holders = goal.columns.map((_, w) => keys.includes(w) ? columns[keys.indexOf(w)] : void 0);
	const behind = [];
	for (const { w, measures: own, text, rounded } of found) {
		const { name: wanted, places } = goal.columns[w];
		if (text === void 0) {
			const name = nameOf(own[0], wanted === "" ? own[0].by : wanted);
			holders[w] = name;
			if (rounded) behind.push({
				kind: "round",
				params: {
					columns: {
						by: "names",
						names: [name]
					},
					size: places
				},
				why: "rounded as in the finished table"
			});
			continue;
		}
		const names = own.map((one) => nameOf(one, one.by === "rows" ? "Rows" : `${one.by} of ${one.column}`));
		const into = uniqueName(wanted === "" ? "Column" : wanted, taken);
		holders[w] = into;
		behind.push(expressionStep(into, rounded ? `round(${text(names)}, ${places})` : text(names), "calculated as in the rows of the finished table"));
	}
	const next = after(state, [groupStep(columns, measures, measures.map(({ name }) => name)), ...behind]);
	if (next === void 0) return void 0;
	const ambiguities = found.flatMap(({ ambiguity }) => ambiguity ?? []);
	return {
		state: {
			...next,
			ambiguities: [...next.ambiguities, ...ambiguities]
		},
		columns: holders
	};
}
// core/draft/toward/solve-rows.ts
var MAX_CODES = 80;
/** Rows of the table that are shown to tell two ways apart. */
var MAX_SHOWN = 4;
/**
* The state with a column for each of the goal, as far as ways to them are found.
* @param first which rows and columns of the table are those of the goal
*/
function solveRows(start, goal, first) {
	let state = start;
	const columns = first.columns.map((k) => k < 0 ? void 0 : state.table.fields[k].name);
	let pairing = first;
	for (let round = 0; round < 2 && columns.includes(void 0); round++) for (const [w, column] of columns.entries()) {
		if (column !== void 0) continue;
		const found = columnFor(state, goal, w, pairing, columns);
		if (found === void 0) continue;
		state = found.state;
		columns[w] = found.column;
		const k = state.table.fields.findIndex((field) => field.name === found.column);
		const rows = narrowed(pairing.rows, pairing.looked, goal.columns[w].texts, plainColumn(state.table.fields[k].column));
		if (rows !== void 0) pairing = {
			...pairing,
			rows
		};
	}
	return {
		state: {
			...state,
			steps: withLookUpsJoined(state.steps)
		},
		columns
	};
}
function columnFor(state, goal, w, pairing, columns) {
	const numbers = goal.columns[w].numbers;
	const isTold = isRowTold(pairing);
	return (numbers === void 0 ? void 0 : calculated(state, goal, w, pairing)) ?? broughtColumn(state, goal, w, pairing) ?? reformed(state, goal, w, pairing) ?? (isTold ? recoded(state, goal, w, pairing, columns) : void 0) ?? (isTold && numbers !== void 0 ? shared(state, goal, w, pairing) ?? multiplied(state, goal, w, pairing) : void 0) ?? constant(state, goal, w);
}
/** Whether in each row that was looked at one of the table's rows reads so. */
function isMet(pairing, texts, at) {
	return pairing.looked.every((g, n) => pairing.rows[n]?.some((row) => at(row) === texts[g]) ?? false);
}
/** A part or another form of a column. */
function reformed(state, goal, w, pairing) {
	const { texts, distinct, name } = goal.columns[w];
	const isTold = isRowTold(pairing);
	const fits = (way) => isTold ? isMet(pairing, texts, way.at) : makesAll(state.table, way, distinct);
	for (const way of columnWays(state.table)) {
		if (!fits(way)) continue;
		const found = added(state, way.steps(freeName(state.table, name)));
		if (found !== void 0) return found;
	}
	const row = pairing.rows[0]?.[0];
	if (row === void 0) return void 0;
	for (const way of frameWays(state.table, row, texts[pairing.looked[0]])) {
		if (distinct.size < 2 || !fits(way)) continue;
		const found = added(state, way.steps(freeName(state.table, name)));
		if (found !== void 0) return found;
	}
}
/** A number calculated from others of its row. */
function calculated(state, goal, w, pairing) {
	const { numbers, places, name, distinct } = goal.columns[w];
	const { table } = state;
	if (distinct.size < 2 && goal.rows > 1) return void 0;
	const meeting = (at) => {
		let best = "exact";
		for (const [n, g] of pairing.looked.entries()) {
			const all = pairing.rows[n];
			if (all === void 0) return void 0;
			const own = all.map((row) => meets(at(row), numbers[g], places));
			if (own.includes("exact")) continue;
			if (!own.includes("rounded")) return void 0;
			best = "rounded";
		}
		return best;
	};
	const fitting = [];
	for (const { text, at } of calculations(table)) {
		const how = meeting(at);
		if (how !== void 0) fitting.push({
			text,
			at,
			how
		});
		if (fitting.length >= 6) break;
	}
	const chosen = fitting.find(({ how }) => how === "exact") ?? fitting[0];
	const into = freeName(table, name);
	if (chosen === void 0) return void 0;
	const found = added(state, [calculationStep(into, chosen.text, chosen.how === "exact" ? void 0 : places)]);
	if (found === void 0) return void 0;
	const ambiguity = fitting.filter((other) => other !== chosen && (chosen.how === "rounded" || other.how === "exact")).flatMap((other) => {
		const row = firstRow(table, (r) => {
			const [a, b] = [chosen.at(r), other.at(r)];
			return !Number.isNaN(a) && !Number.isNaN(b) && Math.abs(a - b) > .5 * 10 ** -places;
		});
		return row === void 0 ? [] : [{
			code: "ambiguous",
			column: name,
			chosen: chosen.text,
			other: other.text,
			row: rowText(table, row)
		}];
	})[0];
	return ambiguity === void 0 ? found : withAmbiguity(found, ambiguity);
}
/** A number times the same factor in every row. */
function multiplied(state, goal, w, pairing) {
	const { numbers, places, name } = goal.columns[w];
	if (!isPinned(pairing)) return void 0;
	for (const { name: own, column } of state.table.fields) {
		const values = numbersOf(column);
		if (values === void 0) continue;
		const factor = commonFactor(pairing.looked.map((g, n) => ({
			own: values[pairing.rows[n][0]],
			wanted: numbers[g]
		})), places);
		if (factor !== void 0) return added(state, [calculationStep(freeName(state.table, name), `${quoted(own)} * ${factor}`, places)]);
	}
}
var withAmbiguity = (found, ambiguity) => ({
	...found,
	state: {
		...found.state,
		ambiguities: [...found.state.ambiguities, ambiguity]
	}
});
function firstRow(table, isIt) {
	for (let r = 0; r < table.rows; r++) if (isIt(r)) return r;
}
/** A row by its first cells. */
function rowText(table, row) {
	return table.fields.map(({ column }) => plainAt(plainColumn(column), row)).filter((text) => text !== "").slice(0, MAX_SHOWN).join(", ");
}
/** A column that another table has. */
function broughtColumn(state, goal, w, pairing) {
	const { texts, distinct } = goal.columns[w];
	const isTold = isRowTold(pairing);
	for (const { at, step } of brought(state.table, state.others, distinct)) {
		if (isTold && !isMet(pairing, texts, at)) continue;
		const found = added(state, [step]);
		if (found !== void 0) return found;
	}
}
/** Other words for the texts of a column, one for each. */
function recoded(state, goal, w, pairing, columns) {
	const { texts, name, numbers } = goal.columns[w];
	const { table } = state;
	const isFunction = (k) => crosswalkOf(table, k, pairing.looked, (n) => pairing.rows[n] ?? [], texts);
	const candidates = table.fields.flatMap((_, k) => isFunction(k) === void 0 ? [] : [k]);
	if (candidates.length === 0) return void 0;
	const all = rowsByKey(table, goal, columns);
	const every = all.map((_, g) => g);
	const found = candidates.flatMap((k) => {
		const crosswalk = crosswalkOf(table, k, every, (n) => all[n], texts);
		if (crosswalk === void 0) return [];
		const own = plainColumn(table.fields[k].column).distinct.size;
		const isCovered = crosswalk.size >= own - (plainColumn(table.fields[k].column).distinct.has("") ? 1 : 0);
		const likeness = nameLikeness(table.fields[k].name, name);
		if (!(crosswalk.size < goal.rows || isCovered && numbers === void 0 && likeness >= .5) || crosswalk.size > MAX_CODES || new Set(crosswalk.values()).size < 2) return [];
		return [{
			k,
			crosswalk,
			worth: (isCovered ? 1e3 : 0) - own + likeness
		}];
	}).sort((a, b) => b.worth - a.worth)[0];
	if (found === void 0) return void 0;
	const own = table.fields[found.k].name;
	const isInPlace = own === name && !columns.includes(own);
	const step = {
		kind: "recode",
		params: {
			column: own,
			crosswalk: [...found.crosswalk].map(([from, to]) => ({
				from,
				to
			})),
			into: isInPlace ? null : freeName(table, name)
		},
		why: `in the finished table ${own} says it in other words`
	};
	const next = after(state, [step]);
	const made = isInPlace ? next && {
		state: next,
		column: own
	} : added(state, [step]);
	const codes = [...usedTexts(table.fields[found.k].column)].filter((text) => !found.crosswalk.has(text));
	return made === void 0 || codes.length === 0 ? made : withAmbiguity(made, {
		code: "codes-not-shown",
		column: name,
		codes
	});
}
/** What each text of a column becomes; undefined where it is no function. */
function crosswalkOf(table, k, looked, rowsOf, wanted) {
	const { codes, texts } = textView(table.fields[k].column);
	const found = /* @__PURE__ */ new Map();
	for (const [n, g] of looked.entries()) {
		const own = /* @__PURE__ */ new Set();
		for (const row of rowsOf(n)) own.add(codes[row]);
		if (own.size !== 1) continue;
		const [code] = own;
		if (code < 0) continue;
		const text = texts[code];
		const to = wanted[g];
		const known = found.get(text);
		if (known !== void 0 && known !== to) return void 0;
		found.set(text, to);
	}
	return found.size === 0 ? void 0 : found;
}
/** Each row's share of the sum of a column. */
function shared(state, goal, w, pairing) {
	const { numbers, places, name } = goal.columns[w];
	const { table } = state;
	for (const field of table.fields) {
		const values = numbersOf(field.column);
		if (values === void 0) continue;
		const whole = values.reduce((sum, value) => sum + (Number.isNaN(value) ? 0 : value), 0);
		if (whole === 0) continue;
		for (const factor of [1, 100]) {
			if (!pairing.looked.every((g, n) => pairing.rows[n]?.some((row) => meets(factor * values[row] / whole, numbers[g], places) !== void 0) ?? false)) continue;
			const into = freeName(table, name);
			const next = after(state, [{
				kind: "group",
				params: {
					by: {
						by: "names",
						names: table.fields.map((one) => one.name)
					},
					measures: [{
						column: field.name,
						by: "share",
						name: into
					}]
				},
				why: `the share of ${field.name} in its sum, as in the finished table`
			}, expressionStep(into, `round(${factor === 1 ? "" : "100 * "}${quoted(into)}, ${places})`, "rounded as in the finished table")]);
			if (next?.table.rows === table.rows) return {
				state: next,
				column: into
			};
		}
	}
}
/** The same in every row. */
function constant(state, goal, w) {
	const { distinct, texts, numbers, name } = goal.columns[w];
	if (distinct.size !== 1 || texts[0] === "" || goal.rows < 2) return void 0;
	const text = numbers === void 0 ? literal(texts[0]) : texts[0];
	return added(state, [expressionStep(freeName(state.table, name), text, "the same in every row of the finished table")]);
}
// core/draft/toward/toward.ts
/** The steps from a tidy table to a finished one: rows, groups, and other shapes, each tried and compared. */
/** Cells that are measured in groups before a search gives up, some seconds of work. */
var MAX_MEASURED = 15e6;
/**
* Steps after which a table is the wanted one, or holds its rows.
*
* @param partial only some rows of the wanted table are given
* @returns the nearest that was found, with no steps where nothing was
*/
function stepsTowardGoal(table, wanted, partial, others) {
	const goal = goalOf(wanted, !partial);
	const start = {
		table,
		steps: [],
		others,
		budget: { left: MAX_MEASURED },
		ambiguities: []
	};
	let best;
	for (const state of shapes(start, goal)) for (const solve of solversFor(state, goal)) {
		const solution = solve();
		if (solution === void 0 || solution.columns.every((column) => column === void 0)) continue;
		const reached = asReached(solution, goal, wanted, partial);
		if (best === void 0 || isNearer(reached, best)) best = reached;
		if (best.likeness.share === 1) return best;
	}
	return best ?? {
		steps: [],
		table,
		likeness: likenessTo(table, wanted, partial),
		ambiguities: []
	};
}
/** Where rows of the goal may each be several of the table's, they are groups of these sooner than rows. */
function solversFor(state, goal) {
	const { table } = state;
	const pairing = pairRows(table, goal);
	const several = pairing.rows.filter((rows) => rows === void 0 || rows.length > 1).length;
	const isGrouped = pairing.columns.includes(-1) && several > pairing.rows.length / 2 || !areNamesAlike(table, goal, pairing.columns);
	const asRows = () => solveRows(state, goal, pairing);
	const asGroups = () => solveGroups(state, goal);
	return isGrouped ? [asGroups, asRows] : [asRows, asGroups];
}
var isNearer = (a, b) => a.likeness.share > b.likeness.share || a.likeness.share === b.likeness.share && a.steps.length < b.steps.length;
/** The wanted columns under their names and in their order, and of a whole table no other rows. */
function asReached(solution, goal, wanted, partial) {
	let { state } = solution;
	if (goal.isWhole && !solution.columns.includes(void 0)) state = after(state, withoutOthers(state, goal, solution)) ?? state;
	state = after(state, chosen(state.table, goal, solution)) ?? state;
	const likeness = likenessTo(state.table, wanted, partial);
	return {
		steps: state.steps,
		table: state.table,
		likeness,
		ambiguities: state.ambiguities
	};
}
/** The step that leaves out the rows that the finished table has not, where a rule tells them. */
function withoutOthers(state, goal, { columns }) {
	const { table } = state;
	const wanted = new Uint8Array(table.rows);
	for (const rows of rowsByKey(table, goal, columns)) {
		const free = rows.find((row) => wanted[row] === 0);
		if (free !== void 0) wanted[free] = 1;
	}
	const kept = [];
	const left = [];
	for (const [row, is] of wanted.entries()) (is === 1 ? kept : left).push(row);
	if (left.length === 0 || kept.length === 0) return [];
	const profile = profileTable(table);
	const why = "these rows are not in the finished table";
	const rules = chooseRules(profile, left, kept);
	if (rules !== void 0 && rules.length <= 2) return [{
		kind: "drop-rows",
		params: {
			rules,
			match: "any"
		},
		why
	}];
	for (const { name, column } of table.fields) {
		const plain = plainColumn(column);
		const staying = new Set(kept.map((row) => plainAt(plain, row)));
		if (staying.has("") || left.some((row) => staying.has(plainAt(plain, row)))) continue;
		if (staying.size <= 12) return [{
			kind: "keep-rows",
			params: { rules: [{
				test: "one-of",
				column: name,
				texts: [...staying]
			}] },
			why
		}];
		const values = numbersOf(column);
		if (values === void 0) continue;
		const [least, most] = [Math.min(...kept.map((row) => values[row])), Math.max(...kept.map((row) => values[row]))];
		if (left.every((row) => !(values[row] >= least && values[row] <= most))) return [{
			kind: "keep-rows",
			params: { rules: [{
				test: "between",
				column: name,
				least: String(least),
				most: String(most)
			}] },
			why
		}];
	}
	return [];
}
function chosen(table, goal, { columns }) {
	return columnSteps(table, columns.flatMap((column, w) => column === void 0 ? [] : [{
		name: column,
		to: goal.columns[w].name || column
	}]));
}
/** The table as it is, and in the other shapes that the names of the goal's columns speak for. */
function* shapes(start, goal) {
	yield start;
	yield* pivoted(start, goal);
	yield* unpivoted(start, goal);
	yield* joined(start, goal);
}
var MAX_ACROSS = 60;
/** Texts of a column are names of the goal's columns. */
function* pivoted(start, goal) {
	const { table } = start;
	const own = new Set(table.fields.map((field) => field.name));
	for (const { name, column } of table.fields) {
		const { distinct } = plainColumn(column);
		if (distinct.size < 2 || distinct.size > MAX_ACROSS) continue;
		const across = goal.columns.flatMap(({ name: wanted }, w) => !own.has(wanted) && distinct.has(wanted) ? [w] : []);
		if (across.length < 2) continue;
		const rows = goal.columns.flatMap((_, w) => across.includes(w) ? [] : [w]).flatMap((w) => {
			const [k] = holding(table, goal, w).filter((one) => table.fields[one].name !== name);
			return k === void 0 ? [] : [table.fields[k].name];
		});
		const params = {
			rows: {
				by: "names",
				names: rows
			},
			names: [name]
		};
		const values = table.fields.filter((field) => field.name !== name && !rows.includes(field.name));
		const numeric = values.filter((field) => numbersOf(field.column) !== void 0);
		const why = `the names of the finished table's columns stand in ${name}`;
		for (const by of [
			"only",
			"sum",
			"mean",
			"count"
		]) for (const { name: value } of by === "only" || by === "count" ? values : numeric) {
			const next = after(start, [{
				kind: "pivot",
				params: {
					...params,
					values: [{
						column: value,
						by
					}]
				},
				why
			}]);
			if (next !== void 0) yield next;
		}
	}
}
/** Names of the table's columns are texts of a column of the goal. */
function* unpivoted(start, goal) {
	const { table } = start;
	for (const { distinct, name } of goal.columns) {
		const columns = table.fields.filter((field) => distinct.has(field.name)).map((field) => field.name);
		if (columns.length < 2) continue;
		const value = goal.columns.find((one) => one.numbers !== void 0)?.name ?? "Value";
		const next = after(start, [{
			kind: "unpivot",
			params: {
				columns: {
					by: "names",
					names: columns
				},
				parts: [{
					as: "column",
					name: freeName(table, name)
				}],
				value: freeName(table, value),
				blanks: goal.isWhole ? "keep" : "drop"
			},
			why: `the names of these columns stand in ${name} of the finished table`
		}]);
		if (next !== void 0) yield next;
	}
}
/** Another table has several rows for one of this: its columns are joined. */
function* joined(start, goal) {
	const { table } = start;
	for (const { id, name, table: other } of start.others) {
		if (!goal.columns.some((column, w) => holding(table, goal, w).length === 0 && column.distinct.size > 0 && holding(other, goal, w).length > 0)) continue;
		for (const [l, left] of table.fields.entries()) for (const right of other.fields) {
			const [a, b] = [plainColumn(table.fields[l].column).distinct, plainColumn(right.column).distinct];
			const known = [...a].filter((text) => text !== "" && b.has(text)).length;
			if (a.size < 2 || known < a.size * .5) continue;
			const next = after(start, [{
				kind: "join",
				params: {
					table: id,
					keys: [{
						left: left.name,
						right: right.name
					}]
				},
				why: `columns of the finished table stand in ${name}`
			}]);
			if (next !== void 0) yield next;
		}
	}
}
// core/draft/draft.ts
/** A search over another reading must be this much better, since the guess at a reading has its own reasons. */
var READING_LEAD = 3;
/** What a draft must score for no other reading to be tried. */
var GOOD = 1;
/** Share of the wanted cells that a point of the score weighs as much as. */
var WORTH_OF_SCORE = .02;
/** Methods that are run whole to compare them with a finished table. */
var MAX_LIKE = 16;
/** Methods from which a search goes on toward a finished table. */
var MAX_TOWARD = 6;
/** Methods of which the first is chosen, however few are wanted. */
var MIN_PROVEN = 3;
/** Methods that are run beyond these, where totals disagree. */
var MAX_DISPROVED = 2;
/** Cells of a report beyond which its draft does not wait for the whole tally. */
var LARGE = 6e5;
/**
* Methods for a report, the best first; none where nothing of it can be read as a table.
*
* The same bytes give the same drafts. Large reports are searched on a sample and run whole.
*
* @throws ReadFailure when the file cannot be read at all; whatever the context's progress throws
*/
function draftsOf(sourceId, packed, context, { most = 3, wanted, given, without = [] } = {}) {
	const source = unwrapped(packed);
	const runner = new Runner();
	runner.setSource(sourceId, source);
	const found = [];
	let k = 0;
	for (const proposed of given === void 0 ? readingsOf(sourceId, source) : given.slice(0, 1)) {
		const reading = {
			...proposed,
			params: READINGS.get(proposed.kind).params.parse(proposed.params)
		};
		const read = readingRun(runner, reading, context);
		const raw = read?.table;
		if (raw !== void 0 && !isBlankTable(raw)) {
			const within = withinOf(raw);
			const sample = sampleOf(raw, within);
			const search = (left, share) => searchMethods(sample, within, (done) => context.progress(done * share), childlessOf(read), {
				steps: given?.slice(1) ?? [],
				without: left
			});
			const searchWithout = (step) => sample.rows * sample.fields.length > MAX_REPAIRED ? [] : search([...without, step], 0);
			for (const candidate of search(without, .6)) found.push({
				reading,
				candidate,
				score: candidate.weight - (k === 0 ? 0 : READING_LEAD),
				searchWithout
			});
			found.sort((a, b) => b.score - a.score);
		}
		k++;
		if ((found[0]?.score ?? Number.NEGATIVE_INFINITY) >= GOOD && wanted === void 0) break;
	}
	if (wanted !== void 0) return towards(found, wanted, runner, context, most);
	const [likeliest] = found;
	if (likeliest !== void 0) context.first?.([likeliest.reading, ...likeliest.candidate.steps]);
	const drafts = [];
	const enough = Math.max(most, MIN_PROVEN);
	for (const [n, one] of found.entries()) {
		const [first] = judged(drafts);
		if (first !== void 0 && drafts.length >= most && !isDisproved(first) && first.score >= one.score) break;
		if (drafts.length >= enough && !drafts.every(isDisproved)) break;
		if (drafts.length >= enough + MAX_DISPROVED) break;
		const draft = finish(one, found.slice(n + 1), runner, (done) => context.progress(.6 + .4 * done));
		if (draft !== void 0) drafts.push(draft);
	}
	const [best] = judged(drafts);
	const ofBest = found.find((one) => best !== void 0 && one.candidate.steps.every((step, n) => best.steps[n + 1] === step || step.kind === setTypes.kind));
	if (best !== void 0 && ofBest !== void 0 && best.remarks.some(isGrave)) drafts.push(...repaired(best, ofBest, runner));
	return judged(drafts).slice(0, most);
}
/** Cells of a sample beyond which no method is searched for again. */
var MAX_REPAIRED = 8e3;
/** Steps that are left out in turn. */
var MAX_LEFT_OUT = 8;
/** Methods without one of the steps of a draft that a review objects to, where the review likes them better. */
function repaired(draft, one, runner) {
	const grave = (of) => of.remarks.filter(isGrave).length;
	const known = /* @__PURE__ */ new Set([methodKey(draft.steps.slice(1))]);
	return one.candidate.steps.slice(0, MAX_LEFT_OUT).flatMap((step) => {
		const [candidate] = one.searchWithout(step);
		if (candidate === void 0 || known.has(methodKey(candidate.steps))) return [];
		known.add(methodKey(candidate.steps));
		const score = one.score + candidate.weight - one.candidate.weight;
		const made = finish({
			...one,
			candidate,
			score
		}, [one], runner, () => void 0);
		return made !== void 0 && grave(made) < grave(draft) ? [made] : [];
	});
}
var methodKey = (steps) => steps.map(stepKey).join();
/** Those that come nearest to a finished table, with its columns under its names. */
function towards(found, wanted, runner, context, most) {
	const others = wanted.others ?? [];
	for (const { sourceId, source } of others) runner.setSource(sourceId, source);
	const finished = mostlyWhole(nearest(found, wanted, runner, context), wanted, () => nearest(found, {
		...wanted,
		partial: false
	}, runner, context)).slice(0, most + MAX_DISPROVED).flatMap(({ one, tidySteps, table, likeness, ambiguities }) => {
		const steps = stepsToward(table, wanted.table, likeness);
		const candidate = withSteps(one.candidate, steps);
		const draft = finish({
			...one,
			others,
			candidate
		}, [], runner, () => context.progress(1));
		if (draft === void 0) return [];
		const judgement = judgedByGoal(draft.run.steps.at(-1).table.rows === wanted.table.rows, likeness, ambiguities);
		return [{
			...draft,
			...judgement,
			likeness,
			ambiguities,
			towardFrom: tidySteps + 1
		}];
	});
	const provenFirst = finished.toSorted((a, b) => b.likeness.share - a.likeness.share || Number(isDisproved(a)) - Number(isDisproved(b)));
	return (wanted.partial ? provenFirst : finished).slice(0, most);
}
/** Rows from which on some rows of a finished table may well be all of them. */
var MIN_WHOLE = 8;
/** Where the rows given are most of what a method makes, they are taken for all rows, if a method makes just these. */
function mostlyWhole(near, { table, partial }, asWhole) {
	const rows = near[0]?.table.rows ?? 0;
	if (!partial || rows === table.rows || table.rows < Math.max(MIN_WHOLE, rows / 2)) return near;
	const whole = asWhole();
	return whole[0]?.likeness.share === 1 ? whole : near;
}
/** How sure a draft is by the finished table that it was made for, and whether it has its rows and no others. */
function judgedByGoal(isWhole, { share }, [ambiguity]) {
	const reason = (sureness, because) => ({
		sureness,
		because,
		why: reasonText(because)
	});
	if (share < 1) return reason("guess", {
		code: "cells-reproduced",
		share
	});
	if (ambiguity !== void 0) return reason("guess", ambiguity);
	return reason(isWhole ? "sure" : "likely", { code: "all-reproduced" });
}
/** Methods by how near they come to the finished table, the nearest first. */
function nearest(found, wanted, runner, context) {
	const others = (wanted.others ?? []).map(({ id, name, draft }) => ({
		id,
		name,
		table: draft.run.steps.at(-1).table
	}));
	const drafts = found.slice(0, MAX_LIKE).flatMap((one, k) => {
		context.progress(.6 + .2 * k / Math.min(MAX_LIKE, found.length));
		const run = runOf(one, runner);
		if (run === void 0) return [];
		const table = run.steps.at(-1).table;
		const likeness = likenessTo(table, wanted.table, wanted.partial);
		return [{
			one,
			tidySteps: one.candidate.steps.length,
			table,
			likeness,
			ambiguities: []
		}];
	});
	const best = Math.max(...drafts.map(({ one }) => one.score));
	const worth = ({ likeness, one }) => likeness.share - WORTH_OF_SCORE * (best - one.score);
	const byWorth = (all) => all.toSorted((a, b) => worth(b) - worth(a) || b.one.score - a.one.score);
	const goal = goalOf(wanted.table, !wanted.partial);
	const isReached = ({ likeness }) => likeness.share === 1;
	if (drafts.some((near) => isReached(near) && areNamesAlike(near.table, goal, near.likeness.columns))) return byWorth(drafts);
	const shapes = drafts.filter((near, k) => drafts.findIndex((other) => isSameShape(other.table, near.table)) === k);
	const reached = [];
	for (const [k, { one, tidySteps, table, likeness }] of shapes.slice(0, MAX_TOWARD).entries()) {
		context.progress(.8 + .2 * k / MAX_TOWARD);
		const made = stepsTowardGoal(table, wanted.table, wanted.partial, others);
		if (made.steps.length === 0 || made.likeness.share < likeness.share) continue;
		if (made.likeness.share === likeness.share && likeness.share < 1) continue;
		reached.push({
			...made,
			tidySteps,
			one: {
				...one,
				candidate: withSteps(one.candidate, made.steps)
			}
		});
		if (made.likeness.share === 1) break;
	}
	if (reached.some(isReached)) return byWorth([...reached, ...drafts]);
	return byWorth([...reached, ...shapes.map((near) => mended(near, wanted))]);
}
var withSteps = (candidate, steps) => ({
	...candidate,
	steps: [...candidate.steps, ...steps]
});
/** A method with the steps that close what still differs, where they do. */
function mended(near, { table: wanted, partial }) {
	const { one, table, likeness } = near;
	const steps = likeness.share === 1 ? [] : mendingSteps(table, wanted, likeness);
	const after = steps.length === 0 ? void 0 : tableAfter(table, steps);
	if (after === void 0) return near;
	const better = likenessTo(after, wanted, partial);
	if (better.share <= likeness.share) return near;
	return {
		...near,
		one: {
			...one,
			candidate: withSteps(one.candidate, steps)
		},
		table: after,
		likeness: better
	};
}
function readingRun(runner, { kind, params }, context) {
	return runner.run([{
		id: "s1",
		kind,
		params
	}], { progress: () => context.progress(0) }).steps[0];
}
function isBlankTable(table) {
	return table.fields.every((field) => field.nameOrigin === "beside" || !unseenMask(field.column).includes(0));
}
/** Rows that the reading tells are outer items without inner ones. */
function childlessOf({ notices }) {
	return new Set(notices.flatMap((notice) => notice.about === "childless" ? [...notice.rows?.rows ?? []] : []));
}
function finish({ reading, candidate, score, others: tables }, others, runner, progress) {
	const sampled = runOf({
		reading,
		candidate,
		others: tables
	}, runner, (done) => progress(done * .5));
	if (sampled === void 0 || sampled.steps.at(-1).table.rows === 0) return void 0;
	const typed = typedByWhole(sampled, candidate);
	const run = typed === candidate ? sampled : runOf({
		reading,
		candidate: typed,
		others: tables
	}, runner);
	if (run === void 0) return void 0;
	const steps = [reading, ...typed.steps];
	const large = run.steps[0].table.rows * run.steps[0].table.fields.length > LARGE;
	const tally = large ? void 0 : tallyOf(run, { id: "table" }, void 0, (done) => progress(.5 + done * .5));
	const proof = large ? proofOnWhole(run, withinOf(run.steps[0].table)) : void 0;
	const table = run.steps.at(-1).table;
	const profile = profileTable(sampleOf(table, void 0, SEEN_CELLS));
	const remarks = review({
		table,
		profile,
		run,
		sums: candidate.sums
	});
	const rival = others.find(({ candidate: other }) => !isSameShape(other.table, candidate.table));
	return {
		steps,
		...surenessOf({
			candidate: typed,
			table,
			profile,
			tally,
			proof,
			unread: unreadParts(run),
			remarks,
			lead: rival === void 0 ? Number.POSITIVE_INFINITY : score - rival.score
		}),
		run,
		tally,
		totals: tally === void 0 ? proof ?? {
			agree: 0,
			of: 0
		} : totalsOf(tally),
		gives: candidate.gives,
		choices: candidate.choices.map(({ from, to, ...choice }) => ({
			...choice,
			from: from + 1,
			to: to + 1
		})),
		score: score - remarks.reduce((sum, remark) => sum + remarkWeight(remark), 0),
		remarks
	};
}
/** The method with types that all cells of its columns allow, where a sample of them was typed. */
function typedByWhole(run, candidate) {
	const last = candidate.steps.at(-1);
	const [raw, before] = [run.steps[0].table, run.steps.at(-2)?.table];
	if (last?.kind !== setTypes.kind || before === void 0 || before.rows * before.fields.length > LARGE) return candidate;
	if (sampleOf(raw, withinOf(raw)).rows === raw.rows) return candidate;
	const [found] = types.find({
		profile: profileTable(before, raw.decimal),
		raw,
		isSample: false,
		done: [],
		childless: /* @__PURE__ */ new Set(),
		within: withinOf(raw),
		titles: /* @__PURE__ */ new Set(),
		sums: []
	});
	const steps = candidate.steps.slice(0, -1);
	const set = found?.steps[0];
	if (set === void 0) return {
		...candidate,
		steps
	};
	const params = setTypes.params.parse(set.params);
	if (stepKey({
		...set,
		params
	}) === stepKey(last)) return candidate;
	const doubts = found?.doubt === void 0 ? candidate.doubts : [...candidate.doubts, found.doubt];
	return {
		...candidate,
		steps: [...steps, {
			...set,
			params
		}],
		doubts
	};
}
/** The method on the whole report; undefined where a step of it stops there. */
function runOf({ reading, candidate, others = [] }, runner, progress = () => void 0) {
	const stepsOf = (steps) => steps.map(({ kind, params }, k) => ({
		id: `s${k + 1}`,
		kind,
		params
	}));
	const tables = [...others.map(({ id, name, draft }) => ({
		id,
		name,
		steps: stepsOf(draft.steps)
	})), {
		id: "table",
		name: "Table",
		steps: stepsOf([reading, ...candidate.steps])
	}];
	const run = runner.runTable(tables, "table", { progress });
	return run.stop !== void 0 || run.steps.length === 0 ? void 0 : run;
}
function isSameShape(a, b) {
	return a.rows === b.rows && a.fields.length === b.fields.length && a.fields.every((field, k) => field.name === b.fields[k].name);
}
/** Names of sheets or tables that are in sight and not read, where they hold more than by the way. */
function unreadParts(run) {
	const { report, places } = run.steps[0].reading;
	const read = new Set(places.part);
	const size = (part) => part.rows * part.columns.length;
	const shown = report.parts.filter((part) => !part.hidden && part.rows > 1);
	const left = shown.filter((part) => !read.has(report.parts.indexOf(part)));
	const cells = (parts) => parts.reduce((sum, part) => sum + size(part), 0);
	const widths = new Set(shown.filter((part) => !left.includes(part)).map((part) => part.columns.length));
	const alike = left.filter((part) => widths.has(part.columns.length));
	return cells(left) > cells(shown) * .25 ? left.map((part) => part.name) : alike.map((part) => part.name);
}
function totalsOf({ ledger }) {
	return {
		agree: ledger.agrees,
		of: ledger.agrees + ledger.disagrees
	};
}
/** The column that tells sheets or files apart, if the reading gave one. */
function withinOf(table) {
	return table.fields.find((field) => field.nameOrigin === "beside")?.name;
}
/** The report's totals are the judge: a method under which more of them disagree is ranked after the next. */
function judged(drafts) {
	return drafts.map((draft, k) => ({
		draft,
		k
	})).sort((a, b) => Number(isDisproved(a.draft)) - Number(isDisproved(b.draft)) || b.draft.score - a.draft.score || a.k - b.k).map(({ draft }) => draft);
}
/** More totals of the report disagree than a slip of the pen explains. */
function isDisproved({ totals }) {
	return totals.of - totals.agree > totals.agree * .2;
}
/** The table of a file that is tidy already, by its header and its types; undefined where it holds none. @throws ReadFailure */
function tidyTable(source) {
	const runner = new Runner();
	runner.setSource("table", source);
	const { kind, params } = guessReading("table", source);
	const raw = runner.run([{
		id: "s1",
		kind,
		params
	}], { progress: () => void 0 }).steps[0]?.table;
	if (raw === void 0 || raw.rows === 0) return void 0;
	if (!isPositioned(raw)) return raw;
	return runner.run([{
		id: "s1",
		kind,
		params
	}, {
		id: "s2",
		kind: "header-from-rows",
		params: {
			rows: 1,
			at: null
		}
	}], { progress: () => void 0 }).steps[1]?.table;
}
// core/draft/draft-job.ts
/**
* A job whose last table has a draft for its method, behind the tables of other reports that its steps ask for. Equal
* files give equal jobs.
*
* @param file what the source was read from; its digest names the job
*/
function jobOfDraft(draft, file, sourceId = "report", others = []) {
	const baseName = (name) => name.replace(/\.[^.]+$/, "");
	const name = baseName(file.name);
	const asked = others.filter(({ id }) => draft.steps.some((step) => step.params["table"] === id));
	const stepsOf = (own) => own.steps.map(({ kind, params, why }, k) => ({
		id: `s${k + 1}`,
		kind,
		params,
		note: why
	}));
	const accepts = stepsOf(draft).slice(draft.towardFrom ?? draft.steps.length).map(({ id }) => id);
	return Job.parse({
		rimefield: "job",
		version: 1,
		id: `draft-${file.sha256.slice(0, 16)}`,
		name,
		sources: [...asked.map((one) => ({
			id: one.sourceId,
			name: baseName(one.name),
			file: one.file
		})), {
			id: sourceId,
			name,
			file
		}],
		tables: [...asked.map((one) => ({
			id: one.id,
			name: baseName(one.name),
			steps: stepsOf(one.draft)
		})), {
			id: "table",
			name: "Table",
			steps: stepsOf(draft),
			...accepts.length === 0 ? {} : { accepts }
		}]
	});
}
// service/draft.ts
/** rimefield draft: the method proposed from one or several reports. */
/** 0 sure, 1 likely or a guess, 2 nothing to read. */
async function draftReports(options) {
	const files = options.files.flatMap((path) => isFolder(path) || /[*?]/.test(basename(path)) ? filesAt(path, options.io) : [{
		name: basename(path),
		bytes: readBytes(path, options.io)
	}]);
	if (files.length === 0) throw new Trouble("Name at least one report.");
	const most = options.drafts === void 0 ? 1 : Number(options.drafts);
	if (!Number.isInteger(most) || most < 1 || most > 9) throw new Trouble("--drafts takes a number from 1 to 9.");
	if (options.whole && options.like === void 0) throw new Trouble("--whole goes with --like TABLE: it says that TABLE has all of its rows.");
	if (files.length === 1) return draftOne(files[0], most, options);
	if (most > 1) throw new Trouble("With several reports, leave out --drafts.");
	return options.like === void 0 ? draftMany(files, options) : draftTogether(files, options);
}
async function draftsFor(file, most, { like, whole, io, progress }, others = [], sourceId = "report") {
	await openSource(file.bytes, file.name);
	const drafts = draftsOf(sourceId, file, { progress: (done) => progress(`${Math.round(done * 100)}%`) }, {
		most,
		wanted: like === void 0 ? void 0 : {
			table: tableAt(like, io),
			partial: !whole,
			others
		}
	});
	progress("");
	return drafts;
}
/** A finished table of several unlike reports: of one its rows, of the others columns. */
async function draftTogether(files, options) {
	const reports = [];
	for (const [k, file] of files.entries()) {
		const sourceId = `report-${k + 1}`;
		const [draft] = await draftsFor(file, 1, {
			...options,
			like: void 0
		}, [], sourceId);
		if (draft === void 0) throw new Trouble(`${file.name}: no table was found in it.`);
		reports.push({
			id: `table-${k + 1}`,
			sourceId,
			name: file.name,
			source: file,
			draft
		});
	}
	let best;
	for (const [k, file] of files.entries()) {
		const others = reports.filter((_, n) => n !== k);
		const [draft] = await draftsFor(file, 1, options, others);
		const share = draft?.likeness?.share ?? 0;
		if (draft !== void 0 && (best === void 0 || share > best.draft.likeness.share)) best = {
			draft,
			file,
			others
		};
		if (share === 1) break;
	}
	if (best === void 0) throw new Trouble("No table was found in the reports.");
	return written([best.draft], best.file, best.others, options);
}
async function draftOne(file, most, options) {
	const drafts = await draftsFor(file, most, options);
	if (drafts.length === 0) {
		options.io.error(`rimefield: ${file.name}: no table was found in it.\n`);
		return 2;
	}
	return written(drafts, file, [], options);
}
/** Says the drafts of a report, and writes what was asked for. */
async function written(drafts, file, others, options) {
	const jobs = drafts.map((draft) => jobOf(draft, file, others));
	for (const [k, draft] of drafts.entries()) {
		tell(draft, jobs[k], k, drafts, options);
		if (options.out !== void 0) write(numbered(options.out, k), new TextEncoder().encode(writeJobFile(jobs[k])), options.io);
		if (options.table !== void 0) await writeTable(draft, jobs[k], numbered(options.table, k), options.io);
	}
	return drafts[0].sureness === "sure" ? 0 : 1;
}
/** One method for all files that it fits; those that need another one are reported. */
async function draftMany(files, options) {
	let left = [...files];
	let worst = 0;
	let k = 0;
	while (left.length > 0) {
		const [first] = left;
		const [draft] = await draftsFor(first, 1, options);
		if (draft === void 0) {
			options.io.error(`rimefield: ${first.name}: no table was found in it.\n`);
			worst = 2;
			left = left.slice(1);
			continue;
		}
		const job = jobOf(draft, first);
		const table = job.tables[0];
		const fitting = [];
		const others = [];
		let n = 0;
		for await (const outcome of runEach(new Runner(0), {
			job,
			table,
			source: "report"
		}, left, { progress: () => void 0 })) {
			const file = left[n++];
			const { ledger, cells } = outcome.as === "failed" ? {
				ledger: void 0,
				cells: void 0
			} : outcome.verdict;
			if (outcome.as !== "failed" && ledger.disagrees <= ledger.agrees * .1 && cells.accounted === cells.filled && outcome.run.steps.at(-1).table.rows > 0 || file === first) {
				if (outcome.as !== "failed") fitting.push({
					name: file.name,
					exported: released(job, {
						table,
						run: outcome.run,
						verdict: outcome.verdict
					})
				});
			} else others.push(file);
		}
		options.io.output(new TextEncoder().encode(`${counted(fitting.length, "report")} by one method: ${few(fitting.map((one) => one.name))}\n\n`));
		tell(draft, job, 0, [draft], options);
		if (draft.sureness !== "sure" && worst === 0) worst = 1;
		if (options.out !== void 0) write(numbered(options.out, k), new TextEncoder().encode(writeJobFile(job)), options.io);
		if (options.table !== void 0) {
			const out = numbered(options.table, k);
			const spec = specOf(table, out, void 0);
			write(out, await exportStacked(table.name, fitting, spec), options.io);
		}
		if (others.length > 0) options.io.error(`rimefield: ${counted(others.length, "report")} ${others.length === 1 ? "wants its own method" : "want their own methods"}: ${few(others.map((one) => one.name))}\n`);
		left = others;
		k++;
	}
	return worst;
}
function jobOf(draft, file, others = []) {
	const fileOf = ({ name, bytes }) => ({
		name,
		size: bytes.length,
		sha256: sha256Of(bytes)
	});
	return jobOfDraft(draft, fileOf(file), "report", others.map((one) => ({
		...one,
		file: fileOf(one.source)
	})));
}
function tell(draft, job, k, all, { io }) {
	const { totals } = draft;
	const table = draft.run.steps.at(-1).table;
	const names = jobNames(job);
	const lines = [
		...all.length > 1 ? [`Draft ${k + 1} of ${all.length}: ${draft.gives.join(", ") || "as it stands"}`] : [],
		...job.tables.at(-1).steps.flatMap((step, n) => [
			`${String(n + 1).padStart(3)}. ${stepHeadline(step, effectOfPiles(draft.run.steps[n]?.aside ?? []), names)}`,
			`     ${sentenceText(stepSentence(step, names))}`,
			`     ${draft.steps[n].why}`,
			...draft.choices.filter(({ to }) => to === n + 1).map(({ gives }) => `     or ${gives}`)
		]),
		"",
		`${grouped(table.rows)} rows of ${counted(table.fields.length, "column")}: ${few(table.fields.map((field) => field.name))}`,
		totals.of === 0 ? "no totals were found" : `${grouped(totals.agree)} of ${grouped(totals.of)} totals agree`,
		...cellLines(draft),
		`${draft.sureness === "guess" ? "a guess" : draft.sureness}: ${draft.why}`,
		...likeLines(draft),
		""
	];
	io.output(new TextEncoder().encode(`${lines.join("\n")}\n`));
}
/** Where the cells went; for a large report the tally of a run says it. */
function cellLines({ tally }) {
	if (tally === void 0) return ["a large report: rimefield check says where every cell went"];
	const { cells } = tally;
	return [`${grouped(cells.accounted)} of ${grouped(cells.filled)} filled cells accounted for`];
}
function likeLines({ likeness }) {
	if (likeness === void 0 || likeness.share === 1) return [];
	return [
		...likeness.gaps.map(({ row, column, wanted, got }) => got === void 0 ? `  row ${row + 1} of the finished table, ${column}: '${wanted}' is not found` : `  row ${row + 1} of the finished table, ${column}: '${wanted}' is wanted, '${got}' is there`),
		...likeness.missing > 0 ? [`  ${counted(likeness.missing, "row")} of the finished table not found`] : [],
		...likeness.extra > 0 ? [`  ${counted(likeness.extra, "row")} more than the finished table has`] : []
	];
}
async function writeTable(draft, job, out, io) {
	const table = job.tables.at(-1);
	const verdict = judge(job, table, draft.run);
	write(out, await releaseTable(job, {
		table,
		run: draft.run,
		verdict
	}, specOf(table, out, void 0)), io);
}
/** A finished table, read by its own draft: a header and rows in any format that is read. */
function tableAt(path, io) {
	const table = tidyTable({
		name: basename(path),
		bytes: readBytes(path, io)
	});
	if (table === void 0) throw new Trouble(`${path} holds no table.`);
	return table;
}
export { draftReports };
