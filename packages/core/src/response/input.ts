import { Problem } from '../expression/problem.js';

/** What drives a system; times in seconds. Everything is zero before `at`. */
export type Input =
  | {
      readonly kind: 'step' | 'impulse' | 'ramp' | 'parabola';
      /** Height, area, slope or second derivative: amplitude · (1, δ, t, t²/2). */
      readonly amplitude?: number;
      readonly at?: number;
    }
  /** A step from one level to another; the system rests at the first. */
  | { readonly kind: 'levels'; readonly from: number; readonly to: number; readonly at?: number }
  /** Values at rising times, joined by straight lines, or held until the next with `hold`; the last is kept. */
  | {
      readonly kind: 'samples';
      readonly times: readonly number[];
      readonly values: readonly number[];
      readonly hold?: boolean;
    };

/** One part of an input: amplitude · t^power/power! from `at` on; power −1 is an impulse. */
export interface InputPart {
  readonly power: -1 | 0 | 1 | 2;
  readonly amplitude: number;
  readonly at: number;
}

const powers = { impulse: -1, step: 0, ramp: 1, parabola: 2 } as const;
const mostSamples = 5000;

/** An input as a level before t = 0 and a sum of impulses, steps, ramps and parabolas. @throws Problem `query`. */
export function partsOf(input: Input): { level: number; parts: InputPart[] } {
  if (input.kind === 'levels') {
    const { from, to, at = 0 } = input;
    return { level: from, parts: [{ power: 0, amplitude: to - from, at: checkedTime(at) }] };
  }
  if (input.kind !== 'samples') {
    const { kind, amplitude = 1, at = 0 } = input;
    return { level: 0, parts: [{ power: powers[kind], amplitude, at: checkedTime(at) }] };
  }
  const { times, values, hold = false } = input;
  if (times.length !== values.length || times.length === 0 || times.length > mostSamples) {
    throw new Problem('query', `Samples need as many times as values, 1 to ${mostSamples}.`);
  }
  times.forEach((time, k) => {
    checkedTime(time);
    if (k > 0 && !(time > times[k - 1]!)) throw new Problem('query', 'The times of samples must rise.');
  });
  const parts: InputPart[] = [{ power: 0, amplitude: values[0]!, at: times[0]! }];
  let slope = 0;
  times.forEach((at, k) => {
    if (hold) {
      if (k > 0) parts.push({ power: 0, amplitude: values[k]! - values[k - 1]!, at });
      return;
    }
    const next = k + 1 < times.length ? (values[k + 1]! - values[k]!) / (times[k + 1]! - at) : 0;
    parts.push({ power: 1, amplitude: next - slope, at });
    slope = next;
  });
  return { level: 0, parts: parts.filter(({ amplitude }) => amplitude !== 0) };
}

function checkedTime(time: number): number {
  if (!(time >= 0)) throw new Problem('query', 'Inputs act from t = 0 on.');
  return time;
}

/**
 * The value of steps, ramps and parabolas together at a time, `after` their jumps or just before. Times within a
 * picosecond of a jump count as the jump.
 */
export function inputAt(parts: readonly InputPart[], time: number, after: boolean): number {
  let sum = 0;
  for (const { power, amplitude, at } of parts) {
    const since = time - at;
    if (after ? since < -1e-12 : since <= 1e-12) continue;
    sum += amplitude * (power === 0 ? 1 : power === 1 ? since : (since * since) / 2);
  }
  return sum;
}
