import { rangesFromText, rangeWords } from '@nailset/core';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, readableAs, ShownText } from '../typed';
import { RangeBench } from './RangeBench';

export const range: StudentKind<'range'> = {
  Bench: ({ part, answer, last, solution, together, onChange }) => (
    <RangeBench
      {...{ part, last, solution, together, text: answer.text }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown: ShownText,
  blank: ({ kind }) => ({ kind, text: '' }),
  readable: (_part, { text }) => readableAs(() => rangesFromText(text).map(rangeWords).join(' or ') || 'No gain.'),
  isStored: ({ text }) => isText(text),
  isSame: isSameText,
  ladder: null,
  isFormula: false,
  isProjected: false,
  isSmall: () => true,
  entersByKey: true,
  symbols: ['<', '≤', '>', '∞', '√'],
};
