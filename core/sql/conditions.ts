/** Rules for rows as conditions. */
import { chosenColumns } from '../kinds/column-set.ts';
import type { Rule } from '../rules/rules.ts';
import type { Table } from '../table/table.ts';
import { foldedFor } from './case-folding.ts';
import type { Dialect } from './dialect.ts';
import { expressionSql } from './expressions.ts';
import { fieldOf, needReadable, sqlType, UnsupportedInSql } from './translate.ts';

/** Says a rule that asks where a row stands. */
export type SayPlaced = (rule: Extract<Rule, { test: 'above-first' | 'below-last' }>) => string;

/**
 * A condition that is true for the rows that follow a rule.
 * @param placed where the query can say where rows stand
 * @throws UnsupportedInSql
 */
export function ruleSql(rule: Rule, table: Table, dialect: Dialect, placed?: SayPlaced): string {
  if (placed !== undefined && (rule.test === 'above-first' || rule.test === 'below-last')) return placed(rule);
  switch (rule.test) {
    case 'equals':
    case 'starts':
    case 'ends':
    case 'contains': {
      const column = dialect.id(fieldOf(table, rule.column, 'text').name);
      const text = rule.exact ? rule.text : rule.text.trim().toLowerCase();
      const cell = rule.exact ? column : foldedFor(dialect.trim(column), [text], dialect);
      if (rule.test === 'equals') return `${cell} = ${dialect.text(text)}`;
      const before = rule.test === 'starts' ? '' : '%';
      const behind = rule.test === 'ends' ? '' : '%';
      return like(cell, before, text, behind, dialect);
    }
    case 'one-of': {
      const cell = dialect.trim(dialect.id(fieldOf(table, rule.column, 'text').name));
      if (rule.texts.length === 0) return 'false';
      return `${cell} in (${rule.texts.map((text) => dialect.text(text.trim())).join(', ')})`;
    }
    case 'between': {
      const field = fieldOf(table, rule.column, 'number', 'whole', 'date');
      const end = (text: string) => {
        if (sqlType(field) === 'date') return `date ${dialect.text(text)}`;
        if (!/^\s*-?\d+(\.\d+)?\s*$/.test(text)) throw new UnsupportedInSql(`${text} is no plain number`);
        return text.trim();
      };
      const cell = dialect.id(field.name);
      const ends = [
        ...(rule.least === null || rule.least.trim() === '' ? [] : [`${cell} >= ${end(rule.least)}`]),
        ...(rule.most === null || rule.most.trim() === '' ? [] : [`${cell} <= ${end(rule.most)}`]),
      ];
      return ends.length === 0 ? `${cell} is not null` : ends.join(' and ');
    }
    case 'date-part': {
      const field = fieldOf(table, rule.column, 'date', 'datetime');
      if (rule.is.length === 0) return 'false';
      return `${dialect.part(rule.part, dialect.id(field.name))} in (${rule.is.join(', ')})`;
    }
    case 'blank':
    case 'filled': {
      const chosen = chosenColumns(rule.columns, table);
      if (chosen.length === 0) return 'false';
      return allOf(chosen.map((k) => unseenSql(table, k, dialect, rule.test === 'blank')));
    }
    case 'only':
    case 'empty': {
      const wanted = new Set(rule.test === 'only' ? rule.columns : []);
      const cells = table.fields.flatMap((field, k) =>
        field.nameOrigin === 'beside' && !wanted.has(field.name)
          ? []
          : [unseenSql(table, k, dialect, !wanted.has(field.name))],
      );
      return cells.length === 0 ? 'true' : allOf(cells);
    }
    case 'expression':
      return expressionSql(rule.text, table, dialect).sql;
    default:
      throw new UnsupportedInSql(
        rule.test === 'matches'
          ? 'its pattern is a regular expression of ECMAScript'
          : `its rule (${rule.test}) asks for more than the row itself`,
      );
  }
}

/** A condition that is true or false, and never null. */
export function rulesSql(
  rules: readonly Rule[],
  match: 'all' | 'any',
  table: Table,
  dialect: Dialect,
  placed?: SayPlaced,
): string {
  if (rules.length === 0) return 'false';
  const conditions = rules.map((rule) => ruleSql(rule, table, dialect, placed));
  const joined =
    conditions.length === 1
      ? conditions[0]!
      : conditions.map((one) => `(${one})`).join(` ${match === 'all' ? 'and' : 'or'} `);
  return `coalesce(${joined}, false)`;
}

function allOf(conditions: readonly string[]): string {
  return conditions.join(conditions.length > 2 ? '\n    and ' : ' and ');
}

function unseenSql(table: Table, k: number, dialect: Dialect, isBlank: boolean): string {
  const field = needReadable(table.fields[k]!);
  const cell = dialect.id(field.name);
  if (sqlType(field) !== 'text') return `${cell} is ${isBlank ? '' : 'not '}null`;
  return isBlank ? `coalesce(${dialect.trim(cell)}, '') = ''` : `${dialect.trim(cell)} <> ''`;
}

function like(cell: string, before: string, text: string, behind: string, dialect: Dialect): string {
  if (!/[%_\\!]/.test(text)) return `${cell} like ${dialect.text(before + text + behind)}`;
  return `${cell} like ${dialect.text(before + text.replace(/[%_!]/g, '!$&') + behind)} escape '!'`;
}
