import { symbolsOf } from '../diagram/blocks.js';
import { mentions, readWith } from '../diagram/exact.js';
import { signalFlow, transferBetween } from '../diagram/reduce.js';
import { textOf } from '../exercise/systems.js';
import { Problem } from '../expression/problem.js';
import { exactNumberFrom, type Scope, systemFrom } from '../formula/evaluate.js';
import type { Matrix } from '../rational/matrix.js';
import { rational, rationalToNumber } from '../rational/number.js';
import type { LimitedLoop, LimitedSignal } from '../response/limitedLoop.js';
import { controllerOf } from '../system/controller.js';
import { fittingStates, fractionOfStates, type StateSpace } from '../system/stateSpace.js';
import { asDelayedFraction, delayed, inSeries, type Transfer, transferFromSymbolic } from '../system/transfer.js';
import { constantTransfer, feedbackOf } from '../system/transferAlgebra.js';

/** A line with inputs and signals of its own: equations, which can be drawn, or state matrices. */
export interface Plant {
  readonly kind: 'equations' | 'states' | 'limited';
  readonly text: string;
  readonly inputs: readonly string[];
  readonly signals: readonly string[];
  /** What is looked at unless something else is asked for. */
  readonly usual: readonly string[];
  readonly states?: StateSpace;
  between(from: string, to: string): Transfer;
  /** The states with one signal as their only output. */
  statesTo(signal: string): StateSpace | undefined;
  /** Of a loop with limits: one signal, driven from its reference. */
  limitedTo?(signal: string): LimitedSystem;
}

/** A signal of a PID loop whose effort is limited; no transfer function says what it does. */
export interface LimitedSystem {
  readonly loop: Omit<LimitedLoop, 'reference' | 'disturbance' | 'horizon'>;
  readonly signal: LimitedSignal;
}

/** Whether a text is one of a plant, not of a formula. */
export const isPlant = (text: string): boolean => text.includes('=') || isStates.test(text) || isLimited.test(text);

const isStates = /^\s*states\s*\(/;
const isLimited = /^\s*limited\s*\(/;

/**
 * Reads equations such as `e = r - y; y = G*e`, states such as `states([0 1; -4 -1], [0; 4], [1 0], 0)`, or a PID loop
 * with a limited effort, `limited(G, Kp, Ki, Kd, low, high, tracking time, filter time)`, the times optional.
 * @throws Problem.
 */
export function plantOf(text: string, scope: Scope): Plant {
  if (isStates.test(text)) return statesPlant(text, scope);
  return isLimited.test(text) ? limitedPlant(text, scope) : equationsPlant(text, scope);
}

const limitedSignals = { y: 'output', u: 'effort', e: 'error' } as const;

function limitedPlant(text: string, scope: Scope): Plant {
  const [written = '', ...rest] = atTopLevel(text.slice(text.indexOf('(') + 1).replace(/\)\s*$/, ''), ',');
  if (rest.length < 5 || rest.length > 7) {
    throw new Problem(
      'query',
      'A loop with limits is written limited(G, Kp, Ki, Kd, low, high), then the time of the anti-windup and of the filter of Kd.',
    );
  }
  const plant = systemFrom(written, scope);
  const { fraction, deadTime } = asDelayedFraction(plant, 'A loop with limits');
  const exact = rest.map((each) => exactNumberFrom(each.trim(), scope));
  const [Kp = 0, Ki = 0, Kd = 0, low = 0, high = 0, tracking = 0, filterTime = 0] = exact.map(rationalToNumber);
  if (!(low < high)) throw new Problem('query', 'The lower limit lies below the upper one.');
  if (tracking < 0 || filterTime < 0) throw new Problem('query', 'Times are not negative.');
  if (Kd !== 0 && filterTime === 0) {
    throw new Problem('notPossible', 'A derivative needs its filter time: limited(G, Kp, Ki, Kd, low, high, 0, 0.05).');
  }
  const nought = rational(0n);
  const [p = nought, i = nought, d = nought] = exact;
  const controller = delayed(controllerOf({ Kp: p, Ki: i, Kd: d }, exact[6] ?? nought));
  const open = inSeries(controller, plant);
  const one = constantTransfer(rational(1n));
  // Within the limits it is the linear loop.
  const closed: Readonly<Record<string, Transfer>> = {
    y: feedbackOf(open, one),
    u: feedbackOf(controller, plant),
    e: feedbackOf(one, open),
  };
  return {
    ...{ kind: 'limited', text, inputs: ['r'], signals: ['y', 'u', 'e'], usual: ['y'] },
    between: (_from, to) => closed[to] ?? open,
    statesTo: () => undefined,
    limitedTo: (signal) => ({
      loop: {
        ...{ plant: fraction, deadTime },
        controller: { Kp, Ki, Kd, filterTime, limits: { low, high }, trackingTime: tracking > 0 ? tracking : null },
      },
      signal: limitedSignals[signal as keyof typeof limitedSignals],
    }),
  };
}

function equationsPlant(text: string, { names }: Scope): Plant {
  const known = Object.fromEntries(
    [...names].flatMap(([name, value]) => (mentions(text, name) ? [[name, textOf(value)]] : [])),
  );
  const diagram = readWith(text, known);
  const [letter] = symbolsOf(diagram);
  if (letter !== undefined) {
    throw new Problem('unknownName', `“${letter}” has no value: give it a line above, or write where ${letter} = 2.`);
  }
  if (diagram.inputs.length === 0) throw new Problem('signal', 'Nothing drives these equations: none names an input.');
  const flow = signalFlow(diagram);
  return {
    ...{ kind: 'equations', text },
    inputs: diagram.inputs,
    signals: diagram.signals,
    usual: diagram.signals.slice(-1),
    between: (from, to) => transferFromSymbolic(transferBetween(flow, from, to), flow.field.deadTimes),
    statesTo: () => undefined,
  };
}

function statesPlant(text: string, scope: Scope): Plant {
  const inside = text.slice(text.indexOf('(') + 1).replace(/\)\s*$/, '');
  const parts = atTopLevel(inside, ',');
  const [a, b, c, d] = parts.map((part) => matrixFrom(part, scope));
  if (!a || !b || !c || parts.length > 4) {
    throw new Problem('matrix', 'States are written states(A, B, C, D), as in states([0 1; -4 -1], [0; 4], [1 0], 0).');
  }
  const nought = rational(0n);
  const states = fittingStates({ a, b, c, d: d ?? c.map(() => (b[0] ?? []).map(() => nought)) });
  const numbered = (letter: string, count: number, always = false) =>
    count === 1 && !always ? [letter] : Array.from({ length: count }, (_, k) => `${letter}${k + 1}`);
  const inputs = numbered('u', states.d[0]?.length ?? 0);
  const outputs = numbered('y', states.c.length);
  const inner = numbered('x', states.a.length, true);
  const one = rational(1n);
  const statesTo = (signal: string): StateSpace => {
    const output = outputs.indexOf(signal);
    if (output >= 0) return { ...states, c: [states.c[output]!], d: [states.d[output]!] };
    const at = inner.indexOf(signal);
    return { ...states, c: [states.a.map((_, k) => (k === at ? one : nought))], d: [inputs.map(() => nought)] };
  };
  return {
    ...{ kind: 'states', text, inputs, states, statesTo },
    signals: [...outputs, ...inner],
    usual: outputs,
    between: (from, to) => delayed(fractionOfStates(statesTo(to), inputs.indexOf(from))),
  };
}

/** Rows between semicolons or on lines, entries between commas or blanks; a number is a matrix of one. */
function matrixFrom(text: string, scope: Scope): Matrix {
  const inside = /^\s*\[([\s\S]*)\]\s*$/.exec(text)?.[1] ?? text;
  return inside
    .split(/[;\n]/)
    .filter((row) => row.trim())
    .map((row) => {
      const entries = row.includes(',') ? atTopLevel(row, ',') : row.trim().split(/\s+/);
      return entries.map((entry) => exactNumberFrom(entry.trim(), scope));
    });
}

/** A text parted where the letter stands outside of brackets. */
function atTopLevel(text: string, letter: string): string[] {
  const parts = [''];
  let depth = 0;
  for (const each of text) {
    if ('([{'.includes(each)) depth += 1;
    if (')]}'.includes(each)) depth -= 1;
    if (each === letter && depth === 0) parts.push('');
    else parts[parts.length - 1] += each;
  }
  return parts;
}
