import { decimalIn, numberIn, type Settings } from '@nailset/core';

/** Whether a text is a number as the ladder takes it. */
export const isDecimal = (text: string): boolean => decimalIn(text) !== undefined;

/** The sum as a short decimal: 0.1 + 0.2 is 0.3. What is not a number counts as zero. */
export function addDecimal(text: string, by: number): string {
  const value = numberIn(text);
  return String(Number(((Number.isFinite(value) ? value : 0) + by).toPrecision(12)));
}

const numberOr0 = (text: string | undefined): number => (text === undefined ? 0 : numberIn(text));

export function sameSettings(left: Settings | undefined, right: Settings | undefined): boolean {
  if (!left || !right) return false;
  const names = new Set([...Object.keys(left), ...Object.keys(right)]);
  // What is left out is not the same as a zero or pole at the origin.
  return [...names].every(
    (name) =>
      numberOr0(left[name]) === numberOr0(right[name]) && (!/^[zp]/.test(name) || name in left === name in right),
  );
}
