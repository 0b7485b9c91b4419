import type { DiagramGroup } from '../diagram/groups.js';
import { Problem } from '../expression/problem.js';
import { type QuantityName, quantityNames } from '../quantity/names.js';

/** What the open bench holds: systems and numbers by name, what drives them, and how they are looked at. */
export interface Sheet {
  readonly format: 1;
  readonly title: string;
  readonly lines: readonly SheetLine[];
  /** What drives the systems, one after another in one plot; of a system with several inputs, each drives one. */
  readonly drives: readonly SheetDrive[];
  /** y, y′, … of each system at t = 0, or the states of one in states; what is missing is 0. */
  readonly initial: readonly number[];
  /** In what times are counted, and s with them: `1/(5*s + 1)` takes 5 of these. */
  readonly unit: TimeUnit;
  /** Time shown; null for as long as the systems take. */
  readonly time: number | null;
  readonly panes: readonly SheetPane[];
  readonly nails: readonly SheetNail[];
  readonly data: readonly SheetData[];
}

/** `name = text`: a system, a number, or several numbers separated by semicolons, which are taken one after another. */
export interface SheetLine {
  readonly name: string;
  readonly text: string;
  /** Whether it is drawn, where it is a system, and in which panes: an open loop is often wanted in few of them. */
  readonly drawn: boolean;
  readonly panes: LinePanes;
  /** Of equations and states: the input that is driven, `''` for all of them together; the first unless given. */
  readonly from?: string;
  /** Of equations and states: the signals that are looked at. */
  readonly probes?: readonly string[];
  /** Of equations: those that belong together, framed in the drawing or closed to one block. */
  readonly groups?: readonly DiagramGroup[];
}

/** Every pane, those over time with the s-plane, or those over frequency. */
export const linePanes = ['all', 'time', 'frequency'] as const;
export type LinePanes = (typeof linePanes)[number];

/** Times in the unit of the sheet. */
export type SheetDrive =
  | { readonly kind: 'step'; readonly from: number; readonly to: number; readonly at: number }
  /** Slope, area or second derivative. */
  | { readonly kind: 'ramp' | 'impulse' | 'parabola'; readonly size: number; readonly at: number }
  /** size·sin(omega·t) from `at` on; omega in rad/s. */
  | { readonly kind: 'sine'; readonly size: number; readonly omega: number; readonly at: number }
  /** A function of t. */
  | { readonly kind: 'typed'; readonly text: string }
  /** A measured table of the sheet, by its name. */
  | { readonly kind: 'data'; readonly name: string }
  | { readonly kind: 'none' };

export const driveKinds = ['step', 'ramp', 'impulse', 'parabola', 'sine', 'typed', 'data', 'none'] as const;
export type DriveKind = SheetDrive['kind'];

export const timeUnits = ['s', 'min', 'h'] as const;
export type TimeUnit = (typeof timeUnits)[number];

export const sheetPanes = ['response', 'plane', 'bode', 'nyquist', 'measures'] as const;
export type SheetPane = (typeof sheetPanes)[number];

/** A limit on the unit step response of every system drawn, or on the system itself. */
export interface SheetNail {
  readonly quantity: QuantityName;
  readonly relation: 'atMost' | 'atLeast';
  readonly limit: number;
}

/** Measured: a response over time (seconds), or over frequency (rad/s, dB, degrees), at rising times or frequencies. */
export type SheetData =
  | { readonly name: string; readonly times: readonly number[]; readonly values: readonly number[] }
  | {
      readonly name: string;
      readonly omegas: readonly number[];
      readonly magnitudesDb: readonly number[];
      readonly phasesDegrees?: readonly number[];
    };

/** How much a sheet can hold. */
export const sheetLimits = {
  ...{ lines: 20, name: 12, text: 2000, title: 80, members: 8 },
  ...{ drives: 3, initial: 20, nails: 6, data: 2, rows: 1000, probes: 6, groups: 6, groupName: 16, grouped: 40 },
} as const;

export const unitDrive: SheetDrive = { kind: 'step', from: 0, to: 1, at: 0 };

export const emptySheet: Sheet = {
  ...{ format: 1, title: '', drives: [unitDrive], initial: [], unit: 's', time: null, nails: [], data: [] },
  lines: [{ name: 'G', text: '', drawn: true, panes: 'all' }],
  panes: ['response', 'plane', 'bode', 'nyquist', 'measures'],
};

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;
const isText = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;
const isNumber = (value: unknown, low = -1e9, high = 1e9): value is number =>
  typeof value === 'number' && value >= low && value <= high;

function refuse(message: string): never {
  throw new Problem('exercise', message);
}

/** A list of up to so many. */
function listOf<Of>(value: unknown, most: number, what: string, each: (value: unknown, number: number) => Of): Of[] {
  if (!Array.isArray(value) || value.length > most) return refuse(`It has no list of up to ${most} ${what}.`);
  return value.map((of, k) => each(of, k + 1));
}

/** A sheet from a file or a link. @throws Problem `exercise` saying what about it is none. */
export function sheetFrom(value: unknown): Sheet {
  if (!isObject(value) || value['format'] !== 1) return refuse('This is no bench sheet of a format that is known.');
  const { title = '', lines, initial = [], time = null, panes, nails = [], data = [] } = value;
  if (!isText(title, sheetLimits.title)) return refuse(`Its title is no text of up to ${sheetLimits.title}.`);
  if (!Array.isArray(lines) || lines.length < 1) return refuse(`It has no 1 to ${sheetLimits.lines} lines.`);
  if (time !== null && !(isNumber(time, 0) && time > 0)) return refuse('Its time is none.');
  return {
    ...{ format: 1, title, time, unit: timeUnits.find((each) => each === value['unit']) ?? 's' },
    lines: listOf(lines, sheetLimits.lines, 'lines', lineFrom),
    drives: drivesFrom(value),
    initial: listOf(initial, sheetLimits.initial, 'initial values', (value, k) =>
      isNumber(value) ? value : refuse(`Its initial value ${k} is no number.`),
    ),
    panes: Array.isArray(panes) ? sheetPanes.filter((pane) => panes.includes(pane)) : emptySheet.panes,
    nails: listOf(nails, sheetLimits.nails, 'nails', nailFrom),
    data: listOf(data, sheetLimits.data, 'measured tables', dataFrom),
  };
}

function lineFrom(line: unknown, number: number): SheetLine {
  const { name, text, drawn = true, panes, from, probes, groups } = isObject(line) ? line : {};
  if (!isText(name, sheetLimits.name) || !isText(text, sheetLimits.text)) {
    return refuse(`Its line ${number} has no name and text, or too long ones.`);
  }
  const isProbe = (value: unknown): value is string => isText(value, 40);
  return {
    ...{ name, text, drawn: drawn === true, panes: linePanes.find((each) => each === panes) ?? 'all' },
    ...(isText(from, 40) ? { from } : {}),
    ...(Array.isArray(probes) && probes.every(isProbe) ? { probes: probes.slice(0, sheetLimits.probes) } : {}),
    ...(groups === undefined ? {} : { groups: groupsFrom(groups, number) }),
  };
}

const groupsFrom = (groups: unknown, line: number): DiagramGroup[] =>
  listOf(groups, sheetLimits.groups, `groups in line ${line}`, (group) => {
    const { name, signals, closed = false } = isObject(group) ? group : {};
    if (!isText(name, sheetLimits.groupName) || !name) return refuse(`A group of its line ${line} has no name.`);
    const listed = listOf(signals, sheetLimits.grouped, `signals in the group ${name}`, (signal) =>
      isText(signal, 40) ? signal : refuse(`A signal of the group ${name} has no name.`),
    );
    return { name, signals: listed, closed: closed === true };
    // Of two with one name, the first.
  }).filter(({ name }, k, all) => all.findIndex((group) => group.name === name) === k);

/** Sheets of before have one input of four kinds, with its size. */
function drivesFrom({ drives, input = 'step', size = 1, at = 0 }: Record<string, unknown>): SheetDrive[] {
  if (drives === undefined)
    return [driveFrom(input === 'step' ? { kind: input, to: size, at } : { kind: input, size, at })];
  const all = listOf(drives, sheetLimits.drives, 'inputs', driveFrom);
  return all.length > 0 ? all : [unitDrive];
}

function driveFrom(drive: unknown): SheetDrive {
  const { kind, from = 0, to = 1, size = 1, omega = 1, at = 0, text, name } = isObject(drive) ? drive : {};
  if (!isNumber(at, 0)) return refuse('An input of it sets in at no time.');
  if (![from, to, size].every((each) => isNumber(each)) || !(isNumber(omega, 0) && omega > 0)) {
    return refuse('An input of it has no size.');
  }
  const [low, high, factor] = [from, to, size] as [number, number, number];
  switch (kind) {
    case 'step':
      return { kind, from: low, to: high, at };
    case 'ramp':
    case 'impulse':
    case 'parabola':
      return { kind, size: factor, at };
    case 'sine':
      return { kind, size: factor, omega, at };
    case 'typed':
      return isText(text, sheetLimits.text) ? { kind, text } : refuse('An input of it is typed and has no text.');
    case 'data':
      return isText(name, sheetLimits.title) ? { kind, name } : refuse('An input of it names no measured table.');
    case 'none':
      return { kind };
    default:
      return refuse('Its input is none of those that are known.');
  }
}

function nailFrom(nail: unknown, number: number): SheetNail {
  const { quantity, relation, limit } = isObject(nail) ? nail : {};
  const known = quantityNames.find((each) => each === quantity);
  if (!known || (relation !== 'atMost' && relation !== 'atLeast') || !isNumber(limit, -1e12, 1e12)) {
    return refuse(`Its nail ${number} is none.`);
  }
  return { quantity: known, relation, limit };
}

function dataFrom(data: unknown, number: number): SheetData {
  const { name, times, values, omegas, magnitudesDb, phasesDegrees } = isObject(data) ? data : {};
  const numbers = (value: unknown): number[] =>
    listOf(value, sheetLimits.rows, `numbers in its measured table ${number}`, (each) =>
      isNumber(each, -1e12, 1e12) ? each : refuse(`Its measured table ${number} holds something that is no number.`),
    );
  const rising = (of: readonly number[], least: number) =>
    of.every((each, k) => each >= (k > 0 ? of[k - 1]! : least) && (k === 0 || each > of[k - 1]!));
  if (!isText(name, sheetLimits.title)) return refuse(`Its measured table ${number} has no name.`);
  if (times !== undefined) {
    const [t, y] = [numbers(times), numbers(values)];
    const fits = t.length > 1 && t.length === y.length && rising(t, 0);
    return fits ? { name, times: t, values: y } : refuse(`“${name}” has no value for each of its rising times.`);
  }
  const [w, db] = [numbers(omegas), numbers(magnitudesDb)];
  const degrees = phasesDegrees === undefined ? undefined : numbers(phasesDegrees);
  const fits = w.length > 1 && w.length === db.length && w.length === (degrees ?? w).length && rising(w, 1e-12);
  if (!fits) return refuse(`“${name}” has no level and phase for each of its rising frequencies.`);
  return { name, omegas: w, magnitudesDb: db, ...(degrees ? { phasesDegrees: degrees } : {}) };
}
