import { rationalFromNumber } from '../../rational/number.js';
import { polynomialOf } from '../../rational/polynomial.js';
import { lagOf, type SecondOrder } from '../../system/standardForms.js';
import { delayed, type Transfer } from '../../system/transfer.js';
import type { TransferSlip } from './slip.js';

const turn = 2 * Math.PI;

/** What people make of a lag K/(τ·s + 1) when they write it down wrongly; none for another system. */
export function firstOrderSlips(transfer: Transfer): TransferSlip[] {
  const lag = lagOf(transfer);
  if (!lag) return [];
  const { gain: K, timeConstant: tau } = lag;
  const of = (over: number, ...under: number[]): Transfer =>
    delayed({
      numerator: polynomialOf([rationalFromNumber(over)]),
      denominator: polynomialOf(under.map(rationalFromNumber)),
    });
  const inverted = {
    id: 'inverseTime',
    words: 'It looks as if the time constant was turned upside down: 1/τ stands where τ belongs.',
  };
  return [
    { ...inverted, transfer: of(K, 1 / tau, 1) },
    { ...inverted, transfer: of(K * tau, 1, tau) },
    { ...inverted, transfer: of(K, 1, tau) },
  ];
}

/** What people make of a second-order system when they write it down wrongly. */
export function secondOrderSlips({ gain: K, dampingRatio: zeta, naturalFrequency: w }: SecondOrder): TransferSlip[] {
  const of = (over: number, ...under: number[]): Transfer =>
    delayed({
      numerator: polynomialOf([rationalFromNumber(over)]),
      denominator: polynomialOf(under.map(rationalFromNumber)),
    });
  const middle = 2 * zeta * w;
  const slip = (id: string, words: string, ...transfers: Transfer[]): TransferSlip[] =>
    transfers.map((transfer) => ({ id, words, transfer }));
  return [
    ...slip(
      'frequencyNotSquared',
      'It looks as if ωn stands where ωn² belongs.',
      of(K * w, 1, middle, w),
      of(K * w, 1, middle, w * w),
      of(K * w * w, 1, middle, w),
    ),
    ...slip('twoMissing', 'It looks as if the factor 2 of 2ζωn is missing.', of(K * w * w, 1, zeta * w, w * w)),
    ...slip(
      'unitNumerator',
      'The numerator is 1, so the gain at rest is not that of the system.',
      of(1, 1, middle, w * w),
    ),
    ...slip('gainMissing', 'It looks as if the gain K is missing.', of(w * w, 1, middle, w * w)),
    ...slip('squareMissingAbove', 'It looks as if ωn² is missing above the line.', of(K, 1, middle, w * w)),
    ...(zeta > 0
      ? slip(
          'timeConstant',
          'It looks as if τ was taken for 1/(ζωn); it is 1/ωn.',
          of(K * (w / zeta) ** 2, 1, 2 * w, (w / zeta) ** 2),
        )
      : []),
    ...slip(
      'hertz',
      'It looks as if the frequency stood in Hz; rad/s belong here.',
      of(K * (w / turn) ** 2, 1, (2 * zeta * w) / turn, (w / turn) ** 2),
    ),
    ...slip('negativeDamping', 'The sign of the damping term is turned round.', of(K * w * w, 1, -middle, w * w)),
    ...slip('reversed', 'It looks as if the coefficients stand in reversed order.', of(K * w * w, w * w, middle, 1)),
  ];
}
