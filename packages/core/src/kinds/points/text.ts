import { piecesOf } from '../../expression/pieces.js';
import { Problem } from '../../expression/problem.js';
import type { Complex } from '../../system/complex.js';

/** Points of the s-plane as people write them. */

const most = 40;

const decimal = String.raw`(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?`;
const number = `${decimal}(?:/${decimal})?`;
const written = new RegExp(
  `^(?:([+-]?${number})(?=[±+-]|$))?(?:(±|[+-])?(${number})?\\*?([ij])(?:/(${decimal})|\\*?(${number}))?)?$`,
  'i',
);

/** A decimal, or one through another. */
function valueOf(text: string): number {
  const [top, bottom = '1'] = text.split('/');
  return Number(top) / Number(bottom);
}

/**
 * Points such as `-1 ± 2j, -13/3`, separated by semicolons, lines or commas (one between digits is a decimal comma); j or i, before or behind the number, with or without
 * `*`; each may stand in brackets, and behind `s =`.
 * @throws Problem `notANumber` naming the piece that is none.
 */
export function pointsFromText(text: string): Complex[] {
  const pieces = piecesOf(text);
  if (pieces.length === 0) throw new Problem('empty', 'Mark or type the points first.');
  if (pieces.length > most) throw new Problem('exercise', `At most ${most} points can be handed in.`);
  return pieces.flatMap((piece) => {
    const bare = piece
      .replace(/^\p{L}[\p{L}\p{Nd}_₀-₉]*\s*=/u, '')
      .replace(/[−–]/g, '-')
      .replace(/[·×]/g, '*')
      .replace(/(\d),(?=\d+(?:\D|$))/, '$1.')
      .replace(/(\D\d*),(?=\d+(?:\D|$))/, '$1.')
      .replace(/[\u200b-\u200d\u2060\ufeff]/g, '')
      .replace(/\+-|\+\/-/, '±')
      .replace(/\s+/g, '')
      .replace(/^\((.*)\)$/, '$1');
    const match = written.exec(bare);
    if (!match || bare === '' || /[\d.]\s+[\d.]/.test(piece)) throw notAPoint(piece);
    const [, typed, typedSign, typedSize, unit, through = '1', after] = match;
    // A number alone before j is the imaginary part: 3j, −2j.
    const isAlone = unit !== undefined && typed !== undefined && typedSign === undefined && after === undefined;
    const [real, sign, before] = isAlone
      ? [undefined, typed.startsWith('-') ? '-' : '+', typed.replace(/^[+-]/, '')]
      : [typed, typedSign, typedSize];
    const re = valueOf(real ?? '0');
    const im = unit ? valueOf(before ?? after ?? '1') / Number(through) : 0;
    if (!Number.isFinite(re) || !Number.isFinite(im)) throw notAPoint(piece);
    if (sign === '±' && im !== 0)
      return [
        { re, im },
        { re, im: -im },
      ];
    return [{ re, im: sign === '-' ? -im : im }];
  });
}

const notAPoint = (piece: string): Problem =>
  new Problem(
    'notANumber',
    /\d,\d+,\d/.test(piece)
      ? `“${piece}”: put blanks behind the commas of a list, as in −1, −2.`
      : `“${piece}” is not a point; write −2, 3j, −1 ± 2j or −13/3.`,
  );

/** Points as they could be typed. */
export const textOfPoints = (marked: readonly Complex[]): string =>
  marked
    .map(({ re, im }) =>
      im === 0 ? short(re) : `${re === 0 ? '' : short(re)}${im < 0 ? '-' : re === 0 ? '' : '+'}${short(Math.abs(im))}j`,
    )
    .join(', ');

const short = (value: number): string => String(Number(value.toPrecision(6)));

/** One marked point in words. */
export const pointWords = (point: Complex): string =>
  textOfPoints([point])
    .replaceAll('-', '−')
    .replace(/(\d)([+−])/, '$1 $2 ');
