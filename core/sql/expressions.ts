/** Expressions of a method as a dialect says them: they are SQL, but not each dialect computes them alike. */
import { compileFormula } from '../formula/compile.ts';
import { FormulaError } from '../formula/formula-error.ts';
import { type Node, parse } from '../formula/parse.ts';
import type { Table } from '../table/table.ts';
import { casedSql } from './case-folding.ts';
import type { Dialect, SqlType } from './dialect.ts';
import { fieldOf, needReadable, sqlType, UnsupportedInSql } from './translate.ts';

interface Said {
  sql: string;
  type: SqlType | 'null';
}

/** Functions that give the same in every dialect, and what they give. */
const SAME: Record<string, SqlType> = { length: 'whole', char_length: 'whole' };
const PARTS = new Set(['year', 'quarter', 'month', 'week', 'isodow', 'day'] as const);
type DatePart = 'year' | 'quarter' | 'month' | 'week' | 'isodow' | 'day';

/**
 * An expression over the columns of a row. Numbers are added as decimals, as they are here.
 * @throws UnsupportedInSql where a dialect could give another result
 */
export function expressionSql(text: string, table: Table, dialect: Dialect): Said {
  try {
    compileFormula(text, table);
    return said(parse(text));
  } catch (error) {
    if (error instanceof FormulaError) throw new UnsupportedInSql('its expression is not whole');
    throw error;
  }

  function said(node: Node): Said {
    switch (node.node) {
      case 'literal':
        return literalSql(node, dialect);
      case 'column': {
        // Names without quotes are found whatever their case.
        const name =
          table.fields.find((field) => field.name === node.name)?.name ??
          table.fields.find((field) => !node.quoted && field.name.toLowerCase() === node.name.toLowerCase())?.name;
        const field = needReadable(fieldOf(table, name ?? node.name));
        if (field.column.type === 'received') throw new UnsupportedInSql(`${field.name} holds several kinds of cells`);
        return { sql: dialect.id(field.name), type: sqlType(field) };
      }
      case 'unary':
        if (node.operator === 'not') return { sql: `not ${inside(node.of)}`, type: 'yesno' };
        return { sql: `${node.operator}${numberOf(said(node.of))}`, type: 'number' };
      case 'binary':
        return binary(node.operator, said(node.left), said(node.right), node);
      case 'is':
        if (node.what !== 'null') throw new UnsupportedInSql(`is ${node.what} is not said`);
        return { sql: `${inside(node.of)} is ${node.not ? 'not ' : ''}null`, type: 'yesno' };
      case 'in':
        return {
          sql: `${inside(node.of)} ${node.not ? 'not ' : ''}in (${node.items.map((item) => said(item).sql).join(', ')})`,
          type: 'yesno',
        };
      case 'between':
        return {
          sql: `${inside(node.of)} ${node.not ? 'not ' : ''}between ${inside(node.low)} and ${inside(node.high)}`,
          type: 'yesno',
        };
      case 'case':
        return caseSql(node);
      case 'call':
        return callSql(node);
      default:
        throw new UnsupportedInSql(`${node.node} in its expression is not said`);
    }
  }

  function inside(node: Node): string {
    const { sql } = said(node);
    return node.node === 'binary' ||
      node.node === 'unary' ||
      node.node === 'is' ||
      node.node === 'between' ||
      node.node === 'in'
      ? `(${sql})`
      : sql;
  }

  function binary(operator: string, left: Said, right: Said, node: Extract<Node, { node: 'binary' }>): Said {
    if (operator === 'and' || operator === 'or')
      return { sql: `${inside(node.left)} ${operator} ${inside(node.right)}`, type: 'yesno' };
    if (['=', '<>', '<', '<=', '>', '>='].includes(operator)) {
      const texts = left.type === 'text' && right.type === 'text' && operator !== '=' && operator !== '<>';
      const [a, b] = [inside(node.left), inside(node.right)];
      return { sql: `${texts ? dialect.plain(a) : a} ${operator} ${b}`, type: 'yesno' };
    }
    if (operator === '||') {
      for (const one of [left, right])
        if (one.type !== 'text' && one.type !== 'whole' && one.type !== 'null')
          throw new UnsupportedInSql(`how ${one.type} reads as text is not said`);
      const part = (one: Said, of: Node) =>
        one.type === 'whole' ? `cast(${inside(of)} as ${dialect.types.text})` : inside(of);
      return { sql: `${part(left, node.left)} || ${part(right, node.right)}`, type: 'text' };
    }
    const isNumber = (type: Said['type']) => type === 'number' || type === 'whole';
    if ((operator !== '+' && operator !== '-') || !isNumber(left.type) || !isNumber(right.type))
      throw new UnsupportedInSql(`${operator} is computed to other last digits elsewhere`);
    if (left.type === 'whole' && right.type === 'whole')
      return { sql: `${inside(node.left)} ${operator} ${inside(node.right)}`, type: 'whole' };
    return {
      sql: dialect.nearest(`(${decimal(left)} ${operator} ${decimal(right)})`),
      type: 'number',
    };
  }

  /** A sign before a number is exact. */
  function numberOf({ sql, type }: Said): string {
    if (type === 'number' || type === 'whole') return sql.startsWith('-') ? `(${sql})` : sql;
    throw new UnsupportedInSql(`${type} is no number`);
  }

  function decimal({ sql, type }: Said): string {
    if (type === 'number') return dialect.decimal(sql);
    if (type === 'whole') return sql;
    throw new UnsupportedInSql(`${type} is no number`);
  }

  function caseSql(node: Extract<Node, { node: 'case' }>): Said {
    const gives = [...node.whens.map((one) => said(one.give)), ...(node.otherwise ? [said(node.otherwise)] : [])];
    const types = new Set(gives.map((one) => one.type).filter((type) => type !== 'null'));
    if (types.size > 1) throw new UnsupportedInSql('its branches are of several types');
    const of = node.of === undefined ? '' : ` ${said(node.of).sql}`;
    const whens = node.whens.map((one) => ` when ${said(one.when).sql} then ${said(one.give).sql}`).join('');
    const otherwise = node.otherwise === undefined ? '' : ` else ${said(node.otherwise).sql}`;
    return { sql: `case${of}${whens}${otherwise} end`, type: [...types][0] ?? 'null' };
  }

  function callSql({ name, args }: Extract<Node, { node: 'call' }>): Said {
    const own = args.map(said);
    const same = SAME[name];
    if ((name === 'upper' || name === 'lower') && own.length === 1 && own[0]!.type === 'text')
      return { sql: casedSql(own[0]!.sql, name, dialect), type: 'text' };
    if (same !== undefined && own.length === 1 && own[0]!.type === 'text')
      return { sql: `${name === 'length' ? 'char_length' : name}(${own[0]!.sql})`, type: same };
    if (name === 'coalesce' || name === 'nullif') {
      const types = new Set(own.map((one) => one.type).filter((type) => type !== 'null'));
      if (types.size === 1) return { sql: `${name}(${own.map((one) => one.sql).join(', ')})`, type: [...types][0]! };
    }
    const part = args[0]?.node === 'literal' ? args[0].text.toLowerCase() : '';
    if (name === 'extract' && PARTS.has(part as DatePart) && (own[1]?.type === 'date' || own[1]?.type === 'datetime'))
      return { sql: `cast(${dialect.part(part as DatePart, own[1]!.sql)} as ${dialect.types.whole})`, type: 'whole' };
    throw new UnsupportedInSql(`the function ${name} may give something else there`);
  }
}

function literalSql({ type, text }: Extract<Node, { node: 'literal' }>, dialect: Dialect): Said {
  switch (type) {
    case 'null':
      return { sql: 'null', type: 'null' };
    case 'text':
      return { sql: dialect.text(text), type: 'text' };
    case 'boolean':
      return { sql: text, type: 'yesno' };
    case 'number':
      return /^\d+$/.test(text)
        ? { sql: text, type: 'whole' }
        : { sql: `cast(${text} as ${dialect.types.number})`, type: 'number' };
    case 'date':
      return { sql: `date ${dialect.text(text)}`, type: 'date' };
    default:
      throw new UnsupportedInSql(`a ${type} in its expression is not said`);
  }
}
