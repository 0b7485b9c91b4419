export type Place = readonly [x: number, y: number];

/** The points of a path of straight lines. */
export const pointsOf = (path: string): Place[] =>
  Array.from(path.matchAll(/[ML]([-\d.e]+) ([-\d.e]+)/g), ([, x, y]) => [Number(x), Number(y)] as const);

/** How high a path that runs to the right is at a place. */
export function heightAt(path: string, x: number): number {
  const points = pointsOf(path);
  const next = Math.max(
    1,
    points.findIndex(([px]) => px >= x),
  );
  const [[x0, y0], [x1, y1]] = [points[next - 1]!, points[next]!];
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}

/** How far a place is from a path. */
export function awayFrom(path: string, [x, y]: Place): number {
  const points = pointsOf(path);
  const from = points.slice(1).map(([x1, y1], k) => {
    const [x0, y0] = points[k]!;
    const [dx, dy] = [x1 - x0, y1 - y0];
    const share = Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1)));
    return Math.hypot(x - x0 - share * dx, y - y0 - share * dy);
  });
  return Math.min(...from);
}
