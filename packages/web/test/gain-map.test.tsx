/** @jest-environment jsdom */
import type { GainMap } from '@nailset/core/checks';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { GainMapPlot, type MapPoint } from '../src/plot/GainMapPlot';
import { watchSizes } from './page';

beforeAll(watchSizes);

describe('the gain map of a class', () => {
  const map: GainMap = {
    axes: [
      { name: 'Kp', low: 0, high: 10, fine: 1 },
      { name: 'Kd', low: 0, high: 4, fine: 1 },
    ],
    columns: [2.5, 7.5],
    rows: [1, 3],
    held: [2, 1, -1, 0],
    at: { Kp: '2.5', Kd: '1' },
    share: 0.25,
  };
  const point = (name: string, settings: MapPoint['settings'], met = false): MapPoint => ({
    ...{ id: name, name, settings, met },
  });

  test('has everyone on it, those beyond an edge on the edge, and nobody without both gains', async () => {
    const picked: string[] = [];
    const { container } = render(
      <GainMapPlot
        map={map}
        nails={2}
        onPick={(id) => picked.push(id)}
        chosen="Bram"
        points={[
          point('Aino', { Kp: '5', Kd: '2' }, true),
          point('Bram', { Kp: '99', Kd: '-7' }),
          point('Cato', { Kp: '5' }),
        ]}
      />,
    );
    const marks = [...container.querySelectorAll('circle[data-answer]')];
    expect(marks.map((mark) => mark.getAttribute('data-answer'))).toEqual(['Aino', 'Bram']);
    const place = (mark: Element) => [Number(mark.getAttribute('cx')), Number(mark.getAttribute('cy'))] as const;
    const frame = container.querySelector('rect.fill-none')!;
    const of = (name: string) => Number(frame.getAttribute(name));
    const [aino, bram] = [place(marks[0]!), place(marks[1]!)];
    expect(aino[0]).toBeCloseTo(of('x') + of('width') / 2);
    expect(aino[1]).toBeCloseTo(of('y') + of('height') / 2);
    expect(bram).toEqual([of('x') + of('width'), of('y') + of('height')]);
    await userEvent.click(marks[1]!);
    expect(picked).toEqual(['Bram']);
  });

  test('says in words and numbers what its colours show', async () => {
    render(<GainMapPlot map={map} nails={2} />);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'Gain map over Kp and Kd: all 2 nails hold on 25 % of the ladders’ range.',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    expect(screen.getAllByRole('row').map((line) => line.textContent)).toEqual([
      'KpKdnails held',
      '2.512',
      '7.511',
      '2.53unstable',
      '7.530',
    ]);
  });
});
