import { holds, Problem, readCondition, type Scope } from '@nailset/core';
import { type Finding } from '@nailset/core/checks';
import { Button } from '../../shared/Button';
import { CellText, RemoveButton, without } from '../../shared/fields';

/** Conditions that every student's numbers must meet. */
export function GuardsEditor({
  guards,
  scope,
  findings,
  disabled,
  onChange,
}: {
  guards: readonly string[];
  scope: Scope;
  findings: readonly Finding[];
  disabled: boolean;
  onChange: (guards: string[]) => void;
}) {
  const tight = findings.find(({ path }) => path === 'guards')?.message;
  return (
    <section aria-label="Guards">
      <h3 className="label mb-1">Conditions on students’ numbers</h3>
      {guards.map((guard, index) => (
        <div key={index} className="mb-1">
          <div className="grid grid-cols-[1fr_auto_24px] items-center gap-1.5">
            <CellText
              label={`Guard ${index + 1}`}
              mono
              maxLength={500}
              placeholder="for example 5 <= overshootPercent(G) <= 40"
              value={guard}
              onChange={(text) => text && onChange(guards.map((old, k) => (k === index ? text : old)))}
            />
            <Standing guard={guard} scope={scope} />
            {!disabled && (
              <RemoveButton label={`Remove guard ${index + 1}`} onClick={() => onChange(without(guards, index))} />
            )}
          </div>
          {findings
            .filter(({ path }) => path === `guards/${index}`)
            .map(({ message }) => (
              <p key={message} className="text-note text-brick">
                {message}
              </p>
            ))}
        </div>
      ))}
      {tight && <p className="text-note text-brick">{tight}</p>}
      {!disabled && guards.length < 12 && (
        <Button look="quiet" onClick={() => onChange([...guards, 'stable(G)'])}>
          Add a guard
        </Button>
      )}
    </section>
  );
}

function Standing({ guard, scope }: { guard: string; scope: Scope }) {
  let met: boolean | undefined;
  try {
    met = holds(readCondition(guard), scope);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
  }
  if (met === undefined) return <span />;
  return (
    <span
      className={`text-note ${met ? 'text-moss' : 'text-slate'}`}
      title="for the numbers of the first imagined student"
    >
      {met ? 'meets' : 'fails once'}
    </span>
  );
}
