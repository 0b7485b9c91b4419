import { understand } from '../../shared/expression';
import { Formula } from '../../shared/Formula';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, ShownText } from '../typed';
import { TransferFunctionBench } from './TransferFunctionBench';

export const transferFunction: StudentKind<'transferFunction'> = {
  Bench: ({ part, answer, scope, solution, onChange }) => (
    <TransferFunctionBench
      {...{ part, scope, solution, text: answer.text }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown({ answer, scope }) {
    const understood = understand(answer.text, scope);
    if (!understood.ok) return <ShownText answer={answer} />;
    return (
      <>
        <Formula latex={understood.reading.typed} display className="mt-1 block overflow-x-auto overflow-y-hidden" />
        <span className="font-mono text-note break-all text-slate">{answer.text}</span>
      </>
    );
  },
  blank: ({ kind }) => ({ kind, text: '' }),
  readable(_part, { text }, scope) {
    const understood = understand(text, scope);
    const wrong = !understood.ok && (text.trim() ? understood.problem.message : 'Type your answer first.');
    return {
      shown: understood.ok ? <Formula latex={`\\displaystyle G(s)=${understood.reading.expanded}`} /> : null,
      words: understood.ok ? 'Is this what you meant?' : '',
      problem: wrong || undefined,
    };
  },
  isStored: ({ text }) => isText(text),
  isSame: isSameText,
  ladder: null,
  isFormula: true,
  isProjected: false,
  isSmall: () => true,
  entersByKey: true,
  symbols: ['ζ', 'ωₙ', 'τ', '^', '(', ')', '·', '/'],
};
