export type NailState = 'held' | 'missed' | 'close' | 'none';

const words: Record<NailState, string> = {
  held: 'holds',
  missed: 'missed',
  close: 'holds, just',
  none: 'not handed in',
};

/** A nail seen from above: solid when it holds, hollow when not, ringed when close to its limit. */
export function NailMark({ state, label }: { state: NailState; label?: string }) {
  const title = label ? `${label}: ${words[state]}` : words[state];
  return (
    <svg viewBox="0 0 14 14" className="inline-block size-3.5 shrink-0" role="img" aria-label={title}>
      <title>{title}</title>
      {state === 'none' && <circle cx="7" cy="7" r="1" className="fill-ghost" />}
      {state === 'missed' && <circle cx="7" cy="7" r="3.6" className="fill-sheet stroke-brick" strokeWidth="1.8" />}
      {(state === 'held' || state === 'close') && <circle cx="7" cy="7" r="4" className="fill-moss" />}
      {state === 'close' && <circle cx="7" cy="7" r="6" className="fill-none stroke-copper" strokeWidth="1.2" />}
    </svg>
  );
}

/** What a nail's state is called. */
export function nailState({ met, close }: { met: boolean; close: boolean }): NailState {
  if (!met) return 'missed';
  return close ? 'close' : 'held';
}
