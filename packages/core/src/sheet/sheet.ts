import { Problem } from '../expression/problem.js';

/** What the open bench holds: systems and numbers by name, and how they are looked at. */
export interface Sheet {
  readonly format: 1;
  readonly title: string;
  readonly lines: readonly SheetLine[];
  readonly input: SheetInput;
  /** Of the input: its height, slope, area or curvature, and when it sets in, in seconds. */
  readonly size: number;
  readonly at: number;
  /** Time shown, in seconds; null for as long as the systems take. */
  readonly time: number | null;
  readonly panes: readonly SheetPane[];
}

/** `name = text`: a system, a number, or several numbers separated by semicolons, which are taken one after another. */
export interface SheetLine {
  readonly name: string;
  readonly text: string;
  /** Whether it is drawn, where it is a system, and in which panes: an open loop is often wanted in few of them. */
  readonly drawn: boolean;
  readonly panes: LinePanes;
}

/** Every pane, those over time with the s-plane, or those over frequency. */
export const linePanes = ['all', 'time', 'frequency'] as const;
export type LinePanes = (typeof linePanes)[number];

export const sheetInputs = ['step', 'ramp', 'impulse', 'parabola'] as const;
export type SheetInput = (typeof sheetInputs)[number];

export const sheetPanes = ['response', 'plane', 'bode', 'nyquist', 'measures'] as const;
export type SheetPane = (typeof sheetPanes)[number];

/** How much a sheet can hold. */
export const sheetLimits = { lines: 20, name: 12, text: 2000, title: 80, members: 8 } as const;

export const emptySheet: Sheet = {
  ...{ format: 1, title: '', input: 'step', size: 1, at: 0, time: null },
  lines: [{ name: 'G', text: '', drawn: true, panes: 'all' }],
  panes: ['response', 'plane', 'bode', 'nyquist', 'measures'],
};

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/** A sheet from a file or a link. @throws Problem `exercise` saying what about it is none. */
export function sheetFrom(value: unknown): Sheet {
  const refuse = (message: string): never => {
    throw new Problem('exercise', message);
  };
  if (!isObject(value) || value['format'] !== 1) return refuse('This is no bench sheet of a format that is known.');
  const { title = '', lines, input = 'step', size = 1, at = 0, time = null, panes } = value;
  const { title: longest, lines: most } = sheetLimits;
  if (typeof title !== 'string' || title.length > longest) return refuse(`Its title is no text of up to ${longest}.`);
  if (!Array.isArray(lines) || lines.length < 1 || lines.length > most) return refuse(`It has no 1 to ${most} lines.`);
  if (!sheetInputs.some((each) => each === input)) return refuse('Its input is none of those that are known.');
  if (time !== null && !(typeof time === 'number' && time > 0 && time <= 1e9)) return refuse('Its time is none.');
  if (typeof size !== 'number' || !(Math.abs(size) <= 1e9)) return refuse('Its input has no size.');
  if (typeof at !== 'number' || !(at >= 0 && at <= 1e9)) return refuse('Its input sets in at no time.');
  return {
    ...{ format: 1, title, time, input: input as SheetInput, size, at },
    lines: lines.map((line: unknown, k) => lineFrom(line, k + 1)),
    panes: Array.isArray(panes) ? sheetPanes.filter((pane) => panes.includes(pane)) : emptySheet.panes,
  };
}

function lineFrom(line: unknown, number: number): SheetLine {
  const { name, text, drawn = true, panes } = isObject(line) ? line : {};
  const isText = (of: unknown, most: number): of is string => typeof of === 'string' && of.length <= most;
  if (!isText(name, sheetLimits.name) || !isText(text, sheetLimits.text)) {
    throw new Problem('exercise', `Its line ${number} has no name and text, or too long ones.`);
  }
  return { name, text, drawn: drawn === true, panes: linePanes.find((each) => each === panes) ?? 'all' };
}
