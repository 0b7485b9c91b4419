import { emptySheet, type Sheet, sheetLimits } from '@nailset/core';
import { useNavigate } from 'react-router';
import { hashOf } from '../shared/sheetLink';

/** To the open bench with the systems that the instructor lets students look at. */
export function OpenBenchLink({ systems, title }: Taken) {
  return systems.length > 0 && <Way systems={systems} title={title} />;
}

interface Taken {
  readonly systems: readonly { readonly name: string; readonly text: string }[];
  readonly title: string;
}

function Way({ systems, title }: Taken) {
  const navigate = useNavigate();
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
