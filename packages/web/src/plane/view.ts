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
