import { $t as jobNames, A as splitToColumns, At as expression, B as removeDuplicates, Bn as countUnreadable, Dt as replace, En as usedTexts, F as namingRows, H as FilterParams, I as pivot, L as group, Mt as DEFAULT_PATTERNS, N as planNames, Ot as recode, P as unpivot, R as sort, Sn as cellText, St as setTypes, Ut as freeName, V as numberRows, W as setAside, X as carry, Xn as parse, Y as fill, Yn as sentenceText, Z as Rule, Zn as FormulaError, an as chosenColumns, bt as append, c as stepSentence, gn as unreadableCells, jt as compileFormula, k as splitToRows, vt as variance, wn as sampleTexts, yt as join, z as showDuplicates } from "./write-aside-PkVZPj8k.js";
import { d as counted } from "./builder-B1r8kR1k.js";
// core/sql/translate.ts
/** Why a step cannot be translated to a dialect, as the end of a sentence that names it. */
var UnsupportedInSql = class extends Error {
	name = "UnsupportedInSql";
};
/** What SQL keeps a field as. */
function sqlType({ column }) {
	return column.type === "received" ? "text" : column.type;
}
/** A field by its name, of one of these types. @throws UnsupportedInSql */
function fieldOf(table, name, ...types) {
	const field = table.fields.find((one) => one.name === name);
	if (field === void 0) throw new UnsupportedInSql(`it names the column ${name}, which is not there`);
	if (types.length > 0 && !types.includes(sqlType(field))) throw new UnsupportedInSql(`${name} is ${sqlType(field)}, and how it reads as text is not said`);
	return field;
}
var hasAsked = false;
/** Translates a step, and says whether it asked for typed columns in which each cell could be read. */
function watched(translate) {
	hasAsked = false;
	return {
		made: translate(),
		hasAsked
	};
}
/** Cells that could not be read are null in SQL: where they would count as filled, nothing is said. @throws UnsupportedInSql */
function needReadable(field) {
	if (sqlType(field) !== "text") hasAsked = true;
	if (countUnreadable(field.column) > 0) throw new UnsupportedInSql(`${field.name} holds cells that could not be read`);
	return field;
}
/** The fields of chosen columns, none with cells that could not be read. @throws UnsupportedInSql */
function readableFields(set, table) {
	return chosenColumns(set, table).map((k) => needReadable(table.fields[k]));
}
/** The names of fields, as a list. */
function idsOf(fields, { id }) {
	return fields.map((field) => id(field.name)).join(", ");
}
/** 1 in each row in which a column is not what it was in the row before, else 0; without a column always 0. */
function turnSql(table, within, dialect) {
	if (within === void 0 || within === "") return "0";
	const column = dialect.id(fieldOf(table, within).name);
	return `case when ${column} is distinct from lag(${column}) over (order by ${dialect.id("#")}) then 1 else 0 end`;
}
/** @throws UnsupportedInSql where a column has a name that the query needs for itself */
function refuseNames(table, names) {
	const taken = table.fields.find((field) => names.includes(field.name.toLowerCase()));
	if (taken !== void 0) throw new UnsupportedInSql(`a column is called ${taken.name}`);
}
/** Two names that are one to a dialect, in words. */
function twinNames(columns, { foldsNames }) {
	const known = /* @__PURE__ */ new Map();
	for (const { name } of foldsNames ? columns : []) {
		const other = known.get(name.toLowerCase());
		if (other !== void 0) return `${other} and ${name}`;
		known.set(name.toLowerCase(), name);
	}
}
/** The first name that is longer than the dialect keeps, which would be cut. */
function longName(columns, { maxNameBytes }) {
	if (maxNameBytes === void 0) return void 0;
	return columns.find(({ name }) => new TextEncoder().encode(name).length > maxNameBytes)?.name;
}
/** A query over the one before: its columns under the names that the step gave them. */
function selectFrom({ dialect, from }, columns, more = {}) {
	const twins = twinNames(columns, dialect);
	if (twins !== void 0) throw new UnsupportedInSql(`${twins} differ by case alone, which ${dialect.title} does not tell apart`);
	const long = longName(columns, dialect);
	if (long !== void 0) throw new UnsupportedInSql(`the name ${long} is longer than the ${dialect.maxNameBytes} bytes that ${dialect.title} keeps`);
	const order = dialect.id("#");
	return [
		"select",
		[more.order === void 0 ? order : `${more.order} as ${order}`, ...columns.map(({ sql, name }) => sql === dialect.id(name) ? sql : `${sql} as ${dialect.id(name)}`)].map((line) => `    ${line}`).join(",\n"),
		`from ${more.source ?? dialect.id(from.name)}`,
		...more.behind ?? []
	].join("\n");
}
/** The columns of a table as they are. */
function asTheyAre({ fields }, { id }) {
	return fields.map(({ name }) => ({
		sql: id(name),
		name
	}));
}
// core/sql/dialect.ts
var DIALECTS = [
	"duckdb",
	"postgres",
	"spark",
	"ansi"
];
/** As numbers are added, without the error of doubles. */
var DECIMAL = "decimal(38, 10)";
/** The line ends and blanks of ECMAScript (ECMA-262, 12.2 and 12.3), as the inside of a class. */
var BLANKS = String.raw`\t\n\x0B\f\r \u00A0\u1680\u2000-\u200A\u2028\u2029\u202F\u205F\u3000\uFEFF`;
var quoted = (name) => `"${name.replaceAll("\"", "\"\"")}"`;
var literal = (text) => `'${text.replaceAll("'", "''")}'`;
var leftOver = (of, by) => `(${of}) % (${by})`;
/** A number in its shortest text has at most the 15 digits up to which amounts are computed as decimals here. */
var hasFewDigits = (text) => `length(ltrim(regexp_replace(${text}, 'e.*$|[.]0$|[-.]', '', 'g'), '0')) <= 15`;
var ANSI = {
	name: "ansi",
	title: "standard SQL",
	id: quoted,
	text: literal,
	types: {
		text: "varchar",
		number: "double precision",
		whole: "bigint",
		yesno: "boolean",
		date: "date",
		time: "time",
		datetime: "timestamp"
	},
	trim: (text) => `translate_regex('^[\\s\\p{Z}]+|[\\s\\p{Z}]+$' in ${text} with '' occurrence all)`,
	fits: (text, pattern) => `${text} like_regex ${literal(pattern)}`,
	group: (text, pattern) => `substring_regex(${literal(pattern)} in ${text} group 1)`,
	refuse: (text, type) => `cast('not read: ' || ${text} as ${ANSI.types[type]})`,
	decimal: (number) => `cast(${number} as ${DECIMAL})`,
	nearest: (decimal) => `cast(${decimal} as ${ANSI.types.number})`,
	remainder: (of, by) => `mod(${of}, ${by})`,
	plain: (text) => text,
	eachOf: (rows, names) => `cross join lateral (values\n${rows.map((row) => `    (${row.join(", ")})`).join(",\n")}\n) as names(${names.join(", ")})`,
	part: (part, date) => `extract(${part} from ${date})`
};
var DUCKDB = {
	...ANSI,
	name: "duckdb",
	foldsNames: true,
	makesDates: true,
	title: "DuckDB",
	types: {
		...ANSI.types,
		number: "double"
	},
	trim: (text) => `regexp_replace(${text}, '^[\\s\\v\\pZ\\x{FEFF}]+|[\\s\\v\\pZ\\x{FEFF}]+$', '', 'g')`,
	fits: (text, pattern) => `regexp_matches(${text}, ${literal(pattern)})`,
	group: (text, pattern) => `regexp_extract(${text}, ${literal(pattern)}, 1)`,
	refuse: (text, type) => type === "text" ? `error('not read: ' || ${text})` : `cast('not read: ' || ${text} as ${DUCKDB.types[type]})`,
	decimal: (number) => {
		const text = `cast(${number} as varchar)`;
		const own = `cast(${text} as ${DECIMAL})`;
		return `case when ${`cast(cast(${own} as varchar) as double) = ${number} and ${hasFewDigits(text)}`} then ${own} when ${number} is not null then cast('more than 15 digits or 10 decimals: ' || ${number} as ${DECIMAL}) end`;
	},
	nearest: (decimal) => `cast(cast(${decimal} as varchar) as double)`,
	remainder: leftOver,
	pieces: {
		split: (text, delimiter) => `string_split(${text}, ${literal(delimiter)})`,
		at: (pieces, place) => `${pieces}[${place}]`,
		from: (pieces, place, delimiter) => `nullif(array_to_string(${pieces}[${place}:], ${literal(delimiter)}), '')`,
		each: (text, delimiter) => `left join lateral unnest(string_split(${text}, ${literal(delimiter)})) with ordinality as pieces(piece, place) on true`
	},
	picked: (value, order, which) => `${which === "first" ? "arg_min" : "arg_max"}(${value}, ${order})`,
	median: (value) => `median(${value})`,
	joined: (value, between, order) => `string_agg(${value}, ${literal(between)} order by ${order})`,
	file: (path) => `read_parquet(${literal(path)})`
};
var POSTGRES = {
	...ANSI,
	name: "postgres",
	makesDates: true,
	title: "PostgreSQL",
	maxNameBytes: 63,
	types: {
		...ANSI.types,
		text: "text"
	},
	trim: (text) => `regexp_replace(${text}, '^[${BLANKS}]+|[${BLANKS}]+$', '', 'g')`,
	fits: (text, pattern) => `${text} ~ ${literal(pattern)}`,
	group: (text, pattern) => `(regexp_match(${text}, ${literal(pattern)}))[1]`,
	refuse: (text, type) => type === "text" ? `cast(cast('not read: ' || ${text} as integer) as text)` : `cast('not read: ' || ${text} as ${POSTGRES.types[type]})`,
	decimal: (number) => {
		const text = `cast(${number} as text)`;
		const own = `cast(${text} as numeric)`;
		return `case when scale(${own}) <= 22 and ${hasFewDigits(text)} then ${own} when ${number} is not null then cast('more than 15 digits or 22 decimals: ' || ${number} as numeric) end`;
	},
	nearest: (decimal) => `cast(cast(${decimal} as text) as double precision)`,
	mean: (number) => `cast(cast(cast(sum(${POSTGRES.decimal(number)}) as numeric(1000, 60)) / count(${number}) as text) as double precision)`,
	remainder: leftOver,
	plain: (text) => `${text} collate "C"`,
	pieces: {
		split: (text, delimiter) => `string_to_array(${text}, ${literal(delimiter)})`,
		at: (pieces, place) => `(${pieces})[${place}]`,
		from: (pieces, place, delimiter) => `nullif(array_to_string((${pieces})[${place}:], ${literal(delimiter)}), '')`,
		each: (text, delimiter) => `left join lateral unnest(string_to_array(${text}, ${literal(delimiter)})) with ordinality as pieces(piece, place) on true`
	},
	picked: (value, order, which) => `(array_agg(${value} order by ${order}${which === "last" ? " desc" : ""}) filter (where ${value} is not null))[1]`,
	median: (value) => `percentile_cont(0.5) within group (order by ${value})`,
	joined: (value, between, order) => `string_agg(${value}, ${literal(between)} order by ${order})`
};
var SPARK = {
	...ANSI,
	name: "spark",
	foldsNames: true,
	title: "Spark",
	id: (name) => `\`${name.replaceAll("`", "``")}\``,
	text: (text) => `'${text.replaceAll("\\", "\\\\").replaceAll("'", "\\'")}'`,
	types: {
		...ANSI.types,
		text: "string",
		number: "double",
		time: "string"
	},
	trim: (text) => `regexp_replace(${text}, '^[\\\\s\\\\x0B\\\\p{Z}\\\\uFEFF]+|[\\\\s\\\\x0B\\\\p{Z}\\\\uFEFF]+$', '')`,
	fits: (text, pattern) => `${text} rlike ${SPARK.text(pattern)}`,
	group: (text, pattern) => `regexp_extract(${text}, ${SPARK.text(pattern)}, 1)`,
	decimal: (number) => `cast(cast(${number} as string) as ${DECIMAL})`,
	nearest: (decimal) => `cast(cast(${decimal} as string) as double)`,
	refuse: (text, type) => `cast(raise_error(concat('not read: ', ${text})) as ${SPARK.types[type]})`,
	remainder: leftOver,
	pieces: {
		split: (text, delimiter) => `split(${text}, ${SPARK.text(quotedPattern(delimiter))})`,
		at: (pieces, place) => `get(${pieces}, ${place - 1})`,
		from: (pieces, place, delimiter) => `nullif(array_join(slice(${pieces}, ${place}, greatest(size(${pieces}) - ${place - 1}, 0)), ${SPARK.text(delimiter)}), '')`,
		each: (text, delimiter) => `lateral view outer posexplode(split(${text}, ${SPARK.text(quotedPattern(delimiter))})) pieces as place, piece`
	},
	picked: (value, order, which) => `${which === "first" ? "min_by" : "max_by"}(${value}, ${order}) filter (where ${value} is not null)`,
	median: (value) => `median(${value})`,
	eachOf: (rows, names) => `lateral view inline(array(\n${rows.map((row) => `    struct(${row.join(", ")})`).join(",\n")}\n)) names as ${names.join(", ")}`,
	file: (path) => `parquet.\`${path}\``,
	part: (part, date) => `extract(${part === "isodow" ? "dayofweek_iso" : part} from ${date})`
};
function quotedPattern(text) {
	return text.replace(/[\\^$.*+?()[\]{}|]/g, "\\$&");
}
var DIALECT = {
	duckdb: DUCKDB,
	postgres: POSTGRES,
	spark: SPARK,
	ansi: ANSI
};
// core/sql/case-folding.ts
/** Letters whose lower case depends on the letters around them. */
var UNSAFE = /[\u03c2\u03c3\ud800-\udfff]/;
var uppers;
/** By lower-case letter, every other letter that becomes it. */
function uppersOf(letter) {
	if (uppers === void 0) {
		uppers = /* @__PURE__ */ new Map();
		for (let code = 0; code < 55296; code++) {
			const own = String.fromCharCode(code);
			const lower = own.toLowerCase();
			if (lower !== own && lower.length === 1) uppers.set(lower, (uppers.get(lower) ?? "") + own);
		}
	}
	return uppers.get(letter) ?? "";
}
/**
* A cell with those letters in lower case that matter beside some lower-case texts: it equals, or contains, one of them
* exactly where the cell in lower case does.
* @throws UnsupportedInSql for texts with letters whose case depends on their neighbours
*/
function foldedFor(cell, texts, dialect) {
	const letters = [...new Set(texts.join(""))];
	const unsafe = letters.find((letter) => UNSAFE.test(letter));
	if (unsafe !== void 0) throw new UnsupportedInSql(`the case of '${unsafe}' depends on the letters around it`);
	const spelt = letters.some((letter) => letter === "i" || letter === "̇") ? `replace(${cell}, '\u0130', 'i\u0307')` : cell;
	const pairs = letters.flatMap((letter) => [...uppersOf(letter)].map((upper) => [upper, letter]));
	if (pairs.length === 0) return spelt;
	const [from, to] = [0, 1].map((k) => pairs.map((pair) => pair[k]).join(""));
	return `translate(${spelt}, ${dialect.text(from)}, ${dialect.text(to)})`;
}
/** Letters of ASCII, Latin-1 and Latin Extended-A whose other case is one letter. */
var LATIN = Array.from({ length: 384 }, (_, code) => String.fromCharCode(code));
/** A text in upper or lower case; one with letters beyond Latin stops the script. */
function casedSql(text, to, dialect) {
	const cased = (letter) => to === "upper" ? letter.toUpperCase() : letter.toLowerCase();
	const changed = LATIN.filter((letter) => cased(letter).length === 1).filter((letter) => cased(letter) !== letter);
	const others = LATIN.filter((letter) => cased(letter).length !== 1);
	const mapped = `translate(${text}, ${dialect.text(changed.join(""))}, ${dialect.text(changed.map(cased).join(""))})`;
	const known = `[^${String.fromCharCode(1)}-${String.fromCharCode(383)}]${others.length === 0 ? "" : `|[${others.join("")}]`}`;
	return `case when ${dialect.fits(text, known)} then ${dialect.refuse(text, "text")} else ${mapped} end`;
}
// core/sql/expressions.ts
/** Expressions of a method as a dialect says them: they are SQL, but not each dialect computes them alike. */
/** Functions that give the same in every dialect, and what they give. */
var SAME = {
	length: "whole",
	char_length: "whole"
};
var PARTS = /* @__PURE__ */ new Set([
	"year",
	"quarter",
	"month",
	"week",
	"isodow",
	"day"
]);
/**
* An expression over the columns of a row. Numbers are added as decimals, as they are here.
* @throws UnsupportedInSql where a dialect could give another result
*/
function expressionSql(text, table, dialect) {
	try {
		compileFormula(text, table);
		return said(parse(text));
	} catch (error) {
		if (error instanceof FormulaError) throw new UnsupportedInSql("its expression is not whole");
		throw error;
	}
	function said(node) {
		switch (node.node) {
			case "literal": return literalSql(node, dialect);
			case "column": {
				const field = needReadable(fieldOf(table, table.fields.find((field) => field.name === node.name)?.name ?? table.fields.find((field) => !node.quoted && field.name.toLowerCase() === node.name.toLowerCase())?.name ?? node.name));
				if (field.column.type === "received") throw new UnsupportedInSql(`${field.name} holds several kinds of cells`);
				return {
					sql: dialect.id(field.name),
					type: sqlType(field)
				};
			}
			case "unary":
				if (node.operator === "not") return {
					sql: `not ${inside(node.of)}`,
					type: "yesno"
				};
				return {
					sql: `${node.operator}${numberOf(said(node.of))}`,
					type: "number"
				};
			case "binary": return binary(node.operator, said(node.left), said(node.right), node);
			case "is":
				if (node.what !== "null") throw new UnsupportedInSql(`is ${node.what} is not said`);
				return {
					sql: `${inside(node.of)} is ${node.not ? "not " : ""}null`,
					type: "yesno"
				};
			case "in": return {
				sql: `${inside(node.of)} ${node.not ? "not " : ""}in (${node.items.map((item) => said(item).sql).join(", ")})`,
				type: "yesno"
			};
			case "between": return {
				sql: `${inside(node.of)} ${node.not ? "not " : ""}between ${inside(node.low)} and ${inside(node.high)}`,
				type: "yesno"
			};
			case "case": return caseSql(node);
			case "call": return callSql(node);
			default: throw new UnsupportedInSql(`${node.node} in its expression is not said`);
		}
	}
	function inside(node) {
		const { sql } = said(node);
		return node.node === "binary" || node.node === "unary" || node.node === "is" || node.node === "between" || node.node === "in" ? `(${sql})` : sql;
	}
	function binary(operator, left, right, node) {
		if (operator === "and" || operator === "or") return {
			sql: `${inside(node.left)} ${operator} ${inside(node.right)}`,
			type: "yesno"
		};
		if ([
			"=",
			"<>",
			"<",
			"<=",
			">",
			">="
		].includes(operator)) {
			const texts = left.type === "text" && right.type === "text" && operator !== "=" && operator !== "<>";
			const [a, b] = [inside(node.left), inside(node.right)];
			return {
				sql: `${texts ? dialect.plain(a) : a} ${operator} ${b}`,
				type: "yesno"
			};
		}
		if (operator === "||") {
			for (const one of [left, right]) if (one.type !== "text" && one.type !== "whole" && one.type !== "null") throw new UnsupportedInSql(`how ${one.type} reads as text is not said`);
			const part = (one, of) => one.type === "whole" ? `cast(${inside(of)} as ${dialect.types.text})` : inside(of);
			return {
				sql: `${part(left, node.left)} || ${part(right, node.right)}`,
				type: "text"
			};
		}
		const isNumber = (type) => type === "number" || type === "whole";
		if (operator !== "+" && operator !== "-" || !isNumber(left.type) || !isNumber(right.type)) throw new UnsupportedInSql(`${operator} is computed to other last digits elsewhere`);
		if (left.type === "whole" && right.type === "whole") return {
			sql: `${inside(node.left)} ${operator} ${inside(node.right)}`,
			type: "whole"
		};
		return {
			sql: dialect.nearest(`(${decimal(left)} ${operator} ${decimal(right)})`),
			type: "number"
		};
	}
	/** A sign before a number is exact. */
	function numberOf({ sql, type }) {
		if (type === "number" || type === "whole") return sql.startsWith("-") ? `(${sql})` : sql;
		throw new UnsupportedInSql(`${type} is no number`);
	}
	function decimal({ sql, type }) {
		if (type === "number") return dialect.decimal(sql);
		if (type === "whole") return sql;
		throw new UnsupportedInSql(`${type} is no number`);
	}
	function caseSql(node) {
		const gives = [...node.whens.map((one) => said(one.give)), ...node.otherwise ? [said(node.otherwise)] : []];
		const types = new Set(gives.map((one) => one.type).filter((type) => type !== "null"));
		if (types.size > 1) throw new UnsupportedInSql("its branches are of several types");
		return {
			sql: `case${node.of === void 0 ? "" : ` ${said(node.of).sql}`}${node.whens.map((one) => ` when ${said(one.when).sql} then ${said(one.give).sql}`).join("")}${node.otherwise === void 0 ? "" : ` else ${said(node.otherwise).sql}`} end`,
			type: [...types][0] ?? "null"
		};
	}
	function callSql({ name, args }) {
		const own = args.map(said);
		const same = SAME[name];
		if ((name === "upper" || name === "lower") && own.length === 1 && own[0].type === "text") return {
			sql: casedSql(own[0].sql, name, dialect),
			type: "text"
		};
		if (same !== void 0 && own.length === 1 && own[0].type === "text") return {
			sql: `${name === "length" ? "char_length" : name}(${own[0].sql})`,
			type: same
		};
		if (name === "coalesce" || name === "nullif") {
			const types = new Set(own.map((one) => one.type).filter((type) => type !== "null"));
			if (types.size === 1) return {
				sql: `${name}(${own.map((one) => one.sql).join(", ")})`,
				type: [...types][0]
			};
		}
		const part = args[0]?.node === "literal" ? args[0].text.toLowerCase() : "";
		if (name === "extract" && PARTS.has(part) && (own[1]?.type === "date" || own[1]?.type === "datetime")) return {
			sql: `cast(${dialect.part(part, own[1].sql)} as ${dialect.types.whole})`,
			type: "whole"
		};
		throw new UnsupportedInSql(`the function ${name} may give something else there`);
	}
}
function literalSql({ type, text }, dialect) {
	switch (type) {
		case "null": return {
			sql: "null",
			type: "null"
		};
		case "text": return {
			sql: dialect.text(text),
			type: "text"
		};
		case "boolean": return {
			sql: text,
			type: "yesno"
		};
		case "number": return /^\d+$/.test(text) ? {
			sql: text,
			type: "whole"
		} : {
			sql: `cast(${text} as ${dialect.types.number})`,
			type: "number"
		};
		case "date": return {
			sql: `date ${dialect.text(text)}`,
			type: "date"
		};
		default: throw new UnsupportedInSql(`a ${type} in its expression is not said`);
	}
}
// core/sql/types-sql.ts
/** Texts that are looked at to tell whether a script could read them. */
var SAMPLE = 1e5;
var DIGIT = "[0-9]";
/**
* A column as a type, as the step reads it.
* @param text its text without outer blanks
* @throws UnsupportedInSql where it holds what only the step reads
*/
function typedSql(field, form, text, { dialect, isStrict }) {
	const from = sqlType(field);
	const cell = dialect.id(field.name);
	if (from === form.type) return cell;
	if (from !== "text") {
		needReadable(field);
		if (from === "whole" && form.type === "number") return `cast(${cell} as ${dialect.types.number})`;
		throw new UnsupportedInSql(`how ${field.name} turns from ${from} to ${form.type} is not said`);
	}
	switch (form.type) {
		case "number":
		case "whole": return numberSql(field, form, text, dialect, isStrict);
		case "date":
		case "time":
		case "datetime": return dateSql(field, form, text, dialect, isStrict);
		default: throw new UnsupportedInSql(`how ${field.name} is read as ${form.type} is not said`);
	}
}
function numberSql(field, form, text, dialect, isStrict) {
	const { decimal, grouping } = {
		decimal: ".",
		grouping: "any",
		...form.number
	};
	if (form.serial !== void 0) throw new UnsupportedInSql(`${field.name} may hold workbook serials`);
	if (field.column.type === "received" && decimal === ",") throw new UnsupportedInSql(`${field.name} mixes numbers and texts`);
	const mark = grouping === "any" ? decimal === "." ? "," : "." : grouping;
	const pattern = `^[+-]?([0-9]+${mark === "none" ? "" : `|[0-9]{1,3}([${mark}][0-9]{3})+`})([${decimal}][0-9]+)?$`;
	refuseOthers(field, [pattern]);
	const ungrouped = mark === "none" ? text : `replace(${text}, ${dialect.text(mark)}, '')`;
	const value = `cast(${decimal === "," ? `replace(${ungrouped}, ',', '.')` : ungrouped} as ${dialect.types.number}) + 0`;
	return decided(dialect, text, [[pattern, form.type === "number" ? value : `case when ${value} = floor(${value}) then cast(${value} as ${dialect.types.whole})${isStrict ? ` else ${dialect.refuse(text, "whole")}` : ""} end`]], form.type, isStrict);
}
/** Cases of a text: its patterns in order, null where it holds no digit (or nothing, if strict), and a stop for whatever else stands there. */
function decided(dialect, text, cases, type, isStrict) {
	return [
		"case",
		...cases.map(([pattern, read]) => `        when ${dialect.fits(text, pattern)} then ${read}`),
		`        when ${isStrict ? `${text} <> ''` : dialect.fits(text, DIGIT)} then ${dialect.refuse(text, type)}`,
		"    end"
	].join("\n");
}
/** @throws UnsupportedInSql where the column holds a text that the script would stop at: one with a digit that fits no pattern */
function refuseOthers(field, patterns) {
	const [digit, ...read] = [DIGIT, ...patterns].map((pattern) => new RegExp(pattern));
	const { column } = field;
	const texts = column.type === "text" && column.dictionary.length > SAMPLE ? sampleTexts(column, SAMPLE) : usedTexts(column);
	for (const one of texts) {
		const text = one.trim();
		if (digit.test(text) && !read.some((pattern) => pattern.test(text))) throw new UnsupportedInSql(`${field.name} holds '${text}', which SQL does not read so`);
	}
}
/** Pieces of a pattern (UTS #35) that a script reads, and the digits of each. */
var PIECES = {
	yyyy: "[0-9]{4}",
	MM: "[0-9]{2}",
	M: "[0-9]{1,2}",
	dd: "[0-9]{2}",
	d: "[0-9]{1,2}",
	HH: "[0-9]{2}",
	H: "[0-9]{1,2}",
	mm: "[0-9]{2}",
	ss: "[0-9]{2}"
};
function dateSql(field, form, text, dialect, isStrict) {
	const type = form.type;
	if (form.serial !== void 0 || form.zone !== void 0 || dialect.makesDates === void 0) throw new UnsupportedInSql(`how ${field.name} is read as ${type} is not said`);
	if (field.column.type === "received" && field.column.tags.some((tag) => tag > 1)) throw new UnsupportedInSql(`${field.name} mixes texts and other cells`);
	const given = form.patterns === void 0 || form.patterns.length === 0 ? DEFAULT_PATTERNS[type] : form.patterns;
	const reads = given.flatMap((pattern) => readOf(pattern, type, text, dialect) ?? []);
	if (reads.length === 0) throw new UnsupportedInSql(`the pattern ${given[0]} is not said`);
	refuseOthers(field, reads.map(({ pattern }) => pattern));
	return decided(dialect, text, reads.map(({ pattern, sql }) => [pattern, isStrict ? sql.replace(/ end$/, ` else ${dialect.refuse(text, type)} end`) : sql]), type, isStrict);
}
/** How a text of one pattern is read; null where its day is none of its month. */
function readOf(pattern, type, text, dialect) {
	const tokens = pattern.match(/'[^']+'|([a-zA-Z])\1*|[^a-zA-Z']/g);
	if (tokens === null || tokens.join("") !== pattern || /[\\^]/.test(pattern)) return void 0;
	const expression = (wanted) => `^${tokens.map((token) => {
		const digits = PIECES[token];
		if (digits !== void 0) return token === wanted ? `(${digits})` : digits;
		return (token.startsWith("'") ? token.slice(1, -1) : token).replace(/[\\^$.*+?()[\]{}|]/g, "[$&]").replace(/ /g, "[ ]");
	}).join("")}$`;
	if (tokens.some((token) => PIECES[token] === void 0 && /^[a-zA-Z]/.test(token))) return void 0;
	const number = (...names) => {
		const name = names.find((one) => tokens.includes(one));
		return name === void 0 ? void 0 : `cast(${dialect.group(text, expression(name))} as integer)`;
	};
	const [year, month, day] = [
		number("yyyy"),
		number("MM", "M"),
		number("dd", "d")
	];
	const [hour, minute, second] = [
		number("HH", "H"),
		number("mm"),
		number("ss")
	];
	if ((year !== void 0 && month !== void 0 && day !== void 0) !== (type !== "time") || (hour !== void 0 && minute !== void 0) !== (type !== "date")) return void 0;
	const isDay = `${month} between 1 and 12 and ${day} between 1 and ${lastDay(year, month)}`;
	const isTime = `${hour} < 24 and ${minute} < 60${second === void 0 ? "" : ` and ${second} < 60`}`;
	const sql = type === "date" ? `case when ${isDay} then make_date(${year}, ${month}, ${day}) end` : type === "time" ? `case when ${isTime} then make_time(${hour}, ${minute}, ${second ?? 0}) end` : `case when ${isDay} and ${isTime} then make_timestamp(${year}, ${month}, ${day}, ${hour}, ${minute}, ${second ?? 0}) end`;
	return {
		pattern: expression(void 0),
		sql
	};
}
function lastDay(year, month) {
	return `case when ${month} in (4, 6, 9, 11) then 30 when ${month} <> 2 then 31 when ${year} % 4 = 0 and (${year} % 100 <> 0 or ${year} % 400 = 0) then 29 else 28 end`;
}
// core/sql/steps/cells.ts
/** What cells become. */
var typing = (saying, given) => {
	const { dialect, from } = saying;
	const { types } = setTypes.params.parse(given);
	const columns = asTheyAre(from.table, dialect);
	const typed = /* @__PURE__ */ new Set();
	const trimmed = [];
	for (const form of types) for (const k of chosenColumns(form.columns, from.table)) {
		const field = from.table.fields[k];
		if (typed.has(k)) throw new UnsupportedInSql(`${field.name} is given two types`);
		typed.add(k);
		const text = `${field.name} as text`;
		refuseNames(from.table, [text.toLowerCase()]);
		if (saying.isStrict && form.type !== "text") needReadable(saying.to.fields[k]);
		columns[k] = {
			...columns[k],
			sql: typedSql(field, form, dialect.id(text), saying)
		};
		if (sqlType(field) === "text" && form.type !== "text") trimmed.push(`        ${dialect.trim(dialect.id(field.name))} as ${dialect.id(text)}`);
	}
	if (trimmed.length === 0) return selectFrom(saying, columns);
	return selectFrom(saying, columns, { source: `(\n    select *,\n${trimmed.join(",\n")}\n    from ${dialect.id(from.name)}\n) as texts` });
};
var computing = (saying, given) => {
	const { into, text } = expression.params.parse(given);
	const { dialect, from } = saying;
	const { sql } = expressionSql(text, from.table, dialect);
	return selectFrom(saying, putIn(asTheyAre(from.table, dialect), saying.to, into, sql));
};
/** A column in place of one of its name, or where the step put it. */
function putIn(columns, to, name, sql) {
	const at = columns.findIndex((one) => one.name === name);
	if (at >= 0) return columns.with(at, {
		sql,
		name
	});
	return columns.toSpliced(to.fields.findIndex((field) => field.name === name), 0, {
		sql,
		name
	});
}
var recoding = (saying, given) => {
	const { dialect, from } = saying;
	const { column, crosswalk, unmatched, exact, into } = recode.params.parse(given);
	if (unmatched === "list") throw new UnsupportedInSql("texts without a meaning are to stand out as unreadable");
	const cell = dialect.id(fieldOf(from.table, column, "text").name);
	const meanings = new Map(crosswalk.map((one) => [exact ? one.from.trim() : one.from.trim().toLowerCase(), one.to]));
	const code = exact ? dialect.trim(cell) : foldedFor(dialect.trim(cell), [...meanings.keys()], dialect);
	const whens = [...meanings].map(([text, to]) => `\n        when ${dialect.text(text)} then ${to === "" ? "null" : dialect.text(to)}`);
	const sql = whens.length === 0 ? cell : `case ${code}${whens.join("")}\n        else ${unmatched === "keep" ? cell : "null"}\n    end`;
	const columns = asTheyAre(from.table, dialect);
	const name = into === null || into === "" ? column : into;
	return selectFrom(saying, putIn(columns, saying.to, name, sql));
};
var replacing = (saying, given) => {
	const { dialect, from } = saying;
	const params = replace.params.parse(given);
	if (params.how !== "part" || !params.exact) throw new UnsupportedInSql("only a part of a text, case and all, is replaced so");
	const columns = asTheyAre(from.table, dialect);
	for (const k of chosenColumns(params.columns, from.table)) {
		const cell = dialect.id(fieldOf(from.table, columns[k].name, "text").name);
		columns[k] = {
			...columns[k],
			sql: `nullif(replace(${cell}, ${dialect.text(params.find)}, ${dialect.text(params.with)}), '')`
		};
	}
	return selectFrom(saying, columns);
};
// core/sql/steps/columns.ts
/** Columns under other names, in another order, or fewer. */
/** Columns under other names, in another order, or fewer: told by where each came from. */
var ofColumns = (saying) => {
	const { dialect, from, to, run } = saying;
	return selectFrom(saying, to.fields.map(({ name }, k) => {
		const [cell, ...others] = run.origin[k].cells;
		if (cell === void 0 || others.length > 0 || typeof cell.column !== "number" || cell.rows.kind !== "same") throw new UnsupportedInSql(`${name} is made of more than one column`);
		return {
			sql: dialect.id(from.table.fields[cell.column].name),
			name
		};
	}));
};
// core/sql/steps/shape.ts
/** Columns as rows, and rows as groups. */
var unpivoting = (saying, given) => {
	const { dialect, from, to } = saying;
	const params = unpivot.params.parse(given);
	const going = chosenColumns(params.columns, from.table);
	const goes = new Set(going);
	const staying = from.table.fields.filter((_, k) => !goes.has(k));
	const { groups, names, values } = planNames(from.table, going, params);
	const fields = to.fields.slice(staying.length + names.length);
	const cells = (columns) => columns.map((k, v) => k < 0 ? `cast(null as ${dialect.types[sqlType(fields[v])]})` : castTo(from.table.fields[k], fields[v], saying));
	const rows = groups.map(({ texts, columns }, g) => [
		String(g),
		...texts.map((text) => text === null ? "null" : dialect.text(text)),
		...cells(columns)
	]);
	const inner = [
		"place",
		...names.map((_, k) => `name_${k}`),
		...values.map((_, k) => `value_${k}`)
	];
	refuseNames(from.table, [...inner, "names"]);
	const columns = to.fields.map(({ name }, k) => {
		const before = staying[k];
		return {
			sql: before === void 0 ? inner[k - staying.length + 1] : dialect.id(before.name),
			name
		};
	});
	const some = values.map((_, k) => `value_${k} is not null`).join(" or ");
	return selectFrom(saying, columns, {
		order: `row_number() over (order by ${dialect.id("#")}, place)`,
		behind: [dialect.eachOf(rows, inner), ...params.blanks === "drop" ? [`where ${some}`] : []]
	});
};
/** A cell as the type of a column that it goes into. */
function castTo(field, into, { dialect }) {
	const [from, to] = [sqlType(field), sqlType(into)];
	if (from === to) return dialect.id(field.name);
	if (from === "whole" && to === "number") return `cast(${dialect.id(field.name)} as ${dialect.types.number})`;
	throw new UnsupportedInSql(`${field.name} is ${from} and goes into ${into.name}, which is ${to}`);
}
var grouping = (saying, given) => {
	const { dialect, from, to } = saying;
	const { by, measures } = group.params.parse(given);
	const keys = readableFields(by, from.table);
	if (keys.length === 0) throw new UnsupportedInSql("it makes one group of all rows");
	const order = dialect.id("#");
	return selectFrom(saying, [...keys.map((field, k) => ({
		sql: dialect.id(field.name),
		name: to.fields[k].name
	})), ...measures.map((one, m) => {
		const where = one.where === void 0 || one.where.trim() === "" ? void 0 : expressionSql(one.where, from.table, dialect).sql;
		const name = to.fields[keys.length + m].name;
		if (one.by === "rows") return {
			sql: where === void 0 ? "count(*)" : `count(*) filter (where ${where})`,
			name
		};
		const field = fieldOf(from.table, one.column);
		return {
			sql: measureSql(one.by, field, where, saying, order),
			name
		};
	})], {
		order: `min(${order})`,
		behind: [`group by ${idsOf(keys, dialect)}`]
	});
};
function measureSql(by, field, where, { dialect, isStrict }, order) {
	const type = sqlType(field);
	const cell = dialect.id(field.name);
	const value = where === void 0 ? cell : `case when ${where} then ${cell} end`;
	if (field.column.type === "received") throw new UnsupportedInSql(`${field.name} holds several kinds of cells`);
	switch (by) {
		case "sum":
			if (type === "whole") return `cast(sum(${value}) as ${dialect.types.whole})`;
			if (type === "number") return dialect.nearest(`sum(${dialect.decimal(value)})`);
			break;
		case "mean":
			if (type === "whole") return `avg(${value})`;
			if (type === "number" && dialect.mean !== void 0) return dialect.mean(value);
			throw new UnsupportedInSql(`the mean of ${field.name} has other last digits in ${dialect.title}`);
		case "median":
			if (type === "whole" && dialect.median !== void 0) return dialect.median(`cast(${value} as ${dialect.types.number})`);
			throw new UnsupportedInSql(`the median of ${field.name} may have other last digits in ${dialect.title}`);
		case "min":
		case "max":
			if (type !== "yesno") return `${by}(${type === "text" ? dialect.plain(value) : value})`;
			break;
		case "only":
			if (type !== "yesno") return isStrict ? `case when count(${value}) > 1 then ${dialect.refuse(`${dialect.text(`several values of ${field.name}: `)} || cast(min(${value}) as ${dialect.types.text})`, type)} else min(${value}) end` : `case when count(${value}) = 1 then min(${value}) end`;
			break;
		case "count": return `count(${value})`;
		case "distinct": return `count(distinct ${value})`;
		case "first":
		case "last":
			if (dialect.picked !== void 0) return dialect.picked(value, order, by);
			break;
		case "joined": if (type === "text" && dialect.joined !== void 0) return dialect.joined(value, "; ", order);
	}
	throw new UnsupportedInSql(`${by} of ${field.name} is not said`);
}
var pivoting = (saying, given) => {
	const { dialect, from, to } = saying;
	const params = pivot.params.parse(given);
	if (params.empty !== null) throw new UnsupportedInSql("empty cells are filled");
	const names = params.names.map((name) => fieldOf(from.table, name, "text"));
	const values = params.values.map(({ column }) => needReadable(fieldOf(from.table, column)));
	if (saying.isStrict) for (const field of to.fields) needReadable(field);
	const used = /* @__PURE__ */ new Set([...names, ...values]);
	const rows = params.rows === null ? from.table.fields.filter((field) => !used.has(field)).map(needReadable) : readableFields(params.rows, from.table);
	if (rows.length === 0) throw new UnsupportedInSql("it makes one row of all");
	const conditions = namingRows(from.table, params).map((row) => names.map(({ name, column }) => {
		const text = cellText(column, row);
		return `${dialect.id(name)} ${text === null ? "is null" : `= ${dialect.text(text)}`}`;
	}).join(" and "));
	const order = dialect.id("#");
	const columns = [...rows.map((field, k) => ({
		sql: dialect.id(field.name),
		name: to.fields[k].name
	})), ...conditions.flatMap((condition, c) => values.map((field, v) => {
		const name = to.fields[rows.length + c * values.length + v].name;
		return {
			sql: measureSql(params.values[v].by, field, condition, saying, order),
			name
		};
	}))];
	const named = names.map(({ name }) => `coalesce(${dialect.id(name)}, 'blank')`).join(" || ' / ' || ");
	const known = `case when ${conditions.map((one) => names.length > 1 ? `(${one})` : one).join(" or ")} then true else ${dialect.refuse(named, "yesno")} end`;
	return selectFrom(saying, columns, {
		order: `min(${order})`,
		behind: [`where ${known}`, `group by ${idsOf(rows, dialect)}`]
	});
};
// core/sql/steps/combine.ts
/** Tables beside and under each other, and columns beside each other. */
var joining = (saying, given) => {
	const { dialect, from, to } = saying;
	const { table, how, keys, forgiving, bring } = join.params.parse(given);
	if (forgiving) throw new UnsupportedInSql("keys are compared without blanks, case and accents");
	if (how === "full") throw new UnsupportedInSql("rows of both tables are kept");
	const other = saying.other(table);
	const own = (field) => `here.${dialect.id(field)}`;
	const theirs = (field) => `there.${dialect.id(field)}`;
	const on = keys.map(({ left, right }) => {
		const [a, b] = [needReadable(fieldOf(from.table, left)), needReadable(fieldOf(other.table, right))];
		if (sqlType(a) !== sqlType(b) || a.column.type === "received" || b.column.type === "received") throw new UnsupportedInSql(`${left} and ${right} are not of one type`);
		return `${own(left)} = ${theirs(right)}`;
	});
	const right = new Set(keys.map((key) => key.right));
	const order = dialect.id("#");
	if (how === "unmatched") {
		const none = `where not exists (select 1 from ${dialect.id(other.name)} as there where ${on.join(" and ")})`;
		return selectFrom(saying, from.table.fields.map(({ name }) => ({
			sql: own(name),
			name
		})), {
			order: `here.${order}`,
			source: `${dialect.id(from.name)} as here`,
			behind: [none]
		});
	}
	const brought = chosenColumns(bring, other.table).map((k) => other.table.fields[k].name).filter((name) => !right.has(name));
	const sources = [...from.table.fields.map(({ name }) => own(name)), ...brought.map(theirs)];
	return selectFrom(saying, to.fields.map(({ name }, k) => ({
		sql: sources[k],
		name
	})), {
		order: `row_number() over (order by here.${order}, there.${order})`,
		source: `${dialect.id(from.name)} as here`,
		behind: [`${how === "inner" ? "join" : "left join"} ${dialect.id(other.name)} as there on ${on.join(" and ")}`]
	});
};
var appending = (saying, given) => {
	const { dialect, from, to } = saying;
	const { tables, columns, nameColumn } = append.params.parse(given);
	if (nameColumn !== null && nameColumn !== "") throw new UnsupportedInSql("the tables' names go into a column");
	const all = [from, ...tables.map((id) => saying.other(id))];
	const order = dialect.id("#");
	const parts = all.map((one, t) => {
		const renamed = columns.filter((column) => column.table === tables[t - 1]);
		const under = (field) => renamed.find((column) => column.from === field.name)?.to ?? field.name;
		const cells = to.fields.map((into) => {
			const field = one.table.fields.find((each) => under(each) === into.name);
			return `${field === void 0 ? `cast(null as ${dialect.types[sqlType(into)]})` : castTo(field, into, saying)} as ${dialect.id(into.name)}`;
		});
		return `    select ${t} as part, ${order}, ${cells.join(", ")} from ${dialect.id(one.name)}`;
	});
	refuseNames(to, ["part"]);
	return selectFrom(saying, asTheyAre(to, dialect), {
		order: `row_number() over (order by part, ${order})`,
		source: `(\n${parts.join("\n    union all\n")}\n) as parts`
	});
};
/** Leaves room for factors of five digits within the 38 that decimals have. */
var SHORTER = "decimal(28, 10)";
var comparing = (saying, given) => {
	const { dialect, from, to } = saying;
	const params = variance.params.parse(given);
	const [actual, target] = [params.actual, params.target].map((name) => fieldOf(from.table, name, "whole", "number"));
	const cell = (field) => sqlType(field) === "whole" ? dialect.id(field.name) : dialect.decimal(dialect.id(field.name));
	const difference = `${cell(actual)} - ${cell(target)}`;
	const isWhole = sqlType(actual) === "whole" && sqlType(target) === "whole";
	let columns = asTheyAre(from.table, dialect);
	columns = putIn(columns, to, params.into, isWhole ? difference : dialect.nearest(`(${difference})`));
	if (params.share === null) return selectFrom(saying, columns);
	refuseNames(from.table, ["apart", "base"]);
	const [over, whole] = ["20000 * abs(apart) + base", "2 * base"];
	const share = `sign(apart) * round((${over} - ${dialect.remainder(over, whole)}) / (${whole})) / 10000`;
	return selectFrom(saying, putIn(columns, to, params.share, `cast(${share} as ${dialect.types.number})`), { source: `(
    select *, cast(${difference} as ${SHORTER}) as apart, cast(abs(nullif(${cell(target)}, 0)) as ${SHORTER}) as base
    from ${dialect.id(from.name)}
) as compared` });
};
// core/sql/conditions.ts
/** Rules for rows as conditions. */
/**
* A condition that is true for the rows that follow a rule.
* @param placed where the query can say where rows stand
* @throws UnsupportedInSql
*/
function ruleSql(rule, table, dialect, placed) {
	if (placed !== void 0 && (rule.test === "above-first" || rule.test === "below-last")) return placed(rule);
	switch (rule.test) {
		case "equals":
		case "starts":
		case "ends":
		case "contains": {
			const column = dialect.id(fieldOf(table, rule.column, "text").name);
			const text = rule.exact ? rule.text : rule.text.trim().toLowerCase();
			const cell = rule.exact ? column : foldedFor(dialect.trim(column), [text], dialect);
			if (rule.test === "equals") return `${cell} = ${dialect.text(text)}`;
			return like(cell, rule.test === "starts" ? "" : "%", text, rule.test === "ends" ? "" : "%", dialect);
		}
		case "one-of": {
			const cell = dialect.trim(dialect.id(fieldOf(table, rule.column, "text").name));
			if (rule.texts.length === 0) return "false";
			return `${cell} in (${rule.texts.map((text) => dialect.text(text.trim())).join(", ")})`;
		}
		case "between": {
			const field = fieldOf(table, rule.column, "number", "whole", "date");
			const end = (text) => {
				if (sqlType(field) === "date") return `date ${dialect.text(text)}`;
				if (!/^\s*-?\d+(\.\d+)?\s*$/.test(text)) throw new UnsupportedInSql(`${text} is no plain number`);
				return text.trim();
			};
			const cell = dialect.id(field.name);
			const ends = [...rule.least === null || rule.least.trim() === "" ? [] : [`${cell} >= ${end(rule.least)}`], ...rule.most === null || rule.most.trim() === "" ? [] : [`${cell} <= ${end(rule.most)}`]];
			return ends.length === 0 ? `${cell} is not null` : ends.join(" and ");
		}
		case "date-part": {
			const field = fieldOf(table, rule.column, "date", "datetime");
			if (rule.is.length === 0) return "false";
			return `${dialect.part(rule.part, dialect.id(field.name))} in (${rule.is.join(", ")})`;
		}
		case "blank":
		case "filled": {
			const chosen = chosenColumns(rule.columns, table);
			if (chosen.length === 0) return "false";
			return allOf(chosen.map((k) => unseenSql(table, k, dialect, rule.test === "blank")));
		}
		case "only":
		case "empty": {
			const wanted = new Set(rule.test === "only" ? rule.columns : []);
			const cells = table.fields.flatMap((field, k) => field.nameOrigin === "beside" && !wanted.has(field.name) ? [] : [unseenSql(table, k, dialect, !wanted.has(field.name))]);
			return cells.length === 0 ? "true" : allOf(cells);
		}
		case "expression": return expressionSql(rule.text, table, dialect).sql;
		default: throw new UnsupportedInSql(rule.test === "matches" ? "its pattern is a regular expression of ECMAScript" : `its rule (${rule.test}) asks for more than the row itself`);
	}
}
/** A condition that is true or false, and never null. */
function rulesSql(rules, match, table, dialect, placed) {
	if (rules.length === 0) return "false";
	const conditions = rules.map((rule) => ruleSql(rule, table, dialect, placed));
	return `coalesce(${conditions.length === 1 ? conditions[0] : conditions.map((one) => `(${one})`).join(` ${match === "all" ? "and" : "or"} `)}, false)`;
}
function allOf(conditions) {
	return conditions.join(conditions.length > 2 ? "\n    and " : " and ");
}
function unseenSql(table, k, dialect, isBlank) {
	const field = needReadable(table.fields[k]);
	const cell = dialect.id(field.name);
	if (sqlType(field) !== "text") return `${cell} is ${isBlank ? "" : "not "}null`;
	return isBlank ? `coalesce(${dialect.trim(cell)}, '') = ''` : `${dialect.trim(cell)} <> ''`;
}
function like(cell, before, text, behind, dialect) {
	if (!/[%_\\!]/.test(text)) return `${cell} like ${dialect.text(before + text + behind)}`;
	return `${cell} like ${dialect.text(before + text.replace(/[%_!]/g, "!$&") + behind)} escape '!'`;
}
// core/sql/steps/fill.ts
/** What cells take from others of their column. */
/**
* The query before with the number of each stretch in which a column stays the same, as "run": its own query, since
* windows do not stand in windows.
*/
function inRuns({ dialect, from }, within, more) {
	const [order, name] = [dialect.id("#"), dialect.id(from.name)];
	if (within === void 0 || within === "") return `(select *, 0 as run${more} from ${name}) as runs`;
	return [
		"(",
		`    select *, sum(turn) over (order by ${order}) as run${more}`,
		"    from (",
		`        select *, ${turnSql(from.table, within, dialect)} as turn`,
		`        from ${name}`,
		"    ) as turns",
		") as runs"
	].join("\n");
}
/** A query inside another, indented but for its first line. */
function nested(sql, steps) {
	return sql.replaceAll("\n", `\n${"    ".repeat(steps)}`);
}
var filling = (saying, given) => {
	const { dialect, from } = saying;
	const params = fill.params.parse(given);
	if (params.direction === "across") throw new UnsupportedInSql("it fills from the column before");
	const order = `${dialect.id("#")}${params.direction === "up" ? " desc" : ""}`;
	const chosen = chosenColumns(params.columns, from.table);
	for (const k of chosen) needReadable(from.table.fields[k]);
	refuseNames(from.table, [
		"run",
		"turn",
		...chosen.map((k) => `filled ${k}`)
	]);
	const counts = chosen.map((k) => `,\n        count(${dialect.id(from.table.fields[k].name)}) over (partition by run order by ${order}) as ${dialect.id(`filled ${k}`)}`).join("");
	const columns = asTheyAre(from.table, dialect);
	for (const k of chosen) columns[k] = {
		...columns[k],
		sql: `first_value(${columns[k].sql}) over (partition by run, ${dialect.id(`filled ${k}`)} order by ${order})`
	};
	return selectFrom(saying, columns, { source: `(\n    select *${counts}\n    from ${nested(inRuns(saying, params.within, ""), 1)}\n) as counted` });
};
var carrying = (saying, given) => {
	const { dialect, from, to } = saying;
	const params = carry.params.parse(given);
	if ((params.outer ?? []).length > 0) throw new UnsupportedInSql("it carries labels of several levels");
	if ((params.also ?? []).length > 0) throw new UnsupportedInSql("it carries several cells of a label row");
	const cell = dialect.id(needReadable(fieldOf(from.table, params.from)).name);
	const isLabel = `coalesce(${ruleSql(Rule.parse(params.rule), from.table, dialect)}, false)`;
	refuseNames(from.table, [
		"run",
		"turn",
		"label",
		"labels"
	]);
	const order = `${dialect.id("#")}${params.up === true ? " desc" : ""}`;
	const source = [
		"(",
		`    select *, first_value(case when label = 1 then ${cell} end) over (partition by run, labels order by ${order}) as carried`,
		"    from (",
		`        select *, sum(label) over (partition by run order by ${order}) as labels`,
		`        from ${nested(inRuns(saying, params.within, `,\n        case when ${isLabel} then 1 else 0 end as label`), 2)}`,
		"    ) as labelled",
		") as carried"
	].join("\n");
	const known = new Set(from.table.fields.map((field) => field.name));
	return selectFrom(saying, to.fields.map(({ name }) => ({
		sql: known.has(name) ? dialect.id(name) : "carried",
		name
	})), {
		source,
		behind: ["where label = 0"]
	});
};
// core/sql/placed-rows.ts
/** Collects conditions that need windows, and the query that they are asked of. */
var PlacedRows = class {
	saying;
	found = [];
	constructor(saying) {
		this.saying = saying;
	}
	/** The condition of a rule, over a column that source() brings. @throws UnsupportedInSql */
	condition(rule) {
		const { dialect, from } = this.saying;
		const k = this.found.length;
		const anchor = `coalesce(${ruleSql(rule.row, from.table, dialect)}, false)`;
		refuseNames(from.table, [
			`turn_${k}`,
			`run_${k}`,
			`edge_${k}`
		]);
		const turn = turnSql(from.table, rule.within, dialect);
		this.found.push({
			edge: rule.test === "above-first" ? "min" : "max",
			anchor,
			turn
		});
		return `${dialect.id("#")} ${rule.test === "above-first" ? "<" : ">"} edge_${k}`;
	}
	/** What is selected from: the query before, with the first or last marked row of each run beside its rows. */
	source() {
		const { dialect, from } = this.saying;
		const [order, name] = [dialect.id("#"), dialect.id(from.name)];
		if (this.found.length === 0) return name;
		const turns = this.found.map(({ turn }, k) => `${turn} as turn_${k}`);
		const runs = this.found.map((_, k) => `sum(turn_${k}) over (order by ${order}) as run_${k}`);
		const edges = this.found.map(({ edge, anchor }, k) => `${edge}(case when ${anchor} then ${order} end) over (partition by run_${k}) as edge_${k}`);
		const list = (items, indent) => items.map((item) => `,\n${indent}${item}`).join("");
		return [
			"(",
			`    select *${list(edges, "        ")}`,
			"    from (",
			`        select *${list(runs, "            ")}`,
			"        from (",
			`            select *${list(turns, "                ")}`,
			`            from ${name}`,
			"        ) as turns",
			"    ) as runs",
			") as placed"
		].join("\n");
	}
};
// core/sql/steps/rows.ts
var filtered = (keep) => (saying, given) => {
	const { rules, match } = FilterParams.parse(given);
	return withRows(saying, rules, match, keep);
};
var settingAside = (saying, given) => withRows(saying, setAside.params.parse(given).rules, "any", false);
/** The rows that follow rules, or those that do not. */
function withRows(saying, rules, match, keep) {
	const { dialect, from } = saying;
	const placed = new PlacedRows(saying);
	const condition = rulesSql(rules, match, from.table, dialect, (rule) => placed.condition(rule));
	return selectFrom(saying, asTheyAre(from.table, dialect), {
		source: placed.source(),
		behind: [`where ${keep ? condition : `not ${condition}`}`]
	});
}
var sorting = (saying, given) => {
	const { dialect, from } = saying;
	const { keys, order } = sort.params.parse(given);
	const by = keys.map(({ column, descending }) => {
		const field = needReadable(fieldOf(from.table, column));
		const isText = sqlType(field) === "text";
		if (isText && (order === "natural" || field.column.type === "received")) throw new UnsupportedInSql(`${column} is text, and in natural order 2 stands before 10`);
		const cell = dialect.id(field.name);
		return `${isText ? dialect.plain(cell) : cell}${descending ? " desc" : ""} nulls last`;
	});
	return selectFrom(saying, asTheyAre(from.table, dialect), { order: `row_number() over (order by ${[...by, dialect.id("#")].join(", ")})` });
};
var withoutDuplicates = (saying, given) => {
	const { dialect, from } = saying;
	const { columns, keep } = removeDuplicates.params.parse(given);
	const chosen = readableFields(columns, from.table);
	refuseNames(from.table, ["same"]);
	const by = chosen.length === 0 ? "" : `partition by ${idsOf(chosen, dialect)} `;
	const order = `${dialect.id("#")}${keep === "last" ? " desc" : ""}`;
	return selectFrom(saying, asTheyAre(from.table, dialect), {
		source: `(select *, row_number() over (${by}order by ${order}) as same from ${dialect.id(from.name)}) as numbered`,
		behind: ["where same = 1"]
	});
};
var showingDuplicates = (saying, given) => {
	const { dialect, from, to } = saying;
	const { columns } = showDuplicates.params.parse(given);
	const chosen = readableFields(columns, from.table);
	if (chosen.length === 0) throw new UnsupportedInSql("no column is chosen");
	refuseNames(from.table, ["times"]);
	return selectFrom(saying, [...asTheyAre(from.table, dialect), {
		sql: "times",
		name: to.fields.at(-1).name
	}], {
		source: `(select *, count(*) over (partition by ${idsOf(chosen, dialect)}) as times from ${dialect.id(from.name)}) as counted`,
		behind: ["where times > 1"]
	});
};
var numbering = (saying, given) => {
	const { dialect, from, to } = saying;
	const { from: first, within } = numberRows.params.parse(given);
	refuseNames(from.table, ["run", "turn"]);
	return selectFrom(saying, [{
		sql: `row_number() over (partition by run order by ${dialect.id("#")}) + ${first - 1}`,
		name: to.fields[0].name
	}, ...asTheyAre(from.table, dialect)], { source: inRuns(saying, within, "") });
};
// core/sql/steps/split.ts
/** Texts in pieces. */
var splittingToColumns = (saying, given) => {
	const { dialect, from, to } = saying;
	const { column, cut, into, keep } = splitToColumns.params.parse(given);
	const delimiter = onlyDelimiter(cut);
	if (dialect.pieces === void 0) throw new UnsupportedInSql("the standard cuts no text into pieces");
	const cell = dialect.id(fieldOf(from.table, column, "text").name);
	const { at, from: rest, split } = dialect.pieces;
	const pieces = split(cell, delimiter);
	const own = into.flatMap((name, k) => {
		if (name.trim() === "") return [];
		const piece = k === into.length - 1 ? rest(pieces, k + 1, delimiter) : at(pieces, k + 1);
		return [{
			sql: `nullif(${dialect.trim(piece)}, '')`,
			name
		}];
	});
	const named = new Set(from.table.fields.map((field) => field.name).filter((name) => keep || name !== column));
	let next = 0;
	const columns = to.fields.map(({ name }) => named.has(name) ? {
		sql: dialect.id(name),
		name
	} : {
		sql: own[next++].sql,
		name
	});
	if (next !== own.length) throw new UnsupportedInSql("a new column takes the name of another");
	return selectFrom(saying, columns);
};
function onlyDelimiter(cut) {
	const [delimiter, ...others] = cut.delimiters.filter((one) => one !== "");
	if (cut.by !== "delimiter" || cut.which !== "every" || !cut.trim || others.length > 0 || delimiter === void 0) throw new UnsupportedInSql("only texts cut at every place of one delimiter are said");
	return delimiter;
}
var splittingToRows = (saying, given) => {
	const { dialect, from } = saying;
	const { columns: names, cut, numbering } = splitToRows.params.parse(given);
	const delimiter = onlyDelimiter(cut);
	const [name, ...others] = names;
	if (others.length > 0 || numbering !== null && numbering !== "") throw new UnsupportedInSql("one column alone goes down so");
	if (dialect.pieces === void 0) throw new UnsupportedInSql("the standard cuts no text into pieces");
	const cell = dialect.id(fieldOf(from.table, name, "text").name);
	refuseNames(from.table, [
		"piece",
		"place",
		"pieces"
	]);
	return selectFrom(saying, asTheyAre(from.table, dialect).map((one) => one.name === name ? {
		...one,
		sql: `nullif(${dialect.trim("piece")}, '')`
	} : one), {
		order: `row_number() over (order by ${dialect.id("#")}, place)`,
		behind: [dialect.pieces.each(cell, delimiter)]
	});
};
// core/sql/steps-sql.ts
/** What SQL says of each kind of step; a kind that is not here is done by Rimefield. */
var TRANSLATORS = {
	rename: ofColumns,
	"rename-by-pattern": ofColumns,
	"tidy-names": ofColumns,
	"keep-columns": ofColumns,
	"drop-columns": ofColumns,
	"move-columns": ofColumns,
	"set-aside-columns": ofColumns,
	"keep-rows": filtered(true),
	"drop-rows": filtered(false),
	"set-aside": settingAside,
	"set-types": typing,
	expression: computing,
	recode: recoding,
	replace: replacing,
	fill: filling,
	carry: carrying,
	unpivot: unpivoting,
	pivot: pivoting,
	sort: sorting,
	"remove-duplicates": withoutDuplicates,
	"show-duplicates": showingDuplicates,
	"number-rows": numbering,
	group: grouping,
	"split-to-columns": splittingToColumns,
	"split-to-rows": splittingToRows,
	join: joining,
	append: appending,
	variance: comparing
};
// core/sql/method-sql.ts
/** A method as one SQL script: a query for each step, over the table as it stands when all that SQL cannot say is done. */
/** The script cannot be made. */
var SqlRefused = class extends Error {
	name = "SqlRefused";
};
/**
* The method of a table as SQL, for the columns of this run.
* @param run whole; other tables that it reads are taken from it
* @throws SqlRefused
*/
function methodSql(job, tableId, run, choices) {
	if (run.stop !== void 0 || run.steps.length === 0) throw new SqlRefused("The method does not come to its end, so its columns are not known. Make it whole first.");
	const script = new Script(job, choices);
	const end = script.queriesOf(tableId, run, run.steps.length - 1);
	return script.whole(end);
}
var Script = class {
	job;
	choices;
	dialect;
	queries = [];
	raw = [];
	done = /* @__PURE__ */ new Map();
	names = /* @__PURE__ */ new Set();
	said = 0;
	/** How many tables are being translated, each for the one before. */
	depth = 0;
	constructor(job, choices) {
		this.job = job;
		this.choices = choices;
		this.dialect = DIALECT[choices.dialect];
	}
	/** Adds the queries of a table up to one of its steps. */
	queriesOf(tableId, run, last) {
		const key = `${tableId}/${last}`;
		const known = this.done.get(key);
		if (known !== void 0) return known;
		const strict = /* @__PURE__ */ new Set();
		this.depth++;
		const { upto, why, isStrict } = this.firstSaid(run, last, strict);
		let relation = this.begin(tableId, run, upto, why, isStrict);
		for (let k = upto + 1; k <= last; k++) {
			const step = run.steps[k];
			if (step.step.muted) continue;
			const sql = this.say(run, k, relation, strict.has(k));
			relation = {
				name: this.nameOf(tableId, k),
				table: step.table
			};
			this.queries.push({
				name: relation.name,
				comment: this.commentOf(run, k),
				sql
			});
			this.said++;
		}
		this.depth--;
		this.done.set(key, relation);
		return relation;
	}
	/** The last step that has to be done before: all behind it are said. */
	firstSaid(run, last, strict) {
		let isStrict = last < run.steps.length - 1 || this.depth > 1;
		for (let k = last; k > 0; k--) {
			if (run.steps[k].step.muted) continue;
			if (isStrict) strict.add(k);
			try {
				const { hasAsked } = watched(() => this.say(run, k, {
					name: "before",
					table: run.steps[k - 1].table
				}, isStrict, true));
				isStrict ||= hasAsked;
			} catch (error) {
				if (!(error instanceof UnsupportedInSql)) throw error;
				return {
					upto: k,
					why: error.message,
					isStrict
				};
			}
		}
		return {
			upto: 0,
			isStrict
		};
	}
	say(run, k, from, isStrict, isTrial = false) {
		const step = run.steps[k];
		const sayer = TRANSLATORS[step.step.kind];
		if (sayer === void 0) throw new UnsupportedInSql("it looks at how the report is laid out, or SQL has no word for it");
		const other = (tableId) => {
			const found = step.others.find((one) => one.tableId === tableId);
			if (found === void 0) throw new UnsupportedInSql("the other table is not known");
			const table = found.run.steps[found.step].table;
			return isTrial ? {
				name: "other",
				table
			} : this.queriesOf(tableId, found.run, found.step);
		};
		return sayer({
			dialect: this.dialect,
			from,
			to: step.table,
			run: step,
			isStrict,
			other
		}, step.step.params);
	}
	/** The query that a table begins with: another table, or what Rimefield has made of the report. */
	begin(tableId, run, upto, why, isStrict) {
		const first = run.steps[upto];
		const { table } = first;
		if (upto === 0 && first.step.kind === "from-table") {
			const [source] = first.others;
			if (source !== void 0) return {
				...this.queriesOf(source.tableId, source.run, source.step),
				table
			};
		}
		if (table.fields.some((field) => field.name === "#")) throw new SqlRefused(`A column of ${this.tableName(tableId)} is called #, which the order of the rows is kept in. Rename it.`);
		const twins = twinNames(table.fields, this.dialect);
		if (twins !== void 0) throw new SqlRefused(`${twins} in ${this.tableName(tableId)} differ by case alone, which ${this.dialect.title} does not tell apart. Rename one of them.`);
		const long = longName(table.fields, this.dialect);
		if (long !== void 0) throw new SqlRefused(`The name ${long} in ${this.tableName(tableId)} is longer than the ${this.dialect.maxNameBytes} bytes that ${this.dialect.title} keeps. Rename it.`);
		const raw = {
			table: tableId,
			step: upto,
			columns: table.fields.map((field) => ({
				name: field.name,
				type: sqlType(field)
			})),
			name: this.nameOf(tableId, upto, "raw"),
			isStrict,
			...why === void 0 ? {} : { why }
		};
		this.raw.push(raw);
		const { id } = this.dialect;
		const columns = ["#", ...table.fields.map((field) => field.name)].map((name) => `    ${id(name)}`).join(",\n");
		const path = this.fileOf(raw);
		const source = path === void 0 ? id(raw.name) : this.dialect.file(path);
		const name = this.nameOf(tableId, upto);
		this.queries.push({
			name,
			comment: `${this.tableName(tableId)} after step ${upto + 1}, as Rimefield gives it`,
			sql: `select\n${columns}\nfrom ${source}`
		});
		return {
			name,
			table
		};
	}
	tableName(tableId) {
		return jobNames(this.job).table(tableId);
	}
	/** A name for a query: the table's, and the number of the step. */
	nameOf(tableId, step, what = String(step + 1)) {
		const plain = this.tableName(tableId).normalize("NFKD").toLowerCase().replace(/[^a-z0-9]+/g, "_").replace(/^_|_$/g, "").slice(0, 48) || "table";
		const wanted = `${/^[0-9]/.test(plain) ? "t_" : ""}${plain}_${what}`;
		return freeName(wanted, this.names, (one, n) => `${one}_${n}`);
	}
	commentOf(run, k) {
		const { step } = run.steps[k];
		return `${k + 1}. ${sentenceText(stepSentence(step, jobNames(this.job)))}`;
	}
	whole({ name: last, table }) {
		const { id, title } = this.dialect;
		const unreadable = unreadableCells(table);
		const head = [
			`The method of ${this.job.name} as SQL for ${title}, for the columns of the report that it was made on.`,
			...this.raw.flatMap((raw) => this.rawComment(raw)),
			"Blank cells are null, and so are cells that could not be read" + (unreadable === 0 ? "." : ` (${counted(unreadable, "cell")} in that report).`),
			"A text that SQL would read otherwise than Rimefield stops the script with what stands there."
		];
		const queries = this.queries.map(({ name, comment, sql }) => `-- ${oneLine(comment)}\n${id(name)} as (\n${indented(sql)}\n)`);
		const columns = table.fields.map((field) => `    ${id(field.name)}`).join(",\n");
		return {
			text: [
				head.map((line) => `-- ${line.replace(/[\r\n]+/g, " ")}`).join("\n"),
				`with\n${queries.join(",\n\n")}`,
				`select\n${columns}\nfrom ${id(last)}\norder by ${id("#")};\n`
			].join("\n\n"),
			raw: this.raw,
			said: this.said
		};
	}
	rawComment(raw) {
		const name = this.tableName(raw.table);
		const file = this.fileOf(raw);
		const place = file === void 0 ? `the table ${raw.name}` : `the file ${file}`;
		const steps = raw.step === 0 ? "the report as it is read" : `the report after steps 1 to ${raw.step + 1}`;
		const out = file ?? `${raw.name}.csv`;
		return [
			`${name} begins as ${place}: ${steps}, with the order of its rows in the column #. It is made by`,
			`    rimefield raw JOB --source NAME=FILE --table "${name}" --upto ${raw.step + 1}${raw.isStrict ? " --readable" : ""} --out ${out}`,
			...raw.why === void 0 ? [] : [`Step ${raw.step + 1} is done there because ${raw.why}.`],
			...file === void 0 ? this.loadComment(raw, out) : []
		];
	}
	/** How a database takes a raw table that it cannot read as a file. */
	loadComment(raw, out) {
		const { id, types, name } = this.dialect;
		const columns = raw.columns.map((column) => `${id(column.name)} ${types[column.type]}`).join(", ");
		return [
			"and goes into a table of these columns:",
			`    create table ${id(raw.name)} (${id("#")} ${types.whole}, ${columns});`,
			...name === "postgres" ? [`    \\copy ${id(raw.name)} from '${out}' with (format csv, header)`] : []
		];
	}
	fileOf(raw) {
		return this.dialect.file === void 0 ? void 0 : this.choices.file?.(raw);
	}
};
function oneLine(text) {
	return text.replace(/\s+/g, " ");
}
function indented(sql) {
	return sql.replace(/^/gm, "    ");
}
export { methodSql as n, DIALECTS as r, SqlRefused as t };
