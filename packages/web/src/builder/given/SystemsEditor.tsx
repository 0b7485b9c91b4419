import {
  delayedToLatex,
  factoredToLatex,
  formatNumber,
  formatPoint,
  hiddenModes,
  must,
  type NamedSystem,
  nameToLatex,
  orElse,
  type Scope,
  type SystemForm,
  systemOf,
  withDeadTime,
  withUnit,
} from '@nailset/core';
import { type Finding } from '@nailset/core/checks';
import { readWith, symbolsOf } from '@nailset/core/diagrams';
import { useMemo } from 'react';
import { HiddenModes } from '../../plot/HiddenModes';
import { Button } from '../../shared/Button';
import { CellText, changedAt, RemoveButton, without } from '../../shared/fields';
import { Formula } from '../../shared/Formula';
import { FormEditor, formNames, freshForm } from './FormEditor';

/** The systems of an exercise by name, each in the form in which it is written down, and shown back at once. */
export function SystemsEditor({
  systems,
  scope,
  findings,
  disabled,
  onChange,
}: {
  systems: readonly NamedSystem[];
  scope: Scope;
  findings: readonly Finding[];
  disabled: boolean;
  onChange: (systems: NamedSystem[]) => void;
}) {
  const add = () => {
    const taken = systems.map(({ name }) => name);
    const name = ['G', 'H', 'C', 'T', 'P', 'Q', 'W'].find((letter) => !taken.includes(letter)) ?? `G${taken.length}`;
    onChange([...systems, { name, meaning: '', form: { kind: 'expression', text: '1/(s + 1)' } }]);
  };
  return (
    <section aria-label="Systems">
      <h3 className="label mb-1">Systems: names for formulas and statement</h3>
      <ul className="grid gap-3">
        {systems.map((system, index) => (
          <li key={index} className="grid gap-1.5 border-t border-grid pt-2">
            <div className="grid grid-cols-[52px_1fr_132px_24px] items-center gap-1.5">
              <CellText
                label={`Name of system ${index + 1}`}
                mono
                maxLength={16}
                value={system.name}
                onChange={(name) => name.trim() && onChange(changedAt(systems, index, { name: name.trim() }))}
              />
              <CellText
                label={`${system.name}, meaning`}
                placeholder="meaning"
                maxLength={80}
                value={system.meaning}
                onChange={(meaning) => onChange(changedAt(systems, index, { meaning }))}
              />
              <select
                aria-label={`${system.name}, form`}
                className="input px-1 py-1 text-[13px]"
                value={system.form.kind}
                onChange={(event) => {
                  const form = freshForm(event.target.value as SystemForm['kind']);
                  onChange(changedAt(systems, index, { form }));
                }}
              >
                {Object.entries(formNames).map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </select>
              {!disabled && (
                <RemoveButton label={`Remove ${system.name}`} onClick={() => onChange(without(systems, index))} />
              )}
            </div>
            <FormEditor
              name={system.name}
              form={system.form}
              onChange={(form) => onChange(changedAt(systems, index, { form }))}
            />
            <label className="flex items-baseline gap-2 text-note text-slate">
              <input
                type="checkbox"
                className="accent-petrol"
                checked={system.open ?? false}
                disabled={disabled}
                onChange={(event) => onChange(changedAt(systems, index, { open: event.target.checked }))}
              />
              Students may look at {system.name} on the open bench
            </label>
            {findings
              .filter(({ path }) => path === `systems/${index}` || path === `systems/${index}/name`)
              .map(({ message }) => (
                <p key={message} className="text-note text-brick">
                  {message}
                </p>
              ))}
            {system.form.kind === 'equations' && (
              <LettersLeft text={system.form.text} from={system.form.from} scope={scope} />
            )}
            <Understood name={system.name} scope={scope} />
          </li>
        ))}
      </ul>
      {!disabled && systems.length < 8 && (
        <Button look="quiet" className="mt-1" onClick={add}>
          Add a system
        </Button>
      )}
    </section>
  );
}

/** The letters of a diagram that nothing gives a value: fine for parts about diagrams, not for numbers. */
function LettersLeft({ text, from, scope }: { text: string; from: string; scope: Scope }) {
  const letters = useMemo(() => {
    return orElse([], () => {
      const known = [...scope.names.keys()];
      return symbolsOf(readWith(text, {}, [from])).filter((name) => !known.includes(name));
    });
  }, [text, from, scope]);
  if (letters.length === 0) return null;
  return (
    <p className="text-note text-slate">Letters without a value: {letters.join(', ')}. For parts about diagrams.</p>
  );
}

/** What was understood: expanded, factored, gain at rest, poles with their damping. */
function Understood({ name, scope }: { name: string; scope: Scope }) {
  const transfer = scope.names.get(name);
  const shown = useMemo(() => {
    const plain = transfer && withDeadTime(transfer);
    if (!plain) return undefined;
    const deadTime = Number(plain.deadTime.numerator) / Number(plain.deadTime.denominator);
    const expanded = delayedToLatex(plain.fraction, deadTime);
    const factored = factoredToLatex(plain.fraction);
    return {
      expanded,
      factored: factored === expanded ? '' : factored,
      system: systemOf(plain.fraction),
      hidden: hiddenModes(plain.fraction),
    };
  }, [transfer]);
  if (!transfer) return null;
  if (!shown) return <p className="text-note text-slate">Dead time stands inside its loop.</p>;
  const { system, hidden } = shown;
  return (
    <div className="grid gap-1 overflow-x-auto overflow-y-hidden pb-1 text-note text-slate">
      <Formula latex={`\\displaystyle ${nameToLatex(name)}=${shown.expanded}`} className="block py-1 text-ink" />
      {shown.factored && (
        <Formula
          latex={`\\displaystyle \\phantom{${nameToLatex(name)}}=${shown.factored}`}
          className="block py-1 text-ink"
        />
      )}
      <span>
        gain at rest {system.dcGain === null ? 'none' : formatNumber(system.dcGain)}
        {system.poles
          .filter((pole) => pole.im >= 0)
          .map((pole, k) => (
            <span key={k}>
              {k === 0 ? '; poles ' : ', '}
              {formatPoint(pole)}
              {pole.im > 0 &&
                ` (ζ ${formatNumber(must(pole.dampingRatio))}, ωn ${withUnit(pole.naturalFrequency, 'rad/s')})`}
            </span>
          ))}
        <HiddenModes modes={hidden} lead="; " />
      </span>
    </div>
  );
}
