import {
  type Bench,
  type QuantityName,
  type Scope,
  type StudentPart,
  formatNumber,
  formatPoint,
  hiddenModes,
  quantities,
  systemOf,
  withUnit,
} from '@nailset/core';
import { HiddenModes } from '../plot/HiddenModes';
import { useMemo, useState } from 'react';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import { frameFor } from '../plot/frame';
import { curveFrom } from '../plot/samples';
import { ExpressionField } from '../shared/ExpressionField';
import { Formula } from '../shared/Formula';
import { understand } from '../shared/expression';

type Of<Kind> = Extract<StudentPart, { kind: Kind }>;
type Solution = Bench['solutions'][number];

/** A transfer function, typed; with what it would mean: factored, poles, zeros, gain at rest. */
export function TransferFunctionBench({
  part,
  text,
  scope,
  solution,
  onChange,
}: {
  part: Of<'transferFunction'>;
  text: string;
  scope: Scope;
  solution: Solution | undefined;
  onChange: (text: string) => void;
}) {
  const understood = useMemo(() => understand(text, scope), [text, scope]);
  const system = useMemo(() => (understood.ok ? systemOf(understood.reading.fraction) : undefined), [understood]);
  const hidden = useMemo(() => (understood.ok ? hiddenModes(understood.reading.fraction) : []), [understood]);
  return (
    <div className="max-w-3xl">
      <ExpressionField
        label={`${part.title}: type it as a fraction in s`}
        text={text}
        scope={scope}
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
              <HiddenModes modes={hidden} lead="cancelled: " className="block" />
            </Line>
          </dl>
          <PolePlane
            title="Poles and zeros"
            poles={system.poles}
            zeros={system.zeros}
            hidden={hidden}
            reach={reachOf([...system.poles, ...hidden])}
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

/** A number, typed; the expected one and its response appear once the exercise shows them. */
export function NumberBench({
  part,
  text,
  solution,
  onChange,
}: {
  part: Of<'number'>;
  text: string;
  solution: Solution | undefined;
  onChange: (text: string) => void;
}) {
  const quantity = part.quantity === undefined ? undefined : quantities[part.quantity as QuantityName];
  const within =
    part.toleranceAbsolute === undefined
      ? `${formatNumber(part.tolerancePercent)} %`
      : withUnit(part.toleranceAbsolute, part.unit);
  return (
    <div className="max-w-3xl">
      <label htmlFor={`number-${part.id}`} className="label mb-1">
        {quantity?.label ?? part.title}
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
        <span className="text-[18px] text-slate">{part.unit}</span>
      </div>
      <p id={`definition-${part.id}`} className="mt-2 text-note text-slate">
        {quantity && `${quantity.definition} `}Within {within} counts.
      </p>
      {solution && <Reveal solution={solution} />}
    </div>
  );
}

/** Ranges of a gain, as they are written. */
export function RangeBench({
  part,
  text,
  solution,
  onChange,
}: {
  part: Of<'range'>;
  text: string;
  solution: Solution | undefined;
  onChange: (text: string) => void;
}) {
  return (
    <div className="max-w-3xl">
      <label htmlFor={`range-${part.id}`} className="label mb-1">
        {part.title}
      </label>
      <input
        id={`range-${part.id}`}
        autoComplete="off"
        spellCheck={false}
        value={text}
        maxLength={2000}
        onChange={(event) => onChange(event.target.value)}
        aria-describedby={`range-form-${part.id}`}
        className="input px-3 py-2 text-[20px]"
      />
      <p id={`range-form-${part.id}`} className="mt-2 text-note text-slate">
        For example 0 &lt; K &lt; 42, or K &gt; 3; several with “or”; “none” if there is none. Ends within{' '}
        {formatNumber(part.tolerancePercent)} % count.
      </p>
      {solution && <Reveal solution={solution} />}
    </div>
  );
}

/** What was expected, with the response that it belongs to. */
function Reveal({ solution }: { solution: Solution }) {
  const curve = useMemo(() => solution.curve && curveFrom(solution.curve), [solution.curve]);
  const tMax = curve?.times[curve.times.length - 1] ?? 1;
  const [frame, setFrame] = useState(() => frameFor(tMax, curve ? [curve] : []));
  return (
    <div className="mt-6">
      <p className="mb-3 border-l-2 border-moss py-1 pl-4">Expected {solution.text}.</p>
      {curve && (
        <ResponsePlot
          title="Response to a unit step"
          frame={frame}
          onFit={() => setFrame(frameFor(tMax, [curve]))}
          curves={[{ id: 'now', curve, look: 'now', label: 'response' }]}
          summary="The step response that the question was about."
          className="h-[300px]"
        />
      )}
    </div>
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
