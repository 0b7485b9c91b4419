import {
  type ControllerGain,
  type ExerciseDocument,
  type GainsPart,
  matricesOf,
  type Measures,
  must,
  type NumberPart,
  parseFormula,
  type Part,
  type PidController,
  Problem,
  type QuantityName,
  type ReadLine,
  type Sheet,
  type SystemForm,
  toLatex,
  withCoefficients,
  withDeadTime,
} from '@nailset/core';
import { newExercise, newPart } from '../../builder/newExercise';
import { newController } from '../../kinds/gains/newController';
import { factsFor } from './drawn';

type System = Extract<ReadLine, { kind: 'system' }>;

interface Line {
  readonly name: string;
  readonly text: string;
  readonly read: System;
}

const systemsOf = (sheet: Sheet, read: readonly ReadLine[]): Line[] =>
  sheet.lines.flatMap(({ name, text }, k) => {
    const line = read[k];
    // No form of an exercise's system holds a loop with limits.
    if (line?.kind !== 'system' || line.plant?.kind === 'limited') return [];
    return [{ name, text: line.plant ? text : withCoefficients(text), read: line }];
  });

/** A part that can be made of what is on a sheet, in words. */
export interface PartOffer {
  readonly words: string;
  readonly part: Part;
  /** Lines that would give the answer away, and are left out. */
  readonly without?: readonly string[];
}

/**
 * What can be asked about a sheet: measures of the chosen system, which response belongs to which system, and the gains
 * of a controller that stands on it, with its nails or what it does now as the limits.
 */
export function partOffers(sheet: Sheet, read: readonly ReadLine[], chosen: string): PartOffer[] {
  const systems = systemsOf(sheet, read);
  const asked = systems.find(({ name }) => name === chosen) ?? systems.at(-1);
  if (!asked) return [];
  return [...questionsAbout(asked.name, asked.read), ...whichOf(sheet, systems), ...gainsOn(sheet, read, systems)];
}

/**
 * An exercise with what is on a sheet: its systems and numbers as given, several values as numbers that students draw
 * from, and the parts that were chosen; the first that is offered unless some were.
 */
export function exerciseOf(
  sheet: Sheet,
  read: readonly ReadLine[],
  chosen: string,
  offers: readonly PartOffer[] = partOffers(sheet, read, chosen).slice(0, 1),
): ExerciseDocument {
  const without = new Set(offers.flatMap((offer) => offer.without ?? []));
  const systems = systemsOf(sheet, read).filter(({ name }) => !without.has(name));
  const parts = offers.map(({ part }, k) => ({ ...part, id: `${part.kind.toLowerCase()}-${k + 1}` }));
  return {
    ...newExercise(),
    title: sheet.title.trim() || 'From the open bench',
    statement: systems.map((system) => `$$${system.name}(s) = ${shown(system)}$$`).join('\n\n'),
    parameters: sheet.lines.flatMap(({ name }, k) => {
      const line = read[k];
      if (line?.kind !== 'numbers' || without.has(name)) return [];
      const values = [...line.values];
      const draw =
        values.length > 1 ? { kind: 'list' as const, values } : { kind: 'fixed' as const, value: must(values[0]) };
      return [{ symbol: name, meaning: '', unit: '', draw }];
    }),
    systems: systems.map((system) => ({ name: system.name, meaning: '', form: formOf(system) })),
    parts: parts.length > 0 ? parts : newExercise().parts,
  };
}

/** Equations stay equations, with their drawing; states stay states, as numbers. */
function formOf({ text, read: { plant } }: { text: string; read: System }): SystemForm {
  if (!plant) return { kind: 'expression', text };
  const [to = ''] = plant.probes;
  if (plant.kind === 'equations') return { kind: 'equations', text, from: plant.from || must(plant.inputs[0]), to };
  const states = matricesOf(must(plant.statesTo(to)));
  const texts = (rows: readonly (readonly number[])[]) => rows.map((row) => row.map(String));
  return { kind: 'states', a: texts(states.a), b: texts(states.b), c: texts(states.c), d: texts(states.d) };
}

/** With the numbers of each student; as it was typed where dead time stands inside of sums. */
function shown({ name, text, read }: { name: string; text: string; read: System }): string {
  const isPlain = read.members.every(({ transfer }) => withDeadTime(transfer) !== null);
  return isPlain ? `{{${name}}}` : toLatex(parseFormula(text));
}

const measured: readonly {
  readonly title: string;
  readonly prompt: string;
  readonly formula: QuantityName;
  readonly unit: NumberPart['unit'];
  readonly of: (measures: Measures) => number | null;
}[] = [
  {
    ...{ title: 'Overshoot', formula: 'overshootPercent', unit: '%', of: (measures) => measures.overshootPercent },
    prompt: 'How far does the step response go beyond its final value?',
  },
  {
    ...{ title: 'Settling', formula: 'settlingTime', unit: 's', of: (measures) => measures.settlingTime },
    prompt: 'When does the response stay within 2 % of its final value?',
  },
  {
    ...{ title: 'Rise', formula: 'riseTime', unit: 's', of: (measures) => measures.riseTime },
    prompt: 'How long does the step response take from 10 % to 90 %?',
  },
  {
    ...{ title: 'Final value', formula: 'finalValue', unit: '', of: (measures) => measures.finalValue },
    prompt: 'Where does the response to a unit step end?',
  },
  {
    ...{ title: 'Peak', formula: 'peakValue', unit: '', of: (measures) => measures.peakValue },
    prompt: 'How high does the response to a unit step go?',
  },
];

/** What every member has of these, and how many poles are unstable. */
function questionsAbout(name: string, { members }: System): PartOffer[] {
  const all = members.map((member) => {
    const facts = factsFor(member);
    return 'measures' in facts && facts.measures?.stable ? facts.measures : null;
  });
  const ask = (title: string, prompt: string, formula: string, unit: NumberPart['unit']): PartOffer => {
    const fresh = newPart('number', [], { system: name });
    return {
      words: `${title.toLowerCase()} of ${name}, as a number`,
      part: { ...must(fresh.kind === 'number' ? fresh : undefined), title, prompt, unit, formula },
    };
  };
  const offers = measured
    .filter(({ of }) => all.every((each) => each && of(each)))
    .map(({ title, prompt, formula, unit }) => ask(title, prompt, `${formula}(${name})`, unit));
  const poles = ask('Stability', 'How many poles lie in the right half-plane?', `unstablePoles(${name})`, '');
  return [...offers, { ...poles, words: `stability of ${name}, as a number of poles` }];
}

const mostOptions = 5;

/** Which plot is that of the first of several systems that are drawn. */
function whichOf(sheet: Sheet, systems: readonly Line[]): PartOffer[] {
  const drawn = systems.filter(
    ({ name, read: { members, plant } }) =>
      members.length === 1 && !plant?.states && sheet.lines.some((line) => line.name === name && line.drawn),
  );
  const kinds = [
    ['step', 'step response'],
    ['bode', 'Bode plot'],
  ] as const;
  return kinds.flatMap(([kind, words]): PartOffer[] => {
    const able = kind === 'step' ? drawn.filter(hasStep) : drawn;
    const [first, ...others] = able.slice(0, mostOptions);
    if (!first || others.length === 0) return [];
    const fresh = newPart('choice', [], { system: first.name });
    // In an order that says nothing.
    const shuffled = [...others, first].sort((a, b) => a.text.length - b.text.length || (a.text < b.text ? -1 : 1));
    return [
      {
        words: `which ${words} is that of ${first.name}`,
        part: {
          ...must(fresh.kind === 'choice' ? fresh : undefined),
          title: `Which is ${first.name}?`,
          prompt: `One of these is the ${words} of $${first.name}$.`,
          points: 2,
          options: shuffled.map(({ name }, k) => ({
            id: must('abcde'[k]),
            text: `Plot ${must('ABCDE'[k])}`,
            right: name === first.name,
            plot: { kind, system: name },
          })),
        },
      },
    ];
  });
}

/** Without more zeros than poles, which would begin with an impulse. */
function hasStep({ read: { members } }: Line): boolean {
  return members.every((member) => {
    const facts = factsFor(member);
    return !(facts instanceof Problem) && !(facts.relativeDegree < 0);
  });
}

const controllerText = /^\s*(\w+)(?:\s*\+\s*(\w+)\s*\/\s*s)?(?:\s*\+\s*(\w+)\s*\*\s*s)?\s*$/;

/** A PID by the names of its numbers, with the plant behind it, as “Add lines for …” and a design write them. */
function gainsOn(sheet: Sheet, read: readonly ReadLine[], systems: readonly Line[]): PartOffer[] {
  const value = (name: string | undefined): number | undefined => {
    const meaning = read[sheet.lines.findIndex((line) => line.name === name)];
    return meaning?.kind === 'numbers' ? meaning.values[0] : undefined;
  };
  return systems.flatMap((controller): PartOffer[] => {
    const [, ...names] = controllerText.exec(controller.text) ?? [];
    const [kp, ki, kd] = names;
    if (kp === undefined || names.some((name) => name !== undefined && value(name) === undefined)) return [];
    const loop = systems.find(({ text }) => inFront(controller.name, text) !== undefined);
    const plant = loop && systems.find(({ name }) => name === inFront(controller.name, loop.text));
    const closed = loop && systems.find(({ text }) => text.replace(/\s/g, '') === `closed(${loop.name})`);
    if (!plant) return [];
    const terms: PidController['terms'] = `P${ki ? 'I' : ''}${kd ? 'D' : ''}`;
    const named = { Kp: value(kp), Ki: value(ki), Kd: value(kd) };
    const pid = newController(terms, 'parallel');
    const fresh = newPart('gains', [], { system: plant.name });
    const part = must(fresh.kind === 'gains' ? fresh : undefined);
    return [
      {
        words: `${terms} gains for ${plant.name}, from the present ones`,
        without: [...madeOf(controller.name, systems), ...names].filter((name) => name !== undefined),
        part: {
          ...part,
          plant: plant.name,
          horizon: Number((sheet.time ?? timeOf(closed) ?? part.horizon).toPrecision(2)),
          controller: {
            ...pid,
            gains: pid.gains.map((gain) => laddered(gain.name, named[gain.name as 'Kp'] ?? 0)),
          } as PidController,
          nails: nailsFrom(sheet, closed),
        },
      },
    ];
  });
}

/** A system and all below it that are made of it. */
function madeOf(name: string, systems: readonly Line[]): string[] {
  const names = new Set([name]);
  for (const each of systems) {
    const words = each.text.match(/[\p{L}][\p{L}\p{Nd}_]*/gu) ?? [];
    if (words.some((word) => names.has(word))) names.add(each.name);
  }
  return [...names];
}

/** The other factor of `C*G` or `G*C`. */
function inFront(controller: string, text: string): string | undefined {
  const [left, right, ...more] = text.replace(/\s/g, '').split('*');
  if (more.length > 0) return undefined;
  return left === controller ? right : right === controller ? left : undefined;
}

/** A ladder round a number: a tenth of its leading digit fine, its leading digit coarse. */
function laddered(name: ControllerGain['name'], start: number): ControllerGain {
  const size = Math.abs(start) || 1;
  const fine = 10 ** (Math.floor(Math.log10(size)) - 1);
  const [low, high] = start < 0 ? [20 * start, 0] : [0, Number((20 * size).toPrecision(2))];
  return { name, start, fine, coarse: 10 * fine, low, high } as ControllerGain;
}

const timeOf = (closed: Line | undefined): number | undefined => {
  const measures = measuresOf(closed);
  return measures?.settlingTime ? 2 * measures.settlingTime : undefined;
};

function measuresOf(line: Line | undefined): Measures | null {
  const [member] = line?.read.members ?? [];
  const facts = member && factsFor(member);
  return facts && 'measures' in facts && facts.measures?.stable ? facts.measures : null;
}

/** How much more than now is allowed where no nails are driven in. */
const margin = 1.15;

/** The nails of the sheet, or else what the loop does now with some margin. */
function nailsFrom(sheet: Sheet, closed: Line | undefined): GainsPart['nails'] {
  if (sheet.nails.length > 0) return sheet.nails.map((nail) => ({ id: nailId(nail.quantity), points: 2, ...nail }));
  const measures = measuresOf(closed);
  const now = [
    ['overshootPercent', measures?.overshootPercent],
    ['settlingTime', measures?.settlingTime],
  ] as const;
  const nails = now.flatMap(([quantity, value]) => {
    if (value === null || value === undefined) return [];
    const limit = value === 0 ? 5 : Number((margin * value).toPrecision(2));
    return [{ id: nailId(quantity), quantity, relation: 'atMost' as const, limit, points: 2 }];
  });
  const fresh = newPart('gains', [], {});
  return nails.length > 0 ? nails : must(fresh.kind === 'gains' ? fresh : undefined).nails;
}

const nailId = (quantity: QuantityName): string => quantity.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
