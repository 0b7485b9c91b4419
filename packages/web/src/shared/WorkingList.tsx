import { Formula } from './Formula';

/** The way to an answer, line by line as on the board. */
export const WorkingList = ({ steps }: { steps: readonly { readonly words: string; readonly latex: string }[] }) => (
  <ol className="grid gap-1.5">
    {steps.map(({ words, latex }, k) => (
      <li key={k} className="break-inside-avoid text-[14px]">
        <span className="text-slate">{words}</span>
        {latex && (
          <div className="overflow-x-auto overflow-y-hidden py-1">
            <Formula latex={`\\displaystyle ${latex}`} />
          </div>
        )}
      </li>
    ))}
  </ol>
);
