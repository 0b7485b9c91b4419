import type { Curve } from '@nailset/core';

export type CurveLook = 'now' | 'family' | 'given' | 'second' | 'first' | 'ghost' | 'held' | 'missed';

/** A point on a curve that is pointed out. */
export interface Reading {
  readonly time: number;
  readonly value: number;
  readonly words: string;
}

/** How a curve is drawn: colour, width, dash and the colour of its label. */
export interface Stroke {
  readonly className: string;
  readonly width: number;
  readonly dash?: string;
  readonly text: string;
}

/** One response on the plot; `label` stands at its end. */
export interface PlotCurve {
  readonly id: string;
  readonly curve: Curve;
  readonly look: CurveLook;
  /** In place of what the look gives, where many systems are told apart. */
  readonly stroke?: Stroke;
  readonly label?: string;
  /** What it is called in the table where no label stands at its end. */
  readonly name?: string;
}

/** How each look is drawn. */
export const strokes: Record<CurveLook, Stroke> = {
  now: { className: 'stroke-petrol', width: 2.4, text: 'fill-petrol font-semibold' },
  second: { className: 'stroke-copper', width: 2.4, text: 'fill-copper font-semibold' },
  family: { className: 'stroke-plum', width: 1.2, dash: '6 3', text: 'fill-plum' },
  given: { className: 'stroke-ink', width: 3, dash: '0 7', text: 'fill-ink' },
  first: { className: 'stroke-slate', width: 1.4, dash: '2 3', text: 'fill-slate' },
  ghost: { className: 'stroke-ghost', width: 1.1, text: 'fill-slate' },
  held: { className: 'stroke-petrol/55', width: 1.1, text: 'fill-petrol' },
  missed: { className: 'stroke-slate/60', width: 1.1, dash: '4 3', text: 'fill-slate' },
};
