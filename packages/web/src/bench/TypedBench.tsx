import {
  type Bench,
  type Bindings,
  type StudentPart,
  curveOf,
  fractionOf,
  formatNumber,
  formatPoint,
  measuresOf,
  quantities,
  stepResponse,
  systemOf,
  withUnit,
} from '@nailset/core';
import { useMemo, useState } from 'react';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import { frameFor } from '../plot/frame';
import { ExpressionField } from '../shared/ExpressionField';
import { Formula } from '../shared/Formula';
import { understand } from '../shared/expression';

type Of<Kind> = Extract<StudentPart, { kind: Kind }>;
type Solution = Bench['solutions'][number];

/** A transfer function, typed; with what it would mean: factored, poles, zeros, gain at rest. */
export function TransferFunctionBench({
  part,
  text,
  bindings,
  solution,
  onChange,
}: {
  part: Of<'transferFunction'>;
  text: string;
  bindings: Bindings;
  solution: Solution | undefined;
  onChange: (text: string) => void;
}) {
  const understood = useMemo(() => understand(text, bindings), [text, bindings]);
  const system = useMemo(() => (understood.ok ? systemOf(understood.reading.fraction) : undefined), [understood]);
  return (
    <div className="max-w-3xl">
      <ExpressionField
        label={`${part.title}: type it as a fraction in s`}
        text={text}
        bindings={bindings}
        onChange={onChange}
        large
      />
      <p className="mt-1 text-note text-slate">
        Products as <span className="font-mono">2s</span> or <span className="font-mono">K*s</span>, powers as{' '}
        <span className="font-mono">s^2</span>. Letters of the exercise count as your numbers.
      </p>
      {understood.ok && system && (
        <div className="mt-6 grid gap-6 border-t border-rule pt-5 @min-[620px]:grid-cols-[1fr_220px]">
          <dl className="grid content-start gap-y-3">
            <Line name="Expanded">
              <Formula latex={`\\displaystyle ${understood.reading.expanded}`} />
            </Line>
            {understood.reading.factored !== understood.reading.expanded && (
              <Line name="Factored, lowest terms">
                <Formula latex={`\\displaystyle ${understood.reading.factored}`} />
              </Line>
            )}
            <Line name="Gain at rest">
              {system.dcGain === null ? 'none: a pole at the origin' : formatNumber(system.dcGain)}
            </Line>
            <Line name="Poles">
              {system.poles.length === 0 && 'none'}
              {system.poles
                .filter((pole) => pole.im >= 0)
                .map((pole) => (
                  <span key={formatPoint(pole)} className="block">
                    {formatPoint(pole)}
                    {pole.multiplicity > 1 && `, ${pole.multiplicity} times`}
                    {pole.im > 0 && (
                      <span className="text-slate">
                        {' '}
                        · damping ratio {formatNumber(pole.dampingRatio!)}, natural frequency{' '}
                        {withUnit(pole.naturalFrequency, 'rad/s')}
                      </span>
                    )}
                  </span>
                ))}
            </Line>
          </dl>
          <PolePlane
            title="Poles and zeros"
            poles={system.poles}
            zeros={system.zeros}
            reach={reachOf(system.poles)}
            className="h-[180px]"
          />
        </div>
      )}
      {solution && (
        <p className="mt-6 border-l-2 border-moss py-1 pl-4">
          <span className="label mb-1">Expected</span>
          <Formula latex={solution.text} display />
        </p>
      )}
    </div>
  );
}

/** A number, typed; the response appears once the number is right or the tries are used. */
export function NumberBench({
  part,
  text,
  bindings,
  solution,
  onChange,
}: {
  part: Of<'number'>;
  text: string;
  bindings: Bindings;
  solution: Solution | undefined;
  onChange: (text: string) => void;
}) {
  const quantity = quantities[part.quantity as keyof typeof quantities];
  return (
    <div className="max-w-3xl">
      <label htmlFor={`number-${part.id}`} className="label mb-1">
        {quantity.label}
      </label>
      <div className="flex items-baseline gap-2">
        <input
          id={`number-${part.id}`}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          maxLength={200}
          onChange={(event) => onChange(event.target.value)}
          aria-describedby={`definition-${part.id}`}
          className="input w-40 px-3 py-2 text-[20px]"
        />
        <span className="text-[18px] text-slate">{quantity.unit}</span>
      </div>
      <p id={`definition-${part.id}`} className="mt-2 text-note text-slate">
        {quantity.definition} Within {formatNumber(part.tolerancePercent)} % counts.
      </p>
      <div className="mt-6">
        {solution ? (
          <Reveal solution={solution} bindings={bindings} />
        ) : (
          <div className="grid h-[300px] place-items-center border border-dashed border-rule text-slate">
            Predict first. The curve appears once every part is done.
          </div>
        )}
      </div>
    </div>
  );
}

/** The response that was to be predicted, its peak marked in words. */
function Reveal({ solution, bindings }: { solution: Solution; bindings: Bindings }) {
  const { curve, measures, tMax } = useMemo(() => {
    const system = systemOf(fractionOf(solution.system, bindings));
    const motion = stepResponse(system);
    const found = measuresOf(system, motion);
    const end = Number((1.3 * (found.settlingTime ?? 5)).toPrecision(2));
    return { curve: curveOf(motion, end, 0.002), measures: found, tMax: end };
  }, [solution.system, bindings]);
  const [frame, setFrame] = useState(() => frameFor(tMax, [curve]));
  const peak =
    measures.peakTime === null
      ? 'no overshoot'
      : `peak ${formatNumber(measures.peakValue!)} at ${withUnit(measures.peakTime, 's')}, ${withUnit(measures.overshootPercent!, '%')} over`;
  return (
    <>
      <p className="mb-3 border-l-2 border-moss py-1 pl-4">
        Expected {solution.text}: {peak}.
      </p>
      <ResponsePlot
        title="Response to a unit step"
        frame={frame}
        onFit={() => setFrame(frameFor(tMax, [curve]))}
        curves={[{ id: 'now', curve, look: 'now', label: `rests at ${formatNumber(measures.finalValue ?? 0)}` }]}
        readings={
          measures.peakTime === null ? [] : [{ time: measures.peakTime, value: measures.peakValue!, words: peak }]
        }
        summary={`Step response: ${peak}, final value ${formatNumber(measures.finalValue ?? 0)}.`}
        className="h-[300px]"
      />
    </>
  );
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="label">{name}</dt>
      <dd className="overflow-x-auto overflow-y-hidden py-1.5">{children}</dd>
    </div>
  );
}
