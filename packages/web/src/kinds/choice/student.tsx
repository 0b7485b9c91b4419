import { areTexts } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { readableWhen } from '../typed';
import { ChoiceBench } from './ChoiceBench';

export const choice: StudentKind<'choice'> = {
  Bench: ({ part, answer, solution, dispatch }) => (
    <ChoiceBench {...{ part, solution, dispatch, chosen: answer.chosen }} />
  ),
  Shown: ({ part, answer }) => (
    <p className="mt-1 text-[16px]">
      {part.options
        .filter(({ id }) => answer.chosen.includes(id))
        .map(({ text }) => text.replace(/!\[([^\]]*)\]\([^)]*\)/g, '$1'))
        .join(', ') || 'none of them'}
    </p>
  ),
  blank: ({ kind }) => ({ kind, chosen: [] }),
  readable: ({ several }, { chosen }) => readableWhen(!several && chosen.length === 0 && 'Choose one first.'),
  isStored: ({ chosen }) => areTexts(chosen),
  isSame: (left, right) =>
    left.chosen.length === right.chosen.length && left.chosen.every((id) => right.chosen.includes(id)),
  ladder: null,
  isFormula: false,
  isProjected: false,
  isSmall: ({ options }) => options.every(({ plot }) => !plot),
  entersByKey: false,
  symbols: [],
};
