import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { NumberIn } from '../shared/NumberIn';
import type { Axis, Ends } from './frame';
import type { Wheel } from './useZoom';

/** Typed ends of the axes, and how they are counted. */
export function AxesMenu({
  axes,
  wheel = 'withCtrl',
  reads = false,
  onChange,
  children,
}: {
  axes: readonly Axis[];
  wheel?: Wheel;
  /** Whether a click sets a reading. */
  reads?: boolean;
  onChange: (axis: number, ends: Ends) => void;
  children?: ReactNode;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger className="link">Axes</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          className="z-30 grid max-w-[100vw] gap-2 rounded-[3px] border border-rule bg-paper px-4 py-3 text-[13px] text-ink [&_input]:w-[68px]"
        >
          {axes.map(({ name, unit, from, to, above = -1e12 }, k) => (
            <p key={name} className="flex flex-wrap items-baseline gap-x-2">
              <span className="w-20 text-slate">{name}</span>
              <NumberIn
                words=""
                label={`${name} from`}
                value={Number(from.toPrecision(4))}
                isFine={(next) => next < to && next >= above}
                onChange={(next) => onChange(k, { from: next ?? from, to })}
              />
              <NumberIn
                words="to"
                label={`${name} to`}
                unit={unit}
                value={Number(to.toPrecision(4))}
                isFine={(next) => next > from && next <= 1e12}
                onChange={(next) => onChange(k, { from, to: next ?? to })}
              />
            </p>
          ))}
          {children}
          <p className="max-w-[250px] text-slate">
            Closer: a box, {wheel === 'always' ? 'the wheel' : 'Ctrl and wheel'}, + −. Back: Backspace.
            {reads && ' A reading: click or Enter; Delete takes it away.'}
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
