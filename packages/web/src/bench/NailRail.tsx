import { quantities, type Verdict, withUnit } from '@nailset/core';
import { Popover } from 'radix-ui';
import { memo } from 'react';
import { OwnWord } from '../shared/OwnWord';

type Item = Verdict['items'][number];

/** A nail’s label starts with that of its quantity; behind it may stand the signal. */
function definitionOf(label: string): string {
  if (label === 'Corridor') return 'The response stays between the bounds that are drawn.';
  if (label === 'Misfit') return 'Root mean square distance from the given curve, in % of its range.';
  const known = Object.values(quantities).filter((quantity) => label.startsWith(quantity.label));
  known.sort((a, b) => b.label.length - a.label.length);
  return known[0]?.definition ?? '';
}

/**
 * Every nail with its measured value, its limit and how far inside or outside, as a short bar; `onStep` says that they
 * are measured on a step although something else is drawn.
 */
export function NailRail({ items, onStep }: { items: readonly Item[]; onStep: boolean }) {
  return (
    <section aria-label="Nails">
      <h2 className="caption mb-2">
        Nails
        {onStep && <span className="font-normal tracking-normal normal-case"> · measured on a step</span>}
      </h2>
      <OwnWord word="nail" />
      <ul className="relative grid grid-cols-[minmax(0,1fr)] gap-y-4 @min-[560px]:max-[899px]:grid-cols-2 before:absolute before:inset-y-0 before:left-[6px] before:w-px before:bg-ink">
        {items.map((item) => (
          <RailNail key={item.id} item={item} />
        ))}
      </ul>
    </section>
  );
}

function RailNail({ item }: { item: Item }) {
  const { label, measured, limit, unit, met, close, relation } = item;
  const bound = relation === 'atMost' ? 'at most' : 'at least';
  return (
    <li className="relative pl-6" data-nail={item.id} data-met={met}>
      <svg viewBox="0 0 24 14" className="absolute top-0.5 left-[-6px] h-3.5 w-6" aria-hidden="true">
        {met ? (
          <circle cx="12.5" cy="7" r="5.5" className="fill-moss" />
        ) : (
          <>
            <path d="M6 7h6" className="stroke-brick" strokeWidth="1.6" />
            <circle cx="5" cy="7" r="4" className="fill-paper stroke-brick" strokeWidth="1.8" />
          </>
        )}
      </svg>
      <NailLabel label={label} />
      <div className="flex items-baseline justify-between gap-2">
        <span className={`text-[17px] whitespace-nowrap ${met ? '' : 'font-semibold text-brick'}`}>
          {measured === null ? (item.infinite ? '∞' : '–') : withUnit(measured, unit)}
        </span>
        <span className="text-note whitespace-nowrap text-slate">
          {limit !== null && `${bound} ${withUnit(limit, unit)}`}
        </span>
      </div>
      {close && <p className="text-right text-note text-copper">within 1 % of the limit</p>}
      <Gauge item={item} />
    </li>
  );
}

/** What is asked, with its definition a click away; it stays as it is while values move. */
const NailLabel = memo(function NailLabel({ label }: { label: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="text-left text-[13px] leading-tight decoration-dotted underline-offset-2 hover:underline">
        {label}
        <span className="sr-only">: what it means</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          sideOffset={6}
          className="z-20 max-w-64 rounded-[3px] border border-ink bg-sheet px-3 py-2 text-note"
        >
          {definitionOf(label)}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

/** Measured against limit: the tick is the limit, at three quarters of the bar; in words for who does not see it. */
function Gauge({ item: { measured, limit, met, words } }: { item: Item }) {
  const share =
    measured === null || limit === null ? 1 : limit === 0 ? (measured > 1e-9 ? 1 : 0) : (0.75 * measured) / limit;
  const width = 100 * Math.min(1, Math.max(0.01, share));
  return (
    <svg
      viewBox="0 0 100 10"
      preserveAspectRatio="none"
      className="mt-0.5 block h-2.5 w-full"
      role="img"
      aria-label={words}
    >
      <rect y="3" width="100" height="4" className="fill-rule/70" />
      <rect y="3" width={width} height="4" className={met ? 'fill-moss-soft' : 'fill-brick-soft'} />
      <rect x="74.7" width="0.7" height="10" className="fill-ink" />
    </svg>
  );
}
