import {
  type ExerciseDocument,
  matricesOf,
  must,
  type NumberPart,
  parseFormula,
  type ReadLine,
  type Sheet,
  type SystemForm,
  toLatex,
  withCoefficients,
  withDeadTime,
} from '@nailset/core';
import { newExercise, newPart } from '../builder/newExercise';
import { factsFor } from './drawn';

type System = Extract<ReadLine, { kind: 'system' }>;

/**
 * An exercise with what is on a sheet: its systems and numbers as given, several values as numbers that students draw
 * from, and a question about the step response of the chosen system.
 */
export function exerciseOf(sheet: Sheet, read: readonly ReadLine[], chosen: string): ExerciseDocument {
  const lines = sheet.lines.flatMap((line, k) => ({ ...line, read: must(read[k]) }));
  const systems = lines.flatMap(({ name, text, read: found }) =>
    found.kind === 'system' ? [{ name, text: found.plant ? text : withCoefficients(text), read: found }] : [],
  );
  const asked = systems.find(({ name }) => name === chosen) ?? systems.at(-1);
  return {
    ...newExercise(),
    title: sheet.title.trim() || 'From the open bench',
    statement: systems.map((system) => `$$${system.name}(s) = ${shown(system)}$$`).join('\n\n'),
    parameters: lines.flatMap(({ name, read: found }) => {
      if (found.kind !== 'numbers') return [];
      const values = [...found.values];
      const draw =
        values.length > 1 ? { kind: 'list' as const, values } : { kind: 'fixed' as const, value: must(values[0]) };
      return [{ symbol: name, meaning: '', unit: '', draw }];
    }),
    systems: systems.map((system) => ({ name: system.name, meaning: '', form: formOf(system) })),
    parts: asked ? [questionAbout(asked.name, asked.read)] : newExercise().parts,
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

/** Something that every member has: an overshoot, a settling time, a peak, or else how many poles are unstable. */
function questionAbout(name: string, { members }: System): NumberPart {
  const part = newPart('number', [], { system: name });
  const fresh = must(part.kind === 'number' ? part : undefined);
  const measures = members.map((member) => {
    const facts = factsFor(member);
    return 'measures' in facts && facts.measures?.stable ? facts.measures : null;
  });
  if (measures.every((each) => each?.overshootPercent)) return fresh;
  const ask = (title: string, prompt: string, formula: string, unit: string) => ({
    ...{ ...fresh, title, prompt, unit },
    formula: `${formula}(${name})`,
  });
  if (measures.every((each) => each?.settlingTime)) {
    return ask('Settling', 'When does the response stay within 2 % of its final value?', 'settlingTime', 's');
  }
  if (measures.every((each) => each?.peakValue)) {
    return ask('Peak', 'How high does the response to a unit step go?', 'peakValue', '');
  }
  return ask('Stability', 'How many poles lie in the right half-plane?', 'unstablePoles', '');
}
