import {
  type Attempt,
  type Bench,
  Problem,
  type StudentPart,
  nameToLatex,
  parse,
  toLatex,
  attempt,
} from '@nailset/core';
import { checkLetters, readBlocks, readWith } from '@nailset/core/diagrams';
import { useMemo } from 'react';
import { DiagramView } from '../diagram/DiagramView';
import { Expected } from '../diagram/Expected';
import { LettersField } from '../diagram/LettersField';
import { PathPanel } from '../diagram/PathPanel';
import { Formula } from '../shared/Formula';

type Of<Kind> = Extract<StudentPart, { kind: Kind }>;

/** The drawing of a part, read once. */
function useDiagram({ equations, from }: { equations: string; from: string }) {
  return useMemo(() => readBlocks(equations, [from]), [equations, from]);
}

/** Transfer functions of a diagram, typed in its letters or in numbers; what a slip was about is marked on the picture. */
export function DiagramBench({
  part,
  parameters,
  texts,
  last,
  solution,
  onChange,
}: {
  part: Of<'diagram'>;
  parameters: Bench['parameters'];
  texts: Readonly<Record<string, string>>;
  last: Attempt | undefined;
  solution: string | undefined;
  onChange: (texts: Record<string, string>) => void;
}) {
  const [first] = part.asked;
  const diagram = useDiagram({ equations: part.equations, from: first!.from });
  const known = useMemo(() => new Set(parameters.map(({ symbol }) => symbol)), [parameters]);
  const read = useMemo(() => readWith(part.equations, {}, [first!.from]), [part.equations, first]);
  const problem = (text: string): Problem | undefined => {
    const found = attempt(() => text.trim() && checkLetters(parse(text), read, known));
    return found instanceof Problem ? found : undefined;
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
          <PathPanel diagram={diagram} pair={first!} />
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

/** The loops or forward paths of a diagram, listed by their gains. */
export function PathsBench({
  part,
  text,
  solution,
  onChange,
}: {
  part: Of<'paths'>;
  text: string;
  solution: string | undefined;
  onChange: (text: string) => void;
}) {
  const diagram = useDiagram(part);
  const what = part.list === 'loops' ? 'loop' : 'forward path';
  const gains = text
    .split(/[,;\n]/)
    .map((piece) => piece.trim())
    .filter(Boolean);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <DiagramView
        title={`Block diagram of ${part.title}`}
        diagram={diagram}
        outputs={[part.to]}
        className="h-[clamp(200px,38vh,380px)]"
      />
      <label className="max-w-3xl text-note text-slate">
        The gain of every {what}, signs included, one a line; “none” if there are none
        <textarea
          className="input mt-1 font-mono text-[15px]"
          rows={4}
          maxLength={2000}
          spellCheck={false}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        />
      </label>
      <ul aria-label="As understood" className="flex flex-wrap gap-x-6 gap-y-1">
        {gains.map((gain, k) => (
          <li key={k}>
            <Read gain={gain} />
          </li>
        ))}
      </ul>
      {solution && (
        <>
          <Expected latex={solution} />
          <PathPanel diagram={diagram} pair={part} />
        </>
      )}
    </div>
  );
}

function Read({ gain }: { gain: string }) {
  const read = attempt(() => toLatex(parse(gain)));
  return read instanceof Problem ? (
    <span className="text-note text-brick">{read.message}</span>
  ) : (
    <Formula latex={read} />
  );
}

/** State matrices, typed row by row. */
export function StatesBench({
  matrices,
  solution,
  onChange,
}: {
  matrices: Readonly<Record<'a' | 'b' | 'c' | 'd', string>>;
  solution: string | undefined;
  onChange: (matrices: Record<'a' | 'b' | 'c' | 'd', string>) => void;
}) {
  return (
    <div className="grid max-w-3xl gap-4">
      <div className="grid grid-cols-2 gap-4 @min-[620px]:grid-cols-[1.6fr_0.8fr_1.6fr_0.6fr]">
        {(['a', 'b', 'c', 'd'] as const).map((name) => (
          <label key={name} className="text-note text-slate">
            {name.toUpperCase()}
            <textarea
              className="input mt-1 font-mono text-[15px]"
              rows={3}
              maxLength={2000}
              spellCheck={false}
              value={matrices[name]}
              onChange={(event) => onChange({ ...matrices, [name]: event.target.value })}
            />
          </label>
        ))}
      </div>
      <p className="text-note text-slate">
        One row a line, entries between blanks or commas. Any choice of state variables counts, with as few states as
        the system needs.
      </p>
      {solution && <Expected latex={solution} />}
    </div>
  );
}
