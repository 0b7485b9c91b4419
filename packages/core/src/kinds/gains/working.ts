import type { Model } from '../../checking/model.js';
import { isPid } from '../../exercise/controllers.js';
import { nameToLatex } from '../../expression/latex.js';
import { orElse, Problem } from '../../expression/problem.js';
import { parseFormula, systemFrom } from '../../formula/evaluate.js';
import { onDampingRay } from '../../locus/dampingRay.js';
import { stableGains } from '../../locus/stableRanges.js';
import { isOpen, openGains } from '../../loop/controller.js';
import type { QuantityName } from '../../quantity/names.js';
import { lowestTerms } from '../../rational/fraction.js';
import { secondOrderRules } from '../../system/secondOrderRules.js';
import { inSeries, type Transfer, withDeadTime } from '../../system/transfer.js';
import { lagForError, leadForMargin } from '../../working/fromMargins.js';
import { leadDesign, matchedDesign, type Specifications, tunedDesign } from '../../working/fromSpecifications.js';
import { gainStep, rangeSteps } from '../../working/onLocus.js';
import { complexLatex, line, numeral, type WorkingStep } from '../../working/step.js';
import { systemSteps } from '../../working/systems.js';
import { boardOf } from '../board.js';
import { checkLoop, loopModelOf } from './check.js';
import type { GainsPart } from './part.js';

/**
 * A first guess as on the board: the stable range of a single gain, or poles from the specifications and gains from the
 * poles; then what the nails say of it.
 */
export function gainsWorking(part: GainsPart, model: Model): WorkingStep[] {
  const board = boardOf(model);
  const known = new Set<string>();
  const formulas = [part.plant, ...(part.sensor === undefined ? [] : [part.sensor])];
  const systems = formulas.flatMap((text) => systemSteps(parseFormula(text), board, known));
  const plant = systemFrom(part.plant, model.scope);
  const loop = part.sensor === undefined ? plant : inSeries(plant, systemFrom(part.sensor, model.scope));
  const wanted = specificationsOf(part);
  const design = orElse(undefined, () => (wanted && bySpecifications(part, loop, wanted)) ?? byMargins(part, loop));
  if (design) return [...systems, ...design.steps, ...judged(part, model, design)];
  return [...systems, ...(openGains(part.controller).length === 1 ? singleGain(part, loop, wanted) : [])];
}

/** What was worked out: settings as the student would type them. */
interface Found {
  readonly steps: readonly WorkingStep[];
  readonly settings: Readonly<Record<string, number>>;
  /** What the loop does with them, where that was told. */
  readonly outcome: readonly string[];
}

/** The limit of the nail on a quantity. */
function limitOf({ nails }: GainsPart, name: QuantityName, relation: 'atMost' | 'atLeast'): number | undefined {
  const nail = nails.find((each) => 'quantity' in each && each.quantity === name && each.relation === relation);
  return nail && 'limit' in nail ? nail.limit : undefined;
}

/** Overshoot and a time, where nails ask for both. */
function specificationsOf(part: GainsPart): Specifications | undefined {
  const overshoot = limitOf(part, 'overshootPercent', 'atMost');
  if (overshoot === undefined) return undefined;
  for (const which of ['settlingTime', 'peakTime', 'riseTime'] as const) {
    const time = limitOf(part, which, 'atMost');
    if (time !== undefined && time > 0) return { overshootPercent: Math.max(overshoot, 1), time, which };
  }
  return undefined;
}

/** @throws Problem where the form of the controller allows no such design. */
function bySpecifications(part: GainsPart, loop: Transfer, wanted: Specifications): Found | undefined {
  const { controller, limits, sensor } = part;
  if (limits || sensor !== undefined) return undefined;
  if (!isPid(controller)) {
    if (!hasStage(part)) return undefined;
    const { numbers, steps, outcome } = leadDesign(loop, wanted);
    const { K = NaN, z = NaN, p = NaN } = numbers;
    return { steps, outcome, settings: stageSettings(controller.form, { K, z, p }) };
  }
  if (controller.form !== 'parallel' || !controller.gains.every(isOpen)) return undefined;
  const { numbers, steps, outcome } = matchedDesign(loop, controller.terms, wanted);
  return { steps, outcome, settings: numbers };
}

/** From a margin or an error: a stage of a compensator, or a tuned start of a controller. @throws Problem where none is found. */
function byMargins(part: GainsPart, loop: Transfer): Found | undefined {
  const { controller } = part;
  if (isPid(controller)) {
    if (controller.terms === 'P' || controller.terms === 'PD' || !controller.gains.every(isOpen)) return undefined;
    const { numbers, steps } = tunedDesign(loop, controller.terms, usualPeak);
    const { Kp = NaN, Ki = NaN, Kd = 0 } = numbers;
    const times = { Kp, Ti: Kp / Ki, ...(controller.terms === 'PID' ? { Td: Kd / Kp } : {}) };
    const settings = controller.form === 'parallel' ? numbers : times;
    const told = Object.entries(settings).map(([name, value]) => `${nameToLatex(name)}=${numeral(value)}`);
    return { steps: [...steps, line('That is with', told.join(',\\quad '))], outcome: [], settings };
  }
  if (!hasStage(part)) return undefined;
  const error = limitOf(part, 'rampError', 'atMost');
  const margin = limitOf(part, 'phaseMargin', 'atLeast');
  const crossover = limitOf(part, 'gainCrossover', 'atLeast');
  const stage =
    error !== undefined && error > 0
      ? lagForError(loop, 'velocityConstant', spare / error)
      : margin === undefined
        ? undefined
        : leadForMargin(loop, margin, crossover && spare * crossover);
  return stage && { steps: stage.steps, outcome: [], settings: stageSettings(controller.form, stage) };
}

const usualPeak = 1.6;
/** A limit is met with a little to spare, as numbers are rounded when they are typed. */
const spare = 1.01;

const hasStage = ({ controller }: GainsPart): boolean =>
  ['K', 'z1', 'p1'].every((name) => controller.gains.some((gain) => isOpen(gain) && gain.name === name));

/** K·(s + z)/(s + p) as the settings of a compensator: zeros and poles as places, K by its form. */
const stageSettings = (form: 'factors' | 'corners', { K, z, p }: { K: number; z: number; p: number }) => ({
  K: form === 'corners' ? (K * z) / p : K,
  z1: -z,
  p1: -p,
});

/** What the nails say of the settings that were worked out. */
function judged(part: GainsPart, model: Model, { settings: numbers, outcome }: Found): WorkingStep[] {
  const settings = Object.fromEntries(
    Object.entries(numbers).map(([name, value]) => [name, String(Number(value.toPrecision(6)))]),
  );
  const loopModel = loopModelOf(part, model);
  const verdict = orElse(null, () => checkLoop(part, loopModel, loopModel.loopWith(settings)));
  if (verdict?.met) return [line('With these every nail holds.', '')];
  const missed = verdict?.items.filter(({ met }) => !met).map(({ words }) => words) ?? [];
  return [
    ...(missed.length > 0 ? missed : outcome).map((words) => line(words, '')),
    line('The rules only begin it; from here nudge until every nail holds.', ''),
  ];
}

/** One gain: with which the loop is stable, and with which its slowest pair has the damping that is asked for. */
function singleGain(part: GainsPart, loop: Transfer, wanted: Specifications | undefined): WorkingStep[] {
  const plain = withDeadTime(loop);
  const [gain] = openGains(part.controller);
  if (plain?.deadTime.numerator !== 0n || !gain) return [];
  if (isPid(part.controller) ? part.controller.terms !== 'P' : part.controller.gains.length > 1) return [];
  const fraction = lowestTerms(plain.fraction);
  const overshoot = wanted?.overshootPercent ?? limitOf(part, 'overshootPercent', 'atMost');
  return orElse<WorkingStep[], WorkingStep[]>([], () => {
    const steps = rangeSteps(fraction, 0, stableGains(fraction));
    if (overshoot === undefined || overshoot <= 0 || overshoot >= 100) return steps;
    const zeta = secondOrderRules.dampingFor(overshoot);
    const point = onDampingRay(fraction, zeta)[0];
    if (!point) throw new Problem('notPossible', 'No pole has this damping.');
    return [
      ...steps,
      line(
        `An overshoot of ${String(overshoot)} % asks for about the damping ratio`,
        `\\zeta=\\frac{-\\ln(M_p/100)}{\\sqrt{\\pi^2+\\ln^2(M_p/100)}}=${numeral(zeta)}`,
      ),
      line('The ray of this damping meets the locus at', `s_1=${complexLatex(point)}`),
      gainStep(fraction, point).step,
      line('Up to about there the overshoot holds; the nails decide.', ''),
    ];
  });
}
