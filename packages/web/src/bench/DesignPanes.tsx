import type { Settings } from '@nailset/core';
import { Suspense, lazy, useState } from 'react';
import type { GainsOf, LoopResponse, LoopResponses } from './loopResponse';

const LocusPane = lazy(() => import('../plane/LocusPane'));
const FrequencyPane = lazy(() => import('../frequency/FrequencyPane'));

/** Whether a part is worked on in the s-plane or over frequency, beside its response. */
export const isDesign = ({ views }: GainsOf): boolean =>
  views.some((view) => view === 'locus' || view === 'bode' || view === 'nyquist');

/** The s-plane and the frequency response of a part, one at a time; nothing of either is lost in between. */
export function DesignPanes({
  part,
  ...rest
}: {
  part: GainsOf;
  settings: Settings;
  responses: LoopResponses;
  response: LoopResponse;
  first: LoopResponse | undefined;
  onSettings: (settings: Settings) => void;
}) {
  const frequency = (['bode', 'nyquist'] as const).filter((view) => part.views.includes(view));
  const plane = part.views.includes('locus');
  const [shown, setShown] = useState(plane ? 'plane' : 'frequency');
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
  return (
    <div className="grid min-w-0 content-start gap-2">
      {plane && frequency.length > 0 && (
        <p role="group" aria-label="View" className="flex gap-3 text-[13px]">
          {tab('plane', 's-plane')}
          {tab('frequency', 'Frequency')}
        </p>
      )}
      <Suspense fallback={null}>
        {plane && (
          <div hidden={shown !== 'plane'}>
            <LocusPane part={part} {...rest} className="h-[clamp(240px,46vh,400px)]" />
          </div>
        )}
        {shown === 'frequency' && (
          <FrequencyPane
            part={part}
            {...rest}
            show={frequency}
            className="h-[clamp(240px,38vh,340px)]"
            lower="h-[clamp(200px,32vh,280px)]"
          />
        )}
      </Suspense>
    </div>
  );
}
