/** @jest-environment jsdom */
import {
  type BlockDiagram,
  type Drawing,
  drawingKey,
  layoutOf,
  readBlocks,
  textOfBlocks,
} from '@nailset/core/diagrams';
import { act, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { useState } from 'react';
import { flushSync } from 'react-dom';
import { DiagramView } from '../src/diagram/DiagramView';
import { KnownDrawings, knownDrawings } from '../src/diagram/knownDrawings';
import { PathPanel } from '../src/diagram/PathPanel';
import { nodeWords } from '../src/diagram/words';
import { DiagramWorkshop, type Equations } from '../src/workshop/DiagramWorkshop';
import { gesturesFor } from '../src/workshop/gestures';
import { startingPoints } from '../src/workshop/startingPoints';
import { layOut } from './elk';
import { watchSizes } from './page';

beforeAll(watchSizes);

const equations = 'e = r - b\nu = C*e\ny = G*(u + d)\nb = H*y';
const drawing = (text: string, outputs: string[] = []): Promise<Drawing> => layoutOf(layOut, readBlocks(text), outputs);
const shape = ({ shapes }: Drawing, id: string) => shapes.find((found) => found.id === id)!;

/** Chains with feedback from anywhere to anywhere. */
const texts = fc.array(fc.tuple(fc.nat(5), fc.boolean()), { minLength: 2, maxLength: 6 }).map((rows) =>
  rows
    .map(([back, sum], k) => {
      const before = k === 0 ? 'r' : `x${k}`;
      return sum ? `x${k + 1} = ${before} - H${k}*x${(back % rows.length) + 1}` : `x${k + 1} = G${k}*${before}`;
    })
    .join('\n'),
);

describe('layout', () => {
  test('forward to the right, feedback below, disturbance from above', async () => {
    const found = await drawing(equations, ['y']);
    const [e, u, y, b] = ['e', 'u', 'y', 'b'].map((id) => shape(found, id));
    expect(e!.x).toBeLessThan(u!.x);
    expect(u!.x).toBeLessThan(y!.x);
    expect(b!.y).toBeGreaterThan(y!.y + y!.height);
    expect(shape(found, 'in d').y).toBeLessThan(e!.y);
    const feedback = found.lines.find(({ id }) => id === 'b to e 1')!;
    expect(feedback.sign).toBe(-1);
    // It leaves the block to the left and comes to the sum from below.
    expect(feedback.points[1]!.x).toBeLessThan(feedback.points[0]!.x);
    expect(feedback.points.at(-2)!.y).toBeGreaterThan(feedback.points.at(-1)!.y);
  });

  test('lines are straight up and across, boxes never overlap, and the same text gives the same drawing', async () => {
    await fc.assert(
      fc.asyncProperty(texts, async (text) => {
        const found = await drawing(text);
        expect(await drawing(text)).toEqual(found);
        for (const { points } of found.lines) {
          points.slice(1).forEach((point, k) => {
            const before = points[k]!;
            expect(Math.min(Math.abs(point.x - before.x), Math.abs(point.y - before.y))).toBeLessThan(1);
          });
        }
        const boxes = found.shapes.filter(({ kind }) => kind === 'block' || kind === 'sum');
        boxes.forEach((a, k) =>
          boxes.slice(k + 1).forEach((b) => {
            const apart =
              a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
            expect(apart).toBe(true);
          }),
        );
      }),
      { numRuns: 25 },
    );
  });

  test('a small change moves nothing far', async () => {
    const before = await drawing(equations, ['y']);
    const after = await drawing(equations.replace('H*y', 'H2*y'), ['y']);
    for (const { id, x, y } of before.shapes) {
      const now = shape(after, id);
      expect(Math.hypot(now.x - x, now.y - y)).toBeLessThan(20);
    }
  });
});

describe('the picture', () => {
  test('is a list of parts in words, each of which can be chosen by keyboard', async () => {
    const diagram = readBlocks(equations);
    const picked: string[] = [];
    render(<DiagramView title="The loop" diagram={diagram} outputs={['y']} onPick={(id) => picked.push(id)} />);
    const block = await screen.findByRole('button', { name: 'Block C: takes e, gives u' });
    block.focus();
    await userEvent.keyboard('{Enter}');
    expect(picked).toEqual(['u']);
    expect(screen.getByRole('group', { name: 'The loop' })).toBeTruthy();
    expect(diagram.nodes.map((node) => nodeWords(diagram, node))).toEqual([
      'Sum: plus r, minus b, gives e',
      'Block C: takes e, gives u',
      'Sum: plus u, plus d',
      'Block G: takes the sum, gives y',
      'Block H: takes y, gives b',
    ]);
  });

  test('that came with the page is there at once; another one is laid out', async () => {
    const diagram = readBlocks(equations);
    const known = knownDrawings([{ of: drawingKey(diagram, ['y']), drawing: await drawing(equations, ['y']) }]);
    const view = (read: BlockDiagram) => (
      <KnownDrawings value={known}>
        <DiagramView title="The loop" diagram={read} outputs={['y']} />
      </KnownDrawings>
    );
    const { rerender } = render(view(diagram));
    expect(document.querySelector('[data-shape=b] rect')).toBeTruthy();
    rerender(view(readBlocks(equations.replace('H*y', 'K*y'))));
    await waitFor(() => expect(document.querySelector('[data-shape=b] text')?.textContent).toBe('K'));
  });

  test('paths and loops are traced when pointed at', async () => {
    render(<PathPanel diagram={readBlocks(equations)} pair={{ from: 'r', to: 'y' }} />);
    await screen.findByRole('group', { name: 'Paths from r to y' });
    expect(screen.queryByText('loop 2')).toBeNull();
    const loop = screen.getByText('loop 1').closest('button')!;
    await userEvent.click(loop);
    expect(loop.getAttribute('aria-pressed')).toBe('true');
    expect(document.querySelector('[data-shape=b] rect')!.getAttribute('stroke-width')).toBe('2.2');
    expect(document.querySelector('[data-shape="in r"] text')!.getAttribute('fill')).toBe('var(--color-ink)');
  });
});

describe('gestures', () => {
  const diagram = readBlocks('e = r - H*y\nu = C*e\ny = G*u');
  const line = (signal: string, to: string, term = 0) => ({
    id: `${signal} to ${to} ${term}`,
    signal,
    to,
    term,
    points: [],
  });
  const made = (gestures: ReturnType<typeof gesturesFor>, key: string, ...values: string[]): string[] =>
    textOfBlocks(gestures.find((gesture) => gesture.key === key)!.run(values)).split('\n');

  test('on a line: block, sum, input, output', () => {
    const gestures = gesturesFor(diagram, ['u to y 0'], line('u', 'y'));
    expect(gestures.map(({ key }) => key)).toEqual(['B', 'S', 'I', 'O', 'N']);
    expect(made(gestures, 'B', 'A')[2]).toBe('y = G*A*u');
    expect(made(gestures, 'S', 'e', '-')[2]).toBe('y = G*(u - e)');
    expect(made(gestures, 'I', 'd', '+')[2]).toBe('y = G*(u + d)');
    expect(made(gestures, 'O', 'z')).toContain('z = u');
  });

  test('on a line into a sum: sign and removal', () => {
    const id = diagram.nodes[0]!.id;
    const gestures = gesturesFor(diagram, [`${id} to e 1`], line(id, 'e', 1));
    expect(made(gestures, 'X')[0]).toBe('e = r + H*y');
    expect(made(gestures, 'Delete')[0]).toBe('e = r');
  });

  test('on a block: its factor, what its letter is, its name; on several: a group', () => {
    const gestures = gesturesFor(diagram, ['y'], undefined);
    expect(made(gestures, 'E', '2/(s + 1)')[2]).toBe('y = 2/(s + 1)*u');
    expect(made(gestures, 'W', '4/s')[3]).toBe('where G = 4/s');
    expect(made(gestures, 'N', 'v')[2]).toBe('v = G*u');
    const [group] = gesturesFor(diagram, ['u', 'y'], undefined);
    expect(textOfBlocks(group!.run(['P'])).split('\n')).toEqual(['e = r - H*y', 'y = P*e', 'where P = C*G']);
  });
});

describe('the workshop', () => {
  let now: Equations;
  function Workshop({ start }: { start: Equations }) {
    const [equations, setEquations] = useState(start);
    now = equations;
    return <DiagramWorkshop name="G" equations={equations} onChange={setEquations} onClose={() => undefined} />;
  }
  const start: Equations = { text: 'e = r - y\ny = G*e', from: 'r', to: 'y' };
  const typed = () => screen.getByRole<HTMLTextAreaElement>('textbox', { name: /Signal equations/ });

  test('text and picture follow each other, and every change can be undone', async () => {
    render(<Workshop start={start} />);
    const block = await screen.findByRole('button', { name: 'Block G: takes e, gives y' });
    await userEvent.click(block);
    await userEvent.click(screen.getByRole('button', { name: /^Set factor/ }));
    await userEvent.clear(screen.getByRole('textbox', { name: 'Factor' }));
    await userEvent.keyboard('K{Enter}');
    expect(typed().value).toBe('e = r - y\ny = K*e');
    await userEvent.type(typed(), '{End}');
    await userEvent.clear(typed());
    await userEvent.type(typed(), 'y = A*B*r');
    expect(await screen.findByRole('button', { name: 'Block A: takes B times r, gives y' })).toBeTruthy();
    expect(now).toEqual({ text: 'y = A*B*r', from: 'r', to: 'y' });
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(typed().value).toBe('e = r - y\ny = K*e');
    await userEvent.click(screen.getByRole('button', { name: 'Redo' }));
    expect(now.text).toBe('y = A*B*r');
  });

  test('a change to a picture that letters have overtaken is not made, and says so', async () => {
    render(<Workshop start={start} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Block G: takes e, gives y' }));
    await userEvent.click(screen.getByRole('button', { name: /^Set factor/ }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Factor' }), '2');
    // In one turn, as a page does that is busy: the picture still stands for what was there before.
    const settable = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')!;
    act(() => {
      settable.set!.call(typed(), 'e = r - y\ny = F*G*e');
      typed().dispatchEvent(new InputEvent('input', { bubbles: true }));
      flushSync(() => screen.getByRole('button', { name: 'Do it' }).click());
    });
    expect(screen.getByRole('alert').textContent).toMatch(/equations changed meanwhile/);
    expect(typed().value).toBe('e = r - y\ny = F*G*e');
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Factor' }).value).toBe('G2');
  });

  test('a mistake in the text is said with its place; the picture stays', async () => {
    render(<Workshop start={start} />);
    await screen.findByRole('button', { name: 'Block G: takes e, gives y' });
    await userEvent.type(typed(), ' + (');
    expect(screen.getByRole('alert').textContent).toMatch(/^Equation 2: /);
    expect(screen.getByRole('button', { name: 'Block G: takes e, gives y' })).toBeTruthy();
  });

  test('a gesture that does not fit says why', async () => {
    render(<Workshop start={start} />);
    await userEvent.click(await screen.findByRole('button', { name: 'Block G: takes e, gives y' }));
    await userEvent.keyboard('n');
    const name = await screen.findByRole('textbox', { name: 'Name' });
    await userEvent.clear(name);
    await userEvent.type(name, 'e{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('e is there already.');
  });

  test.each(startingPoints)('$name can be drawn and reduced', async ({ text, from, to }) => {
    const read: BlockDiagram = readBlocks(text, [from]);
    expect(read.inputs).toContain(from);
    expect((await layoutOf(layOut, read, [to])).shapes.length).toBeGreaterThan(3);
    render(<Workshop start={{ text, from, to }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Reduction' }));
    const ledger = await screen.findByRole('list', { name: 'Ledger' });
    expect(within(ledger).getAllByRole('listitem').length).toBeGreaterThan(1);
  });
});
