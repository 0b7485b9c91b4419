import { formatNumber } from '@nailset/core';
import type { PlotCurve } from './curves';
import { type Frame, valueAt } from './frame';

/** The labelled curves in numbers, at 21 times over the frame. */
export function CurveTable({
  curves,
  frame,
  className,
}: {
  curves: readonly PlotCurve[];
  frame: Frame;
  className: string;
}) {
  const shown = curves.filter(({ label }) => label).slice(0, 4);
  const times = Array.from({ length: 21 }, (_, k) => (k * frame.tMax) / 20);
  return (
    <div
      className={`overflow-y-auto border-t border-rule ${className}`}
      tabIndex={0}
      role="region"
      aria-label="Values of the curves"
    >
      <table className="w-full text-right text-note">
        <thead className="sticky top-0 bg-paper text-slate">
          <tr>
            <th className="px-2 py-1 font-normal">time, s</th>
            {shown.map(({ id, label }) => (
              <th key={id} className="px-2 py-1 font-normal">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {times.map((time) => (
            <tr key={time} className="border-t border-grid">
              <td className="px-2 py-0.5">{formatNumber(time)}</td>
              {shown.map(({ id, curve }) => (
                <td key={id} className="px-2 py-0.5">
                  {formatNumber(valueAt(curve, time))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
