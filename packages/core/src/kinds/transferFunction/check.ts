import { compareTransfers, isRoundedFrom, withoutLoops } from '../../checking/compare.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { Problem } from '../../expression/problem.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { holdsRoots, typedTransferFrom, typedTree } from '../../formula/roots.js';
import { type Fraction, isProper } from '../../rational/fraction.js';
import { curveDistance } from '../../response/curve.js';
import { stepResponse } from '../../response/step.js';
import { delayedToLatex } from '../../system/latex.js';
import { systemOf } from '../../system/system.js';
import type { Transfer } from '../../system/transfer.js';
import { constantOf, isSameTransfer } from '../../system/transferAlgebra.js';
import type { Checking } from '../kind.js';

/**
 * What a student typed. A block that is itself what is asked for is no answer.
 * @throws Problem with the position of the mistake, and for more zeros than poles.
 */
export function typedTransfer(text: string, asSymbols: Scope, expected: Transfer): Transfer {
  const names = new Map(
    [...asSymbols.names].filter(([, value]) => constantOf(value) !== null || !isSameTransfer(value, expected)),
  );
  const tree = typedTree(text, names.keys());
  const transfer = typedTransferFrom(tree, names);
  if (!isProper(withoutLoops(transfer).fraction)) {
    throw new Problem(
      'improper',
      'This has more zeros than poles: above the line stands a higher power of s than below.',
    );
  }
  return holdsRoots(tree, names) && isRoundedFrom(transfer, expected) ? expected : transfer;
}

export const checking: Checking<'transferFunction'> = {
  fromText: (_part, text) => ({ kind: 'transferFunction', text }),
  read(part, { scope, asSymbols }, answer) {
    typedTransfer(answer.text, asSymbols, systemFrom(part.expected, scope));
  },
  check(part, { scope, asSymbols }, answer) {
    const want = systemFrom(part.expected, scope);
    const got = typedTransfer(answer.text, asSymbols, want);
    const { differences, onlyGain } = compareTransfers(got, want, part.tolerancePercent / 100);
    const met = differences.length === 0;
    const words = met
      ? 'The transfer function is right.'
      : onlyGain
        ? 'Right up to a constant factor: the gain is not.'
        : `Not equal yet. With the highest power below the line scaled to 1, off: ${differences.join('; ')}.`;
    const item = { id: part.id, label: 'Transfer function', unit: '', measured: null, limit: null };
    const points = met ? part.points : 0;
    return verdictOf(
      [{ ...item, relation: 'equal', met, close: false, points, outOf: part.points, words }],
      words,
      met ? {} : distanceBetween(withoutLoops(got).fraction, withoutLoops(want).fraction),
    );
  },
  solution(part, { scope }) {
    const { fraction, deadTime } = withoutLoops(systemFrom(part.expected, scope));
    return delayedToLatex(fraction, deadTime);
  },
};

/** Distance of the step responses over eight time constants of the slower one, when both are stable. */
function distanceBetween(got: Fraction, want: Fraction): { curveDistance?: number } {
  const [left, right] = [systemOf(got), systemOf(want)];
  if (!left.stable || !right.stable) return {};
  const slowest = Math.max(...[...left.poles, ...right.poles].map((pole) => pole.timeConstant ?? 0));
  const scale = Math.max(Math.abs(left.dcGain ?? 0), Math.abs(right.dcGain ?? 0));
  return { curveDistance: curveDistance(stepResponse(left), stepResponse(right), 8 * (slowest || 1), scale) };
}
