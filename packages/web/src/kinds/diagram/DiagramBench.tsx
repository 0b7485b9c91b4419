import {
  type Attempt,
  type Bench,
  must,
  nameToLatex,
  orProblem,
  parse,
  Problem,
  type SeenOf,
  toLatex,
  withKnownLetters,
} from '@nailset/core';
import { checkLetters, readWith, symbolsOf } from '@nailset/core/diagrams';
import { useMemo } from 'react';
import { DiagramView } from '../../diagram/DiagramView';
import { Expected } from '../../diagram/Expected';
import { LettersField } from '../../diagram/LettersField';
import { PathPanel } from '../../diagram/PathPanel';
import { Formula } from '../../shared/Formula';
import { useDiagram } from '../useDiagram';

/** Transfer functions of a diagram, typed in its letters or in numbers; what a slip was about is marked on the picture. */
export default function DiagramBench({
  part,
  parameters,
  texts,
  last,
  solution,
  onChange,
}: {
  part: SeenOf<'diagram'>;
  parameters: Bench['parameters'];
  texts: Readonly<Record<string, string>>;
  last: Attempt | undefined;
  solution: string | undefined;
  onChange: (texts: Record<string, string>) => void;
}) {
  const [first] = part.asked;
  const diagram = useDiagram({ equations: part.equations, from: must(first).from });
  const known = useMemo(() => new Set(parameters.map(({ symbol }) => symbol)), [parameters]);
  const read = useMemo(() => readWith(part.equations, {}, [must(first).from]), [part.equations, first]);
  const letters = useMemo(
    () => [...symbolsOf(read), ...read.definitions.keys(), ...known, ...read.signals, ...read.inputs],
    [read, known],
  );
  const problem = (text: string): Problem | undefined => {
    const outcome = orProblem(() => text.trim() && checkLetters(withKnownLetters(parse(text), letters), read, known));
    return outcome instanceof Problem ? outcome : undefined;
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <DiagramView
        title={`Block diagram of ${part.title}`}
        diagram={diagram}
        outputs={part.asked.map(({ to }) => to)}
        marked={last?.verdict?.slip?.place ?? []}
        className="h-[clamp(200px,38vh,380px)]"
      />
      <Bindings where={diagram.where} />
      <div className="grid max-w-3xl gap-3">
        {part.asked.map(({ id, from, to }) => (
          <LettersField
            key={id}
            letters={letters}
            label={`From ${from} to ${to}, in the letters of the diagram or in numbers`}
            lead={`\\frac{${nameToLatex(to)}}{${nameToLatex(from)}}=`}
            text={texts[id] ?? ''}
            problem={problem(texts[id] ?? '')}
            onChange={(text) => onChange({ ...texts, [id]: text })}
          />
        ))}
      </div>
      {solution && (
        <>
          <Expected latex={solution} />
          <PathPanel diagram={diagram} pair={must(first)} />
        </>
      )}
    </div>
  );
}

/** What the letters of a diagram stand for. */
function Bindings({ where }: { where: readonly (readonly [string, string])[] }) {
  if (where.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-6 gap-y-2 overflow-x-auto">
      {where.map(([name, meaning]) => (
        <Formula key={name} latex={`\\displaystyle ${nameToLatex(name)}=${toLatex(parse(meaning))}`} />
      ))}
    </p>
  );
}
