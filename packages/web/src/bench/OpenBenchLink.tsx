import { emptySheet, type Sheet, sheetLimits } from '@nailset/core';
import { useNavigate } from 'react-router';
import { hashOf } from '../shared/sheetLink';

/** To the open bench with the systems that the instructor lets students look at. */
export function OpenBenchLink({
  systems,
  title,
}: {
  systems: readonly { readonly name: string; readonly text: string }[];
  title: string;
}) {
  const navigate = useNavigate();
  if (systems.length === 0) return null;
  const sheet: Sheet = {
    ...emptySheet,
    title: title.slice(0, sheetLimits.title),
    lines: systems.map(({ name, text }) => ({ name, text, drawn: true, panes: 'all' })),
  };
  return (
    <p className="mt-3">
      <button
        type="button"
        className="link text-[13px]"
        onClick={() => void hashOf(sheet).then((hash) => navigate(`/open${hash}`))}
      >
        Look at {systems.map(({ name }) => name).join(', ')} on the open bench
      </button>
    </p>
  );
}
