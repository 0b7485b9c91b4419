import { type Fit, fitFraction, fitFrequency, fitStep } from '../../design/fit.js';
import { matchPolynomial } from '../../design/match.js';
import { type StructureName, structures } from '../../design/structures.js';
import { tunedStart } from '../../design/tune.js';
import { Problem } from '../../expression/problem.js';
import { rationalFromNumber, rationalToNumber } from '../../rational/number.js';
import { coefficients } from '../../rational/polynomial.js';
import {
  controllerOf,
  convertController,
  leadLag,
  type PidForm,
  toParallel,
  weightedController,
} from '../../system/controller.js';
import { polynomialFromNumbers, polynomialFromRoots } from '../../system/forms.js';
import { withDeadTime, withoutDeadTime } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import type { Query } from '../query.js';
import { transferIn } from '../systems.js';

const forms = ['P', 'PI', 'PD', 'PID'] as const;

/** Asks about controllers, tuning and fitting; documented in docs/compute.md. */
export const designAsks: readonly Ask[] = [
  {
    name: 'controller',
    answer(query) {
      const fields = query.object('controller');
      const given = readForm(fields);
      const filterTime = rationalFromNumber(fields.number('filterTime', 0));
      const weights = {
        proportional: rationalFromNumber(fields.number('proportionalWeight', 1)),
        derivative: rationalFromNumber(fields.number('derivativeWeight', 1)),
      };
      fields.finish();
      const form = query.choice('to', ['parallel', 'ideal', 'series'], given.form);
      const converted = convertController(given, form, filterTime);
      const { Kp, Ki, Kd } = toParallel(converted, filterTime);
      const { numerator, denominator } = controllerOf({ Kp, Ki, Kd }, filterTime);
      const weighted = weightedController({ Kp, Ki, Kd }, weights, filterTime);
      return {
        ...Object.fromEntries(
          Object.entries(converted).map(([name, value]) => [
            name,
            value !== null && typeof value === 'object' ? rationalToNumber(value) : value,
          ]),
        ),
        numerator: coefficients(numerator),
        denominator: coefficients(denominator),
        reference: { numerator: coefficients(weighted.numerator), denominator: coefficients(weighted.denominator) },
      };
    },
  },
  {
    name: 'compensator',
    answer(query) {
      const [gain, zero, pole] = [query.number('gain', 1), query.number('zero'), query.number('pole')];
      const exact = [gain, zero, pole].map(rationalFromNumber) as [never, never, never];
      const { numerator, denominator } = leadLag(...exact);
      const lead = Math.asin((pole - zero) / (pole + zero));
      return {
        numerator: coefficients(numerator),
        denominator: coefficients(denominator),
        ratio: pole / zero,
        largestPhase: { omega: Math.sqrt(zero * pole), degrees: (lead * 180) / Math.PI },
      };
    },
  },
  {
    name: 'tunedStart',
    answer(query) {
      return tunedStart(transferIn(query, 'plant'), query.choice('form', forms), {
        ...(query.has('crossover') ? { crossover: query.number('crossover') } : {}),
        ...(query.has('sensitivityPeak') ? { sensitivityPeak: query.number('sensitivityPeak') } : {}),
      });
    },
  },
  {
    name: 'matchPolynomial',
    answer(query) {
      const plant = withoutDeadTime(transferIn(query, 'plant'), 'Matching a polynomial');
      const wanted = query.has('polynomial')
        ? polynomialFromNumbers(query.numbers('polynomial', 60), '“polynomial”')
        : polynomialFromRoots(query.points('poles'), 'poles');
      const gains = matchPolynomial(plant, query.choice('form', forms), wanted);
      return Object.fromEntries(Object.entries(gains).map(([gain, value]) => [gain, rationalToNumber(value)]));
    },
  },
  {
    name: 'fit',
    answer(query) {
      const fields = query.object('data');
      const fit = fields.has('times') ? fitOfStep(query, fields) : fitOfFrequency(query, fields);
      fields.finish();
      const { fraction, deadTime } = withDeadTime(fit.transfer)!;
      return {
        parameters: fit.parameters,
        numerator: coefficients(fraction.numerator),
        denominator: coefficients(fraction.denominator),
        deadTime: rationalToNumber(deadTime),
        misfit: fit.misfit,
      };
    },
  },
];

const structureIn = (query: Query): StructureName =>
  query.choice('structure', Object.keys(structures) as StructureName[]);

function fitOfStep(query: Query, fields: Query): Fit {
  const [times, values] = [fields.numbers('times', 5000), fields.numbers('values', 5000)];
  return fitStep({ times, values, amplitude: fields.number('amplitude', 1) }, structureIn(query));
}

function fitOfFrequency(query: Query, fields: Query): Fit {
  const data = {
    omegas: fields.numbers('omegas', 5000),
    magnitudesDb: fields.numbers('magnitudesDb', 5000),
    ...(fields.has('phasesDegrees') ? { phasesDegrees: fields.numbers('phasesDegrees', 5000) } : {}),
  };
  if (!query.has('order')) return fitFrequency(data, structureIn(query));
  return fitFraction(data, query.whole('numeratorDegree', 0), query.whole('order'));
}

function readForm(fields: Query): PidForm {
  const form = fields.choice('form', ['parallel', 'ideal', 'series']);
  const number = (name: string) => rationalFromNumber(fields.number(name, 0));
  if (form === 'parallel') return { form, Kp: number('Kp'), Ki: number('Ki'), Kd: number('Kd') };
  if (fields.has('Ti') && fields.number('Ti') === 0)
    throw new Problem('query', 'Ti = 0 would integrate infinitely fast; leave it out for none.');
  return { form, Kp: number('Kp'), Ti: fields.has('Ti') ? number('Ti') : null, Td: number('Td') };
}
