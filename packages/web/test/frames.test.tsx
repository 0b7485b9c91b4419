/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import { planeScale } from '../src/plane/LocusLayers';
import { planeAxes, planeView, planeWith } from '../src/plane/view';
import { useFrame } from '../src/plot/useFrame';
import { scaledRect } from '../src/plot/useZoom';

describe('the frame of a plot', () => {
  const start = { tMax: 5, yMin: 0, yMax: 2 };
  const closer = { tMin: 1, tMax: 2, yMin: 0.5, yMax: 1 };

  test('goes back to what was looked at before, step by step, and no further', () => {
    const { result } = renderHook(() => useFrame(5, () => start));
    act(() => result.current[1](closer));
    act(() => result.current[1]({ ...closer, tMax: 1.5 }));
    act(() => result.current[2]());
    expect(result.current[0]).toEqual(closer);
    act(() => result.current[2]());
    act(() => result.current[2]());
    expect(result.current[0]).toEqual(start);
  });

  test('shows all of another time, however closely one looked', () => {
    const { result, rerender } = renderHook(({ tMax }) => useFrame(tMax, () => start), { initialProps: { tMax: 5 } });
    act(() => result.current[1](closer));
    rerender({ tMax: 9 });
    expect(result.current[0]).toEqual({ tMax: 9, yMin: 0.5, yMax: 1 });
    act(() => result.current[2]());
    expect(result.current[0].tMax).toBe(9);
  });
});

describe('a part of the plane', () => {
  const scale = planeScale({ re: -1, im: 0, reach: 2 }, 400, 200);

  test('is seen whole and in the middle, with one scale for both axes', () => {
    const view = planeView(scale, { left: 100, right: 300, top: 20, bottom: 60 });
    expect(view).toEqual({ re: -1, im: 1.2, reach: 1 });
    expect(planeView(scale, { left: 0, right: 20, top: 0, bottom: 100 }).reach).toBe(1);
  });

  test('its typed ends are the ends that are seen', () => {
    for (const [axis, ends] of [
      [0, { from: -4, to: 2 }],
      [1, { from: -3, to: 1 }],
    ] as const) {
      const seen = planeAxes(planeScale(planeWith(scale, axis, ends), 400, 200))[axis]!;
      expect([seen.from, seen.to]).toEqual([expect.closeTo(ends.from, 9), expect.closeTo(ends.to, 9)]);
    }
  });

  test('a place under the pointer stays under it', () => {
    const area = { left: 0, right: 400, top: 0, bottom: 200 };
    const pointer = { px: 90, py: 50 };
    const before = { re: -1 + (90 - 200) / scale.unit, im: (100 - 50) / scale.unit };
    const after = planeScale(planeView(scale, scaledRect(area, 0.5, pointer)), 400, 200);
    expect(after.x(before.re)).toBeCloseTo(90, 9);
    expect(after.y(before.im)).toBeCloseTo(50, 9);
  });
});
