import type { Bench } from '@nailset/core';
import type { WorkSaving } from '../work/useSaving';

/** Says that another window has changed an answer, and asks which of the two stays. */
export function ChangedElsewhere({
  changed,
  parts,
  settle,
}: Pick<WorkSaving, 'changed' | 'settle'> & { parts: Bench['parts'] }) {
  if (changed.length === 0) return null;
  const titles = changed.map(({ partId }) => `“${parts.find(({ id }) => id === partId)?.title ?? partId}”`);
  return (
    <p role="alert" className="border-b border-rule bg-wash px-5 py-2">
      {titles.join(', ')} changed in another window. Nothing is overwritten until you choose.{' '}
      <button type="button" className="link" onClick={() => settle('theirs')}>
        Show that answer
      </button>{' '}
      <button type="button" className="link ml-3" onClick={() => settle('mine')}>
        Keep this one
      </button>
    </p>
  );
}
