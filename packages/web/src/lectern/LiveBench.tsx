import { type Bench, must, type StudentPart } from '@nailset/core';
import { Suspense } from 'react';
import { studentKind } from '../kinds/students';
import type { Work, WorkAction } from '../loop/action';
import { optionFrame, OptionPlot, optionTitle } from '../plot/OptionPlot';
import { useLive } from '../work/useLive';
import { fallbacks } from '../work/work';

/** A part that is worked on before everyone: marked, built up, or looked at. */
export function LiveBench({
  part,
  bench,
  work,
  dispatch,
  revealed,
}: {
  part: StudentPart;
  bench: Bench;
  work: Work;
  dispatch: (action: WorkAction) => void;
  revealed: boolean;
}) {
  const answer = must(work.answers[part.id]);
  const live = useLive(part, answer, fallbacks(work, part), bench.series);
  if (part.kind === 'choice') {
    const plots = part.options.flatMap(({ plot }) => (plot ? [plot] : []));
    return (
      <div className="grid gap-4 @min-[400px]:grid-cols-2">
        {part.options.map(({ id, plot }, k) => {
          const same = plots.filter(({ kind }) => kind === plot?.kind);
          return plot && <OptionPlot key={id} title={optionTitle(plot, k)} plot={plot} frame={optionFrame(same)} />;
        })}
      </div>
    );
  }
  const { Bench: OwnBench, isProjected } = studentKind(part);
  if (!isProjected) return null;
  return (
    <Suspense fallback={null}>
      <OwnBench
        {...{ part, answer, bench, work, dispatch, live, revealed, scope: none }}
        last={undefined}
        solution={undefined}
        keys={false}
        together={false}
        onChange={(next) => dispatch({ do: 'answer', part: part.id, answer: next })}
      />
    </Suspense>
  );
}

/** Nothing is typed on the lectern. */
const none = { names: new Map() };
