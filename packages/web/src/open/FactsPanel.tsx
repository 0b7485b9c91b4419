import {
  formatNumber,
  formatPoint,
  formatPoints,
  hiddenWords,
  type Pole,
  type System,
  withUnit,
  type WrittenForm,
  writtenForms,
} from '@nailset/core';
import { useState } from 'react';
import { Formula } from '../shared/Formula';
import type { Drawn } from './drawn';

/** What is always said about the chosen system. */
export function FactsPanel({ system: { label, facts } }: { system: Drawn }) {
  const { system, deadTime, hidden, order, type, relativeDegree } = facts;
  return (
    <section aria-label={`Facts about ${label}`} className="border-t border-rule pt-3">
      <h2 className="mb-0.5 font-semibold">{label}</h2>
      <p className={facts.stable ? 'text-moss' : 'text-brick'}>
        <b className="font-medium">{facts.stable ? 'Stable' : 'Not stable'}</b>
        <span className="text-slate">{whyUnstable(facts)}</span>
      </p>
      {system ? (
        <>
          <p className="text-[13px] text-slate">
            order {order} · type {type} · relative degree {relativeDegree} · gain at rest{' '}
            {system.dcGain === null ? 'none' : formatNumber(system.dcGain)}
            {deadTime > 0 && ` · dead time ${withUnit(deadTime, 's')}`}
          </p>
          {hidden.length > 0 && <p className="text-[13px] text-copper">It cancels {hiddenWords(hidden)}.</p>}
          <DampingTable poles={system.poles} />
          {system.zeros.length > 0 && (
            <p className="mt-1 text-[13px]">
              <span className="text-slate">zeros</span> {formatPoints(system.zeros)}
            </p>
          )}
          <Written system={system} deadTime={deadTime} />
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
  if (poles.length === 0) return null;
  const shown = poles.filter(({ im }) => im >= 0);
  const or = (value: number | null, unit = '') => (value === null ? '–' : withUnit(value, unit));
  return (
    <table className="mt-1.5 w-full text-right text-[13px]">
      <thead className="text-slate">
        <tr>
          <th className="py-0.5 text-left font-normal">pole</th>
          <th className="font-normal">ζ</th>
          <th className="font-normal">ωn, rad/s</th>
          <th className="font-normal">τ, s</th>
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

/** Typeset in one of its forms, to be copied as LaTeX. */
function Written({ system, deadTime }: { system: System; deadTime: number }) {
  const [form, setForm] = useState<WrittenForm>('expanded');
  const [copied, setCopied] = useState('');
  const latex = writtenForms[form](system) + (deadTime > 0 ? `\\,e^{-${Number(deadTime.toPrecision(6))}\\,s}` : '');
  const copy = () =>
    navigator.clipboard.writeText(latex).then(
      () => setCopied('Copied'),
      () => setCopied('The browser does not let the page copy.'),
    );
  return (
    <div className="mt-2">
      <div className="flex items-baseline gap-3 text-[13px]">
        <select
          aria-label="Written as"
          className="bg-transparent text-petrol"
          value={form}
          onChange={(event) => {
            setForm(event.target.value as WrittenForm);
            setCopied('');
          }}
        >
          {Object.keys(writtenForms).map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
        <button type="button" className="link" onClick={() => void copy()}>
          Copy LaTeX
        </button>
        <span role="status" className="text-slate">
          {copied}
        </span>
      </div>
      <div className="overflow-x-auto overflow-y-hidden py-1.5">
        <Formula latex={`\\displaystyle ${latex}`} />
      </div>
    </div>
  );
}
