import {
  type Design,
  formatNumber,
  leadDesign,
  matchedDesign,
  orProblem,
  Problem,
  type Specifications,
  tunedDesign,
} from '@nailset/core';
import { useMemo, useState } from 'react';
import { useTimeUnit } from '../plot/timeUnit';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { NumberIn } from '../shared/NumberIn';
import { WorkingList } from '../shared/WorkingList';
import type { Drawn } from './sheet/drawn';
import type { Candidate } from './sheet/ghosts';

const ways = {
  PD: 'PD, by matching coefficients',
  PI: 'PI, by matching coefficients',
  PID: 'PID, by matching coefficients',
  lead: 'a lead, on the locus',
  'tuned PI': 'PI, as fast as is robust',
  'tuned PID': 'PID, as fast as is robust',
} as const;
type Way = keyof typeof ways;

const times: Record<Specifications['which'], string> = {
  peakTime: 'peak after',
  riseTime: 'rise time',
  settlingTime: 'settled, to 2 %, after',
};

function designFor(way: Way, { transfer }: Drawn, wanted: Specifications, peak: number): Design {
  if (way === 'lead') return leadDesign(transfer, wanted);
  if (way === 'tuned PI') return tunedDesign(transfer, 'PI', peak);
  if (way === 'tuned PID') return tunedDesign(transfer, 'PID', peak);
  return matchedDesign(transfer, way, wanted);
}

/** Largest sensitivity peaks of loops from calm to quick, to compare with. */
const paces = [1.3, 1.6, 2];

function candidatesBeside(way: Way, system: Drawn, wanted: Specifications, peak: number): Candidate[] {
  if (!way.startsWith('tuned')) return [];
  return paces.flatMap((pace) => {
    if (Math.abs(pace - peak) < 0.05) return [];
    const design = orProblem(() => designFor(way, system, wanted, pace));
    return design instanceof Problem ? [] : [{ words: `sensitivity peak ${pace}`, design }];
  });
}

/** From what a response is to be like to the numbers of a controller, with the working, and what it is like then. */
export default function DesignDialog({
  system,
  onUse,
  onClose,
}: {
  system: Drawn;
  /** Puts the controller in front of the system and closes the loop; what could be chosen instead stays as ghosts. */
  onUse: (design: Design, beside: readonly Candidate[]) => void;
  onClose: () => void;
}) {
  const unit = useTimeUnit();
  const [way, setWay] = useState<Way>('PD');
  const [wanted, setWanted] = useState<Specifications>(() => ({
    overshootPercent: 10,
    time: Number((0.5 * (system.facts.measures?.settlingTime ?? 4)).toPrecision(1)),
    which: 'settlingTime',
  }));
  const [peak, setPeak] = useState(1.6);
  const proposal = useMemo(
    () => orProblem(() => designFor(way, system, { ...wanted, unit }, peak)),
    [way, system, wanted, unit, peak],
  );
  const isTuned = way.startsWith('tuned');
  return (
    <DialogFrame
      title={`A controller for ${system.label}`}
      open
      onOpenChange={(open) => !open && onClose()}
      width="w-[min(720px,94vw)]"
    >
      <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2 text-[14px]">
        <select
          aria-label="Controller"
          className="bg-transparent text-petrol"
          value={way}
          onChange={(event) => setWay(event.target.value as Way)}
        >
          {Object.entries(ways).map(([each, words]) => (
            <option key={each} value={each}>
              {words}
            </option>
          ))}
        </select>
        {isTuned ? (
          <NumberIn
            words="largest sensitivity"
            label="Largest sensitivity peak"
            value={peak}
            isFine={(next) => next > 1 && next < 10}
            onChange={(next) => setPeak(next ?? 1.6)}
          />
        ) : (
          <>
            <NumberIn
              words="overshoot"
              label="Wanted overshoot, in %"
              unit="%"
              value={wanted.overshootPercent}
              isFine={(next) => next > 0 && next < 100}
              onChange={(next) => setWanted({ ...wanted, overshootPercent: next ?? 10 })}
            />
            <span className="flex items-baseline gap-1.5">
              <select
                aria-label="Wanted time"
                className="bg-transparent text-petrol"
                value={wanted.which}
                onChange={(event) => setWanted({ ...wanted, which: event.target.value as Specifications['which'] })}
              >
                {Object.entries(times).map(([which, words]) => (
                  <option key={which} value={which}>
                    {words}
                  </option>
                ))}
              </select>
              <NumberIn
                words=""
                label="How long it may take"
                unit={unit}
                value={wanted.time}
                isFine={(next) => next > 0 && next < 1e9}
                onChange={(next) => setWanted({ ...wanted, time: next ?? 1 })}
              />
            </span>
          </>
        )}
      </div>
      <div
        className="my-3 min-h-0 overflow-y-auto border-t border-rule pt-3"
        tabIndex={0}
        role="region"
        aria-label="Working"
      >
        {proposal instanceof Problem ? (
          <p className="text-brick">{proposal.message}</p>
        ) : (
          <Board design={proposal} unit={unit} />
        )}
      </div>
      <DialogFoot leave="Close">
        <Button
          look="strong"
          disabled={proposal instanceof Problem}
          onClick={() => proposal instanceof Problem || onUse(proposal, candidatesBeside(way, system, wanted, peak))}
        >
          Put it on the bench
        </Button>
      </DialogFoot>
    </DialogFrame>
  );
}

function Board({ design: { steps, outcome, measures }, unit }: { design: Design; unit: string }) {
  return (
    <>
      <WorkingList steps={steps} />
      <h3 className="mt-2 font-semibold">What the loop does</h3>
      {outcome.map((words) => (
        <p key={words} className="text-[14px]">
          {words}
        </p>
      ))}
      {outcome.length === 0 && measures.stable && (
        <p className="text-[14px]">
          Overshoot {formatNumber(measures.overshootPercent ?? NaN)} %, settled after{' '}
          {formatNumber(measures.settlingTime ?? NaN)} {unit}.
        </p>
      )}
    </>
  );
}
