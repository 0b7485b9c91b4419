import { symbolsOf } from '../diagram/blocks.js';
import { mentions, readWith } from '../diagram/exact.js';
import { signalFlow, transferBetween } from '../diagram/reduce.js';
import { must } from '../expression/must.js';
import { Problem } from '../expression/problem.js';
import { exactNumberFrom, type Scope, systemFrom } from '../formula/evaluate.js';
import type { Matrix } from '../rational/matrix.js';
import { fittingStates, onlyFractionOf } from '../system/stateSpace.js';
import { fractionToText } from '../system/text.js';
import { delayed, type Transfer, transferFromSymbolic, withDeadTime } from '../system/transfer.js';
import type { NamedSystem, SystemForm } from './given.js';

type FormOf<Kind extends SystemForm['kind']> = Extract<SystemForm, { kind: Kind }>;
type Written = Exclude<SystemForm, { kind: 'states' | 'equations' }>;

const inside = (text: string): string => `(${text})`;

/** The form written out as one formula. @throws Problem when a field is missing. */
export function formulaOfForm(form: Written): string {
  switch (form.kind) {
    case 'expression':
      return form.text;
    case 'coefficients': {
      const delay = form.deadTime === undefined ? '' : `*exp(-(${form.deadTime})*s)`;
      return `${polynomialText(form.numerator)}/${polynomialText(form.denominator)}${delay}`;
    }
    case 'zerosPoles':
      return `${inside(form.gain)}*${rootsText(form.zeros)}/${rootsText(form.poles)}`;
    case 'secondOrder':
      return secondOrderText(form);
  }
}

function polynomialText(coefficients: readonly string[]): string {
  const highest = coefficients.length - 1;
  return inside(coefficients.map((c, k) => `${inside(c)}*s^${highest - k}`).join(' + '));
}

function rootsText(places: FormOf<'zerosPoles'>['zeros']): string {
  const factors = places.map(({ re, im }) => {
    const linear = `(s - (${re}))`;
    return im === undefined || im.trim() === '0' ? linear : `(${linear}^2 + (${im})^2)`;
  });
  return factors.length === 0 ? '1' : inside(factors.join('*'));
}

function secondOrderText({ gain, dampingRatio, naturalFrequency, timeConstant }: FormOf<'secondOrder'>): string {
  if (naturalFrequency !== undefined) {
    const w = inside(naturalFrequency);
    return `${inside(gain)}*${w}^2/(s^2 + 2*${inside(dampingRatio)}*${w}*s + ${w}^2)`;
  }
  if (timeConstant === undefined) {
    throw new Problem('exercise', 'A second-order system needs its natural frequency or its time constant.');
  }
  const tau = inside(timeConstant);
  return `${inside(gain)}/(${tau}^2*s^2 + 2*${inside(dampingRatio)}*${tau}*s + 1)`;
}

/** The transfer function of a form with the names' values. @throws Problem where a formula or matrix cannot be used. */
export function systemOfForm(form: SystemForm, scope: Scope): Transfer {
  if (form.kind === 'equations') {
    const flow = flowOf(form, scope);
    if (!flow) throw new Problem('unknownName', 'These equations have letters without a value.');
    return must(flow(form.from, form.to));
  }
  if (form.kind !== 'states') return systemFrom(formulaOfForm(form), scope);
  const numbers = (rows: readonly (readonly string[])[]): Matrix =>
    rows.map((row) => row.map((entry) => exactNumberFrom(entry, scope)));
  const states = { a: numbers(form.a), b: numbers(form.b), c: numbers(form.c), d: numbers(form.d) };
  return delayed(onlyFractionOf(fittingStates(states)));
}

/** Transfer functions between signals; undefined for names that are no signals. */
export type Between = (from: string, to: string) => Transfer | undefined;

/** Those of a model in equations; undefined when letters without a value are left in it. */
export function flowOf(form: FormOf<'equations'>, scope: Scope): Between | undefined {
  const known = Object.fromEntries(
    [...scope.names].flatMap(([name, value]) => (mentions(form.text, name) ? [[name, textOf(value)]] : [])),
  );
  const diagram = readWith(form.text, known, [form.from]);
  if (symbolsOf(diagram).length > 0) return undefined;
  const flow = signalFlow(diagram);
  const names = new Set([...diagram.signals, ...diagram.inputs]);
  return (from, to) => {
    if (!names.has(from) || !names.has(to)) return undefined;
    return transferFromSymbolic(transferBetween(flow, from, to), flow.field.deadTimes);
  };
}

/** A transfer function as text that can be typed again. @throws Problem `deadTime` when dead time is inside a loop. */
export function textOf(transfer: Transfer): string {
  const plain = withDeadTime(transfer);
  if (!plain) throw new Problem('deadTime', 'A loop with dead time inside cannot be written as one fraction here.');
  const fraction = `(${fractionToText(plain.fraction)})`;
  if (plain.deadTime.numerator === 0n) return fraction;
  return `${fraction}*exp(-(${plain.deadTime.numerator}/${plain.deadTime.denominator})*s)`;
}

/** The equations of a part's system. @throws Problem for a system in another form and for signals it does not have. */
export function equationsOf(
  { systems }: { readonly systems: readonly NamedSystem[] },
  name: string,
  signals: readonly string[] = [],
): FormOf<'equations'> {
  const form = systems.find((system) => system.name === name)?.form;
  if (form?.kind !== 'equations') throw new Problem('exercise', `There is no system ${name} in signal equations.`);
  const missing = signals.find((signal) => !mentions(form.text, signal));
  if (missing) throw new Problem('signal', `The equations of ${name} have no signal ${missing}.`);
  return form;
}

/** What the letters of a diagram stand for, as text: the student's numbers, and systems with a value. */
export function knownLetters(scope: Scope): Record<string, string> {
  return Object.fromEntries([...scope.names].map(([name, value]) => [name, textOf(value)]));
}
