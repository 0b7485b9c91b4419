import { must, type Stretch } from '@nailset/core';

/** What marking on the s-plane does to the points that stand there. */

export interface Point {
  readonly re: number;
  readonly im: number;
}

type Points = readonly Point[];

const round = (value: number): number => Number(value.toPrecision(6)) || 0;

/** On a grid, and on an axis when it is nearer to one than `onAxis`; all in rad/s. */
export function snapped({ re, im }: Point, grid: number, onAxis: number): Point {
  const onGrid = (value: number) => round(Math.round(value / grid) * grid);
  return { re: Math.abs(re) < onAxis ? 0 : onGrid(re), im: Math.abs(im) < onAxis ? 0 : onGrid(im) };
}

/** With one more point, and its mirror image where points come in pairs. */
export function withPoint(points: Points, point: Point, inPairs: boolean): Points {
  const mirrored = inPairs && point.im !== 0 ? [{ re: point.re, im: -point.im }] : [];
  return [...points, point, ...mirrored];
}

/** With a point moved, and its mirror image with it for as long as both are off the real axis. */
export function withPointAt(points: Points, index: number, to: Point): Points {
  const old = must(points[index]);
  const pair = points.findIndex(({ re, im }, k) => k !== index && re === old.re && im === -old.im && im !== 0);
  return points.map((point, k) => {
    if (k === index) return to;
    return k === pair && to.im !== 0 ? { re: to.re, im: -to.im } : point;
  });
}

/** Stepped by so many rungs of the grid. */
export const steppedPoint = ({ re, im }: Point, right: number, up: number, grid: number): Point => ({
  re: round(re + right * grid),
  im: round(im + up * grid),
});

export const isIn = ({ from, to }: Stretch, re: number): boolean => re > from && re < to;

export const isMarked = (stretch: Stretch, points: Points): boolean =>
  points.some(({ re, im }) => im === 0 && isIn(stretch, re));

/** A whole stretch of the real axis is marked by one point in it, and cleared the second time. */
export function withStretchToggled(points: Points, stretch: Stretch, grid: number): Points {
  if (!isMarked(stretch, points)) return [...points, { re: round(inside(stretch, grid)), im: 0 }];
  return points.filter(({ re, im }) => im !== 0 || !isIn(stretch, re));
}

function inside({ from, to }: Stretch, grid: number): number {
  if (Number.isFinite(from) && Number.isFinite(to)) return (from + to) / 2;
  if (Number.isFinite(to)) return to - 20 * grid;
  return Number.isFinite(from) ? from + 20 * grid : 0;
}
