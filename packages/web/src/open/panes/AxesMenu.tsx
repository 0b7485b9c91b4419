import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { NumberIn } from '../fields/NumberIn';

/** One axis with its ends. */
export interface Axis {
  readonly name: string;
  readonly unit: string;
  readonly from: number;
  readonly to: number;
  /** The least that it can begin at; frequencies on a logarithmic axis lie above 0. */
  readonly above?: number;
}

/** Typed ends of the axes, and how they are counted. */
export function AxesMenu({
  axes,
  onChange,
  children,
}: {
  axes: readonly Axis[];
  onChange: (axis: number, ends: { from: number; to: number }) => void;
  children?: ReactNode;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger className="link">Axes</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          className="z-30 grid gap-2 rounded-[3px] border border-rule bg-paper px-4 py-3 text-[13px] text-ink"
        >
          {axes.map(({ name, unit, from, to, above = -1e12 }, k) => (
            <p key={name} className="flex items-baseline gap-2">
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
            Drag a box, turn the wheel, or + and − to look closer; Backspace goes back.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
