import { type Branch, formatNumber, formatPoint } from '@nailset/core';
import { promisedOvershoot } from './locus';
import type { Sweep } from './sweep';

/** A point of a branch that someone asked about. */
export interface SetReading {
  readonly id: number;
  readonly gain: number;
  readonly branch: number;
}

/** The point with what it says. */
export interface PlaneReading extends SetReading {
  readonly re: number;
  readonly im: number;
  readonly dampingRatio: number;
  readonly naturalFrequency: number;
  /** In per cent: by the second-order rule, and of the response itself; null where there is none. */
  readonly promised: number | null;
  readonly actual: number | null;
  readonly words: string;
}

/** The point of a branch at a gain, between its samples along the chord. */
export function onBranch({ gains, re, im }: Branch, gain: number): { re: number; im: number } {
  let [low, high] = [0, gains.length - 1];
  if (gain <= gains[0]!) return { re: re[0]!, im: im[0]! };
  if (gain >= gains[high]!) return { re: re[high]!, im: im[high]! };
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (gains[middle]! <= gain) low = middle;
    else high = middle;
  }
  const share = (gain - gains[low]!) / (gains[high]! - gains[low]! || 1);
  return { re: re[low]! + share * (re[high]! - re[low]!), im: im[low]! + share * (im[high]! - im[low]!) };
}

/** The pole that a point of a drawn branch stands for. */
function nearestTo(drawn: { re: number; im: number }, poles: readonly { re: number; im: number }[]) {
  const off = ({ re, im }: { re: number; im: number }): number => Math.hypot(re - drawn.re, im - drawn.im);
  return poles.reduce((best, pole) => (off(pole) < off(best) ? pole : best), poles[0] ?? drawn);
}

/** Readings with their values for the branches as they are now. */
export function readingsOn(sweep: Sweep, set: readonly SetReading[]): PlaneReading[] {
  const { name, branches } = sweep;
  return set.flatMap((reading): PlaneReading[] => {
    const branch = branches[reading.branch];
    if (!branch) return [];
    const drawn = onBranch(branch, reading.gain);
    const response = sweep.responseAt(reading.gain);
    const { re, im } = response ? nearestTo(drawn, response.poles) : drawn;
    const naturalFrequency = Math.hypot(re, im);
    const dampingRatio = naturalFrequency === 0 ? 0 : -re / naturalFrequency;
    const actual = response ? response.measures.overshootPercent : null;
    const rule = promisedOvershoot({ re, im });
    const promised = Number.isFinite(rule) ? rule : null;
    const percent = (value: number | null): string => (value === null ? 'none' : `${formatNumber(value)} %`);
    const words = `pole ${formatPoint({ re, im })}, ζ ${formatNumber(dampingRatio)}, ωn ${formatNumber(naturalFrequency)} rad/s, overshoot by the rule ${percent(promised)}, of the response ${percent(actual)}, ${name} ${formatNumber(reading.gain)}`;
    return [{ ...reading, re, im, dampingRatio, naturalFrequency, promised, actual, words }];
  });
}
