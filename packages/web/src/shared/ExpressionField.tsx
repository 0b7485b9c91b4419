import { formatNumber, parseTyped, type Problem, type Scope, toLatex, withBrackets } from '@nailset/core';
import { useId, useMemo } from 'react';
import { type Reading, understand, understandNumber } from './expression';
import { Formula } from './Formula';

/** A typed expression with what was understood of it, or where it goes wrong, on every keystroke. */
export function ExpressionField({
  label,
  text,
  scope,
  onChange,
  large = false,
  disabled = false,
  lead,
  reads = 'expression',
  placeholder = 'for example 4/(s^2 + 1.2s + 4)',
  error,
}: {
  label: string;
  text: string;
  scope: Scope;
  onChange: (text: string) => void;
  large?: boolean;
  disabled?: boolean;
  /** Set before the reading, such as `P(s) =`. */
  lead?: string;
  /** An expression as students type it, a formula for a system, or a formula for a number. */
  reads?: 'expression' | 'system' | 'number';
  placeholder?: string;
  error?: string | undefined;
}) {
  const id = useId();
  const understood = useMemo(
    () =>
      reads === 'number' ? understandNumber(text, scope) : understand(text, scope, { formula: reads === 'system' }),
    [text, scope, reads],
  );
  const value = understood.ok ? meantBy(understood.reading, reads) : '';
  const empty = text.trim() === '';
  const offered = useMemo(
    () => (reads === 'expression' && !disabled ? withBrackets(text) : undefined),
    [text, reads, disabled],
  );
  return (
    <div>
      <label htmlFor={id} className="label mb-1">
        {label}
      </label>
      <input
        id={id}
        value={text}
        onChange={(event) => onChange(event.target.value)}
        disabled={disabled}
        spellCheck={false}
        autoComplete="off"
        autoCapitalize="off"
        aria-invalid={!empty && !understood.ok}
        aria-describedby={`${id}-reading`}
        placeholder={placeholder}
        className={`input font-mono ${large ? 'px-3 py-2.5 text-[16px]' : ''}`}
      />
      <div
        id={`${id}-reading`}
        aria-live="polite"
        className={`mt-0.5 pt-1 ${large ? 'min-h-16' : 'min-h-9'} overflow-x-auto overflow-y-hidden`}
      >
        {understood.ok ? (
          <Formula latex={`\\displaystyle ${lead ?? ''}${understood.reading.typed}${value}`} display={large} />
        ) : (
          !empty && (
            <>
              {understood.typed && <Formula latex={`${lead ?? ''}${understood.typed}`} className="text-slate" />}
              <WhereWrong text={text} problem={understood.problem} />
            </>
          )
        )}
        {offered !== undefined && <Offer text={offered} onTake={onChange} />}
        {understood.ok && 'notes' in understood.reading && understood.reading.notes.length > 0 && (
          <p className="text-note text-slate">{understood.reading.notes.join(' ')}</p>
        )}
        {understood.ok && error && <p className="text-note text-brick">{error}</p>}
      </div>
    </div>
  );
}

/** What a formula comes to: its number, or the system with the numbers of the student who is shown. */
function meantBy(reading: Reading | { value: number }, reads: 'expression' | 'system' | 'number'): string {
  if ('value' in reading) return `\\;=\\;${formatNumber(reading.value)}`;
  const { typed, expanded } = reading;
  return reads === 'system' && bare(typed) !== bare(expanded) ? `\\;=\\;${expanded}` : '';
}

const bare = (latex: string): string => latex.replace(/\\[,;]|[\s{}]/g, '');

/** What may have been meant, at a click. */
export function Offer({ text, onTake }: { text: string; onTake: (text: string) => void }) {
  return (
    <p className="text-note text-slate">
      Did you mean{' '}
      <button type="button" className="link" aria-label={`Did you mean ${text}? Take it`} onClick={() => onTake(text)}>
        <Formula latex={toLatex(parseTyped(text))} />
      </button>
      ?
    </p>
  );
}

/** The message, and the text with its trouble spot marked. */
export function WhereWrong({ text, problem }: { text: string; problem: Problem }) {
  const at = Math.min(problem.at, text.length);
  const from = Math.max(0, at - 24);
  return (
    <p className="text-note text-brick">
      {problem.message}
      {text.length > 0 && text.length <= 2000 && (
        <span className="mt-0.5 block font-mono text-slate" aria-hidden="true">
          {from > 0 && '…'}
          {text.slice(from, at)}
          <mark className="bg-brick-soft text-ink">{text[at] ?? '\u00a0'}</mark>
          {text.slice(at + 1, at + 24)}
        </span>
      )}
    </p>
  );
}
