/** @jest-environment jsdom */
import type { SheetLine } from '@nailset/core';
import { groupsIn, layoutOf, readBlocks, sourcesOf } from '@nailset/core/diagrams';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { useState } from 'react';
import PlantDrawing from '../src/open/lines/PlantDrawing';
import { layOut } from './elk';
import { watchSizes } from './page';

beforeAll(watchSizes);

/** A drive: the motor gives a torque, the load a speed that acts back on it. */
const equations = 'e = r - w; i = (3*e - k*w)/(L*s + R); m = k*i; w = (m - M)/(J*s + b); p = w/s';
const signals = ['e', 'i', 'm', 'w', 'p'];

describe('a closed group', () => {
  test('stands in the place of its parts, with every signal that enters and leaves it, each once', async () => {
    const diagram = readBlocks(equations, ['r']);
    await fc.assert(
      fc.asyncProperty(fc.subarray(signals, { minLength: 1 }), async (inside) => {
        const { closed } = groupsIn(diagram, [{ name: 'unit', signals: inside, closed: true }]);
        const { shapes, lines } = await layoutOf(layOut, diagram, ['p'], closed);
        const ids = closed[0]!.ids;
        expect(shapes.filter(({ kind }) => kind === 'group').map(({ signal }) => signal)).toEqual(['unit']);
        expect(shapes.filter(({ id }) => ids.includes(id))).toEqual([]);
        const nodes = diagram.nodes.filter(({ id }) => ids.includes(id));
        const entering = new Set(nodes.flatMap(sourcesOf).filter((id) => !ids.includes(id)));
        const into = lines.filter(({ to }) => to === 'group unit').map(({ signal }) => signal);
        expect([...into].sort()).toEqual([...entering].sort());
        // Nothing within it is seen, every line goes somewhere, straight up and across.
        const users = diagram.nodes.filter(({ id }) => !ids.includes(id)).flatMap(sourcesOf);
        for (const { signal, points } of lines) {
          expect(!ids.includes(signal) || users.includes(signal) || signal === 'p').toBe(true);
          expect(points.length).toBeGreaterThan(1);
          for (const [k, { x, y }] of points.slice(1).entries())
            expect(Math.min(Math.abs(x - points[k]!.x), Math.abs(y - points[k]!.y))).toBeLessThan(1.5);
        }
      }),
      { numRuns: 40 },
    );
  });
});

function Line({ text = equations }: { text?: string }) {
  const [groups, setGroups] = useState<SheetLine['groups']>([]);
  return (
    <>
      <PlantDrawing label="D" equations={text} from="r" to={['p']} groups={groups} onGroups={setGroups} />
      <output>{JSON.stringify(groups)}</output>
    </>
  );
}

const kept = () => JSON.parse(screen.getByText(/^\[/, { selector: 'output' }).textContent) as SheetLine['groups'];
const drawing = async () => within(await screen.findByRole('group', { name: 'Block diagram of D' }));

describe('in the drawing of a line', () => {
  test('equations are picked and grouped, closed, opened by a click, and ungrouped', async () => {
    const user = userEvent.setup();
    render(<Line />);
    // One factor of it picks the whole equation.
    await user.click(await (await drawing()).findByRole('button', { name: 'Block 3: takes e' }));
    await user.click((await drawing()).getByRole('button', { name: /gives m$/ }));
    await user.type(screen.getByLabelText('Group as'), 'motor{Enter}');
    expect(kept()).toEqual([{ name: 'motor', signals: ['i', 'm'], closed: false }]);
    expect(document.querySelectorAll('[data-group=motor] rect').length).toBeGreaterThan(3);

    await user.click(screen.getByRole('button', { name: 'Close motor' }));
    await user.click(await (await drawing()).findByRole('button', { name: 'Group motor' }));
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Group motor' })).toBeNull());
    expect(kept()).toMatchObject([{ closed: false }]);

    await user.click(screen.getByRole('button', { name: 'Ungroup motor' }));
    expect(kept()).toEqual([]);
    expect(document.querySelector('[data-group]')).toBeNull();
  });

  test('an equation that is grouped anew leaves its group', async () => {
    const user = userEvent.setup();
    render(<Line />);
    const group = async (names: readonly RegExp[], as: string) => {
      for (const name of names) await user.click(await (await drawing()).findByRole('button', { name }));
      await user.type(screen.getByLabelText('Group as'), `${as}{Enter}`);
    };
    await group([/gives m$/, /gives w$/], 'both');
    await group([/gives w$/], 'load');
    expect(kept()!.map(({ name, signals }) => [name, signals])).toEqual([
      ['both', ['m']],
      ['load', ['w']],
    ]);
    await group([/gives m$/], 'coil');
    expect(kept()!.map(({ name }) => name)).toEqual(['load', 'coil']);
  });

  test.each([
    ['2nd', /a letter, then letters/],
    ['w', /a w already/],
    ['k', /a k already/],
  ])('the name %s is refused in words and stays in its field', async (name, words) => {
    const user = userEvent.setup();
    render(<Line />);
    await user.click(await (await drawing()).findByRole('button', { name: /gives m$/ }));
    await user.type(screen.getByLabelText('Group as'), `${name}{Enter}`);
    expect(screen.getByText(words)).toBeDefined();
    expect(screen.getByLabelText<HTMLInputElement>('Group as').value).toBe(name);
    expect(kept()).toEqual([]);
  });
});
