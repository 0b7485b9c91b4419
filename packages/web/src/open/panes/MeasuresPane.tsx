import { formatNumber, type Measures, type QuantityName, type SheetNail, withUnit } from '@nailset/core';
import { memo, useState } from 'react';
import { useTimeUnit } from '../../plot/timeUnit';
import { NailMark, nailState } from '../../shared/NailMark';
import { NumberIn } from '../../shared/NumberIn';
import { Toggle } from '../../shared/Toggle';
import type { Drawn } from '../sheet/drawn';
import { nailItems } from '../sheet/nails';
import type { PaneProps } from './paneProps';

interface Column {
  readonly head: string;
  readonly unit: string;
  readonly of: (measures: Measures) => number | null;
  /** Of what a nail can be driven in. */
  readonly quantity?: QuantityName;
}

const columns: readonly Column[] = [
  { head: 'final value', unit: '', of: ({ finalValue }) => finalValue },
  { head: 'offset', unit: '', of: ({ finalValue }) => (finalValue === null ? null : 1 - finalValue) },
  { head: 'rise 10–90 %', unit: 'time', of: ({ riseTime }) => riseTime, quantity: 'riseTime' },
  { head: 'settles, 2 %', unit: 'time', of: ({ settlingTime }) => settlingTime, quantity: 'settlingTime' },
  { head: 'overshoot', unit: '%', of: ({ overshootPercent }) => overshootPercent, quantity: 'overshootPercent' },
  { head: 'peak', unit: '', of: ({ peakValue }) => peakValue, quantity: 'peakValue' },
  { head: 'at', unit: 'time', of: ({ peakTime }) => peakTime, quantity: 'peakTime' },
];

/** What is read off the unit step response of every system, each compared with the chosen one, and nails on it. */
export function MeasuresPane({
  drawn,
  chosen,
  nails,
  onNails,
}: Pick<PaneProps, 'drawn' | 'chosen'> & {
  nails: readonly SheetNail[];
  onNails: (nails: readonly SheetNail[]) => void;
}) {
  const [asked, setAsked] = useState(false);
  const reference = chosen?.facts.measures;
  const limitOf = (quantity: QuantityName | undefined) => nails.find((nail) => nail.quantity === quantity)?.limit;
  const drive = (quantity: QuantityName, limit: number | null) => {
    const others = nails.filter((nail) => nail.quantity !== quantity);
    onNails(limit === null ? others : [...others, { quantity, relation: 'atMost', limit }]);
  };
  return (
    <section aria-label="Measures of the step response" tabIndex={0} className="overflow-x-auto">
      <table className="w-full text-right text-[13px]">
        <thead className="text-slate">
          <tr>
            <th className="py-1 text-left font-normal">
              <span className="caption mr-3">Step measures</span>
              <Toggle on={asked || nails.length > 0} onChange={setAsked} words="Nails" />
            </th>
            {columns.map(({ head }) => (
              <th key={head} className="px-2 py-1 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(asked || nails.length > 0) && (
            <tr className="border-t border-grid">
              <th scope="row" className="py-1 text-left font-normal text-slate">
                at most
              </th>
              {columns.map(({ head, quantity }) => (
                <td key={head} className="px-1 py-1">
                  {quantity && (
                    <NumberIn
                      words=""
                      label={`${head} at most`}
                      value={limitOf(quantity) ?? null}
                      empty="–"
                      isFine={(limit) => limit >= 0 && limit <= 1e9}
                      onChange={(limit) => drive(quantity, limit)}
                    />
                  )}
                </td>
              ))}
            </tr>
          )}
          {drawn.map((each) => (
            <Row key={each.id} each={each} nails={nails} against={each.id === chosen?.id ? null : reference} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

const Row = memo(function Row({
  each,
  against,
  nails,
}: {
  each: Drawn;
  against: Measures | null | undefined;
  nails: readonly SheetNail[];
}) {
  const { label, facts, stroke } = each;
  const items = nailItems(each, nails);
  const timeUnit = useTimeUnit();
  const { measures, stable } = facts;
  return (
    <tr className="border-t border-grid">
      <th scope="row" className="py-1 text-left font-medium">
        <svg width="26" height="8" className="mr-2 inline" aria-hidden="true">
          <path d="M0 4H26" className={stroke.className} strokeWidth="2.2" strokeDasharray={stroke.dash} />
        </svg>
        {label}
      </th>
      {measures?.stable ? (
        columns.map(({ head, unit, of, quantity }) => {
          const item = items.find(({ id }) => id === quantity);
          const value = of(measures);
          return (
            <td key={head} className={`px-2 py-1 whitespace-nowrap ${item && !item.met ? 'text-brick' : ''}`}>
              {item && (
                <span className="mr-1 align-[-2px]">
                  <NailMark state={nailState(item)} label={item.label} />
                </span>
              )}
              <Measure
                value={value}
                unit={unit === 'time' ? timeUnit : unit}
                against={against && head !== 'offset' ? of(against) : null}
              />
            </td>
          );
        })
      ) : (
        <td colSpan={columns.length} className="px-2 py-1 text-left text-slate">
          {stable ? 'no step response' : 'not stable: it does not settle'}
        </td>
      )}
    </tr>
  );
});

function Measure({ value, unit, against }: { value: number | null; unit: string; against: number | null }) {
  if (value === null) return '–';
  const change = against && Math.abs(against) > 1e-9 ? (100 * (value - against)) / Math.abs(against) : NaN;
  return (
    <>
      {withUnit(Number(value.toPrecision(4)), unit)}
      {Number.isFinite(change) && Math.abs(change) >= 0.5 && (
        <span className="ml-1 text-slate">
          {change > 0 ? '+' : '−'}
          {formatNumber(Number(Math.abs(change).toPrecision(2)))} %
        </span>
      )}
    </>
  );
}
