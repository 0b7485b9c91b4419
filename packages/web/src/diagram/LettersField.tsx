import {
  orElse,
  orProblem,
  parse,
  Problem,
  readingNotes,
  toLatex,
  withBrackets,
  withKnownLetters,
} from '@nailset/core';
import { useId } from 'react';
import { Offer, WhereWrong } from '../shared/ExpressionField';
import { Formula } from '../shared/Formula';

/** A fraction typed in the letters of a diagram, with its reading at once. */
export function LettersField({
  label,
  lead = '',
  text,
  problem,
  placeholder = 'for example A*B/(A + 1)',
  letters = [],
  onChange,
}: {
  label: string;
  /** Set before the reading, such as `\frac{y}{r}=`. */
  lead?: string;
  text: string;
  /** What is wrong with it beyond its form. */
  problem?: Problem | undefined;
  placeholder?: string;
  /** The letters that it is typed in, so that any spelling of them is read. */
  letters?: readonly string[];
  onChange: (text: string) => void;
}) {
  const id = useId();
  const read = problem ?? reading(text, letters);
  const offered = withBrackets(text);
  const notes = orElse([], () => readingNotes(parse(text)));
  const wrong = read instanceof Problem && text.trim() !== '' ? read : undefined;
  return (
    <div>
      <label htmlFor={id} className="label mb-1">
        {label}
      </label>
      <input
        id={id}
        className="input font-mono text-[15px]"
        value={text}
        maxLength={2000}
        spellCheck={false}
        autoComplete="off"
        autoCapitalize="off"
        placeholder={placeholder}
        aria-invalid={wrong !== undefined}
        aria-describedby={`${id}-reading`}
        onChange={(event) => onChange(event.target.value)}
      />
      <div id={`${id}-reading`} aria-live="polite" className="mt-1.5 min-h-11 overflow-x-auto overflow-y-hidden">
        {wrong ? (
          <WhereWrong text={text} problem={wrong} />
        ) : (
          !(read instanceof Problem) && <Formula latex={`\\displaystyle ${lead}${read}`} />
        )}
        {offered !== undefined && <Offer text={offered} onTake={onChange} />}
        {notes.length > 0 && <p className="text-note text-slate">{notes.join(' ')}</p>}
      </div>
    </div>
  );
}

function reading(text: string, letters: readonly string[]): string | Problem {
  return orProblem(() => toLatex(withKnownLetters(parse(text), letters)));
}
