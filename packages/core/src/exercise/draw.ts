import { Problem } from '../expression/problem.js';
import { type Rational, rational, rationalFromNumber } from '../rational/number.js';
import type { DrawValues, ExerciseDocument } from './document.js';
import type { Parameter } from './given.js';
import { meetsGuards } from './scope.js';

/** Most values that one range may offer. */
const mostValues = 100_000n;

/** Most draws until one meets the guards. */
const mostDraws = 200;

/**
 * A student's numbers: for each parameter a value picked by the seed and the parameter's own symbol, so that a change
 * to one parameter leaves the others as they were; drawn again until the guards are met. Same document and seed, same
 * numbers, for ever.
 * @throws Problem `draw` when a range cannot be drawn from or no draw meets the guards.
 */
export function drawValues(
  document: Pick<ExerciseDocument, 'parameters' | 'systems' | 'guards'>,
  seed: string,
): DrawValues {
  for (let k = 0; k < mostDraws; k++) {
    const own = k === 0 ? seed : `${seed}\n${k}`;
    const values = Object.fromEntries(
      document.parameters.map((p) => [p.symbol, drawOne(p, `${own}\n${p.symbol}`)] as const),
    );
    if (meetsGuards(document, values)) return values;
  }
  throw new Problem('draw', `None of ${mostDraws} draws meets the guards; loosen them or change the ranges.`);
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

function drawOne({ draw }: Parameter, seed: string): string {
  switch (draw.kind) {
    case 'fixed':
      return String(draw.value);
    case 'list':
      return String(draw.values[pick(seed, draw.values.length)]);
    case 'range':
      return valueAt(draw, BigInt(pick(seed, Number(countOf(draw)))));
  }
}

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
