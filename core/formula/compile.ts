/**
 * An expression compiled to closures over columns: one loop over the rows calls them, and nothing is ever evaluated as
 * code. A row that cannot be computed (a division by zero, an unreadable cell) is unreadable with its reason.
 */
import { TextBuilder, UnreadableBuilder } from '../table/builder.ts';
import { type Column, type CountedType, hasValue, Tag, unreadableAt } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import { MS } from '../values/civil.ts';
import { Like } from '../values/like.ts';
import { mostAlike } from '../values/likeness.ts';
import { Pattern } from '../values/pattern.ts';
import {
  ARITHMETIC,
  and,
  asText,
  boolean,
  CASTS,
  type Cell,
  COUNTED_OF,
  compare,
  not,
  onlyType,
  or,
  type Part,
  roundHalfAway,
  SPECIAL,
  textReader,
} from './cells.ts';
import { FormulaError } from './formula-error.ts';
import { DATED, type FormulaFunction, type FormulaType, FUNCTION_OF, type Value } from './functions.ts';
import { type Node, parse } from './parse.ts';

export interface CompiledFormula {
  type: FormulaType;
  /** The result for every row, with unreadable cells where a row could not be computed. */
  column(): Column;
  /** For a condition: 1 where it is true; false and null are 0. Rows that could not be computed are in failed. */
  mask(): { mask: Uint8Array; failed: Map<number, string> };
  /** Indexes of the columns that it reads, ascending. */
  reads: readonly number[];
}

const TYPE_NAMES: Record<string, FormulaType> = {
  integer: 'number',
  int: 'number',
  bigint: 'number',
  smallint: 'number',
  number: 'number',
  numeric: 'number',
  decimal: 'number',
  double: 'number',
  real: 'number',
  float: 'number',
  varchar: 'text',
  char: 'text',
  text: 'text',
  boolean: 'boolean',
  date: 'date',
  time: 'time',
  timestamp: 'timestamp',
};
const WHOLE_NAMES = new Set(['integer', 'int', 'bigint', 'smallint']);

const FORMULA_OF: Record<CountedType, FormulaType> = {
  number: 'number',
  whole: 'number',
  yesno: 'boolean',
  date: 'date',
  time: 'time',
  datetime: 'timestamp',
};

/** @throws FormulaError with the place when the text cannot be understood or its types do not fit */
export function compileFormula(text: string, table: Table): CompiledFormula {
  const compiler = new Compiler(table);
  const part = compiler.part(parse(text));
  const type = part.type === 'null' ? 'text' : part.type;
  return {
    type,
    reads: [...compiler.reads].sort((a, b) => a - b),
    column: () => compiler.run(part.cell, type),
    mask: () => {
      if (part.type !== 'boolean' && part.type !== 'null') {
        throw new FormulaError(`Expected a condition, got a ${part.type}`, 0, text.length);
      }
      return compiler.test(part.cell);
    },
  };
}

class Compiler {
  readonly reads = new Set<number>();
  /** Why the row in hand cannot be computed. */
  private reason: string | undefined;
  private readonly fail = (reason: string): null => {
    this.reason ??= reason;
    return null;
  };

  constructor(private readonly table: Table) {}

  run(cell: Cell, type: FormulaType): Column {
    const { rows } = this.table;
    const unreadable = new UnreadableBuilder(rows);
    if (type !== 'text') {
      const values = new Float64Array(rows);
      for (let r = 0; r < rows; r++) {
        this.reason = undefined;
        const value = cell(r);
        if (this.reason !== undefined) unreadable.set(r, this.reason, this.reason);
        values[r] = value === null || this.reason !== undefined ? Number.NaN : (value as number);
      }
      return unreadable.attach(COUNTED_OF[type], values);
    }
    const builder = new TextBuilder(Math.max(1, rows));
    const reasons = new Map<number, string>();
    for (let r = 0; r < rows; r++) {
      this.reason = undefined;
      const value = cell(r) as string | null;
      if (this.reason !== undefined) reasons.set(r, this.reason);
      builder.push(this.reason === undefined ? value : null);
    }
    const column = builder.finish();
    if (reasons.size === 0) return column;
    const cells = [...new Set(reasons.values())].map((reason) => ({ text: reason, reason }));
    const indexOf = new Map(cells.map(({ reason }, k) => [reason, k]));
    const tags = new Uint8Array(rows);
    const values = new Float64Array(rows);
    for (let r = 0; r < rows; r++) {
      const reason = reasons.get(r);
      tags[r] = reason !== undefined ? Tag.unreadable : column.codes[r]! < 0 ? Tag.blank : Tag.text;
      values[r] = reason !== undefined ? indexOf.get(reason)! : Math.max(0, column.codes[r]!);
    }
    return { type: 'received', tags, values, dictionary: column.dictionary, cells };
  }

  test(cell: Cell): { mask: Uint8Array; failed: Map<number, string> } {
    const mask = new Uint8Array(this.table.rows);
    const failed = new Map<number, string>();
    for (let r = 0; r < mask.length; r++) {
      this.reason = undefined;
      const value = cell(r);
      if (this.reason !== undefined) failed.set(r, this.reason);
      else if (value === 1) mask[r] = 1;
    }
    return { mask, failed };
  }

  part(node: Node): Part {
    switch (node.node) {
      case 'literal':
        return this.literal(node);
      case 'column':
        return this.columnPart(node);
      case 'unary':
        return this.unary(node);
      case 'binary':
        return this.binary(node);
      case 'like':
        return this.like(node);
      case 'in':
        return this.isIn(node);
      case 'between': {
        const [of, low, high] = [this.part(node.of), this.part(node.low), this.part(node.high)];
        this.sameType([of, low, high], [node.of, node.low, node.high]);
        const inside = and(compare('>=', of.cell, low.cell), compare('<=', of.cell, high.cell));
        return boolean(node.not ? not(inside) : inside);
      }
      case 'is': {
        const of = this.part(node.of);
        if (node.what !== 'null' && of.type !== 'boolean' && of.type !== 'null')
          throw this.typeError(node.of, of, 'boolean');
        const wanted = node.what === 'null' || node.what === 'unknown' ? null : node.what === 'true' ? 1 : 0;
        const yes = node.not ? 0 : 1;
        return boolean((r) => (of.cell(r) === wanted ? yes : 1 - yes));
      }
      case 'distinct': {
        const [left, right] = [this.part(node.left), this.part(node.right)];
        this.sameType([left, right], [node.left, node.right]);
        const yes = node.not ? 0 : 1;
        return boolean((r) => (left.cell(r) === right.cell(r) ? 1 - yes : yes));
      }
      case 'case':
        return this.cases(node);
      case 'cast':
        return this.cast(node);
      case 'call':
        return this.call(node);
    }
  }

  private typeError(node: Node, part: Part, wanted: string): FormulaError {
    const cast = wanted === 'number' && part.type === 'text' ? '. Set its type, or write cast(… as number)' : '';
    return new FormulaError(`Expected ${wanted}, and this is ${part.type}${cast}`, node.from, node.to);
  }

  /** The one type that all parts share; null fits any. @throws FormulaError at the first that differs */
  private sameType(parts: readonly Part[], nodes: readonly Node[]): FormulaType | 'null' {
    const first = parts.find((part) => part.type !== 'null');
    if (first === undefined) return 'null';
    parts.forEach((part, k) => {
      if (part.type !== 'null' && part.type !== first.type) throw this.typeError(nodes[k]!, part, first.type);
    });
    return first.type;
  }

  private literal(node: Extract<Node, { node: 'literal' }>): Part {
    const constant = (type: Part['type'], value: Value | null): Part => ({ type, cell: () => value, constant: true });
    switch (node.type) {
      case 'null':
        return constant('null', null);
      case 'number':
        return constant('number', Number(node.text));
      case 'text':
        return constant('text', node.text);
      case 'boolean':
        return constant('boolean', node.text === 'true' ? 1 : 0);
      default: {
        const value = textReader(node.type)(node.text);
        if (typeof value === 'string')
          throw new FormulaError(`'${node.text}' is no ${node.type}: ${value}`, node.from, node.to);
        return constant(node.type, value);
      }
    }
  }

  private columnPart(node: Extract<Node, { node: 'column' }>): Part {
    const { fields } = this.table;
    let index = fields.findIndex((field) => field.name === node.name);
    if (index < 0 && !node.quoted)
      index = fields.findIndex((field) => field.name.toLowerCase() === node.name.toLowerCase());
    if (index < 0) {
      const names = fields.map((field) => field.name);
      const alike = mostAlike(node.name, names);
      throw new FormulaError(
        `There is no column ${node.name}${alike === undefined ? `; the columns are ${names.join(', ')}` : `. Did you mean ${alike}?`}`,
        node.from,
        node.to,
      );
    }
    this.reads.add(index);
    const { column, name } = fields[index]!;
    return { ...this.reader(column, name), constant: false };
  }

  private reader(column: Column, name: string): { type: FormulaType; cell: Cell } {
    const { fail } = this;
    if (column.type === 'text') {
      const { codes, dictionary } = column;
      return { type: 'text', cell: (r) => (codes[r]! < 0 ? null : dictionary[codes[r]!]!) };
    }
    const trouble = (r: number) => {
      const cell = unreadableAt(column, r);
      return cell === undefined ? null : fail(`${name} is unreadable here: '${cell.text}'`);
    };
    const { values } = column;
    if (column.type !== 'received') {
      return { type: FORMULA_OF[column.type], cell: (r) => (Number.isNaN(values[r]!) ? trouble(r) : values[r]!) };
    }
    const only = onlyType(column);
    if (only !== undefined) {
      return { type: FORMULA_OF[only], cell: (r) => (hasValue(column, r) ? values[r]! : trouble(r)) };
    }
    const view = textView(column);
    return { type: 'text', cell: (r) => (hasValue(column, r) ? view.texts[view.codes[r]!]! : trouble(r)) };
  }

  private unary(node: Extract<Node, { node: 'unary' }>): Part {
    const of = this.part(node.of);
    const wanted = node.operator === 'not' ? 'boolean' : 'number';
    if (of.type !== wanted && of.type !== 'null') throw this.typeError(node.of, of, wanted);
    if (node.operator === 'not') return boolean(not(of.cell));
    if (node.operator === '+') return { ...of, type: 'number' };
    return {
      type: 'number',
      constant: of.constant,
      cell: (r) => {
        const value = of.cell(r);
        return value === null ? null : -(value as number) || 0;
      },
    };
  }

  private binary(node: Extract<Node, { node: 'binary' }>): Part {
    const [left, right] = [this.part(node.left), this.part(node.right)];
    const { operator } = node;
    if (operator === 'and' || operator === 'or') {
      for (const [part, of] of [
        [left, node.left],
        [right, node.right],
      ] as const) {
        if (part.type !== 'boolean' && part.type !== 'null') throw this.typeError(of, part, 'boolean');
      }
      return boolean(operator === 'and' ? and(left.cell, right.cell) : or(left.cell, right.cell));
    }
    if (operator === '||') {
      const [a, b] = [asText(left), asText(right)];
      return {
        type: 'text',
        constant: false,
        cell: (r) => {
          const x = a(r);
          const y = b(r);
          return x === null || y === null ? null : `${x}${y}`;
        },
      };
    }
    if (['+', '-', '*', '/', '%'].includes(operator)) return this.arithmetic(node, left, right);
    this.sameType([left, right], [node.left, node.right]);
    return boolean(compare(operator, left.cell, right.cell));
  }

  private arithmetic(node: Extract<Node, { node: 'binary' }>, left: Part, right: Part): Part {
    const { operator } = node;
    const dated = (part: Part) => part.type === 'date' || part.type === 'timestamp' || part.type === 'time';
    let type: FormulaType = 'number';
    let scale = 1;
    if (dated(left) || dated(right)) {
      // A date and a number of days, or the days between two dates.
      if (
        left.type === 'date' &&
        (right.type === 'number' || right.type === 'null') &&
        (operator === '+' || operator === '-')
      )
        type = 'date';
      else if (right.type === 'date' && left.type === 'number' && operator === '+') type = 'date';
      else if (left.type === right.type && operator === '-')
        scale = left.type === 'date' ? 1 : left.type === 'time' ? MS.minute : MS.day;
      else {
        throw new FormulaError(
          `${left.type} ${operator} ${right.type} has no meaning; dates take + and - with days, and - with each other`,
          node.from,
          node.to,
        );
      }
    } else {
      if (left.type !== 'number' && left.type !== 'null') throw this.typeError(node.left, left, 'number');
      if (right.type !== 'number' && right.type !== 'null') throw this.typeError(node.right, right, 'number');
    }
    const { fail } = this;
    const compute = ARITHMETIC[operator]!();
    return {
      type,
      constant: left.constant && right.constant,
      cell: (r) => {
        const x = left.cell(r);
        const y = right.cell(r);
        if (x === null || y === null) return null;
        if (y === 0 && (operator === '/' || operator === '%')) return fail('division by zero');
        const value = compute(x as number, y as number) / scale;
        return Number.isFinite(value) ? value || 0 : fail('the result is no finite number');
      },
    };
  }

  private like(node: Extract<Node, { node: 'like' }>): Part {
    const [of, pattern] = [this.part(node.of), this.part(node.pattern)];
    if (of.type !== 'text' && of.type !== 'null') throw this.typeError(node.of, of, 'text');
    if (pattern.type !== 'text' && pattern.type !== 'null') throw this.typeError(node.pattern, pattern, 'text');
    const escaped = node.escaped === undefined ? undefined : (this.part(node.escaped).cell(0) as string);
    const compiled = new Map<string, { test(text: string): boolean }>();
    const matcher = (text: string) => {
      let found = compiled.get(text);
      if (found === undefined) {
        try {
          found = node.regex ? new Pattern(text) : new Like(text, escaped);
        } catch (error) {
          throw new FormulaError((error as Error).message, node.pattern.from, node.pattern.to);
        }
        compiled.set(text, found);
      }
      return found;
    };
    if (pattern.constant && pattern.type === 'text') matcher(pattern.cell(0) as string);
    const matches: Cell = (r) => {
      const text = of.cell(r);
      const by = pattern.cell(r);
      return text === null || by === null ? null : matcher(by as string).test(text as string) ? 1 : 0;
    };
    return boolean(node.not ? not(matches) : matches);
  }

  private isIn(node: Extract<Node, { node: 'in' }>): Part {
    const of = this.part(node.of);
    const items = node.items.map((item) => this.part(item));
    this.sameType([of, ...items], [node.of, ...node.items]);
    const found: Cell = (r) => {
      const value = of.cell(r);
      if (value === null) return null;
      let unknown = false;
      for (const item of items) {
        const other = item.cell(r);
        if (other === value) return 1;
        if (other === null) unknown = true;
      }
      return unknown ? null : 0;
    };
    return boolean(node.not ? not(found) : found);
  }

  private cases(node: Extract<Node, { node: 'case' }>): Part {
    const of = node.of === undefined ? undefined : this.part(node.of);
    const whens = node.whens.map((one) => ({ when: this.part(one.when), give: this.part(one.give) }));
    const otherwise = node.otherwise === undefined ? undefined : this.part(node.otherwise);
    if (of === undefined) {
      whens.forEach(({ when }, k) => {
        if (when.type !== 'boolean' && when.type !== 'null') throw this.typeError(node.whens[k]!.when, when, 'boolean');
      });
    } else {
      this.sameType([of, ...whens.map((one) => one.when)], [node.of!, ...node.whens.map((one) => one.when)]);
    }
    const results = [...whens.map((one) => one.give), ...(otherwise === undefined ? [] : [otherwise])];
    const nodes = [...node.whens.map((one) => one.give), ...(node.otherwise === undefined ? [] : [node.otherwise])];
    return {
      type: this.sameType(results, nodes),
      constant: false,
      cell: (r) => {
        const value = of === undefined ? 1 : of.cell(r);
        if (value !== null) for (const { when, give } of whens) if (when.cell(r) === value) return give.cell(r);
        return otherwise === undefined ? null : otherwise.cell(r);
      },
    };
  }

  private cast(node: Extract<Node, { node: 'cast' }>): Part {
    const of = this.part(node.of);
    const type = TYPE_NAMES[node.type];
    if (type === undefined) {
      const known = [...new Set(Object.values(TYPE_NAMES))].join(', ');
      throw new FormulaError(`There is no type ${node.type}; the types are ${known}`, node.from, node.to);
    }
    if (type === 'text') return { type, cell: asText(of), constant: of.constant };
    const whole = WHOLE_NAMES.has(node.type);
    const { fail } = this;
    const read = textReader(type);
    const convert = (value: Value): number | null => {
      if (of.type === 'text') {
        const found = read(value as string);
        return typeof found === 'string' ? fail(`'${value}' is no ${node.type}: ${found}`) : found;
      }
      const counted = value as number;
      if (of.type === type) return counted;
      if (of.type === 'timestamp' && type === 'date') return Math.floor(counted / MS.day);
      if (of.type === 'timestamp' && type === 'time') return counted - Math.floor(counted / MS.day) * MS.day;
      if (of.type === 'date' && type === 'timestamp') return counted * MS.day;
      if (of.type === 'boolean' && type === 'number') return counted;
      return type === 'boolean' ? (counted === 0 ? 0 : 1) : counted;
    };
    const possible = of.type === 'text' || of.type === 'null' || of.type === type || CASTS.has(`${of.type} ${type}`);
    if (!possible) throw new FormulaError(`A ${of.type} cannot become a ${node.type}`, node.from, node.to);
    return {
      type,
      constant: of.constant,
      cell: (r) => {
        const value = of.cell(r);
        const found = value === null ? null : convert(value);
        return found === null || !whole ? found : roundHalfAway(found);
      },
    };
  }

  private call(node: Extract<Node, { node: 'call' }>): Part {
    const known = FUNCTION_OF.get(node.name);
    if (known === undefined) {
      const alike = mostAlike(node.name, [...FUNCTION_OF.keys()]);
      throw new FormulaError(
        `There is no function ${node.name}${alike === undefined ? '' : `. Did you mean ${alike}?`}`,
        node.from,
        node.from + node.name.length,
      );
    }
    const args = node.args.map((arg) => this.part(arg));
    this.checkArguments(known, args, node);
    const special = SPECIAL[known.name];
    if (special !== undefined) {
      const type = known.result === 'same' ? this.sameType(args, node.args) : known.result;
      return {
        type,
        constant: false,
        cell: special(
          args.map((arg) => arg.cell),
          args,
        ),
      };
    }
    const { fail } = this;
    const dated = DATED[known.name];
    if (dated !== undefined) {
      const type = args[1]!.type === 'null' ? 'date' : (args[1]!.type as FormulaType);
      if (args[0]!.constant) {
        // A field that is not known is an error of the text, not of each row.
        dated(String(args[0]!.cell(0)), 0, type, (reason) => {
          throw new FormulaError(reason, node.args[0]!.from, node.args[0]!.to);
        });
      }
      return {
        type: known.result as FormulaType,
        constant: false,
        cell: (r) => {
          const value = args[1]!.cell(r);
          const field = args[0]!.cell(r);
          return value === null || field === null
            ? null
            : dated((field as string).toLowerCase(), value as number, type, fail);
        },
      };
    }
    const values: Value[] = new Array(args.length);
    return {
      type: known.result as FormulaType,
      constant: args.every((arg) => arg.constant),
      cell: (r) => {
        const own = args.length === 1 ? values : new Array<Value>(args.length);
        for (let k = 0; k < args.length; k++) {
          const value = args[k]!.cell(r);
          if (value === null) return null;
          own[k] = value;
        }
        return known.apply(own, fail);
      },
    };
  }

  private checkArguments(known: FormulaFunction, args: readonly Part[], node: Extract<Node, { node: 'call' }>): void {
    const repeated = known.optional === Number.POSITIVE_INFINITY;
    const least = repeated ? known.args.length : known.args.length - (known.optional ?? 0);
    if (args.length < least || (!repeated && args.length > known.args.length)) {
      const many = repeated
        ? `at least ${least}`
        : least === known.args.length
          ? String(least)
          : `${least} to ${known.args.length}`;
      throw new FormulaError(
        `${known.name} takes ${many} ${many === '1' ? 'value' : 'values'}, and here are ${args.length}`,
        node.from,
        node.to,
      );
    }
    args.forEach((arg, k) => {
      const wanted = known.args[Math.min(k, known.args.length - 1)]!;
      if (arg.type === 'null' || wanted === 'any' || wanted === 'same') return;
      const fits = wanted === 'dated' ? ['date', 'time', 'timestamp'].includes(arg.type) : arg.type === wanted;
      if (!fits) throw this.typeError(node.args[k]!, arg, wanted === 'dated' ? 'a date or time' : wanted);
    });
    if (known.args.includes('same')) this.sameType(args, node.args);
  }
}
