import { Problem } from '../expression/problem.js';
import { magnitudeAndPhase } from '../frequency/bode.js';
import { isStable } from '../frequency/stability.js';
import { quantities } from '../quantity/index.js';
import { type QuantityName, quantityNames } from '../quantity/names.js';
import { TransferSubject } from '../quantity/subject.js';
import { rational } from '../rational/number.js';
import { respond } from '../response/respond.js';
import { systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { constantTransfer, feedbackOf } from '../system/transferAlgebra.js';
import type { FormulaFunction } from './function.js';
import { locusFunctions } from './locusFunctions.js';

const plainNumber = (gives: string, of: (...x: number[]) => number, name: string, count = 1): FormulaFunction => ({
  usage: `${name}(${count === 1 ? 'x' : 'x, y'})`,
  gives,
  fewest: count,
  most: count === 1 ? 1 : 12,
  systems: 0,
  value: (_systems, numbers) => of(...numbers),
});

const unit = constantTransfer(rational(1n));
const degree = Math.PI / 180;

const calculation: Record<string, FormulaFunction> = {
  sqrt: plainNumber('Square root.', Math.sqrt, 'sqrt'),
  ln: plainNumber('Natural logarithm.', Math.log, 'ln'),
  log10: plainNumber('Logarithm to base 10.', Math.log10, 'log10'),
  sin: plainNumber('Sine of an angle in radians.', Math.sin, 'sin'),
  cos: plainNumber('Cosine of an angle in radians.', Math.cos, 'cos'),
  tan: plainNumber('Tangent of an angle in radians.', Math.tan, 'tan'),
  asin: plainNumber('Angle in radians with this sine.', Math.asin, 'asin'),
  acos: plainNumber('Angle in radians with this cosine.', Math.acos, 'acos'),
  atan: plainNumber('Angle in radians with this tangent.', Math.atan, 'atan'),
  degrees: plainNumber('An angle in radians, in degrees.', (x) => x / degree, 'degrees'),
  radians: plainNumber('An angle in degrees, in radians.', (x) => x * degree, 'radians'),
  abs: plainNumber('Without sign.', Math.abs, 'abs'),
  min: plainNumber('The smallest of several.', Math.min, 'min', 2),
  max: plainNumber('The largest of several.', Math.max, 'max', 2),
  round: {
    usage: 'round(x, digits)',
    gives: 'Rounded to so many decimal places, 0 unless given.',
    fewest: 1,
    most: 2,
    systems: 0,
    value: (_systems, [x, digits = 0]) => Math.round(x! * 10 ** digits) / 10 ** digits,
  },
};

const onSystems: Record<string, FormulaFunction> = {
  closed: {
    usage: 'closed(G, H)',
    gives: 'The loop with negative feedback G/(1 + G·H); H is 1 unless given.',
    fewest: 1,
    most: 2,
    systems: 2,
    value: ([forward, back = unit]) => feedbackOf(forward!, back),
  },
  stable: {
    usage: 'stable(T)',
    gives: '1 when every mode decays, those written down and cancelled included; else 0.',
    fewest: 1,
    most: 1,
    systems: 1,
    value: ([of]) => (isStable(of!) ? 1 : 0),
  },
  order: {
    usage: 'order(T)',
    gives: 'Number of poles in lowest terms.',
    fewest: 1,
    most: 1,
    systems: 1,
    value: ([of]) => polesOf(of!).reduce((sum, { multiplicity }) => sum + multiplicity, 0),
  },
  apart: {
    usage: 'apart(T)',
    gives: 'Smallest distance between two poles.',
    fewest: 1,
    most: 1,
    systems: 1,
    value: ([of]) => smallestDistance(of!),
  },
  at: {
    usage: 'at(T, t)',
    gives: 'The unit step response at a time in seconds.',
    fewest: 2,
    most: 2,
    systems: 1,
    value: ([of], [time]) => respond(of!).at(time!),
  },
  magnitude: {
    usage: 'magnitude(T, w)',
    gives: 'Size of T(jω), a ratio; the frequency in rad/s.',
    fewest: 2,
    most: 2,
    systems: 1,
    value: ([of], [omega]) => 10 ** (magnitudeAndPhase(of!, [omega!]).magnitudesDb[0]! / 20),
  },
  phase: {
    usage: 'phase(T, w)',
    gives: 'Angle of T(jω) in degrees, followed from ω = 0; the frequency in rad/s.',
    fewest: 2,
    most: 2,
    systems: 1,
    value: ([of], [omega]) => magnitudeAndPhase(of!, [omega!]).phasesDegrees[0]!,
  },
};

const quantityFunction = (name: QuantityName): FormulaFunction => {
  const { definition, unit: ofQuantity, source, short } = quantities[name];
  return {
    usage: `${name}(${source === 'loop' ? 'L' : source === 'error' ? 'E' : 'T'})`,
    gives: definition,
    fewest: 1,
    most: 1,
    systems: 1,
    unit: ofQuantity,
    value([of]) {
      const subject = new TransferSubject(of!);
      const value = quantities[name].read(subject);
      if (value === null) {
        const stable = source === 'loop' ? subject.margins.closedLoopStable : isStable(of!);
        throw new Problem('exercise', `${short}: ${stable ? 'this system has none' : 'the system is unstable'}.`);
      }
      return value;
    },
  };
};

/** Every function of formulas by its name. */
export const functions: Readonly<Record<string, FormulaFunction>> = {
  ...onSystems,
  ...locusFunctions,
  ...Object.fromEntries(quantityNames.map((name) => [name, quantityFunction(name)])),
  ...calculation,
};

/** @throws Problem `deadTime` for a loop with dead time in it. */
function polesOf(transfer: Transfer) {
  const plain = withDeadTime(transfer);
  if (!plain) throw new Problem('deadTime', 'A loop with dead time has infinitely many poles.');
  return systemOf(plain.fraction).poles;
}

function smallestDistance(transfer: Transfer): number {
  const poles = polesOf(transfer);
  if (poles.some(({ multiplicity }) => multiplicity > 1)) return 0;
  let smallest = Infinity;
  poles.forEach((a, k) =>
    poles.slice(k + 1).forEach((b) => (smallest = Math.min(smallest, Math.hypot(a.re - b.re, a.im - b.im)))),
  );
  return smallest;
}
