import type { Settings } from '../exercise/answer.js';
import { isPid } from '../exercise/controllers.js';
import type { GainName } from '../exercise/names.js';
import { decimalIn, isEndless } from '../expression/decimal.js';
import { Problem } from '../expression/problem.js';
import { type Scope, systemFrom } from '../formula/evaluate.js';
import type { Controller, ControllerGain, PidController } from '../kinds/gains/part.js';
import type { Fraction } from '../rational/fraction.js';
import { type Rational, rational, rationalFromDecimal, rationalToNumber } from '../rational/number.js';
import { controllerOf, gainsOfForm, type PidForm, toParallel } from '../system/controller.js';
import { constantOf } from '../system/transferAlgebra.js';
import { compensatorFrom } from './compensator.js';

/** The gains that a controller of these terms has in this form, in the order in which people write them. */
export function gainsOf({ terms, form }: Pick<PidController, 'terms' | 'form'>): readonly GainName[] {
  if (form === 'parallel') return gainsOfForm[terms];
  const times: Record<PidController['terms'], readonly GainName[]> = {
    P: [],
    PI: ['Ti'],
    PD: ['Td'],
    PID: ['Ti', 'Td'],
  };
  return ['Kp', ...times[terms]];
}

export type OpenGain = Extract<ControllerGain, { start: number }>;
export const isOpen = (gain: ControllerGain): gain is OpenGain => 'start' in gain;

/** The gains that the student sets. */
export const openGains = ({ gains }: { readonly gains: readonly ControllerGain[] }): OpenGain[] => gains.filter(isOpen);

/**
 * The range of a ladder: as the exercise gives it; otherwise from zero to twelve coarse rungs beyond its start, on the
 * side where it starts, which keeps places of the s-plane in their half.
 */
export function ladderRange({
  start,
  coarse,
  low = start < 0 ? start - 12 * coarse : 0,
  high = start < 0 ? 0 : start + 12 * coarse,
}: Pick<OpenGain, 'start' | 'coarse'> & { readonly low?: number; readonly high?: number }): [
  low: number,
  high: number,
] {
  return [low, high];
}

/**
 * Refuses settings outside the ranges that an exercise gives.
 * @throws Problem `exercise` naming the first and its range.
 */
export function refuseOutside(
  ladders: readonly { readonly name: string; readonly low?: number | undefined; readonly high?: number | undefined }[],
  settings: Settings,
): void {
  for (const { name, low = -Infinity, high = Infinity } of ladders) {
    const text = (settings as Readonly<Record<string, string | undefined>>)[name];
    if (text === undefined || isEndless(text)) continue;
    const value = rationalToNumber(decimalFrom(text, name));
    if (value >= low && value <= high) continue;
    const range =
      low === -Infinity ? `at most ${high}` : high === Infinity ? `at least ${low}` : `from ${low} to ${high}`;
    throw new Problem(
      'exercise',
      `${name} = ${text.trim()} is outside what is allowed, ${range}.`.replaceAll('-', '−'),
    );
  }
}

/** Where the student starts, as typed: without what may be left out. */
export const startOf = (controller: { readonly gains: readonly ControllerGain[] }): Settings =>
  Object.fromEntries(
    openGains(controller)
      .filter(({ optional }) => !optional)
      .map(({ name, start }) => [name, String(start)]),
  );

/** A decimal as people type it. @throws Problem `notANumber` naming what it was typed for. */
export function decimalFrom(text: string | undefined, name: string): Rational {
  const typed = (text ?? '').trim();
  const decimal = decimalIn(typed);
  if (decimal === undefined) {
    throw new Problem('notANumber', typed ? `${name} must be a number; “${typed}” is not.` : `${name} is empty.`);
  }
  return rationalFromDecimal(decimal);
}

/** The three terms of a PID controller in parallel form. */
export interface PidGains {
  readonly Kp: Rational;
  readonly Ki: Rational;
  readonly Kd: Rational;
  readonly filterTime: Rational;
}

/** A controller with numbers. */
export interface SetController {
  /** By name, in the form of the exercise; Ti is null where nothing integrates. */
  readonly set: Readonly<Partial<Record<GainName, Rational | null>>>;
  /** Null for a compensator. */
  readonly pid: PidGains | null;
  readonly fraction: Fraction;
}

const none = rational(0n);
/**
 * The controller with a student's settings and what is given of it.
 * @throws Problem `notANumber` for a gain that is missing or no decimal number; `notPossible` for Ti = 0 and for a
 * compensator outside its limits.
 */
export function controllerFrom(controller: Controller, settings: Settings, scope: Scope): SetController {
  const set: Partial<Record<GainName, Rational | null>> = {};
  for (const gain of controller.gains) {
    if (!isOpen(gain)) set[gain.name] = exactNumber(gain.value, scope, gain.name);
    else if (gain.optional && settings[gain.name] === undefined) continue;
    else if (gain.name === 'Ti' && isEndless(settings['Ti'] ?? '')) set.Ti = null;
    else set[gain.name] = decimalFrom(settings[gain.name], gain.name);
  }
  if (!isPid(controller)) return { set, pid: null, fraction: compensatorFrom(controller, set) };
  const written = controller.filterTime === undefined ? none : exactNumber(controller.filterTime, scope, 'The filter');
  const { Kp, Ki, Kd } = toParallel(asPid(controller.form, set), written);
  const fraction = controllerOf({ Kp, Ki, Kd }, Kd.numerator === 0n ? none : written);
  return { set, pid: { Kp, Ki, Kd, filterTime: written }, fraction };
}

function asPid(form: PidController['form'], set: Partial<Record<GainName, Rational | null>>): PidForm {
  const Kp = set.Kp ?? none;
  if (form === 'parallel') return { form, Kp, Ki: set.Ki ?? none, Kd: set.Kd ?? none };
  return { form, Kp, Ti: set.Ti ?? null, Td: set.Td ?? none };
}

function exactNumber(formula: string, scope: Scope, name: string): Rational {
  const value = constantOf(systemFrom(formula, scope));
  if (!value) throw new Problem('notANumber', `${name} depends on s; a number is needed.`);
  return value;
}
