import type { Settings } from '../exercise/answer.js';
/** A number for people: three significant digits, no exponent between 0.001 and 100,000. */
export function formatNumber(value: number): string {
  if (!Number.isFinite(value)) return value < 0 ? '−∞' : '∞';
  const size = Math.abs(value);
  if (size === 0 || size < 1e-9) return '0';
  if (size >= 1e5 || size < 1e-3) return value.toExponential(2).replace('e+', 'e').replaceAll('-', '−');
  const digits = Math.max(0, 2 - Math.floor(Math.log10(size)));
  return String(Number(value.toFixed(digits))).replace('-', '−');
}

/** Points with the decimals that they have, two at most: 100.5 stays 100.5, a third is 0.33. */
export const formatMark = (value: number): string => String(Number(value.toFixed(2))).replace('-', '−');

/** As in `1 point` and `2.5 points`. */
export function inPoints(value: number): string {
  return `${formatMark(value)} ${value === 1 ? 'point' : 'points'}`;
}

/** The number with its unit after a thin space. */
export function withUnit(value: number, unit: string): string {
  return unit ? `${formatNumber(value)} ${unit}` : formatNumber(value);
}

/** A pole or zero for people: `−0.4`, `−0.4 ± 2.1j`. */
export function formatPoint({ re, im }: { re: number; im: number }): string {
  if (im === 0) return formatNumber(re);
  return `${Math.abs(re) < 1e-9 * Math.abs(im) ? '' : `${formatNumber(re)} `}± ${formatNumber(Math.abs(im))}j`;
}

/** Modes that cancel, for people: what each is, and what it does to stability. */
export function hiddenWords(hidden: readonly { readonly re: number; readonly im: number }[]): string {
  const upper = hidden.filter(({ im }) => im >= 0);
  const said = (of: typeof upper, verb: string): string[] =>
    of.length === 0 ? [] : [`a hidden mode at ${listOf(of.map(formatPoint))} ${verb}`];
  return said(
    upper.filter(({ re }) => re > 0),
    'is unstable',
  )
    .concat(
      said(
        upper.filter(({ re }) => re === 0),
        'does not decay',
      ),
      said(
        upper.filter(({ re }) => re < 0),
        'decays',
      ),
    )
    .join('; ');
}

/** Poles or zeros for people, a pair named once: `−1, −0.4 ± 2.1j`; `none` without any. */
export function formatPoints(points: readonly { readonly re: number; readonly im: number }[]): string {
  return (
    points
      .filter(({ im }) => im >= 0)
      .map(formatPoint)
      .join(', ') || 'none'
  );
}

/** One, two and three. */
export function listOf(words: readonly string[]): string {
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`;
}

/** `Kp = 2, Kd = 0.5` */
export const settingsText = (settings: Settings): string =>
  Object.entries(settings)
    .map(([name, value]) => `${name} = ${value}`)
    .join(', ');
