import { orProblem, parse, Problem, type SeenOf, toLatex } from '@nailset/core';
import { DiagramView } from '../../diagram/DiagramView';
import { Expected } from '../../diagram/Expected';
import { PathPanel } from '../../diagram/PathPanel';
import { Formula } from '../../shared/Formula';
import { useDiagram } from '../useDiagram';

/** The loops or forward paths of a diagram, listed by their gains. */
export default function PathsBench({
  part,
  text,
  solution,
  onChange,
}: {
  part: SeenOf<'paths'>;
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
  const read = orProblem(() => toLatex(parse(gain)));
  return read instanceof Problem ? (
    <span className="text-note text-brick">{read.message}</span>
  ) : (
    <Formula latex={read} />
  );
}
