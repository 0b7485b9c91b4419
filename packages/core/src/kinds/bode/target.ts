import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { frequencyFunction } from '../../frequency/bode.js';
import type { FrequencyTable } from './part.js';
import type { BodePart } from './part.js';

const points = 61;

/** The frequency response that a model is to follow. @throws Problem for a system or a table that cannot be read. */
export function frequencyTarget({ target }: Pick<BodePart, 'target'>, scope: Scope): FrequencyTable {
  if (!('system' in target)) {
    const { omegas, magnitudesDb, phasesDegrees } = target;
    const lengths = [magnitudesDb, ...(phasesDegrees ? [phasesDegrees] : [])].map(({ length }) => length);
    if (
      lengths.some((length) => length !== omegas.length) ||
      omegas.some((w, k) => k > 0 && !(w > must(omegas[k - 1])))
    ) {
      throw new Problem('exercise', 'The table needs rising frequencies and as many values of each column.');
    }
    return target;
  }
  const { system, from, to } = target;
  if (!(from < to)) throw new Problem('exercise', 'The frequencies must go from a lower to a higher one.');
  const response = frequencyFunction(systemFrom(system, scope));
  const omegas = Array.from({ length: points }, (_, k) =>
    Number((from * (to / from) ** (k / (points - 1))).toPrecision(5)),
  );
  const short = (value: number): number => Number(value.toFixed(3));
  const magnitudesDb = omegas.map((omega) => short((20 / Math.LN10) * response.logMagnitude(omega)));
  const phasesDegrees = omegas.map((omega) => short((180 / Math.PI) * response.phase(omega)));
  if (![...magnitudesDb, ...phasesDegrees].every(Number.isFinite)) {
    throw new Problem('exercise', 'A pole or zero on the imaginary axis lies on one of the frequencies.');
  }
  return { name: 'given', omegas, magnitudesDb, phasesDegrees };
}
