import { must } from '../../expression/must.js';
import { locusFunctions } from '../../formula/locusFunctions.js';
import { gainAt, specialPoints, stationaryPoints } from '../../locus/specialPoints.js';
import { lowestTerms } from '../../rational/fraction.js';
import { degree } from '../../rational/polynomial.js';
import type { Root } from '../../system/roots.js';
import { systemOf } from '../../system/system.js';
import { type Transfer, withDeadTime } from '../../system/transfer.js';
import type { NumberSlip } from './slip.js';

const ownConstant = 'This gain leaves out the constant factor of the loop itself.';
const gains = new Set(['breakGain', 'crossingGain', 'gainForDamping', 'lowestStableGain', 'highestStableGain']);

/** What is usually made of a locus by mistake, where a formula asks for one of its figures. */
export function locusMisreadings(name: string, system: () => Transfer): NumberSlip[] {
  if (!(name in locusFunctions)) return [];
  const plain = withDeadTime(system());
  if (plain?.deadTime.numerator !== 0n) return [];
  const fraction = lowestTerms(plain.fraction);
  const { gain, zeros, poles } = systemOf(fraction);
  const value = (args: number[] = []): number => {
    const value = must(locusFunctions[name]).value([system()], args);
    return typeof value === 'number' ? value : NaN;
  };
  if (gains.has(name) && name !== 'gainForDamping') {
    return [{ id: 'ownConstant', words: ownConstant, value: value() * gain }];
  }
  switch (name) {
    case 'centroid': {
      const count = degree(fraction.denominator) - degree(fraction.numerator);
      const sum = (roots: readonly Root[]): number =>
        roots.reduce((all, { re, multiplicity }) => all + re * multiplicity, 0);
      return [
        {
          id: 'dividedByN',
          words: 'It looks divided by the number of poles; divide by poles minus zeros.',
          value: (value() * count) / degree(fraction.denominator),
        },
        { id: 'zerosAdded', words: 'The zeros are subtracted, not added.', value: (sum(poles) + sum(zeros)) / count },
        { id: 'zerosForgotten', words: 'The zeros are left out.', value: sum(poles) / count },
      ];
    }
    case 'breakPoint': {
      const kept = specialPoints(fraction).breakPoints;
      return stationaryPoints(fraction)
        .filter(({ re, im }) => im === 0 && !kept.some((point) => point.re === re && point.im === 0))
        .map(({ re }) => {
          const words = `dK/ds is zero there, but K = ${Number(gainAt(fraction, { re, im: 0 }).re.toPrecision(3))}: this point is not on the locus.`;
          return { id: 'offLocus', words: words.replace('-', '−'), value: re };
        });
    }
    case 'departureAngle':
    case 'arrivalAngle': {
      const turned = value() > 0 ? value() - 180 : value() + 180;
      return [{ id: 'turnedRound', words: 'The angle is 180° off.', value: turned }];
    }
    default:
      return [];
  }
}
