import { Problem } from '../expression/problem.js';
import type { Ask } from './ask.js';
import { algebraAsks } from './asks/algebra.js';
import { designAsks } from './asks/design.js';
import { frequencyAsks } from './asks/frequency.js';
import { locusAsks } from './asks/locus.js';
import { responseAsks } from './asks/response.js';
import { systemAsks } from './asks/system.js';
import { isObject, Query } from './query.js';

/** Every ask by its name. */
export const asks: ReadonlyMap<string, Ask> = new Map(
  [algebraAsks, systemAsks, responseAsks, frequencyAsks, locusAsks, designAsks].flat().map((ask) => [ask.name, ask]),
);

/** The answer to one query: its id, and a result or the reason why there is none. */
export interface Answered {
  readonly id: unknown;
  readonly result?: unknown;
  readonly error?: { readonly code: string; readonly message: string; readonly at: number };
}

/** Answers one line of JSON. Never throws for anything that was typed. */
export function answerLine(line: string): Answered {
  let given: unknown;
  try {
    given = JSON.parse(line);
  } catch {
    return { id: null, error: { code: 'json', message: 'This line is not JSON.', at: 0 } };
  }
  return answer(given);
}

/** Answers one query. Never throws for anything that was asked. */
export function answer(given: unknown): Answered {
  if (!isObject(given)) {
    return { id: null, error: { code: 'query', message: 'A query is an object with “ask”.', at: 0 } };
  }
  const id = given['id'] ?? null;
  try {
    const query = new Query(given);
    query.value('id');
    const name = query.text('ask');
    const ask = asks.get(name);
    if (!ask) throw new Problem('query', `“${name}” is not an ask; known: ${[...asks.keys()].join(', ')}.`);
    const result = plain(ask.answer(query));
    query.finish();
    return { id, result };
  } catch (error) {
    if (error instanceof Problem) {
      return { id, error: { code: error.code, message: error.message, at: error.at } };
    }
    return { id, error: { code: 'internal', message: `This could not be worked out: ${String(error)}`, at: 0 } };
  }
}

/** Plain data: arrays for typed arrays, “infinite” for infinities, null for what is undefined. */
function plain(value: unknown): unknown {
  if (typeof value === 'number') {
    if (Number.isNaN(value)) return null;
    if (!Number.isFinite(value)) return value > 0 ? 'infinite' : '-infinite';
    return value === 0 ? 0 : value;
  }
  if (value instanceof Float64Array) return Array.from(value, plain);
  if (Array.isArray(value)) return value.map(plain);
  if (isObject(value)) return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, plain(item)]));
  return value === undefined ? null : value;
}
