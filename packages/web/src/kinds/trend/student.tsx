import { areNamedTexts } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { readableWhen } from '../typed';
import { TrendBench } from './TrendBench';

export const trend: StudentKind<'trend'> = {
  Bench: ({ part, answer, solution, dispatch }) => (
    <TrendBench {...{ part, solution, dispatch, cells: answer.cells }} />
  ),
  // What was filled in stands in the verdict, line by line.
  Shown: () => null,
  blank: ({ kind }) => ({ kind, cells: {} }),
  readable({ changes, rows }, { cells }) {
    const left = changes.length * rows.length - Object.keys(cells).length;
    return readableWhen(left > 0 && `${left === 1 ? 'One cell is' : `${left} cells are`} still open.`);
  },
  isStored: ({ cells }) => areNamedTexts(cells),
  isSame: (left, right) =>
    [...new Set([...Object.keys(left.cells), ...Object.keys(right.cells)])].every(
      (cell) => left.cells[cell] === right.cells[cell],
    ),
  ladder: null,
  isFormula: false,
  isProjected: false,
  isSmall: () => true,
  entersByKey: false,
  symbols: [],
};
