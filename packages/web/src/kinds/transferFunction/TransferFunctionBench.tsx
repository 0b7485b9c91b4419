import {
  type Bench,
  formatNumber,
  formatPoint,
  hiddenModes,
  must,
  type Scope,
  type SeenOf,
  systemOf,
  withUnit,
} from '@nailset/core';
import { type ReactNode, useMemo } from 'react';
import { HiddenModes } from '../../plot/HiddenModes';
import { PolePlane, reachOf } from '../../plot/PolePlane';
import { understand } from '../../shared/expression';
import { ExpressionField } from '../../shared/ExpressionField';
import { Formula } from '../../shared/Formula';
import { Reveal } from '../Reveal';

/** A transfer function, typed; with what it would mean: factored, poles, zeros, gain at rest. */
export function TransferFunctionBench({
  part,
  text,
  scope,
  solution,
  onChange,
}: {
  part: SeenOf<'transferFunction'>;
  text: string;
  scope: Scope;
  solution: Bench['solutions'][number] | undefined;
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
                        · damping ratio {formatNumber(must(pole.dampingRatio))}, natural frequency{' '}
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
      {solution && <Reveal solution={solution} isFormula />}
    </div>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <dt className="label">{name}</dt>
      <dd className="overflow-x-auto overflow-y-hidden py-1.5">{children}</dd>
    </div>
  );
}
