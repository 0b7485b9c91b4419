import { mentions } from '../diagram/exact.js';
import { must } from '../expression/must.js';
import { orProblem, Problem } from '../expression/problem.js';
import { namesIn } from '../expression/tree.js';
import { parseFormula, type Scope, systemFrom } from '../formula/evaluate.js';
import { functions } from '../formula/functions.js';
import { rationalToNumber } from '../rational/number.js';
import type { StateSpace } from '../system/stateSpace.js';
import type { Transfer } from '../system/transfer.js';
import { constantOf } from '../system/transferAlgebra.js';
import { withCoefficients } from './coefficients.js';
import { isPlant, type LimitedSystem, type Plant, plantOf } from './plant.js';
import { sheetLimits, type SheetLine } from './sheet.js';

/** A system, or one of several where it depends on a name with several values. */
export interface Member {
  /** As in `T = −1`; empty for a system that is one. */
  readonly words: string;
  readonly transfer: Transfer;
  /** Of a system with inputs of its own that are driven together: what each of them does alone. */
  readonly parts?: readonly { readonly input: string; readonly transfer: Transfer }[];
  /** Where it was given by its states. */
  readonly states?: StateSpace;
  /** Of a loop with limits; its transfer is that of the loop within them. */
  readonly limited?: LimitedSystem;
}

/** What was understood of a line. */
export type ReadLine =
  | { readonly kind: 'empty' }
  | { readonly kind: 'problem'; readonly problem: Problem }
  | { readonly kind: 'numbers'; readonly values: readonly number[] }
  /** `over` is the name with several values that it depends on. */
  | {
      readonly kind: 'system';
      readonly over: string | null;
      readonly members: readonly Member[];
      /** Of a line in equations or states: what can be driven and looked at, and what is. */
      readonly plant?: Plant & { readonly from: string; readonly probes: readonly string[] };
    };

/** What a name of the lines above stands for: one system or number, or one for each value of `over`. */
interface Known {
  readonly over: string | null;
  readonly of: readonly Transfer[];
  /** The names above that it was made of. */
  readonly uses: readonly string[];
}

/** The numbers of a sheet by name, for functions of time; of several values the first. */
export const numbersOf = (lines: readonly SheetLine[], read: readonly ReadLine[]): Map<string, number> =>
  new Map(
    lines.flatMap(({ name }, k) => {
      const line = read[k];
      return line?.kind === 'numbers' && line.values[0] !== undefined ? [[name, line.values[0]] as const] : [];
    }),
  );

const isName = /^\p{L}[\p{L}\p{Nd}_]*$/u;
const reserved = new Set(['s', 't', 'pi', 'exp', 'states', 'limited', 'step']);

/** What was read of lines, with all that the lines below need of them. */
interface Reading {
  readonly lines: readonly SheetLine[];
  readonly read: ReadLine[];
  readonly known: ReadonlyMap<string, Known>;
  readonly values: ReadonlyMap<string, readonly number[]>;
}

/**
 * Reads the lines of a sheet from the top: each may use the names above it. A line that cannot be read says why and
 * leaves the others as they are.
 */
export const readLines = (lines: readonly SheetLine[]): ReadLine[] => linesReader()(lines);

/**
 * Reads sheets one after another: a line that says the same as in the sheet before, as do the lines that it uses, is
 * the same object as then, with the same systems.
 */
export function linesReader(): (lines: readonly SheetLine[]) => ReadLine[] {
  let before: Reading = { lines: [], read: [], known: new Map(), values: new Map() };
  return (lines) => {
    before = readAfter(before, lines);
    return before.read;
  };
}

const isSame = (a: SheetLine | undefined, b: SheetLine): boolean =>
  a === b ||
  (a?.text === b.text && a.name === b.name && a.from === b.from && a.probes?.join(' ') === b.probes?.join(' '));

/** Whether the lines below can use it. */
const hasName = ({ kind }: ReadLine): boolean => kind === 'numbers' || kind === 'system';

function readAfter(before: Reading, lines: readonly SheetLine[]): Reading {
  const known = new Map<string, Known>();
  const values = new Map<string, readonly number[]>();
  // With the names in other places, each may stand for something else.
  const isComparable = lines.every(({ name }, k) => (before.lines[k]?.name ?? name) === name);
  const changed = new Set<string>();
  const isUnchanged = (line: SheetLine, k: number, old: ReadLine): boolean => {
    if (!isComparable || !isSame(before.lines[k], line)) return false;
    if (changed.size === 0) return true;
    // What a line lacked may be there now.
    if (old.kind === 'problem' || changed.has(line.name)) return false;
    const { uses = [] } = before.known.get(line.name) ?? {};
    if (uses.some((name) => changed.has(name))) return false;
    return !isPlant(line.text) || ![...changed].some((name) => isName.test(name) && mentions(line.text, name));
  };
  const readOne = (line: SheetLine, k: number): ReadLine => {
    const old = before.read[k];
    if (old && isUnchanged(line, k, old)) {
      const [earlier, numbers] = [before.known.get(line.name), before.values.get(line.name)];
      if (earlier && hasName(old)) known.set(line.name, earlier);
      if (numbers && hasName(old)) values.set(line.name, numbers);
      return old;
    }
    changed.add(line.name);
    if (!line.text.trim()) return { kind: 'empty' };
    const read = orProblem(() => readLine(line, known, values));
    return read instanceof Problem ? { kind: 'problem', problem: read } : read;
  };
  return { lines, read: lines.map(readOne), known, values };
}

function readLine(line: SheetLine, known: Map<string, Known>, values: Map<string, readonly number[]>): ReadLine {
  const { name } = line;
  refuseName(name, known);
  if (isPlant(line.text)) return readPlant(line, known, values);
  const text = withCoefficients(line.text);
  if (text.includes(';')) return severalValues(name, text, known, values);
  const meaning = membersOf(text, known);
  const { over, of } = meaning;
  known.set(name, meaning);
  const constants = of.map(constantOf);
  if (over === null && constants[0]) return { kind: 'numbers', values: [rationalToNumber(constants[0])] };
  const at = over === null ? [] : (values.get(over) ?? []);
  const members = of.map((transfer, k) => ({ transfer, words: over === null ? '' : `${over} = ${shown(at[k])}` }));
  return { kind: 'system', over, members };
}

/** Equations or states: a member for each signal that is looked at, and for each value of the name with several. */
function readPlant(
  { name, text, from: asked, probes: wanted = [] }: SheetLine,
  known: Map<string, Known>,
  values: Map<string, readonly number[]>,
): ReadLine {
  const { over, scopes, uses } = scopesFor((each) => mentions(text, each), known);
  const plants = scopes.map((scope) => plantOf(text, scope));
  const plant = must(plants[0]);
  const from = asked !== undefined && (asked === '' || plant.inputs.includes(asked)) ? asked : must(plant.inputs[0]);
  const wantedHere = wanted.filter((probe) => plant.signals.includes(probe));
  const probes = wantedHere.length > 0 ? wantedHere : plant.usual;
  const at = over === null ? [] : (values.get(over) ?? []);
  const members = plants.flatMap((each, k) =>
    probes.map((probe): Member => {
      const words = [over === null ? '' : `${over} = ${shown(at[k])}`, probes.length > 1 ? probe : ''];
      const parts = each.inputs.map((input) => ({ input, transfer: each.between(input, probe) }));
      const states = each.statesTo(probe);
      return {
        words: words.filter(Boolean).join(', '),
        transfer: must(parts.find(({ input }) => input === from) ?? parts[0]).transfer,
        ...(from === '' && parts.length > 1 ? { parts } : {}),
        ...(states ? { states } : {}),
        ...(each.limitedTo ? { limited: each.limitedTo(probe) } : {}),
      };
    }),
  );
  if (members.length > sheetLimits.members) {
    throw new Problem('tooLong', `Up to ${sheetLimits.members} responses of a line are drawn; look at fewer signals.`);
  }
  const first = members.filter((_, k) => k % probes.length === 0).map(({ transfer }) => transfer);
  known.set(name, { over, of: first, uses });
  return { kind: 'system', over, members, plant: { ...plant, from, probes } };
}

function refuseName(name: string, known: ReadonlyMap<string, Known>): void {
  if (!isName.test(name)) throw new Problem('unknownName', 'A name is a letter, then letters, digits or _.');
  if (reserved.has(name) || Object.hasOwn(functions, name)) {
    throw new Problem('unknownName', `“${name}” has a meaning of its own; take another name.`);
  }
  if (known.has(name)) throw new Problem('unknownName', `There is a line “${name}” above; take another name.`);
}

/** Numbers one after another: `T = -1; 0; 2.5`. */
function severalValues(
  name: string,
  text: string,
  known: Map<string, Known>,
  values: Map<string, readonly number[]>,
): ReadLine {
  const texts = text.split(';').filter((each) => each.trim());
  if (texts.length > sheetLimits.members) {
    throw new Problem('tooLong', `Up to ${sheetLimits.members} values can be drawn together.`);
  }
  const uses: string[] = [];
  const of = texts.map((each) => {
    const { over, of: members, ...reading } = membersOf(each, known);
    uses.push(...reading.uses);
    const [first] = members;
    if (over !== null || !first || !constantOf(first)) {
      throw new Problem('notANumber', 'Several values are numbers, separated by semicolons.');
    }
    return first;
  });
  const numbers = of.map((each) => rationalToNumber(must(constantOf(each))));
  known.set(name, { over: of.length > 1 ? name : null, of, uses });
  values.set(name, numbers);
  return { kind: 'numbers', values: numbers };
}

/** What a formula stands for, for each value of the one name with several that it depends on. */
function membersOf(text: string, known: ReadonlyMap<string, Known>): Known {
  const tree = parseFormula(text);
  const names = new Set(namesIn(tree));
  const { over, scopes, uses } = scopesFor((name) => names.has(name), known);
  return { over, of: scopes.map((scope) => systemFrom(tree, scope)), uses };
}

/** What the used names stand for, for each value of the one with several. */
function scopesFor(
  isUsed: (name: string) => boolean,
  known: ReadonlyMap<string, Known>,
): { over: string | null; scopes: Scope[]; uses: string[] } {
  const used = [...known].filter(([name]) => isUsed(name));
  const several = [...new Set(used.flatMap(([, { over }]) => over ?? []))];
  if (several.length > 1) {
    throw new Problem('notPossible', `Only one name can have several values here, not ${several.join(' and ')}.`);
  }
  const over = several[0] ?? null;
  const count = over === null ? 1 : must(known.get(over)).of.length;
  const scopes = Array.from({ length: count }, (_, k) => ({
    names: new Map(used.map(([name, each]) => [name, must(each.of[each.over === null ? 0 : k])])),
  }));
  return { over, scopes, uses: used.map(([name]) => name) };
}

const shown = (value = NaN): string => String(Number(value.toPrecision(6))).replace('-', '−');
