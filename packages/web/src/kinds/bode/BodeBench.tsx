import { formatNumber, must, numberIn, Problem, responseOfTerms, straightLines } from '@nailset/core';
import isEqual from 'fast-deep-equal';
import { useEffect, useMemo, useState } from 'react';
import { type BodeCurve, type BodeFrame } from '../../frequency/BodeAxes';
import { BodePlot } from '../../frequency/BodePlot';
import { useFrequencyReadings } from '../../frequency/readings';
import type { Work, WorkAction } from '../../loop/action';
import { inView, Ladder } from '../../loop/Ladder';
import { TrailTable } from '../../loop/TrailTable';
import { useBenchKeys } from '../../loop/useBenchKeys';
import { type Kept, useKeptView } from '../../loop/useKept';
import { Formula } from '../../shared/Formula';
import { frameOfBode } from './frame';
import {
  type BodeOfPart,
  knobsOfTerms,
  refined,
  termAdditions,
  termsLatex,
  type TermsResponse,
  type termsResponses,
  withoutTerm,
} from './terms';

const stopAfter = 900;
const drawn = 300;

/** A model built from left to right until it follows a frequency response. */
export default function BodeBench({
  part,
  work,
  dispatch,
  responses,
  response,
  keys,
}: {
  part: BodeOfPart;
  work: Work;
  dispatch: (action: WorkAction) => void;
  responses: ReturnType<typeof termsResponses>;
  response: TermsResponse;
  keys: boolean;
}) {
  const answer = must(work.answers[part.id]);
  const settings = useMemo(() => (answer.kind === 'bode' ? answer.terms : {}), [answer]);
  const knobs = useMemo(
    () => knobsOfTerms(part, settings).filter(({ name }) => settings[name] !== undefined),
    [part, settings],
  );
  const trail = useMemo(() => work.trails[part.id] ?? [], [work.trails, part.id]);
  const [kept] = useState<Kept>(() => new Map());
  const { view: frame, set: setFrame, back } = useKeptView(kept, 'frame', () => frameOfBode(part));
  const [units, setUnits] = useState({ hertz: false, ratio: false });
  const [at, setAt] = useState<number>();
  const readings = useFrequencyReadings(useState<readonly number[]>([]));
  const system = { label: 'G', at: (omega: number) => responseOfTerms(response.model, omega) };
  const [trouble, setTrouble] = useState('');
  const holding = response.verdict.items.filter(({ met }) => met).length;
  const curve = useMemo(() => curveOfTerms(response, frame), [response, frame]);
  const fit = () => setFrame(frameOfBode(part));
  const setAll = (next: typeof settings) => {
    setTrouble('');
    dispatch({ do: 'setAll', part: part.id, settings: next });
  };
  const set = (name: string, value: number) => setAll({ ...settings, [name]: String(Number(value.toPrecision(4))) });
  const refine = () => {
    try {
      setAll(refined(part, settings));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.message);
    }
  };

  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'stop', part: part.id, holding }), stopAfter);
    return () => clearTimeout(timer);
  }, [answer, part.id, holding, dispatch]);
  useBenchKeys(keys, part.id, knobs, work, dispatch, { f: fit });

  const stops = trail.flatMap((stop, index) => {
    const response = responses(stop.gains);
    return response instanceof Problem ? [] : [{ stop, index, response }];
  });
  const first = stops[0]?.response;
  const isFirst = first !== undefined && isEqual(first.settings, response.settings);
  const held = ({ verdict }: TermsResponse): string =>
    verdict.items.map(({ measured, unit }) => `${formatNumber(must(measured))} ${unit}`).join(', ');
  return (
    <div className="flex min-w-0 flex-col gap-4">
      <div className={inView}>
        <BodePlot
          {...{ curve, frame, units, at, readings, system }}
          asymptote={straightLines(response.model, frame.from, frame.to)}
          before={first && !isFirst ? curveOfTerms(first, frame) : undefined}
          data={part.target}
          summary={`${part.target.name}: the given points and the model. ${response.verdict.words}`}
          onUnits={setUnits}
          onFit={fit}
          onView={setFrame}
          onBack={back}
          corners={Object.keys(settings)
            .filter((name) => /^[pzw]/.test(name))
            .map((name) => ({ name, kind: name.includes('p') ? 'pole' : 'zero', omega: numberIn(settings[name]) }))}
          onCorner={set}
          onLevel={(db) => set('K', response.model.gain * 10 ** (db / 20))}
          onAt={setAt}
          className="h-[clamp(240px,50vh,460px)] @max-[620px]:h-[38vh]"
        />
      </div>
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1 text-note">
        {termAdditions(part, settings).map(({ label, settings: added }) => (
          <button key={label} type="button" className="link" onClick={() => setAll({ ...settings, ...added })}>
            Add {label}
          </button>
        ))}
        {part.refine && (
          <button type="button" className="link font-medium" onClick={refine}>
            Refine all
          </button>
        )}
        {trouble && (
          <span role="alert" className="text-brick">
            {trouble}
          </span>
        )}
      </p>
      <Ladder
        part={part.id}
        knobs={knobs}
        settings={settings}
        chosen={work.chosen}
        dispatch={dispatch}
        onRemove={(name) => setAll(withoutTerm(settings, name))}
      />
      <Formula latex={`\\displaystyle G(s)=${termsLatex(response.model)}`} className="text-ink" />
      <TrailTable
        part={part.id}
        knobs={knobs}
        rows={stops.map(({ stop, index, response: shown }) => ({
          stop,
          index,
          current: isEqual(shown.settings, response.settings),
          held: held(shown),
        }))}
        dispatch={dispatch}
      />
    </div>
  );
}

function curveOfTerms({ model }: TermsResponse, { from, to }: BodeFrame): BodeCurve {
  const omegas = Float64Array.from({ length: drawn }, (_, k) => from * (to / from) ** (k / (drawn - 1)));
  const values = Array.from(omegas, (omega) => responseOfTerms(model, omega));
  return {
    omegas,
    magnitudesDb: values.map(({ db }) => db),
    phasesDegrees: values.map(({ degrees }) => degrees),
  };
}
