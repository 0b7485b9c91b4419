import type { Curve } from '@nailset/core';
import type { PlotCurve } from './curves';
import type { Frame } from './frame';
import { ResponsePlot } from './ResponsePlot';

/** The control effort below the response, on the same time axis. */
export function EffortPlot({
  title,
  frame,
  curve,
  first,
  onFit,
  className,
}: {
  title: string;
  frame: Frame;
  /** Null when the effort starts with an impulse. */
  curve: Curve | null;
  first: Curve | null | undefined;
  onFit: () => void;
  className: string;
}) {
  if (!curve) {
    return (
      <p
        className={`grid place-items-center border border-dashed border-rule px-4 text-center text-note text-slate ${className}`}
      >
        Without a filter the derivative answers a step with an impulse: the effort has no curve.
      </p>
    );
  }
  const curves: PlotCurve[] = [
    ...(first && first !== curve ? [{ id: 'effort-first', curve: first, look: 'first' as const }] : []),
    { id: 'effort', curve, look: 'now', label: 'effort' },
  ];
  const largest = curve.values.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return (
    <ResponsePlot
      title={title}
      frame={frame}
      curves={curves}
      onFit={onFit}
      summary={`${title}: largest ${Number(largest.toPrecision(3))}.`}
      className={className}
    />
  );
}
