import { type KeyboardEvent, type PointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import { useLatest } from '../shared/useLatest';
import { placeOn } from './pointer';
import type { Place } from './useDrag';

/** A part of a picture, in its own pixels. */
export interface Rect {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Whether the wheel looks closer by itself, or scrolls the page unless Ctrl is down, as two fingers on a pad have it. */
export type Wheel = 'always' | 'withCtrl';

const wheelStep = 1.0016;
/** In pixels: a press that moves less is a click. */
const least = 8;

/** A rectangle so many times larger, about a place that stays where it is. */
export const scaledRect = ({ left, right, top, bottom }: Rect, factor: number, { px, py }: Place): Rect => ({
  left: px + (left - px) * factor,
  right: px + (right - px) * factor,
  top: py + (top - py) * factor,
  bottom: py + (bottom - py) * factor,
});

const middleOf = ({ left, right, top, bottom }: Rect): Place => ({ px: (left + right) / 2, py: (top + bottom) / 2 });

/** How keys change what is seen: nearer and farther, and a tenth to each side. */
function byKey(area: Rect, key: string): Rect | undefined {
  const [width, height] = [area.right - area.left, area.bottom - area.top];
  const moved = (right: number, down: number): Rect => ({
    left: area.left + right * width,
    right: area.right + right * width,
    top: area.top + down * height,
    bottom: area.bottom + down * height,
  });
  switch (key) {
    case '+':
    case '=':
      return scaledRect(area, 0.8, middleOf(area));
    case '-':
      return scaledRect(area, 1.25, middleOf(area));
    case 'ArrowLeft':
      return moved(-0.1, 0);
    case 'ArrowRight':
      return moved(0.1, 0);
    case 'ArrowUp':
      return moved(0, -0.1);
    case 'ArrowDown':
      return moved(0, 0.1);
    default:
      return undefined;
  }
}

interface Zooming {
  /** Takes the part that shall fill the plot. */
  readonly onView: (part: Rect) => void;
  readonly onBack: () => void;
  /** Enter asks for what stands in the middle, as a click does for what it points at. */
  readonly onEnter?: ((middle: Place) => void) | undefined;
}

/**
 * Looking closer at a part of a plot: a box dragged with the mouse, the wheel, two fingers, or keys; Backspace goes back.
 * @param area where the plot is drawn, in pixels of its picture
 */
export function useZoom(
  picture: RefObject<SVGSVGElement | null>,
  area: Rect,
  { onView, onBack, onEnter }: Zooming,
  { isOn, wheel }: { readonly isOn: boolean; readonly wheel: Wheel },
) {
  const [box, setBox] = useState<Rect>();
  const start = useRef<Place>(undefined);
  const fingers = useRef(new Map<number, Place>());
  const boxed = useRef(false);
  const latest = useLatest({ area, onView });
  useEffect(() => {
    const svg = picture.current;
    if (!svg || !isOn) return;
    // React listens to the wheel passively; the page would scroll as well.
    const turn = (event: WheelEvent) => {
      if (wheel === 'withCtrl' && !event.ctrlKey) return;
      event.preventDefault();
      const { area, onView } = latest.current;
      onView(scaledRect(area, wheelStep ** (event.deltaY * (event.ctrlKey ? 4 : 1)), placeOn(svg, event)));
    };
    svg.addEventListener('wheel', turn, { passive: false });
    return () => svg.removeEventListener('wheel', turn);
  }, [picture, latest, isOn, wheel]);

  const isIn = ({ px, py }: Place) => px >= area.left && px <= area.right && py >= area.top && py <= area.bottom;
  const place = (event: PointerEvent<SVGSVGElement>) => placeOn(event.currentTarget, event);
  const down = (event: PointerEvent<SVGSVGElement>) => {
    boxed.current = false;
    if (event.pointerType === 'touch') fingers.current.set(event.pointerId, place(event));
    else if (event.button === 0 && isIn(place(event))) start.current = place(event);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    const now = place(event);
    if (fingers.current.has(event.pointerId)) return pinch(event.pointerId, now);
    const from = start.current;
    if (!from || Math.max(Math.abs(now.px - from.px), Math.abs(now.py - from.py)) < least) return;
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) event.currentTarget.setPointerCapture(event.pointerId);
    const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
    const [px, py] = [within(now.px, area.left, area.right), within(now.py, area.top, area.bottom)];
    setBox({
      left: Math.min(px, from.px),
      right: Math.max(px, from.px),
      top: Math.min(py, from.py),
      bottom: Math.max(py, from.py),
    });
  };
  const pinch = (id: number, now: Place) => {
    const before = fingers.current.get(id);
    const [other] = [...fingers.current].flatMap(([each, at]) => (each === id ? [] : [at]));
    fingers.current.set(id, now);
    if (!before || !other) return;
    const apart = (at: Place) => Math.hypot(at.px - other.px, at.py - other.py) || 1;
    onView(scaledRect(area, apart(before) / apart(now), { px: (now.px + other.px) / 2, py: (now.py + other.py) / 2 }));
  };
  const end = (event: PointerEvent<SVGSVGElement>) => {
    fingers.current.delete(event.pointerId);
    start.current = undefined;
    if (!box) return;
    setBox(undefined);
    boxed.current = true;
    if (event.type === 'pointerup' && box.right - box.left > least && box.bottom - box.top > least) onView(box);
  };
  return {
    box,
    handlers: {
      tabIndex: 0,
      onPointerDown: down,
      onPointerMove: move,
      onPointerUp: end,
      onPointerCancel: end,
      /** The click that ends a box is none. */
      onClickCapture: (event: { stopPropagation: () => void }) => {
        if (boxed.current) event.stopPropagation();
        boxed.current = false;
      },
      onKeyDown: (event: KeyboardEvent<SVGSVGElement>) => {
        if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
        const part = byKey(area, event.key);
        if (part) onView(part);
        else if (event.key === 'Backspace') onBack();
        else if (event.key === 'Enter' && onEnter) onEnter(middleOf(area));
        else return;
        event.preventDefault();
        event.stopPropagation();
      },
    },
  };
}

type Handler = (event: PointerEvent<SVGSVGElement>) => void;
export interface Pointing extends Readonly<
  Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp' | 'onPointerCancel', Handler>
> {
  readonly onClickCapture: (event: { stopPropagation: () => void }) => void;
}

/** Handlers of a picture on which marks are dragged and boxes are drawn: what takes a mark draws no box. */
export const bothOf = <Zoom extends Pointing>(zoom: Zoom, marks: Pointing): Zoom => ({
  ...zoom,
  onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
    marks.onPointerDown(event);
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) zoom.onPointerDown(event);
  },
  onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
    marks.onPointerMove(event);
    zoom.onPointerMove(event);
  },
  onPointerUp: (event: PointerEvent<SVGSVGElement>) => {
    marks.onPointerUp(event);
    zoom.onPointerUp(event);
  },
  onPointerCancel: (event: PointerEvent<SVGSVGElement>) => {
    marks.onPointerCancel(event);
    zoom.onPointerCancel(event);
  },
  onClickCapture: (event: { stopPropagation: () => void }) => {
    marks.onClickCapture(event);
    zoom.onClickCapture(event);
  },
});
