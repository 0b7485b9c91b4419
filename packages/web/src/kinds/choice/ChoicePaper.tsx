import { type SeenOf } from '@nailset/core';
import { optionFrame, OptionPlot, optionTitle } from '../../plot/OptionPlot';
import { Statement } from '../../statement/Statement';

/** The part on paper. */
export const ChoicePaper = ({ part }: { part: SeenOf<'choice'> }) => {
  const plots = part.options.flatMap(({ plot }) => (plot ? [plot] : []));
  return (
    <ul className={`mt-2 grid gap-x-6 gap-y-2 ${plots.length > 0 ? 'grid-cols-2' : ''}`}>
      {part.options.map(({ id, text, plot }, k) => (
        <li key={id} className="grid grid-cols-[18px_1fr] items-baseline break-inside-avoid">
          <span className="inline-block size-3 border border-ink/60" data-answer-box="" />
          <div className="min-w-0">
            <Statement text={text} />
            {plot && (
              <OptionPlot
                title={optionTitle(plot, k)}
                plot={plot}
                frame={optionFrame(plots.filter(({ kind }) => kind === plot.kind))}
              />
            )}
          </div>
        </li>
      ))}
    </ul>
  );
};
