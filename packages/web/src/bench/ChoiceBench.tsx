import type { Bench, StudentPart } from '@nailset/core';
import { Statement } from '../shared/Statement';
import type { WorkAction } from './work';

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
  return (
    <fieldset className="max-w-3xl">
      <legend className="label mb-2">{part.several ? 'Choose all that are right' : 'Choose one'}</legend>
      <div className="grid border-t border-rule">
        {part.options.map(({ id, text }) => {
          const isChosen = chosen.includes(id);
          return (
            <label
              key={id}
              className={`flex cursor-pointer items-baseline gap-3 border-b border-rule px-2 py-2.5 ${isChosen ? 'bg-wash' : 'hover:bg-sheet'}`}
            >
              <input
                type={part.several ? 'checkbox' : 'radio'}
                name={`choice-${part.id}`}
                className="accent-petrol"
                checked={isChosen}
                onChange={() => dispatch({ do: 'pick', part: part.id, option: id, several: part.several })}
              />
              <div className="@container min-w-0 flex-1">
                <Statement text={text} />
              </div>
            </label>
          );
        })}
      </div>
      {solution && <p className="mt-4 border-l-2 border-moss py-1 pl-4">Right: {solution.text}</p>}
    </fieldset>
  );
}
