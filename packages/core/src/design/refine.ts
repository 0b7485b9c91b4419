import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Problem } from '../expression/problem.js';
import { type FrequencyCurve, misfitOfTerms, modelOfTerms, responseOfTerms, turned } from '../frequency/terms.js';

/** 360/2π dB of level counts as much as a degree of phase does: one neper as much as one radian. */
const phaseWeight = ((20 / Math.LN10) * Math.PI) / 180;

const startDampings = [null, 0.05, 0.3, 0.7];

/**
 * The same terms with numbers nearer to a curve; poles at the origin stay as many. Method: Levenberg and Marquardt, on
 * the logarithms of what must stay positive and on the log odds of damping ratios, from the numbers as they are and from
 * other dampings. Four digits are kept.
 * @throws Problem `exercise` for terms that cannot be read, `notPossible` when nothing comes of it.
 */
export function refineTerms(numbers: Readonly<Record<string, number>>, curve: FrequencyCurve): Record<string, number> {
  const distance = (of: Readonly<Record<string, number>>): number => {
    const { db, degrees } = misfitOfTerms(modelOfTerms(of), curve);
    return Math.hypot(db, phaseWeight * (degrees ?? 0));
  };
  const hasPairs = Object.keys(numbers).some((name) => name.startsWith('d'));
  let best = { terms: numbers, off: distance(numbers) };
  for (const damping of hasPairs ? startDampings : [null]) {
    const start = Object.fromEntries(
      Object.entries(numbers).map(([name, value]) => [name, name.startsWith('d') ? (damping ?? value) : value]),
    );
    const better = leastSquares(start, curve);
    const off = better ? distance(better) : Infinity;
    if (better && off < best.off) best = { terms: better, off };
  }
  if (best.terms === numbers) {
    throw new Problem('notPossible', 'These terms do not come nearer to the points; move one by hand, or add one.');
  }
  return { ...best.terms };
}

/** One run from a start; null when it leads nowhere. */
function leastSquares(
  numbers: Readonly<Record<string, number>>,
  { omegas, magnitudesDb, phasesDegrees }: FrequencyCurve,
): Record<string, number> | null {
  const names = Object.keys(numbers).filter((name) => name !== 'n' && numbers[name]! > 0);
  const targets = [...magnitudesDb, ...(phasesDegrees ?? []).map((angle) => angle * phaseWeight)];
  const free = (name: string): number => {
    const value = numbers[name]!;
    return name.startsWith('d') ? Math.log(value / Math.max(1e-6, 1 - value)) : Math.log(value);
  };
  const at = (from: readonly number[]): Record<string, number> => ({
    ...numbers,
    ...Object.fromEntries(
      names.map((name, k) => {
        const value = Math.exp(Math.min(46, Math.max(-46, from[k]!)));
        return [name, name.startsWith('d') ? value / (1 + value) : value];
      }),
    ),
  });
  const { parameterValues } = levenbergMarquardt(
    { x: targets.map((_, k) => k), y: targets },
    (from: number[]) => {
      const model = modelOfTerms(at(from));
      return (k) => {
        const here = responseOfTerms(model, omegas[k % omegas.length]!);
        if (k < omegas.length) return here.db;
        const angle = phasesDegrees![k - omegas.length]!;
        return phaseWeight * (angle + turned(here.degrees - angle));
      };
    },
    {
      initialValues: names.map(free),
      gradientDifference: 1e-5,
      centralDifference: true,
      damping: 1e-2,
      maxIterations: 100,
      errorTolerance: 1e-20,
      improvementThreshold: 1e-9,
    },
  );
  if (parameterValues.some((value) => !Number.isFinite(value))) return null;
  const short = (value: number): number => Number(value.toPrecision(4));
  return Object.fromEntries(Object.entries(at(parameterValues)).map(([name, value]) => [name, short(value)]));
}
