import { type Bench, type StudentPart, inputLine } from '@nailset/core';
import { Suspense, lazy } from 'react';
import { CurveBench } from '../bench/CurveBench';
import { useLive } from '../bench/useLive';
import { type Work, type WorkAction, fallbacks } from '../bench/work';
import { OptionPlot, optionFrame, optionTitle } from '../plot/OptionPlot';

const BodeBench = lazy(() => import('../bench/BodeBench'));
const PointsBench = lazy(() => import('../bench/PointsBench'));

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
  const answer = work.answers[part.id]!;
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
  return (
    <Suspense fallback={null}>
      {part.kind === 'points' && (
        <PointsBench
          part={part}
          text={'text' in answer ? answer.text : ''}
          revealed={revealed}
          solution={undefined}
          onChange={(text) => dispatch({ do: 'type', part: part.id, text })}
        />
      )}
      {part.kind === 'bode' && live?.kind === 'bode' && live.response && (
        <BodeBench {...{ part, work, dispatch }} responses={live.responses} response={live.response} keys={false} />
      )}
      {part.kind === 'curve' && live?.kind === 'curve' && live.response && (
        <CurveBench
          {...{ part, work, dispatch }}
          reference={inputLine(part.input, bench.series, part.horizon)}
          responses={live.responses}
          response={live.response}
          keys={false}
        />
      )}
    </Suspense>
  );
}
