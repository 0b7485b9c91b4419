import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { flushSync } from 'react-dom';
import { placeOn } from './pointer';

/** A place on a picture, in its own pixels. */
export interface Place {
  readonly px: number;
  readonly py: number;
}

/** How far from a mark a pointer still takes it, in pixels. */
const reach = 13;

const apart = (one: Place, other: Place): number => Math.hypot(one.px - other.px, one.py - other.py);

export const isNear = (one: Place, other: Place): boolean => apart(one, other) <= reach;

/** The mark that a pointer at a place takes: the nearest one in reach. */
export function markAt<Mark>(at: Place, marks: readonly Mark[], placeOf: (mark: Mark) => Place): Mark | undefined {
  const near = marks.map((mark) => ({ mark, away: apart(at, placeOf(mark)) })).filter(({ away }) => away <= reach);
  return near.sort((one, other) => one.away - other.away)[0]?.mark;
}

/**
 * Dragging marks on a picture by mouse, finger or pen. Whatever was taken is let go where the pointer goes up, and also
 * where the browser takes the pointer away, as for a scroll.
 */
export function useDrag<Held>({
  take,
  drag,
  drop,
  press,
  hover,
}: {
  /** What lies at a place and is held from now on. */
  take: (at: Place) => Held | undefined;
  /** Each time that the pointer has moved; what comes back is held instead. */
  drag: (held: Held, at: Place) => Held | void;
  drop?: () => void;
  /** Where nothing was taken. */
  press?: (at: Place) => void;
  /** While nothing is held. */
  hover?: (at: Place) => void;
}) {
  const held = useRef<Held>(undefined);
  /** Where a finger came down that may be about to scroll: it presses only if it goes up again there. */
  const finger = useRef<Place>(undefined);
  const wasTaken = useRef(false);
  const at = (event: PointerEvent<SVGSVGElement>) => placeOn(event.currentTarget, event);
  const end = () => {
    held.current = undefined;
    drop?.();
  };
  return {
    onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
      held.current = take(at(event));
      wasTaken.current = held.current !== undefined;
      if (held.current !== undefined) event.currentTarget.setPointerCapture(event.pointerId);
      else if (event.pointerType === 'touch') finger.current = at(event);
      else press?.(at(event));
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      const now = held.current;
      if (now === undefined) return hover?.(at(event));
      // In the frame of the event, however much is drawn.
      flushSync(() => (held.current = drag(now, at(event)) ?? now));
    },
    onPointerUp: (event: PointerEvent<SVGSVGElement>) => {
      const down = finger.current;
      finger.current = undefined;
      if (down && isNear(down, at(event))) press?.(down);
      end();
    },
    onPointerCancel: () => {
      finger.current = undefined;
      end();
    },
    /** The click that ends a drag is none. */
    onClickCapture: (event: { stopPropagation: () => void }) => {
      if (wasTaken.current) event.stopPropagation();
      wasTaken.current = false;
    },
  };
}

/** What the arrow keys move by: one step, or ten with Shift. */
export interface Steps {
  readonly right: number;
  readonly up: number;
}

const ways: Readonly<Record<string, Steps>> = {
  ArrowLeft: { right: -1, up: 0 },
  ArrowRight: { right: 1, up: 0 },
  ArrowUp: { right: 0, up: 1 },
  ArrowDown: { right: 0, up: -1 },
};

/** A mark as a slider for the keyboard and for screen readers: arrows move it, Delete takes it away. */
export function sliderProps({
  label,
  value,
  words,
  onStep,
  onRemove,
  range,
}: {
  label: string;
  value: number;
  words: string;
  onStep: (steps: Steps) => void;
  onRemove?: (() => void) | undefined;
  range?: { readonly from: number; readonly to: number };
}) {
  return {
    ...{ role: 'slider', tabIndex: 0, 'aria-label': label, 'aria-valuetext': words },
    'aria-valuenow': Number(value.toPrecision(6)),
    ...(range ? { 'aria-valuemin': range.from, 'aria-valuemax': range.to } : {}),
    onKeyDown: (event: KeyboardEvent) => {
      const way = ways[event.key];
      const size = event.shiftKey ? 10 : 1;
      if (way) onStep({ right: way.right * size, up: way.up * size });
      else if (onRemove && (event.key === 'Delete' || event.key === 'Backspace')) onRemove();
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
  };
}
