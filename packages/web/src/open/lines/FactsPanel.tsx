import {
  formatNumber,
  formatPoint,
  formatPoints,
  hiddenWords,
  must,
  orProblem,
  type Pole,
  Problem,
  type ReadLine,
  type SheetLine,
  type System,
  systemStates,
  withUnit,
  type WrittenForm,
  writtenForms,
} from '@nailset/core';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useTimeUnit } from '../../plot/timeUnit';
import { copyText } from '../../shared/copyText';
import { Formula } from '../../shared/Formula';
import { conversions } from '../sheet/convert';
import type { Drawn } from '../sheet/drawn';

const StatesPanel = lazy(() => import('./StatesPanel'));
const PlantDrawing = lazy(() => import('./PlantDrawing'));

/** What is always said about the chosen system. */
export function FactsPanel({
  system: { label, facts, states },
  read,
  groups,
  onGroups,
  onConvert,
  onLine,
  onDesign,
}: {
  system: Drawn;
  /** What was understood of its line. */
  read: ReadLine | undefined;
  groups: SheetLine['groups'];
  onGroups: (groups: SheetLine['groups']) => void;
  /** Writes its line otherwise. */
  onConvert: (written: readonly (readonly [string, string])[]) => void;
  /** Adds a line. */
  onLine: (text: string) => void;
  onDesign: () => void;
}) {
  const { system, deadTime, hidden, order, type, relativeDegree } = facts;
  const unit = useTimeUnit();
  const plant = read?.kind === 'system' ? read.plant : undefined;
  return (
    <section aria-label={`Facts about ${label}`} className="isolate border-t border-rule pt-3">
      <h2 className="mb-0.5 flex items-baseline justify-between font-semibold">
        {label}
        <button type="button" className="link text-[13px] font-normal" onClick={onDesign}>
          Design a controller
        </button>
      </h2>
      <p className={facts.stable ? 'text-moss' : 'text-brick'}>
        <b className="font-medium">{facts.stable ? 'Stable' : 'Not stable'}</b>
        <span className="text-slate">{whyUnstable(facts)}</span>
      </p>
      {plant?.kind === 'equations' && (
        <Suspense>
          <PlantDrawing
            label={label}
            equations={plant.text}
            from={plant.from || plant.inputs[0] || ''}
            to={plant.probes}
            groups={groups}
            onGroups={onGroups}
          />
        </Suspense>
      )}
      {system ? (
        <>
          <p className="text-[13px] text-slate">
            order {order} · type {type} · relative degree {relativeDegree} · gain at rest{' '}
            {system.dcGain === null ? 'none' : formatNumber(system.dcGain)}
            {deadTime > 0 && ` · dead time ${withUnit(deadTime, unit)}`}
          </p>
          {hidden.length > 0 && <p className="text-[13px] text-copper">It cancels {hiddenWords(hidden)}.</p>}
          <DampingTable poles={system.poles} />
          {system.zeros.length > 0 && (
            <p className="mt-1 text-[13px]">
              <span className="text-slate">zeros</span> {formatPoints(system.zeros)}
            </p>
          )}
          <Written facts={facts} system={system} deadTime={deadTime} onConvert={onConvert} />
          {system.poles.length > 0 && <StateSpace key={label} {...{ system, deadTime, states, onLine }} />}
        </>
      ) : (
        <p className="text-[13px] text-slate">Dead time stands inside of sums: there are poles without end.</p>
      )}
    </section>
  );
}

function whyUnstable({ stable, system, hidden }: Drawn['facts']): string {
  if (stable || !system) return '';
  const all = [...system.poles, ...hidden];
  const count = (of: (pole: Pole) => boolean) =>
    all.filter(of).reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  const [right, edge] = [count(({ re }) => re > 0), count(({ re }) => re === 0)];
  const words = (n: number, where: string) => (n === 0 ? [] : [`${n === 1 ? 'a pole' : `${n} poles`} ${where}`]);
  return `: ${[...words(right, 'in the right half-plane'), ...words(edge, 'on the imaginary axis')].join(', ')}`;
}

/** Every pole with what course books read off it. */
function DampingTable({ poles }: { poles: readonly Pole[] }) {
  const unit = useTimeUnit();
  if (poles.length === 0) return null;
  const shown = poles.filter(({ im }) => im >= 0);
  const or = (value: number | null, unit = '') => (value === null ? '–' : withUnit(value, unit));
  return (
    <table className="mt-1.5 w-full text-right text-[13px]">
      <thead className="text-slate">
        <tr>
          <th className="py-0.5 text-left font-normal">pole</th>
          <th className="font-normal">ζ</th>
          <th className="font-normal">ωn, rad/{unit}</th>
          <th className="font-normal">τ, {unit}</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((pole, k) => (
          <tr key={k} className="border-t border-grid">
            <td className={`py-0.5 text-left ${pole.re < 0 ? '' : 'text-brick'}`}>
              {formatPoint(pole)}
              {pole.multiplicity > 1 && `, ${pole.multiplicity} times`}
            </td>
            <td>{or(pole.dampingRatio)}</td>
            <td>{formatNumber(pole.naturalFrequency)}</td>
            <td>{or(pole.timeConstant)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** In states, worked out while it is looked at. */
function StateSpace({
  system,
  deadTime,
  states,
  onLine,
}: Pick<Drawn, 'states'> & { system: System; deadTime: number; onLine: (text: string) => void }) {
  const [isOpen, setOpen] = useState(false);
  const realized = useMemo(() => {
    if (!isOpen) return undefined;
    if (deadTime > 0) return new Problem('deadTime', 'Dead time has no finite number of states.');
    return states ?? orProblem(() => systemStates(system));
  }, [isOpen, states, system, deadTime]);
  return (
    <details className="mt-2 text-[13px]" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-petrol">State space</summary>
      {realized instanceof Problem && <p className="mt-1 text-slate">{realized.message}</p>}
      {realized && !(realized instanceof Problem) && (
        <Suspense>
          <StatesPanel states={realized} isGiven={states !== undefined} onLine={onLine} />
        </Suspense>
      )}
    </details>
  );
}

const copyForms = ['LaTeX', 'MathML', 'text'] as const;

/** Typeset in one of its forms, to be copied, and to be what its line says. */
function Written({
  facts,
  system,
  deadTime,
  onConvert,
}: {
  facts: Drawn['facts'];
  system: System;
  deadTime: number;
  onConvert: (written: readonly (readonly [string, string])[]) => void;
}) {
  const [form, setForm] = useState<WrittenForm>('expanded');
  const [said, setSaid] = useState<{ words: string; isBad?: boolean }>({ words: '' });
  const latex = writtenForms[form](system) + (deadTime > 0 ? `\\,e^{-${Number(deadTime.toPrecision(6))}\\,s}` : '');
  const copy = async (as: string) => {
    const { default: katex } = await import('katex');
    const text = {
      LaTeX: () => latex,
      MathML: () =>
        katex.renderToString(latex, { output: 'mathml', displayMode: true }).replace(/^<span[^>]*>|<\/span>$/g, ''),
      text: () => must(conversions['gain, zeros and poles']?.(facts)[0])[1],
    }[as as (typeof copyForms)[number]]();
    if (await copyText(text)) setSaid({ words: 'Copied' });
  };
  const convert = (to: string) => {
    const written = orProblem(() => must(conversions[to])(facts));
    if (written instanceof Problem) setSaid({ words: `Not converted. ${written.message}`, isBad: true });
    else {
      setSaid({ words: '' });
      onConvert(written);
    }
  };
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-baseline gap-x-3 text-[13px]">
        <select
          aria-label="Written as"
          className="bg-transparent text-petrol"
          value={form}
          onChange={(event) => {
            setForm(event.target.value as WrittenForm);
            setSaid({ words: '' });
          }}
        >
          {Object.keys(writtenForms).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
        <Once label="Copy the system" words="Copy as …" options={copyForms} onPick={(as) => void copy(as)} />
        <Once label="Convert the line" words="Convert to …" options={Object.keys(conversions)} onPick={convert} />
        <span role="status" className={said.isBad ? 'text-brick' : 'text-slate'}>
          {said.words}
        </span>
      </div>
      <div className="overflow-x-auto overflow-y-hidden py-1.5">
        <Formula latex={`\\displaystyle ${latex}`} />
      </div>
    </div>
  );
}

/** A choice that does something and is open again afterwards. */
function Once({
  label,
  words,
  options,
  onPick,
}: {
  label: string;
  words: string;
  options: readonly string[];
  onPick: (option: string) => void;
}) {
  return (
    <select
      aria-label={label}
      className="w-[98px] bg-transparent text-petrol"
      value=""
      onChange={(event) => onPick(event.target.value)}
    >
      <option value="">{words}</option>
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}
