import {
  type Answer,
  type Attempt,
  type Bench,
  type DrawValues,
  type ExerciseDocument,
  isPrediction,
  modelOf,
  must,
  orElse,
  Problem,
  type StudentPart,
} from '@nailset/core';
import { checkAnswer, curveMeasures, revealedCurves, sampleOf, verdictAsShown } from '@nailset/core/checks';
import isEqual from 'fast-deep-equal';
import { useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { BenchSheet } from '../bench/BenchSheet';
import { nobody, previewOf } from '../bench/preview';
import { settingsOf } from '../kinds/students';
import { LecternLink } from '../lectern/LecternLink';
import { usePreviewWork } from './usePreviewWork';

const drawsShown = 10;
/**
 * The student’s view of the draft, live, with the numbers of one of ten imagined students. Answers are checked here and
 * kept nowhere.
 */
export function StudentPreview({ document, open }: { document: ExerciseDocument; open: string }) {
  const [draw, setDraw] = useState(2);
  const [full, setFull] = useState(false);
  const [placeOfLink, setPlaceOfLink] = useState<HTMLElement | null>(null);
  const draws = useMemo(() => orElse([], () => sampleOf(document, drawsShown)), [document]);
  const values = draws[draw] ?? draws[0];
  const bench = useMemo(
    () => (values ? orElse(undefined, () => previewOf(document, values)) : undefined),
    [document, values],
  );
  const imagined = draws.length - drawsShown;
  const isDrawn = draws.some((each) => !isEqual(each, draws[0]));
  return (
    <section
      aria-label="Student’s view"
      className={
        full ? 'whole-screen fixed inset-0 z-20 flex flex-col overflow-y-auto bg-paper' : 'flex min-h-full flex-col'
      }
    >
      <h2 className="sr-only">Student’s view</h2>
      <div className="flex flex-wrap items-center gap-3 border-b border-rule px-5 py-2 text-[13px] text-slate">
        {isDrawn && (
          <label className="mr-auto flex max-w-full items-center gap-2">
            Numbers of
            <select
              className="input w-auto min-w-0 px-1.5 py-1 text-[13px]"
              value={draw}
              onChange={(event) => setDraw(Number(event.target.value))}
            >
              {draws.map((_, k) => (
                <option key={k} value={k}>
                  {k < imagined ? `the ${k === 0 ? 'lowest' : 'highest'} draws` : `student ${k - imagined + 1}`}
                </option>
              ))}
            </select>
          </label>
        )}
        <span ref={setPlaceOfLink} className={isDrawn ? '' : 'mr-auto'} />
        <button type="button" className="link" onClick={() => setFull(!full)}>
          {full ? 'Back to the builder' : 'Take the student’s place'}
        </button>
      </div>
      {bench && values ? (
        <Preview
          key={draw}
          document={document}
          values={values}
          bench={bench}
          open={open}
          full={full}
          placeOfLink={placeOfLink}
        />
      ) : (
        <p className="p-5 text-slate">Fix the marked fields to see the student’s view.</p>
      )}
    </section>
  );
}

function Preview({
  document,
  values,
  bench,
  open,
  full,
  placeOfLink,
}: {
  document: ExerciseDocument;
  values: DrawValues;
  bench: Bench;
  open: string;
  full: boolean;
  /** Where in the bar above the way to the lectern goes; what it takes along is known here. */
  placeOfLink: HTMLElement | null;
}) {
  const [work, dispatch] = usePreviewWork(bench);
  const [handedIn, setHandedIn] = useState<readonly Attempt[]>([]);
  const [error, setError] = useState<string>();
  useEffect(() => dispatch({ do: 'open', part: open }), [open, dispatch]);
  const handIn = ({ id }: StudentPart, answer: Answer) => {
    const part = must(document.parts.find((candidate) => candidate.id === id));
    try {
      const verdict = verdictAsShown(checkAnswer(part, modelOf(document, values), answer), document.shows);
      setError(undefined);
      setHandedIn((old) => [
        ...old,
        {
          id: `${nobody.slice(0, -3)}${100 + old.length}`,
          partId: id,
          attempt: 1 + old.filter(({ partId }) => partId === id).length,
          version: bench.version,
          handedInAt: new Date().toISOString(),
          answer,
          checked: true,
          outOfTime: false,
          comments: [],
          returned: false,
          verdict,
        },
      ]);
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      setError(problem.message);
    }
  };
  const shown = useMemo<Bench>(() => {
    const committed = document.parts.filter(
      (part) => isPrediction(part) && handedIn.some(({ partId }) => partId === part.id),
    );
    const revealed = committed.map((part) => ({ partId: part.id, curves: revealedCurves(document, part, values) }));
    const measured = document.parts
      .filter(({ id }) => handedIn.some(({ partId }) => partId === id))
      .map((part) => ({ partId: part.id, curves: curveMeasures(document, part, values) }));
    return { ...bench, handedIn: [...handedIn], revealed, measured };
  }, [bench, document, values, handedIn]);
  const answer = work.answers[work.open];
  return (
    <>
      {placeOfLink &&
        createPortal(
          <LecternLink shown={{ part: work.open, values, settings: (answer && settingsOf(answer)) ?? {} }} />,
          placeOfLink,
        )}
      <BenchSheet
        bench={shown}
        work={work}
        dispatch={dispatch}
        handing={{ busy: false, error, closed: false, worth: '', handIn }}
        keys={full}
        isBeside={!full}
      />
    </>
  );
}
