import type { Settings } from '@nailset/core';
import { lazy, Suspense, useState } from 'react';
import type { GainsOf, LoopResponse, LoopResponses } from '../../loop/loopResponse';
import type { HeldRatios } from '../../loop/ratios';
import type { Kept } from '../../loop/useKept';

const LocusPane = lazy(() => import('../../plane/LocusPane'));
const FrequencyPane = lazy(() => import('../../frequency/FrequencyPane'));

/** Whether a part is worked on in the s-plane or over frequency, beside its response. */
export const isDesign = ({ views }: GainsOf): boolean =>
  views.some((view) => view === 'locus' || view === 'bode' || view === 'nyquist');

/** How high each plot is: on a screen of its own, or magnified before a class. */
const heights = {
  bench: {
    plane: 'h-[clamp(240px,46vh,400px)]',
    bode: 'h-[clamp(260px,44vh,400px)]',
    bodeBesideNyquist: 'h-[clamp(280px,52vh,480px)]',
    nyquist: 'h-[clamp(260px,48vh,420px)]',
    nyquistBesideBode: 'h-[clamp(180px,24vh,280px)]',
  },
  lectern: {
    plane: 'h-[290px]',
    bode: 'h-[260px]',
    bodeBesideNyquist: 'h-[280px]',
    nyquist: 'h-[260px]',
    nyquistBesideBode: 'h-[120px]',
  },
};

/**
 * The s-plane and the frequency response of a part, one at a time; nothing of either is lost in between. Stands in the
 * left column of a grid with the response at the top of the right one.
 */
export function DesignPanes({
  part,
  place = 'bench',
  ...rest
}: {
  part: GainsOf;
  place?: keyof typeof heights;
  settings: Settings;
  responses: LoopResponses;
  response: LoopResponse;
  first: LoopResponse | undefined;
  /** Leads and lags whose zero and pole move as one. */
  held?: HeldRatios | undefined;
  onSettings: (settings: Settings) => void;
}) {
  const frequency = (['bode', 'nyquist'] as const).filter((view) => part.views.includes(view));
  const plane = part.views.includes('locus');
  const [shown, setShown] = useState(plane ? 'plane' : 'frequency');
  const [kept] = useState<Kept>(() => new Map());
  const tab = (name: string, words: string) => (
    <button
      type="button"
      aria-pressed={shown === name}
      className={`link ${shown === name ? 'font-medium text-ink decoration-ink' : ''}`}
      onClick={() => setShown(name)}
    >
      {words}
    </button>
  );
  const tabs = plane && frequency.length > 0 && (
    <p role="group" aria-label="View" className="mb-2 flex gap-3 text-[13px]">
      {tab('plane', 's-plane')}
      {tab('frequency', 'Frequency')}
    </p>
  );
  return (
    <Suspense fallback={<div className={leftColumn} />}>
      {shown === 'plane' && (
        <div className={leftColumn}>
          {tabs}
          <LocusPane part={part} {...rest} kept={kept} className={heights[place].plane} />
        </div>
      )}
      {shown === 'frequency' && (
        <FrequencyPane part={part} {...rest} head={tabs} show={frequency} heights={heights[place]} kept={kept} />
      )}
    </Suspense>
  );
}

const leftColumn = 'min-w-0 @min-[620px]:col-start-1 @min-[620px]:row-span-2 @min-[620px]:row-start-1';
