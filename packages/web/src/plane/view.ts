import type { Axis, Ends } from '../plot/frame';
import type { Rect } from '../plot/useZoom';
import type { PlaneFrame } from './locus';
import type { PlaneScale } from './LocusLayers';

/** The plane with a part of it in the middle, all of it seen. */
export function planeView({ frame, width, height, unit }: PlaneScale, part: Rect): PlaneFrame {
  const [px, py] = [(part.left + part.right) / 2, (part.top + part.bottom) / 2];
  const high = Math.max(part.bottom - part.top, ((part.right - part.left) * height) / width);
  return {
    re: frame.re + (px - width / 2) / unit,
    im: frame.im - (py - height / 2) / unit,
    reach: Math.min(1e12, Math.max(1e-12, high / (2 * unit))),
  };
}

/** The ends of both axes as they are seen. */
export function planeAxes({ frame, width, height }: PlaneScale): Axis[] {
  const half = (frame.reach * width) / Math.max(1, height);
  return [
    { name: 'real', unit: '', from: frame.re - half, to: frame.re + half },
    { name: 'imaginary', unit: '', from: frame.im - frame.reach, to: frame.im + frame.reach },
  ];
}

/** The plane with the ends of one axis; the other follows, as both have one scale. */
export function planeWith({ frame, width, height }: PlaneScale, axis: number, { from, to }: Ends): PlaneFrame {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  if (axis === 0) return { ...frame, re: middle, reach: (half * height) / Math.max(1, width) };
  return { ...frame, im: middle, reach: half };
}
