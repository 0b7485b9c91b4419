import { useEffect } from 'react';
import { useLatest } from '../shared/useLatest';
import type { Work, WorkAction } from './action';
import type { Knob } from './knob';
import { ladderKey } from './Ladder';

/** Keys of a bench with a ladder: those of the ladder, and single letters for what the plots offer. */
export function useBenchKeys(
  enabled: boolean,
  part: string,
  knobs: readonly Knob[],
  work: Work,
  dispatch: (action: WorkAction) => void,
  letters: Readonly<Record<string, () => void>>,
): void {
  const latest = useLatest({ work, knobs, letters });
  useEffect(() => {
    if (!enabled) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing =
        target.matches('input[type=text], input:not([type]), textarea, select') && !target.closest('[data-gain]');
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest('[role=dialog]') || target.closest('[role=slider]')) return;
      const inGain = target.matches('input');
      const letter = latest.current.letters[event.key.toLowerCase()];
      if (!inGain && letter) return letter();
      if (inGain && /^[0-9]$/.test(event.key)) return;
      const action = ladderKey(event, part, latest.current.knobs, latest.current.work);
      if (!action) return;
      event.preventDefault();
      dispatch(action);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [enabled, part, dispatch, latest]);
}
