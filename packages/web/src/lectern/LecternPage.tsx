import {
  type Bench,
  type DrawValues,
  type ExerciseDocument,
  type Model,
  modelOf,
  must,
  orProblem,
  type Part,
  Problem,
  type StudentFigure,
  type StudentPart,
} from '@nailset/core';
import { curveMeasures, revealedCurves, rightAnswerOf, sampleOf, solutionOf } from '@nailset/core/checks';
import { useMemo, useReducer, useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { useDraftShown } from '../api/queries';
import { FigurePlot } from '../bench/FigurePlot';
import { previewOf } from '../bench/preview';
import { isDesign } from '../kinds/gains/DesignPanes';
import { isFormula } from '../kinds/students';
import { PageOf } from '../page/PageOf';
import { Button } from '../shared/Button';
import { Formula } from '../shared/Formula';
import { useTitle } from '../shared/useTitle';
import { ShownContext, Statement } from '../statement/Statement';
import { workFrom, workReducer } from '../work/work';
import { Board } from './Board';
import { type BenchState, benchStateFrom } from './LecternLink';
import { LiveBench } from './LiveBench';
import { RunOver } from './RunOver';
import { VoteList } from './VoteList';
import { optionsOf, type Votes } from './votes';

/** An exercise projected: ask, count the hands, reveal. */
export default function LecternPage() {
  const { exerciseId = '' } = useParams();
  const draft = useDraftShown(exerciseId);
  useTitle(draft.data ? `Lectern: ${draft.data.document.title}` : 'Lectern');
  return (
    <PageOf query={draft} what="Opening the lectern">
      {(data) => <Lectern document={data.document} exerciseId={exerciseId} />}
    </PageOf>
  );
}

/** The exercise with the numbers of a bench that was brought along, or of an imagined student. */
function Lectern({ document, exerciseId }: { document: ExerciseDocument; exerciseId: string }) {
  const state: unknown = useLocation().state;
  const brought = useMemo(() => benchStateFrom(state), [state]);
  const shown = useMemo(() => {
    return orProblem(() => {
      const known = brought && document.parameters.every(({ symbol }) => brought.values[symbol] !== undefined);
      const values = known ? brought.values : must(sampleOf(document, 1).at(-1));
      return { values, bench: previewOf(document, values), model: modelOf(document, values) };
    });
  }, [document, brought]);
  if (shown instanceof Problem) {
    return <p className="p-8 text-brick">This exercise cannot be shown yet: {shown.message}</p>;
  }
  return <Projected {...{ document, exerciseId, brought, ...shown }} />;
}

function Projected({
  document,
  exerciseId,
  brought,
  values,
  bench,
  model,
}: {
  document: ExerciseDocument;
  exerciseId: string;
  brought: BenchState | undefined;
  values: DrawValues;
  bench: Bench;
  model: Model;
}) {
  const [index, setIndex] = useState(() =>
    Math.max(
      0,
      bench.parts.findIndex(({ id }) => id === brought?.part),
    ),
  );
  const [work, dispatch] = useReducer(workReducer, bench, (from) => {
    const fresh = workFrom(from);
    if (!brought || !fresh.answers[brought.part]) return fresh;
    return workReducer(fresh, { do: 'setAll', part: brought.part, settings: brought.settings });
  });
  const [votes, setVotes] = useState<Readonly<Record<string, Votes>>>({});
  const [revealed, setRevealed] = useState<readonly string[]>([]);
  const part = must(bench.parts[Math.min(index, bench.parts.length - 1)]);
  const shown = must(document.parts.find(({ id }) => id === part.id));
  const isRevealed = revealed.includes(part.id);
  const right = isRevealed ? rightAnswerOf(shown, model) : null;
  // Plane and response side by side need the whole sheet; the question comes back when they are hidden.
  const takesAll = isRevealed && part.kind === 'gains' && isDesign(part);
  const toggle = () => setRevealed((old) => (isRevealed ? old.filter((id) => id !== part.id) : [...old, part.id]));
  return (
    <ShownContext value={{ pictures: bench.pictures, diagrams: bench.diagrams }}>
      {/* Larger than on a desk by half, to be read from the last row. */}
      <div className="grid min-h-dvh grid-rows-[auto_1fr] sm:min-h-[calc(100dvh/1.55)] sm:[zoom:1.55]">
        <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-5 py-2 text-[13px]">
          <Link to={`/exercises/${exerciseId}/build`} className="link">
            Close
          </Link>
          <h1 className="min-w-40 flex-1 truncate font-serif text-[16px]">{document.title}</h1>
          <Button look="quiet" disabled={index === 0} onClick={() => setIndex(index - 1)}>
            Previous
          </Button>
          <span>
            {index + 1} of {bench.parts.length}
          </span>
          <Button look="quiet" disabled={index + 1 >= bench.parts.length} onClick={() => setIndex(index + 1)}>
            Next
          </Button>
          <Button look="strong" onClick={toggle}>
            {isRevealed ? 'Hide' : 'Reveal'}
          </Button>
        </header>
        <main
          className={`@container grid content-start gap-x-6 gap-y-4 px-5 py-4 ${takesAll ? '' : 'sm:grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)]'}`}
        >
          <section aria-label="Question" hidden={takesAll} className={takesAll ? '' : 'grid content-start gap-3'}>
            <h2 className="font-serif text-[19px]">{part.title}</h2>
            <Statement text={part.prompt} />
            {index === 0 && <Statement text={bench.statement} />}
            <VoteList
              options={optionsOf(part)}
              votes={votes[part.id] ?? {}}
              right={right?.kind === 'choice' ? right.chosen : undefined}
              onChange={(next) => setVotes({ ...votes, [part.id]: next })}
            />
          </section>
          <section aria-label="Shown" className="grid min-w-0 content-start gap-3">
            {part.kind === 'gains' ? (
              <RunOver
                key={part.id}
                part={part}
                series={bench.series}
                values={values}
                revealed={isRevealed}
                settings={brought?.part === part.id ? brought.settings : undefined}
              />
            ) : (
              <>
                {part.figure && (
                  <Curves
                    key={`${part.id} ${String(isRevealed)}`}
                    figure={part.figure}
                    of={isRevealed ? shown : undefined}
                    {...{ document, values }}
                  />
                )}
                <LiveBench key={`bench ${part.id}`} {...{ part, bench, work, dispatch }} revealed={isRevealed} />
                {isRevealed && <Solution part={part} text={solutionOf(shown, model)} />}
                {isRevealed && <Board key={`board ${part.id}`} {...{ document, values, partId: part.id }} />}
              </>
            )}
          </section>
        </main>
      </div>
    </ShownContext>
  );
}

/** The curves beside a question; once it is revealed, those that were kept back as well, and their measures. */
function Curves({
  figure,
  of,
  document,
  values,
}: {
  figure: StudentFigure;
  of: Part | undefined;
  document: ExerciseDocument;
  values: DrawValues;
}) {
  const [revealed, measured] = useMemo(
    () => (of ? [revealedCurves(document, of, values), curveMeasures(document, of, values)] : [[], undefined]),
    [document, of, values],
  );
  return <FigurePlot {...{ figure, revealed, measured }} committed={false} />;
}

function Solution({ part, text }: { part: StudentPart; text: string | null }) {
  if (text === null) return <p className="text-slate">Many answers are right here.</p>;
  return (
    <div className="overflow-x-auto border-l-2 border-moss py-1 pl-4 text-[17px]">
      <span className="label mb-1">Expected</span>
      {isFormula(part) ? <Formula latex={text} display /> : <Statement text={text} />}
    </div>
  );
}
