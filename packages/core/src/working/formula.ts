import { orElse } from '../expression/problem.js';
import { childrenOf, type Tree, withChildren } from '../expression/tree.js';
import { numberFrom, systemFrom } from '../formula/evaluate.js';
import { functions } from '../formula/functions.js';
import { quantities } from '../quantity/index.js';
import { type QuantityName, quantityNames } from '../quantity/names.js';
import { workedOnLocus } from './onLocus.js';
import { workedOnLoop } from './onLoop.js';
import { workedOnPoles } from './onPoles.js';
import { workedOnResponse } from './onResponse.js';
import { line, numeral, type Worked, type WorkingStep } from './step.js';
import { type Board, lettersGiven, spokenLatex, systemSteps } from './systems.js';

type Call = Extract<Tree, { kind: 'call' }>;

/**
 * The way to the number of a formula: the systems, what is read off them one after the other, then the rest of the
 * calculation. @throws Problem as `numberFrom`.
 */
export function workedNumber(tree: Tree, board: Board): Worked {
  const known = new Set<string>();
  const steps: WorkingStep[] = [];
  const values = new Map<Tree, number>();
  for (const call of callsOnSystems(tree)) {
    const of = call.of.slice(0, systemsOf(call));
    for (const system of of) steps.push(...systemSteps(system, board, known));
    const worked = readOff(call, board);
    steps.push(...worked.steps);
    values.set(call, worked.value);
  }
  if (values.has(tree)) return { steps, value: values.get(tree) ?? NaN };
  const value = numberFrom(tree, board.scope);
  const put = withNumbers(tree, values);
  const given = lettersGiven(put, board);
  const words = values.size > 0 ? 'So the answer is' : 'With the numbers';
  return {
    steps: [...steps, line(given ? `${words} (${given}):` : `${words}:`, `${spokenLatex(put)}=${numeral(value)}`)],
    value,
  };
}

const systemsOf = (call: Call): number => functions[call.name]?.systems ?? 0;

/** The outermost calls that read something off a system. */
function callsOnSystems(tree: Tree): Call[] {
  if (tree.kind === 'call' && systemsOf(tree) > 0 && tree.name !== 'closed') return [tree];
  return childrenOf(tree).flatMap(callsOnSystems);
}

/** The tree with what was read off in numbers. */
function withNumbers(tree: Tree, values: ReadonlyMap<Tree, number>): Tree {
  const value = values.get(tree);
  if (value === undefined)
    return withChildren(
      tree,
      childrenOf(tree).map((child) => withNumbers(child, values)),
    );
  const { at } = tree;
  const number: Tree = { kind: 'number', text: String(Number(Math.abs(value).toPrecision(5))), at };
  return value < 0 ? { kind: 'negative', of: number, at } : number;
}

const isQuantity = (name: string): name is QuantityName => (quantityNames as readonly string[]).includes(name);

/** What one call reads off its system, by whichever way is known; told as it is where none is. */
function readOff(call: Call, { scope }: Board): Worked {
  const value = numberFrom(call, scope);
  const numbers = call.of.slice(systemsOf(call)).map((each) => numberFrom(each, scope));
  const worked = orElse(null, () => {
    const [first] = call.of;
    if (!first) return null;
    const transfer = systemFrom(first, scope);
    if (!isQuantity(call.name)) return workedOnLocus(call.name, transfer, numbers);
    return (
      workedOnPoles(call.name, transfer) ?? workedOnResponse(call.name, transfer) ?? workedOnLoop(call.name, transfer)
    );
  });
  // A way that leads elsewhere is none.
  if (worked && (worked.value === value || Math.abs(worked.value - value) <= 1e-6 * Math.abs(value) + 1e-9))
    return worked;
  const words = isQuantity(call.name)
    ? `${quantities[call.name].label}: ${quantities[call.name].definition}`
    : (functions[call.name]?.gives ?? '');
  return { steps: [line(words, `${spokenLatex(call)}=${numeral(value)}`)], value };
}
