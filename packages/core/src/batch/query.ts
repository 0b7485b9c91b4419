import { Problem } from '../expression/problem.js';
import type { Complex } from '../system/complex.js';

/**
 * One object of a query, read field by field; `finish` refuses fields that nobody asked for.
 * @throws Problem `query` naming the field and what it should hold.
 */
export class Query {
  private readonly seen = new Set<string>();

  constructor(
    private readonly fields: Readonly<Record<string, unknown>>,
    private readonly path = '',
  ) {}

  has(name: string): boolean {
    return this.fields[name] !== undefined;
  }

  value(name: string): unknown {
    this.seen.add(name);
    return this.fields[name];
  }

  text(name: string): string {
    return this.required(name, 'a text', (value): value is string => typeof value === 'string');
  }

  number(name: string, fallback?: number): number {
    if (fallback !== undefined && !this.has(name)) return fallback;
    return this.required(name, 'a number', isNumber);
  }

  whole(name: string, fallback?: number): number {
    if (fallback !== undefined && !this.has(name)) return fallback;
    const isCount = (value: unknown): value is number => Number.isInteger(value) && (value as number) >= 0;
    return this.required(name, 'a whole number from 0', isCount);
  }

  flag(name: string): boolean {
    if (!this.has(name)) return false;
    return this.required(name, 'true or false', (value): value is boolean => typeof value === 'boolean');
  }

  numbers(name: string, most = 100_000): number[] {
    const isList = (value: unknown): value is number[] =>
      Array.isArray(value) && value.length <= most && value.every(isNumber);
    return this.required(name, `a list of at most ${most} numbers`, isList);
  }

  texts(name: string): string[] {
    const isList = (value: unknown): value is string[] =>
      Array.isArray(value) && value.every((item) => typeof item === 'string');
    return this.required(name, 'a list of texts', isList);
  }

  matrix(name: string): number[][] {
    const isMatrix = (value: unknown): value is number[][] =>
      Array.isArray(value) && value.every((row) => Array.isArray(row) && row.every(isNumber));
    return this.required(name, 'a matrix: a list of rows of numbers', isMatrix);
  }

  /** A list of [re, im] pairs; a plain number counts as real. */
  points(name: string): Complex[] {
    const isPoints = (value: unknown): value is (number | [number, number])[] =>
      Array.isArray(value) && value.every((item) => isNumber(item) || isPair(item));
    const pairs = this.required(name, 'a list of [re, im] pairs', isPoints);
    return pairs.map((item) => (typeof item === 'number' ? { re: item, im: 0 } : { re: item[0], im: item[1] }));
  }

  point(name: string): Complex {
    const [re, im] = this.required(name, 'a pair [re, im]', isPair);
    return { re, im };
  }

  choice<Option extends string>(name: string, options: readonly Option[], fallback?: Option): Option {
    if (fallback !== undefined && !this.has(name)) return fallback;
    const isOption = (value: unknown): value is Option => options.includes(value as Option);
    return this.required(name, `one of ${options.join(', ')}`, isOption);
  }

  object(name: string): Query {
    return new Query(this.required(name, 'an object', isObject), `${this.path}${name}.`);
  }

  /** Name → text or number. */
  bindings(name: string): Record<string, string | number> {
    if (!this.has(name)) return {};
    const isBindings = (value: unknown): value is Record<string, string | number> =>
      isObject(value) && Object.values(value).every((item) => typeof item === 'string' || isNumber(item));
    return this.required(name, 'an object of expressions', isBindings);
  }

  finish(): void {
    for (const name of Object.keys(this.fields)) {
      if (!this.seen.has(name)) throw new Problem('query', `“${this.path}${name}” is not known here.`);
    }
  }

  private required<Value>(name: string, what: string, fits: (value: unknown) => value is Value): Value {
    const value = this.value(name);
    if (!fits(value)) throw new Problem('query', `“${this.path}${name}” must be ${what}.`);
    return value;
  }
}

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const isPair = (value: unknown): value is [number, number] =>
  Array.isArray(value) && value.length === 2 && value.every(isNumber);

/** Whether a value of JSON is an object. */
export const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
