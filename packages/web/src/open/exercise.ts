import { type ExerciseDocument, type ReadLine, type Sheet } from '@nailset/core';
import { newExercise, newPart } from '../builder/newExercise';

/**
 * An exercise with what is on a sheet: its systems and numbers as given, several values as numbers that students draw
 * from, and a question about the chosen system’s step response.
 */
export function exerciseOf(sheet: Sheet, read: readonly ReadLine[], chosen: string): ExerciseDocument {
  const lines = sheet.lines.map((line, k) => ({ ...line, read: read[k] }));
  const systems = lines.filter((line) => line.read?.kind === 'system');
  const asked = systems.find(({ name }) => name === chosen) ?? systems.at(-1);
  const title = sheet.title.trim() || 'From the open bench';
  return {
    ...newExercise(),
    title,
    statement: systems.map(({ name }) => `$$${name}(s) = {{${name}}}$$`).join('\n\n'),
    parameters: lines.flatMap(({ name, read: found }) => {
      if (found?.kind !== 'numbers') return [];
      const [value = 0] = found.values;
      const draw =
        found.values.length > 1
          ? { kind: 'list' as const, values: [...found.values] }
          : { kind: 'fixed' as const, value };
      return [{ symbol: name, meaning: '', unit: '', draw }];
    }),
    systems: systems.map(({ name, text }) => ({ name, meaning: '', form: { kind: 'expression' as const, text } })),
    parts: asked ? [newPart('number', [], { system: asked.name })] : newExercise().parts,
  };
}
