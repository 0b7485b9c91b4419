import {
  convertController,
  formatNumber,
  isPid,
  must,
  orProblem,
  Problem,
  quantities,
  rationalFromNumber,
  rationalToNumber,
  type Settings,
  tunedStart,
} from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import { type GainsOf, type LoopResponse, type LoopResponses, tryResponse } from '../../loop/loopResponse';
import type { PlotCurve } from '../../plot/curves';
import { Formula } from '../../shared/Formula';
import { knobsOfGains } from './knobs';

/**
 * Loops from calm to quick: the crossover as a multiple of the one that is usual for the plant, and the largest
 * sensitivity peak that each may have.
 */
const paces = [
  { times: 0.4, peak: 1.3 },
  { times: 0.65, peak: 1.45 },
  { times: 1, peak: 1.6 },
  { times: 1.5, peak: 2 },
] as const;

/** A loop to begin with: its gains as they are taken over, and its response. */
interface Offer {
  readonly settings: Settings;
  readonly response: LoopResponse;
}

/** A few loops to begin with, worked out one after the other once they are asked for. */
export function useStartOffers(part: GainsOf, responses: LoopResponses) {
  const [open, setOpen] = useState(false);
  const [answered, setAnswered] = useState<readonly (Offer | Problem)[]>([]);
  const [chosen, setChosen] = useState<number>();
  useEffect(() => {
    if (!open) return;
    let timer: ReturnType<typeof setTimeout>;
    const next = (k: number, before: readonly (Offer | Problem)[]) => {
      const all = [...before, offerOf(part, responses, must(paces[k]))];
      setAnswered(all);
      if (k + 1 < paces.length) timer = setTimeout(() => next(k + 1, all), 0);
    };
    timer = setTimeout(() => next(0, []), 0);
    return () => clearTimeout(timer);
  }, [open, part, responses]);
  const offers = useMemo(
    () => (open ? answered.filter((each): each is Offer => !(each instanceof Problem)) : []),
    [open, answered],
  );
  const curves = offers.flatMap(({ response }, k): PlotCurve[] => {
    const { y } = response.curves;
    const number = String(k + 1);
    return y ? [{ id: `start-${number}`, curve: y, look: k === chosen ? 'second' : 'family', label: number }] : [];
  });
  const none =
    open && answered.length === paces.length && offers.length === 0 ? (answered[0] as Problem).message : undefined;
  return { open, setOpen, offers, curves, none, setChosen };
}

/** The loops as a table; the one pointed at stands out on the plot, and a click takes its gains. */
export function StartOffers({
  part,
  shown: { offers, none, setChosen },
  onTake,
}: {
  part: GainsOf;
  shown: ReturnType<typeof useStartOffers>;
  onTake: (settings: Settings) => void;
}) {
  if (none) return <p className="text-[13px] text-brick">{none}</p>;
  return (
    <table className="w-full text-left text-[13px]" aria-label="Ways to start, calm to quick">
      <thead className="text-slate">
        <tr>
          {['calm to quick', 'crossover', 'phase margin', 'Ms', 'gains', ''].map((head) => (
            <th key={head} scope="col" className="py-1 pr-3 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {offers.map(({ settings, response }, k) => (
          <tr
            key={k}
            className="border-t border-grid focus-within:bg-wash hover:bg-wash"
            onPointerEnter={() => setChosen(k)}
            onPointerLeave={() => setChosen(undefined)}
            onFocus={() => setChosen(k)}
            onBlur={() => setChosen(undefined)}
          >
            <th scope="row" className="py-1 pr-3 font-medium text-plum">
              {k + 1}
            </th>
            {facts(response).map((words, n) => (
              <td key={n} className="py-1 pr-3 whitespace-nowrap">
                {words}
              </td>
            ))}
            <td className="py-1 pr-3">
              {knobsOfGains(part).map(({ name, latex }) => (
                <span key={name} className="mr-3 whitespace-nowrap">
                  <Formula latex={latex} /> {settings[name]}
                </span>
              ))}
            </td>
            <td className="py-1 text-right">
              <button
                type="button"
                className="link"
                aria-label={`Start from ${k + 1}`}
                onClick={() => onTake(settings)}
              >
                Start here
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Crossover, margin and sensitivity peak of the loop with the gains as they are taken. */
function facts({ loop }: LoopResponse): string[] {
  const subject = loop.subject();
  const read = (name: 'gainCrossover' | 'phaseMargin' | 'sensitivityPeak', unit: string): string => {
    const value = orProblem(() => quantities[name].read(subject));
    return value === null || value instanceof Problem ? '–' : `${formatNumber(value)}${unit}`;
  };
  return [read('gainCrossover', ' rad/s'), read('phaseMargin', '°'), read('sensitivityPeak', '')];
}

function offerOf(part: GainsOf, responses: LoopResponses, { times, peak }: (typeof paces)[number]): Offer | Problem {
  const { controller } = part;
  if (!isPid(controller)) return new Problem('notPossible', 'Ways to start are for PID controllers.');
  const { terms, form } = controller;
  const settings = orProblem((): Settings => {
    const { plant } = responses.model;
    const usual = tunedStart(plant, terms).crossover;
    const { gains } = tunedStart(plant, terms, { crossover: usual * times, sensitivityPeak: peak });
    const exact = (value: number) => rationalFromNumber(Number(value.toPrecision(3)));
    const parallel = { form: 'parallel', Kp: exact(gains.Kp), Ki: exact(gains.Ki), Kd: exact(gains.Kd) } as const;
    const converted = Object.entries(convertController(parallel, form));
    return Object.fromEntries(
      knobsOfGains(part).map(({ name }) => {
        const value = converted.find(([gain]) => gain === name)?.[1];
        const isNumber = typeof value === 'object' && value !== null;
        // Without an integral the time of integration is as long as can be.
        return [name, isNumber ? short(rationalToNumber(value)) : name === 'Ti' ? '1000' : '0'];
      }),
    );
  });
  if (settings instanceof Problem) return settings;
  const response = tryResponse(responses, settings);
  return response instanceof Problem ? response : { settings, response };
}

const short = (value: number): string => String(Number(value.toPrecision(3)));
