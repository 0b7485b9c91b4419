import { type Bench, must, type ShownPlot, type StudentPart } from '@nailset/core';
import { useMemo } from 'react';
import type { WorkAction } from '../../loop/action';
import { optionFrame, OptionPlot, optionTitle } from '../../plot/OptionPlot';
import { plotWords } from '../../plot/plotWords';
import { plainText, Statement } from '../../statement/Statement';

/** Options to choose from: one, or all that are right. */
export function ChoiceBench({
  part,
  chosen,
  solution,
  dispatch,
}: {
  part: Extract<StudentPart, { kind: 'choice' }>;
  chosen: readonly string[];
  solution: Bench['solutions'][number] | undefined;
  dispatch: (action: WorkAction) => void;
}) {
  const frames = useMemo(() => {
    const plots = part.options.flatMap(({ plot }) => (plot ? [plot] : []));
    return new Map(plots.map(({ kind }) => [kind, optionFrame(plots.filter((plot) => plot.kind === kind))]));
  }, [part.options]);
  return (
    <fieldset className="max-w-3xl">
      <legend className="label mb-2">{part.several ? 'Choose all that are right' : 'Choose one'}</legend>
      <div className={`grid border-t border-rule ${frames.size > 0 ? 'gap-x-6 @min-[620px]:grid-cols-2' : ''}`}>
        {part.options.map(({ id, text, plot }, k) => {
          const isChosen = chosen.includes(id);
          const option = (
            <label
              className={`flex cursor-pointer items-baseline gap-3 border-b border-rule px-2 py-2.5 ${isChosen ? 'bg-wash' : 'hover:bg-sheet'}`}
            >
              <input
                type={part.several ? 'checkbox' : 'radio'}
                name={`choice-${part.id}`}
                {...spokenName(text, plot)}
                className="accent-petrol"
                checked={isChosen}
                onChange={() => dispatch({ do: 'pick', part: part.id, option: id, several: part.several })}
              />
              <div className="@container min-w-0 flex-1">
                <Statement text={text} />
              </div>
            </label>
          );
          return (
            <div key={id} className="min-w-0">
              {option}
              {plot && (
                <div className="px-2 py-2">
                  <OptionPlot title={optionTitle(plot, k)} plot={plot} frame={must(frames.get(plot.kind))} />
                </div>
              )}
            </div>
          );
        })}
      </div>
      {solution && <p className="mt-4 border-l-2 border-moss py-1 pl-4">Right: {solution.text}</p>}
    </fieldset>
  );
}

/** An option that is a picture is told by what it shows; one in words and formulas tells itself. */
const spokenName = (text: string, plot: ShownPlot | undefined) =>
  plot || text.includes('![')
    ? { 'aria-label': [plainText(text), plot && plotWords(plot)].filter(Boolean).join('. ') }
    : {};
