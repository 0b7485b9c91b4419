import { type Diagram, readEquations, splitEquations } from '../diagram/equations.js';
import { expressionsOf, signalFlow, transferBetween } from '../diagram/reduce.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { childrenOf, type Tree } from '../expression/tree.js';
import { evaluate, unknownName } from '../rational/evaluate.js';
import type { Fraction } from '../rational/fraction.js';
import { divideRational, rational, rationalFromNumber } from '../rational/number.js';
import type { Polynomial } from '../rational/polynomial.js';
import { type Field, fieldsFor, type SymbolicFraction } from '../symbolic/fraction.js';
import { isNothing, scaled, type SymbolicPolynomial, symbolPower } from '../symbolic/polynomial.js';
import { fractionFromCoefficients, fractionFromRoots, standardSecondOrder } from '../system/forms.js';
import { fractionOfStates, onlyFractionOf, stateSpaceOf } from '../system/stateSpace.js';
import { delayed, type Transfer, transferFromSymbolic, withDeadTime } from '../system/transfer.js';
import { isObject, Query } from './query.js';

/** A system as a query gives it. */
export type GivenSystem =
  | { readonly kind: 'expression'; readonly tree: Tree }
  | { readonly kind: 'equations'; readonly diagram: Diagram; readonly from: string; readonly to: string }
  | { readonly kind: 'numbers'; readonly transfer: Transfer };

/** Reads a system in any of its forms. @throws Problem with the position in the typed text. */
export function readSystem(query: Query, name = 'system'): GivenSystem {
  const given = query.value(name);
  if (typeof given === 'string') return { kind: 'expression', tree: parse(given) };
  if (!isObject(given)) {
    throw new Problem('query', `“${name}” must be an expression in s or an object that describes a system.`);
  }
  const fields = new Query(given, `${name}.`);
  const system = fields.has('equations') ? equationsIn(fields) : numbersIn(fields, name);
  fields.finish();
  return system;
}

function equationsIn(fields: Query): GivenSystem {
  const given = fields.value('equations');
  const text = typeof given === 'string' ? splitEquations(given) : { equations: fields.texts('equations'), where: {} };
  const where = { ...text.where, ...fields.bindings('where') };
  const from = fields.text('from');
  return { kind: 'equations', diagram: readEquations(text.equations, where, [from]), from, to: fields.text('to') };
}

function numbersIn(fields: Query, name: string): GivenSystem {
  const deadTime = fields.number('deadTime', 0);
  if (deadTime < 0) throw new Problem('deadTime', 'A dead time cannot be negative.');
  return { kind: 'numbers', transfer: delayed(fractionIn(fields, name), rationalFromNumber(deadTime)) };
}

function fractionIn(fields: Query, name: string): Fraction {
  if (fields.has('denominator')) {
    return fractionFromCoefficients(fields.numbers('numerator', 60), fields.numbers('denominator', 60));
  }
  if (fields.has('a')) {
    const states = statesIn(fields);
    // Several inputs or outputs: the query says which.
    if (!fields.has('input') && !fields.has('output')) return onlyFractionOf(states);
    return fractionOfStates(states, fields.whole('input', 0), fields.whole('output', 0));
  }
  if (fields.has('dampingRatio')) {
    const frequency = fields.has('timeConstant')
      ? divideRational(rational(1n), rationalFromNumber(positive(fields, 'timeConstant')))
      : rationalFromNumber(positive(fields, 'naturalFrequency'));
    return standardSecondOrder(fields.number('gain', 1), fields.number('dampingRatio'), frequency);
  }
  if (fields.has('poles')) {
    const zeros = fields.has('zeros') ? fields.points('zeros') : [];
    return fractionFromRoots(fields.number('gain', 1), zeros, fields.points('poles'));
  }
  throw new Problem(
    'query',
    `“${name}” describes no system: give equations, numerator and denominator, gain, zeros and poles, gain, dampingRatio and naturalFrequency (or timeConstant), or a, b, c and d.`,
  );
}

/** A number above zero. @throws Problem `query`. */
export function positive(fields: Query, name: string): number {
  const value = fields.number(name);
  if (!(value > 0)) throw new Problem('query', `“${name}” must be more than 0.`);
  return value;
}

/** State matrices of a query; D is zero unless given. */
export function statesIn(fields: Query) {
  const [a, b, c] = [fields.matrix('a'), fields.matrix('b'), fields.matrix('c')];
  const d = fields.has('d') ? fields.matrix('d') : c.map(() => (b[0] ?? []).map(() => 0));
  return stateSpaceOf({ a, b, c, d });
}

/** The systems as fractions of one ring, unbound names kept as symbols. */
export function toSymbolic(systems: readonly GivenSystem[]): { fractions: SymbolicFraction[]; fields: Field[] } {
  const fields = fieldsFor(
    systems.map((system) =>
      system.kind === 'equations'
        ? expressionsOf(system.diagram)
        : { trees: system.kind === 'expression' ? [system.tree] : [], definitions: new Map() },
    ),
  );
  const fractions = systems.map((system, k): SymbolicFraction => {
    const field = fields[k]!;
    if (system.kind === 'expression') return evaluate(system.tree, field.algebra);
    if (system.kind === 'equations') return transferBetween(signalFlow(system.diagram, field), system.from, system.to);
    const plain = withDeadTime(system.transfer)!;
    if (plain.deadTime.numerator !== 0n) {
      throw new Problem('deadTime', 'For this, type the dead time as a factor exp(-T*s) of an expression.');
    }
    const asTerms = (p: Polynomial): SymbolicPolynomial => ({
      ring: field.ring,
      terms: new Map(p.integers.flatMap((c, power) => (c === 0n ? [] : [[keyOfPower(field, power), c] as const]))),
    });
    const { numerator, denominator } = plain.fraction;
    return {
      numerator: scaled(asTerms(numerator), denominator.denominator),
      denominator: scaled(asTerms(denominator), numerator.denominator),
    };
  });
  return { fractions, fields };
}

const keyOfPower = ({ ring }: Field, power: number): string => [...symbolPower(ring, 0, power).terms.keys()][0]!;

/** The system with numbers for every name. @throws Problem `unknownName` with the position of a name without a value. */
export function toTransfer(system: GivenSystem): Transfer {
  if (system.kind === 'numbers') return system.transfer;
  if (system.kind === 'expression') refuseNames(system.tree);
  const { fractions, fields } = toSymbolic([system]);
  if (isNothing(fractions[0]!.denominator)) throw new Problem('divisionByZero', 'What stands below the line is zero.');
  return transferFromSymbolic(fractions[0]!, fields[0]!.deadTimes);
}

function refuseNames(tree: Tree): void {
  if (tree.kind === 'name' && tree.name !== 's') throw unknownName(tree.name, tree.at, []);
  childrenOf(tree).forEach(refuseNames);
}

/** A whole query's own system, with numbers. */
export const transferIn = (query: Query, name = 'system'): Transfer => toTransfer(readSystem(query, name));
