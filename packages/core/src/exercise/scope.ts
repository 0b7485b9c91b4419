import { Problem } from '../expression/problem.js';
import { type Condition, holds, readCondition } from '../formula/condition.js';
import type { Scope } from '../formula/evaluate.js';
import type { Bindings } from '../rational/fraction.js';
import { type Rational, rationalFromDecimal } from '../rational/number.js';
import type { Transfer } from '../system/transfer.js';
import { constantTransfer } from '../system/transferAlgebra.js';
import type { DrawValues, ExerciseDocument } from './document.js';
import { flowOf, systemOfForm } from './systems.js';

/** What formulas need of a document. */
export type Model = Pick<ExerciseDocument, 'systems'>;

/** The values as exact numbers, for expressions. @throws SyntaxError for a text that is not a decimal. */
export function bindingsOf(values: DrawValues): Bindings {
  return new Map<string, Rational>(Object.entries(values).map(([symbol, text]) => [symbol, rationalFromDecimal(text)]));
}

/** The symbols of parameters whose values students are not told. */
export const hiddenIn = (parameters: ExerciseDocument['parameters'] = []): ReadonlySet<string> =>
  new Set(parameters.filter(({ hidden }) => hidden).map(({ symbol }) => symbol));

/** The parameters alone. */
export function parametersOf(values: DrawValues): Scope {
  return { names: new Map([...bindingsOf(values)].map(([symbol, value]) => [symbol, constantTransfer(value)])) };
}

/**
 * One student's model: parameters and systems by name, and transfer functions between signals of its equations.
 * Systems may use those above them.
 * @throws Problem naming the system that cannot be worked out.
 */
export function scopeOf({ systems }: Model, values: DrawValues): Scope {
  const names = new Map<string, Transfer>(parametersOf(values).names);
  const flows: ((from: string, to: string) => Transfer | undefined)[] = [];
  for (const { name, form } of systems) {
    const before = { names, between: among(flows) };
    try {
      if (form.kind === 'equations') {
        const flow = flowOf(form, before);
        // With letters left it is for parts about diagrams alone.
        if (!flow) continue;
        flows.push(flow);
        names.set(name, flow(form.from, form.to) ?? unknownSignals(form));
      } else {
        names.set(name, systemOfForm(form, before));
      }
    } catch (error) {
      if (error instanceof Problem) throw new Problem(error.code, `${name}: ${error.message}`, error.at);
      throw error;
    }
  }
  return { names, between: among(flows) };
}

function unknownSignals({ from, to }: { from: string; to: string }): never {
  throw new Problem('signal', `The equations have no signals ${from} and ${to}.`);
}

function among(flows: readonly ((from: string, to: string) => Transfer | undefined)[]): NonNullable<Scope['between']> {
  return (from, to) => {
    for (const flow of flows) {
      const transfer = flow(from, to);
      if (transfer) return transfer;
    }
    return undefined;
  };
}

/** Whether a student's numbers meet every guard. @throws Problem when a guard cannot be read or worked out. */
export function meetsGuards(document: Model & Pick<ExerciseDocument, 'guards'>, values: DrawValues): boolean {
  if (document.guards.length === 0) return true;
  const scope = scopeOf(document, values);
  return document.guards.every((guard) => holds(conditionOf(guard), scope));
}

const read = new Map<string, Condition>();

/** Conditions are read once; they are asked for every draw. */
function conditionOf(text: string): Condition {
  const known = read.get(text);
  if (known) return known;
  const condition = readCondition(text);
  if (read.size > 500) read.clear();
  read.set(text, condition);
  return condition;
}
