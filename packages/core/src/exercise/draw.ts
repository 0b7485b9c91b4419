import { must } from '../expression/must.js';
import { orElse, Problem } from '../expression/problem.js';
import { type Rational, rational, rationalFromNumber } from '../rational/number.js';
import type { DrawValues, ExerciseDocument } from './document.js';
import type { Parameter } from './given.js';
import { meetsGuards } from './scope.js';

/** Most values that one range may offer. */
const mostValues = 100_000n;

/** Draws before all that the guards allow is listed, and, where that is too much to list, before it is given up. */
const mostDraws = 200;
const mostRedraws = 5000;
/** Most sets of values that are listed. */
const mostListed = 4000n;

type Drawn = Pick<ExerciseDocument, 'parameters' | 'systems' | 'guards'>;

/**
 * A student's numbers: for each parameter a value picked by the seed and the parameter's own symbol, so that a change
 * to one parameter leaves the others as they were; drawn again until the guards are met and everything can be worked
 * out, and where that is rare, picked from all that the guards allow. Same document and seed, same numbers, for ever.
 * @throws Problem `draw` when a range cannot be drawn from or nothing that is drawn meets the guards.
 */
export function drawValues(document: Drawn, seed: string): DrawValues {
  for (let k = 0; k < mostRedraws; k++) {
    if (k === mostDraws) {
      const allowed = allowedOf(document);
      if (allowed?.length === 0)
        throw new Problem('draw', 'No values meet the guards; loosen them or change the ranges.');
      if (allowed) return must(allowed[pick(`${seed}\nallowed`, allowed.length)]);
    }
    const values = drawOnce(document, k === 0 ? seed : `${seed}\n${k}`);
    if (isAllowed(document, values)) return values;
  }
  throw new Problem('draw', `None of ${mostRedraws} draws meets the guards; loosen them or change the ranges.`);
}

/**
 * A student's numbers in a changed document: those they had, of every parameter that is still drawn; what is new is
 * drawn by the seed, and what is fixed is as the document says. Undefined where the guards rule that out.
 * @throws Problem as `drawValues`.
 */
export function keptValues(document: Drawn, before: DrawValues, seed: string): DrawValues | undefined {
  const kept = Object.fromEntries(
    document.parameters.flatMap(({ symbol, draw }) => {
      const value = before[symbol];
      return value === undefined || draw.kind === 'fixed' ? [] : [[symbol, value] as const];
    }),
  );
  const isWhole = document.parameters.every(({ symbol, draw }) => draw.kind === 'fixed' || symbol in kept);
  for (let k = 0; k < (isWhole ? 1 : mostDraws); k++) {
    const values = { ...drawOnce(document, k === 0 ? seed : `${seed}\n${k}`), ...kept };
    if (isAllowed(document, values)) return values;
  }
  return undefined;
}

const drawOnce = ({ parameters }: Drawn, seed: string): DrawValues =>
  Object.fromEntries(parameters.map((p) => [p.symbol, drawOne(p, `${seed}\n${p.symbol}`)] as const));

/** Values with which a guard or a system cannot be worked out are not allowed by the guards either. */
const isAllowed = (document: Drawn, values: DrawValues): boolean =>
  document.guards.length === 0 || orElse(false, () => meetsGuards(document, values));

const listed = new WeakMap<object, readonly DrawValues[] | null>();

/** Every set of values that the guards allow; null when there are too many to list. */
function allowedOf(document: Drawn): readonly DrawValues[] | null {
  const known = listed.get(document);
  if (known !== undefined) return known;
  const allowed = valuesOf(document.parameters)?.filter((values) => isAllowed(document, values)) ?? null;
  listed.set(document, allowed);
  return allowed;
}

function valuesOf(parameters: readonly Parameter[]): DrawValues[] | null {
  const count = parameters.reduce((product, { draw }) => product * sizeOf(draw), 1n);
  if (count > mostListed) return null;
  let all: DrawValues[] = [{}];
  for (const { symbol, draw } of parameters) {
    const listed = [...new Set(Array.from({ length: Number(sizeOf(draw)) }, (_, k) => valueNumber(draw, k)))];
    all = all.flatMap((values) => listed.map((value) => ({ ...values, [symbol]: value })));
  }
  return all;
}

const sizeOf = (draw: Parameter['draw']): bigint =>
  draw.kind === 'fixed' ? 1n : draw.kind === 'list' ? BigInt(draw.values.length) : countOf(draw);

const valueNumber = (draw: Parameter['draw'], index: number): string =>
  draw.kind === 'range'
    ? valueAt(draw, BigInt(index))
    : String(draw.kind === 'fixed' ? draw.value : draw.values[index]);

/** Draws of which so many must meet the guards for every student to get numbers soon enough. */
const sampled = 400;
const enough = 8;

/**
 * Refuses guards with which some student might get no numbers: where few draws meet them, all values are looked at, or,
 * where there are too many, one draw in fifty must.
 * @throws Problem `draw`.
 */
export function refuseRareDraws(document: Drawn): void {
  if (document.guards.length === 0) return;
  let met = 0;
  for (let k = 0; k < sampled && met < enough; k++) {
    met += Number(isAllowed(document, drawOnce(document, `proof ${k}`)));
    if (k !== 60) continue;
    const allowed = allowedOf(document);
    if (allowed?.length === 0)
      throw new Problem('draw', 'No values meet the guards; loosen them or change the ranges.');
    if (allowed) return;
  }
  if (met < enough) {
    const words = met === 0 ? 'none' : String(met);
    throw new Problem('draw', `Of ${sampled} draws ${words} met the guards: too few for every student to get numbers.`);
  }
}

/** The smallest and the largest value that a parameter can take, as decimals. @throws Problem `draw`. */
export function extremesOf({ draw }: Parameter): string[] {
  switch (draw.kind) {
    case 'fixed':
      return [String(draw.value)];
    case 'list':
      return [String(Math.min(...draw.values)), String(Math.max(...draw.values))];
    case 'range': {
      const count = countOf(draw);
      return [valueAt(draw, 0n), valueAt(draw, count - 1n)];
    }
  }
}

const drawOne = ({ draw }: Parameter, seed: string): string => valueNumber(draw, pick(seed, Number(sizeOf(draw))));

type Range = Extract<Parameter['draw'], { kind: 'range' }>;

function countOf({ from, to, step }: Range): bigint {
  if (!(step > 0)) throw new Problem('draw', 'The step of a draw must be more than zero.');
  if (!(to > from)) throw new Problem('draw', 'The upper end of a draw must lie above the lower end.');
  const [low, high, by] = [rationalFromNumber(from), rationalFromNumber(to), rationalFromNumber(step)];
  const span = rational(
    high.numerator * low.denominator - low.numerator * high.denominator,
    high.denominator * low.denominator,
  );
  const count = (span.numerator * by.denominator) / (span.denominator * by.numerator) + 1n;
  if (count > mostValues)
    throw new Problem('draw', `This draw has more than ${mostValues} values; take a larger step.`);
  return count;
}

function valueAt({ from, step }: Range, index: bigint): string {
  const [low, by] = [rationalFromNumber(from), rationalFromNumber(step)];
  return decimalText(
    rational(low.numerator * by.denominator + index * by.numerator * low.denominator, low.denominator * by.denominator),
  );
}

/** A rational whose denominator divides a power of ten, written out. */
export function decimalText(value: Rational): string {
  let digits = 0;
  let power = 1n;
  while (power % value.denominator !== 0n) {
    power *= 10n;
    digits += 1;
  }
  const whole = (value.numerator * power) / value.denominator;
  const text = (whole < 0n ? -whole : whole).toString().padStart(digits + 1, '0');
  const cut = text.length - digits;
  return `${whole < 0n ? '-' : ''}${text.slice(0, cut)}${digits > 0 ? `.${text.slice(cut)}` : ''}`;
}

/** A number from 0 to count − 1 from a text. Method: FNV-1a, then the MurmurHash3 finaliser. */
function pick(seed: string, count: number): number {
  let hash = 0x811c9dc5;
  for (let k = 0; k < seed.length; k++) hash = Math.imul(hash ^ seed.charCodeAt(k), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  hash = (hash ^ (hash >>> 16)) >>> 0;
  return Math.floor((hash / 2 ** 32) * count);
}
