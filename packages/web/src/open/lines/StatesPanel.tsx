import {
  decimalIn,
  matricesOf,
  matrixLatex,
  numberIn,
  orProblem,
  placement,
  Problem,
  similarStates,
  stateFacts,
  stateForm,
  statesLatex,
  type StateSpace,
  statesText,
} from '@nailset/core';
import { type ReactNode, useMemo, useState } from 'react';
import { Formula } from '../../shared/Formula';
import { rationalMatrix } from '../sheet/matrixText';

const forms = ['as given', 'controllable', 'observable', 'modal', 'similar'] as const;
type Form = (typeof forms)[number];
const formWords: Record<Form, string> = {
  'as given': 'as given',
  controllable: 'controllable form',
  observable: 'observable form',
  modal: 'modal form',
  similar: 'with x = T z',
};

/** The chosen system in states: its matrices in every form, what is reached and seen, and poles placed. */
export default function StatesPanel({
  states,
  isGiven,
  onLine,
}: {
  states: StateSpace;
  /** Whether it was typed in states; otherwise there is nothing “as given”. */
  isGiven: boolean;
  /** Adds what is shown as a line. */
  onLine: (text: string) => void;
}) {
  const [form, setForm] = useState<Form>(isGiven ? 'as given' : 'controllable');
  const [t, setT] = useState('1 1; 0 1');
  const shown = useMemo(
    () =>
      orProblem(() => {
        if (form === 'similar') return similarStates(states, rationalMatrix(t, 'T'));
        return form === 'as given' ? matricesOf(states) : stateForm(states, form);
      }),
    [states, form, t],
  );
  const facts = useMemo(() => orProblem(() => stateFacts(states)), [states]);
  return (
    <>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-3">
        <select
          aria-label="Form of the states"
          className="bg-transparent text-petrol"
          value={form}
          onChange={(event) => setForm(event.target.value as Form)}
        >
          {forms
            .filter((each) => isGiven || each !== 'as given')
            .map((each) => (
              <option key={each} value={each}>
                {formWords[each]}
              </option>
            ))}
        </select>
        {form === 'similar' && (
          <label>
            T{' '}
            <input
              aria-label="Change of states"
              className="input inline-block w-[110px] px-1.5 py-0.5 font-mono text-[13px]"
              value={t}
              onChange={(event) => setT(event.target.value)}
            />
          </label>
        )}
        {!(shown instanceof Problem) && (
          <button type="button" className="link" onClick={() => onLine(statesText(shown))}>
            Use as a line
          </button>
        )}
      </p>
      {shown instanceof Problem ? <p className="text-brick">{shown.message}</p> : <Board latex={statesLatex(shown)} />}
      {!(facts instanceof Problem) && (
        <>
          <Rank
            words={facts.controllable ? 'Controllable' : 'Not controllable'}
            isFine={facts.controllable}
            rank={facts.controllabilityRank}
            order={facts.order}
            latex={`\\mathcal C=${matrixLatex(facts.controllability)}`}
          />
          <Rank
            words={facts.observable ? 'Observable' : 'Not observable'}
            isFine={facts.observable}
            rank={facts.observabilityRank}
            order={facts.order}
            latex={`\\mathcal O=${matrixLatex(facts.observability)}`}
          />
        </>
      )}
      <Placement states={states} />
    </>
  );
}

const Board = ({ latex }: { latex: string }) => (
  <div className="overflow-x-auto overflow-y-hidden py-1.5">
    <Formula latex={latex} />
  </div>
);

function Rank({
  words,
  isFine,
  rank,
  order,
  latex,
}: {
  words: string;
  isFine: boolean;
  rank: number;
  order: number;
  latex: string;
}): ReactNode {
  return (
    <>
      <p className="mt-1">
        <b className={`font-medium ${isFine ? 'text-moss' : 'text-brick'}`}>{words}</b>
        <span className="text-slate">
          : rank {rank} of {order}
        </span>
      </p>
      <Board latex={latex} />
    </>
  );
}

/** Poles as `-2 ± 3j; -5`, or `-2+3j; -2-3j`. */
function polesFrom(text: string): { re: number; im: number }[] | undefined {
  const poles = text
    .replace(/[−–]/g, '-')
    .split(/[;\n]|,(?=\s)/)
    .filter((each) => each.trim())
    .flatMap((each) => {
      const compact = each.replace(/\s+/g, '');
      const pair = /^(-?[\d.,]*)±(?:j([\d.,]+)|([\d.,]+)j)$/.exec(compact);
      if (pair) {
        const [re, im] = [pair[1] || '0', pair[2] ?? pair[3] ?? ''].map((part) =>
          decimalIn(part) === undefined ? NaN : numberIn(part),
        );
        return [
          { re: re ?? NaN, im: im ?? NaN },
          { re: re ?? NaN, im: -(im ?? NaN) },
        ];
      }
      const complex = /^(.*?)([+-](?=[\d.,]*j))([\d.,]*)j$/.exec(compact);
      const [first, sign, last] = complex ? [complex[1] || '0', complex[2], complex[3] || '1'] : [compact, '+', '0'];
      const re = decimalIn(first) === undefined ? NaN : numberIn(first);
      const im = decimalIn(last) === undefined ? NaN : numberIn(last);
      return [{ re, im: sign === '-' ? -im : im }];
    });
  return poles.some(({ re, im }) => Number.isNaN(re + im)) ? undefined : poles;
}

/** Feedback of the states to poles that someone asks for, with the working. */
function Placement({ states }: { states: StateSpace }) {
  const [text, setText] = useState('');
  const placed = useMemo(() => {
    if (!text.trim()) return undefined;
    const poles = polesFrom(text);
    if (!poles) return new Problem('query', 'Poles are written −2 ± 3j; −5.');
    return orProblem(() => placement(states, poles));
  }, [states, text]);
  return (
    <>
      <label className="mt-2 block">
        Place the poles at{' '}
        <input
          aria-label="Wanted poles"
          aria-invalid={placed instanceof Problem}
          className="input inline-block w-[170px] px-1.5 py-0.5 font-mono text-[13px]"
          placeholder="-2 ± 3j; -5"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {placed instanceof Problem && <p className="text-brick">{placed.message}</p>}
      {placed && !(placed instanceof Problem) && (
        <ol className="mt-1">
          {placed.steps.map(({ words, latex }) => (
            <li key={words}>
              <span className="text-slate">{words}</span>
              <Board latex={latex} />
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
