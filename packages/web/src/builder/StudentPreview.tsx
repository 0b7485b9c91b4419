import { type Bench, type DrawValues, type ExerciseDocument, Problem, sampleOf, studentExercise } from '@nailset/core';
import { useEffect, useMemo, useReducer, useState } from 'react';
import { BenchSheet } from '../bench/BenchSheet';
import { workFrom, workReducer } from '../bench/work';

const drawsShown = 10;
const nobody = '00000000-0000-0000-0000-000000000000';

/** The student's view of the draft, live, with the numbers of one of ten imagined students. */
export function StudentPreview({ document, open }: { document: ExerciseDocument; open: string }) {
  const [draw, setDraw] = useState(2);
  const draws = useMemo(() => orNone(() => sampleOf(document, drawsShown)), [document]);
  const values = draws?.[draw];
  const bench = useMemo(() => (values ? orNone(() => previewOf(document, values)) : undefined), [document, values]);
  return (
    <section aria-label="Student’s view" className="flex min-h-full flex-col">
      <div className="flex items-center justify-between gap-3 border-b border-rule px-5 py-2 text-[13px] text-slate">
        <h2 className="caption">Student’s view</h2>
        {draws && (
          <label className="flex items-center gap-2">
            Numbers of
            <select
              className="input w-auto px-1.5 py-1 text-[13px]"
              value={draw}
              onChange={(event) => setDraw(Number(event.target.value))}
            >
              <option value={0}>the lowest of each draw</option>
              <option value={1}>the highest of each draw</option>
              {Array.from({ length: drawsShown }, (_, k) => (
                <option key={k} value={k + 2}>
                  imagined student {k + 1}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {bench ? (
        <Preview key={shapeOf(document)} bench={bench} open={open} />
      ) : (
        <p className="p-5 text-slate">Mend what is marked on the left to see the student’s view.</p>
      )}
    </section>
  );
}

/** Whatever changes what a student’s answers look like starts the preview’s work afresh. */
function shapeOf({ parts }: ExerciseDocument): string {
  return JSON.stringify(
    parts.map((part) =>
      part.kind === 'gains'
        ? [part.id, part.controller, part.horizon, part.views, part.input]
        : part.kind === 'curve'
          ? [part.id, part.knobs, part.horizon]
          : [part.id, part.kind],
    ),
  );
}

function Preview({ bench, open }: { bench: Bench; open: string }) {
  const [work, dispatch] = useReducer(workReducer, bench, workFrom);
  useEffect(() => dispatch({ do: 'open', part: open }), [open]);
  return <BenchSheet bench={bench} work={work} dispatch={dispatch} />;
}

function orNone<Of>(work: () => Of): Of | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}

function previewOf(document: ExerciseDocument, values: DrawValues): Bench {
  return {
    ...studentExercise(document, values),
    exerciseId: nobody,
    versionId: nobody,
    version: 1,
    courseId: nobody,
    course: '',
    dueAt: null,
    mayHandIn: false,
    saved: [],
    handedIn: [],
    solutions: [],
    revealed: [],
  };
}
