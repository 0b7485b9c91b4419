import { type FigureMeasures, must, type Samples, type StudentFigure } from '@nailset/core';
import { useMemo, useState } from 'react';
import { useProbing } from '../loop/useProbing';
import { AxesMenu } from '../plot/AxesMenu';
import { type CurveLook, type PlotCurve, strokes } from '../plot/curves';
import { frameAxes, frameFor, frameWith } from '../plot/frame';
import { measureMarks } from '../plot/measureMarks';
import { ResponsePlot } from '../plot/ResponsePlot';
import { curveFrom } from '../plot/samples';
import { useFrame } from '../plot/useFrame';
import { Toggle } from '../shared/Toggle';

const none: FigureMeasures = [];
const looks: readonly CurveLook[] = ['now', 'second', 'family', 'held', 'first', 'given'];

/** The curves that go with a part; those to be predicted come once the answer is handed in. */
export function FigurePlot({
  figure,
  revealed,
  measured = none,
  committed,
}: {
  figure: StudentFigure;
  revealed: readonly Samples[];
  /** Of every curve, in order, once they may be told. */
  measured?: FigureMeasures | undefined;
  /** Whether the answer was handed in, so that nothing more is to come. */
  committed: boolean;
}) {
  const all = useMemo(() => [...figure.curves, ...revealed].map(toPlot), [figure.curves, revealed]);
  const [picked, setPicked] = useState('');
  const curves = useMemo(
    () => (all.some(({ id }) => id === picked) ? all.map((each) => among(each, picked)) : all),
    [all, picked],
  );
  const input = useMemo(() => curveFrom(figure.input), [figure.input]);
  const levels = useMemo(() => [0, ...input.values], [input]);
  const start = useMemo(() => {
    // A curve that runs away does not shrink the others at first: it leaves the frame, and Fit brings it in.
    const tame = curves.filter(({ curve }) => curve.values.every((value) => Math.abs(value) < 20 * sizeOf(input)));
    return frameFor(
      figure.horizon,
      (tame.length > 0 ? tame : curves).map(({ curve }) => curve),
      levels,
    );
  }, [curves, figure.horizon, input, levels]);
  const [frame, setFrame, back] = useFrame(figure.horizon, () => start);
  const fit = () =>
    setFrame(
      frameFor(
        figure.horizon,
        curves.map(({ curve }) => curve),
        levels,
      ),
    );
  const probing = useProbing();
  const [marking, setMarking] = useState(false);
  const at = all.findIndex(({ id }) => id === picked);
  const first = measured.findIndex((measures) => measures !== null);
  const read = at >= 0 ? at : first;
  const { marks, band } =
    marking && all[read] ? measureMarks(measured[read], all[read].curve, frame.tMax) : { marks: [], band: undefined };
  const mark = (on: boolean) => {
    setMarking(on);
    // Of several curves the marks are of the one that is read, if it has some.
    if (on && all.length > 1) setPicked(must(all[measured[at] ? at : first]).id);
  };
  const waiting = figure.afterwards > 0 && revealed.length === 0;
  const labels = curves.map(({ label }) => label).join(', ');
  return (
    <div className="mt-6">
      {(curves.length > 0 || !waiting) && (
        <ResponsePlot
          title="Responses"
          frame={frame}
          onFit={fit}
          onView={setFrame}
          onBack={back}
          probing={probing}
          tools={
            <>
              {all.length > 1 && (
                <select
                  aria-label="Curve that is read"
                  className="bg-transparent text-petrol"
                  value={picked}
                  onChange={(event) => {
                    setPicked(event.target.value);
                    if (!event.target.value) setMarking(false);
                  }}
                >
                  <option value="">every curve</option>
                  {all.map(({ id, label }) => (
                    <option key={id} value={id}>
                      read {label}
                    </option>
                  ))}
                </select>
              )}
              {first >= 0 && <Toggle on={marking} onChange={mark} words="Measures" />}
              <AxesMenu
                axes={frameAxes(frame, 's')}
                reads
                onChange={(axis, ends) => setFrame(frameWith(frame, axis, ends))}
              />
            </>
          }
          {...{ curves, marks, band }}
          reference={input}
          referenceName="input"
          summary={`Responses over ${figure.horizon} s: ${labels}.`}
          className="h-[300px]"
        />
      )}
      {waiting && (
        <p className="mt-3 grid min-h-28 place-items-center border border-dashed border-rule px-4 py-6 text-center text-slate">
          {committed
            ? 'The curves follow later.'
            : 'Say first, then see: the curves follow your answer. There is one try.'}
        </p>
      )}
    </div>
  );
}

const sizeOf = ({ values }: { values: Float64Array }): number => Math.max(1, ...values.map(Math.abs));

/** The curve that is read stands out in its own colour; the others are ghosts. */
const among = (curve: PlotCurve, picked: string): PlotCurve =>
  curve.id === picked ? { ...curve, look: 'now', stroke: strokes[curve.look] } : { ...curve, look: 'ghost' };

function toPlot(samples: Samples, k: number): PlotCurve {
  return { id: `curve-${k}`, curve: curveFrom(samples), look: must(looks[k % looks.length]), label: samples.label };
}
