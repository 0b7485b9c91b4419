import { closeShare } from '../../checking/close.js';
import type { Model } from '../../checking/model.js';
import { namedNumbers } from '../../checking/namedNumbers.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatNumber, withUnit } from '../../checking/words.js';
import { fitFraction } from '../../design/fit.js';
import { refineTerms } from '../../design/refine.js';
import type { Settings } from '../../exercise/answer.js';
import type { TermGroup } from '../../exercise/names.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { systemFrom } from '../../formula/evaluate.js';
import {
  type FrequencyCurve,
  misfitOfTerms,
  modelOfTerms,
  type TermModel,
  termSettings,
  termsOfSystem,
} from '../../frequency/terms.js';
import { decimalFrom } from '../../loop/controller.js';
import { lowestTerms } from '../../rational/fraction.js';
import { rationalToNumber } from '../../rational/number.js';
import { systemOf } from '../../system/system.js';
import { asDelayedFraction, withDeadTime } from '../../system/transfer.js';
import type { Checking } from '../kind.js';
import type { BodePart } from './part.js';
import { frequencyTarget } from './target.js';

const groupOf = (name: string): TermGroup | null => {
  if (name === 'K') return null;
  if (name === 'n') return 'origin';
  if (name === 'L') return 'deadTime';
  const isPole = name.includes('p');
  if (/^[wd]/.test(name)) return isPole ? 'polePairs' : 'zeroPairs';
  return isPole ? 'poles' : 'zeros';
};

/** The settings that a part's terms allow, in the order of its ladder. */
export const settingsOfTerms = ({ terms }: Pick<BodePart, 'terms'>): string[] =>
  termSettings.filter((name) => {
    const group = groupOf(name);
    return group === null || terms.includes(group);
  });

/** The numbers of a student's terms. @throws Problem for a name that is not allowed here, or no number. */
export function numbersOfTerms(part: Pick<BodePart, 'terms'>, settings: Settings): Record<string, number> {
  const allowed = settingsOfTerms(part);
  const other = Object.keys(settings).find((name) => !allowed.includes(name));
  if (other) throw new Problem('exercise', `There is no ${other} to set here.`);
  const numbers = Object.entries(settings).map(([name, text]) => [name, rationalToNumber(decimalFrom(text, name))]);
  return Object.fromEntries(numbers) as Record<string, number>;
}

/** Whether a model follows a curve, in words. */
export function bodeVerdict(
  part: Pick<BodePart, 'points' | 'misfitDb' | 'misfitDegrees'>,
  model: TermModel,
  curve: FrequencyCurve,
) {
  const misfit = misfitOfTerms(model, curve);
  const item = (id: string, label: string, unit: string, measured: number, limit: number, outOf: number) => {
    const met = measured <= limit * (1 + 1e-6);
    const start = `${label} off by ${withUnit(measured, unit)}, limit ${withUnit(limit, unit)}`;
    const words = met ? `${start}.` : `${start}: ${formatNumber(measured - limit)} too much.`;
    const close = Math.abs(measured - limit) <= closeShare * limit;
    const relation = 'atMost' as const;
    return {
      id,
      label: `${label} misfit`,
      unit,
      measured,
      limit,
      relation,
      met,
      close,
      points: met ? outOf : 0,
      outOf,
      words,
    };
  };
  const judged = part.misfitDegrees !== undefined && misfit.degrees !== null;
  const share = judged ? part.points / 2 : part.points;
  const items = [
    item('magnitude', 'Magnitude', 'dB', misfit.db, part.misfitDb, share),
    ...(judged ? [item('phase', 'Phase', '°', must(misfit.degrees), must(part.misfitDegrees), share)] : []),
  ];
  const missed = items.filter(({ met }) => !met);
  return verdictOf(items, missed.length === 0 ? 'The model follows.' : missed.map(({ words }) => words).join(' '));
}

/**
 * Terms that follow the target: those of its system, or of the fraction of least order that comes near the table; null
 * when none is found.
 */
export function suggestedTerms(part: BodePart, model: Model): Settings | null {
  const curve = frequencyTarget(part, model.scope);
  const allowed = settingsOfTerms(part);
  const isAllowed = (numbers: Record<string, number>): boolean =>
    Object.keys(numbers).every((name) => allowed.includes(name));
  const follows = (numbers: Record<string, number>): boolean => bodeVerdict(part, modelOfTerms(numbers), curve).met;
  const written = (numbers: Record<string, number>): Settings =>
    Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, String(Number(value.toPrecision(4)))]));
  if ('system' in part.target) {
    const plain = withDeadTime(systemFrom(part.target.system, model.scope));
    const exact = plain && termsOfSystem(systemOf(lowestTerms(plain.fraction)), rationalToNumber(plain.deadTime));
    return exact && isAllowed(exact) && follows(exact) ? written(exact) : null;
  }
  const { phasesDegrees } = part.target;
  if (!phasesDegrees) return null;
  for (let order = 1; order <= 5; order++) {
    for (let above = 0; above <= order; above++) {
      try {
        const { fraction } = asDelayedFraction(
          fitFraction({ ...part.target, phasesDegrees }, above, order).transfer,
          '',
        );
        const rough = termsOfSystem(systemOf(fraction));
        if (!rough || !isAllowed(rough)) continue;
        if (follows(rough)) return written(rough);
        // Far off, the structure is wrong; near, better numbers may be all that is missing.
        const isNear = misfitOfTerms(modelOfTerms(rough), curve).db < 4 * part.misfitDb;
        const terms = isNear ? refineTerms(rough, curve) : rough;
        if (follows(terms)) return written(terms);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
      }
    }
  }
  return null;
}

export const checking: Checking<'bode'> = {
  fromText: (part, text) => ({ kind: 'bode', terms: namedNumbers(settingsOfTerms(part), text) }),
  read(part, _model, { terms }) {
    modelOfTerms(numbersOfTerms(part, terms));
  },
  check: (part, { scope }, { terms }) =>
    bodeVerdict(part, modelOfTerms(numbersOfTerms(part, terms)), frequencyTarget(part, scope)),
  solution: () => null,
};
