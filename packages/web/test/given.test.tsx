/** @jest-environment jsdom */
import type { CorridorNail, GainsPart, NamedSystem, Part } from '@nailset/core';
import { parametersOf } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { exampleScope } from '../src/builder/exampleScope';
import { GuardsEditor } from '../src/builder/given/GuardsEditor';
import { SystemsEditor } from '../src/builder/given/SystemsEditor';
import { TablesEditor } from '../src/builder/given/TablesEditor';
import { newExercise, newPart } from '../src/builder/newExercise';
import { cornerAdded, cornerMoved } from '../src/kinds/gains/corridor';
import { newController } from '../src/kinds/gains/newController';
import { readTable } from '../src/shared/readTable';
import { pointAt, watchSizes } from './page';
import { EditedPart } from './partEditor';

beforeAll(watchSizes);

const change = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe('systems', () => {
  let systems: NamedSystem[];
  function Editor({ start }: { start: NamedSystem[] }) {
    const [now, setNow] = useState(start);
    systems = now;
    const scope = exampleScope({ ...newExercise(), parameters: [], systems: now });
    return <SystemsEditor systems={now} scope={scope} findings={[]} disabled={false} onChange={setNow} />;
  }
  const typed: NamedSystem = { name: 'G', meaning: '', form: { kind: 'expression', text: '8/(s^2+2s+4)' } };
  const shown = () => [...document.querySelectorAll('annotation')].map((node) => node.textContent).join(' ');

  test('are shown back expanded, with gain at rest and damping', () => {
    render(<Editor start={[typed]} />);
    expect(shown()).toContain('\\frac{8}{s^{2}+2\\,s+4}');
    expect(document.body.textContent).toMatch(/gain at rest 2; poles −1 ± 1\.73j \(ζ 0\.5, ωn 2 rad\/s\)/);
  });

  test.each<[string, NamedSystem['form']['kind'], RegExp]>([
    ['coefficients', 'coefficients', /gain at rest 1; poles −0\.6 ± 1\.91j/],
    ['zeros and poles', 'zerosPoles', /gain at rest 0\.8; poles −1 ± 2j/],
    ['second order', 'secondOrder', /gain at rest 1; poles −1\.2 ± 2\.75j/],
    ['state matrices', 'states', /gain at rest 1; poles −0\.6 ± 1\.91j/],
    ['signal equations', 'equations', /gain at rest 1; poles −0\.6 ± /],
  ])('in the form %s start with something that works', async (_name, kind, words) => {
    render(<Editor start={[typed]} />);
    await userEvent.selectOptions(screen.getByLabelText('G, form'), kind);
    expect(document.body.textContent).toMatch(words);
  });

  test('lists of coefficients, places and matrices are read as they are typed', async () => {
    render(<Editor start={[typed]} />);
    await userEvent.selectOptions(screen.getByLabelText('G, form'), 'coefficients');
    change('Denominator', '1; 3, 2');
    expect(systems[0]!.form).toMatchObject({ denominator: ['1', '3', '2'] });
    // As they come from a table, or from where commas are decimal.
    for (const text of ['1 1.2 K', '1\n1.2\nK', '1; 1,2; K', '1, 1.2, K']) {
      change('Denominator', text);
      expect(systems[0]!.form).toMatchObject({ denominator: ['1', '1.2', 'K'] });
    }
    change('Denominator', '1, K*(T + 2), s + 1');
    expect(systems[0]!.form).toMatchObject({ denominator: ['1', 'K*(T + 2)', 's + 1'] });
    await userEvent.selectOptions(screen.getByLabelText('G, form'), 'zerosPoles');
    change('Poles', '−4, -1 ± 3j, -2 + 5j');
    expect(systems[0]!.form).toMatchObject({ poles: [{ re: '-4' }, { re: '-1', im: '3' }, { re: '-2', im: '5' }] });
    change('Poles', '-1 -2 −3+4j');
    expect(systems[0]!.form).toMatchObject({ poles: [{ re: '-1' }, { re: '-2' }, { re: '-3', im: '4' }] });
    change('Poles', '-1 +3j');
    expect(systems[0]!.form).toMatchObject({ poles: [{ re: '-1', im: '3' }] });
    await userEvent.selectOptions(screen.getByLabelText('G, form'), 'states');
    change('A', '0 1\n-9 -2');
    expect(systems[0]!.form).toMatchObject({
      a: [
        ['0', '1'],
        ['-9', '-2'],
      ],
    });
    change('A', '0, 1\n-4');
    expect(screen.getByLabelText('A').getAttribute('aria-invalid')).toBe('true');
    change('A', '0, 1\n-9, -2');
    expect(systems[0]!.form).toMatchObject({
      a: [
        ['0', '1'],
        ['-9', '-2'],
      ],
    });
  });

  test('come with a free name and go', async () => {
    render(<Editor start={[typed]} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a system' }));
    expect(systems.map(({ name }) => name)).toEqual(['G', 'H']);
    await userEvent.click(screen.getByRole('button', { name: 'Remove G' }));
    expect(systems.map(({ name }) => name)).toEqual(['H']);
  });
});

describe('guards', () => {
  test('say whether the first imagined student meets them', () => {
    const scope = parametersOf({ a: '2' });
    const props = { scope, findings: [], disabled: false, onChange: () => undefined };
    const { rerender } = render(<GuardsEditor guards={['a > 1']} {...props} />);
    expect(screen.getByText('meets')).toBeTruthy();
    rerender(<GuardsEditor guards={['a > 3']} {...props} />);
    expect(screen.getByText('fails once')).toBeTruthy();
    rerender(<GuardsEditor guards={['a >']} {...props} />);
    expect(screen.queryByText(/meets|fails/)).toBeNull();
  });
});

describe('tables', () => {
  test.each([
    ['t,y\n0,1\n0.5,2\n', [0, 0.5], [1, 2]],
    ['0;1,5\n0,25;2\n', [0, 0.25], [1.5, 2]],
    ['time\tlevel\n0\t1\n1\t2', [0, 1], [1, 2]],
    ['\uFEFFtime, value\r\n0, 1\r\n1, 2\r\n', [0, 1], [1, 2]],
  ])('%j is read', (text, times, values) => {
    expect(readTable(text)).toEqual({ times, values });
  });

  test.each([
    ['', /No row/],
    ['a,b\nc,d', /No row/],
    ['0,1', /at least two rows/],
    ['0,1\n1,x', /Row 2 has no time/],
    ['0,1\n2,1\n1,1', /Row 3: times must rise/],
    ['-1,1\n2,1', /Row 1: times must rise/],
  ])('%j is refused', (text, message) => {
    expect(() => readTable(text)).toThrow(message);
  });

  test('a long one is thinned, its ends stay', () => {
    const text = Array.from({ length: 9000 }, (_, k) => `${k},${k}`).join('\n');
    const { times } = readTable(text);
    expect(times.length).toBeLessThanOrEqual(2000);
    expect([times[0], times.at(-1)]).toEqual([0, 8999]);
  });

  test('a file becomes a table, or the reason why not', async () => {
    const onChange = jest.fn();
    // This page has no files of its own that can be read.
    const fileOf = (text: string, name: string) =>
      Object.assign(new File([text], name, { type: 'text/csv' }), { text: () => Promise.resolve(text) });
    render(<TablesEditor series={[]} disabled={false} onChange={onChange} />);
    const input = screen.getByLabelText('Add a table (CSV: time, value)');
    await userEvent.upload(input, fileOf('0,1\n1,2', 'Tide 7.csv'));
    expect(onChange).toHaveBeenCalledWith([{ id: 'tide-7', name: 'Tide 7', times: [0, 1], values: [1, 2] }]);
    await userEvent.upload(input, fileOf('nothing', 'empty.csv'));
    expect((await screen.findByRole('alert')).textContent).toMatch(/^empty\.csv: No row/);
  });
});

describe('the editor of a part', () => {
  let part: Part;
  const Editor = ({ start }: { start: Part }) => <EditedPart start={start} onPart={(now) => (part = now)} />;
  const valid = () => examine({ ...newExercise(), parts: [JSON.parse(JSON.stringify(part)) as Part] });

  test('of gains keeps gains that both forms have, and gives one away', async () => {
    render(<Editor start={newPart('gains', [], { system: 'G' })} />);
    await userEvent.selectOptions(screen.getByLabelText('Controller'), 'PID');
    change('Kp, start', '3');
    await userEvent.selectOptions(screen.getByLabelText('Form'), 'ideal');
    const { controller } = part as GainsPart;
    expect(controller.gains.map(({ name }) => name)).toEqual(['Kp', 'Ti', 'Td']);
    expect(controller.gains[0]).toMatchObject({ start: 3 });
    await userEvent.selectOptions(screen.getByLabelText('Td: set by the student or given'), 'given');
    change('Td, given as', '0.2*a');
    expect((part as GainsPart).controller.gains[2]).toEqual({ name: 'Td', value: '0.2*a' });
    expect(valid()).toEqual([]);
  });

  test('of gains has sensor, limits and a disturbance to switch on', async () => {
    render(<Editor start={newPart('gains', [], { system: 'G' })} />);
    await userEvent.click(screen.getByText('A disturbance d adds to the effort'));
    await userEvent.click(screen.getByText('A sensor H stands in the feedback path'));
    expect(part).toMatchObject({ sensor: '1/(0.1*s + 1)', disturbance: { kind: 'levels' } });
    expect(valid()).toEqual([]);
    await userEvent.click(screen.getByText('A sensor H stands in the feedback path'));
    await userEvent.click(screen.getByText('The effort has limits'));
    change('Filter time of D', '0.05');
    expect(valid()).toEqual([]);
  });

  test('of gains takes nails on any signal, and a corridor', async () => {
    render(<Editor start={newPart('gains', [], { system: 'G' })} />);
    await userEvent.selectOptions(screen.getByLabelText('Overshoot: of which signal'), 'u r');
    await userEvent.click(screen.getByRole('button', { name: 'Add a corridor' }));
    const box = screen.getByLabelText(/Corridor of y/);
    fireEvent.change(box, { target: { value: '0 – 1.3\n4 0.9' } });
    const nails = (part as GainsPart).nails;
    expect(nails[0]).toMatchObject({ signal: 'u', input: 'r' });
    expect(nails[2]).toMatchObject({
      corridor: [
        { time: 0, low: null, high: 1.3 },
        { time: 4, low: 0.9, high: null },
      ],
    });
    fireEvent.change(box, { target: { value: '0 – 1.3\nlater 0.9' } });
    expect(box.getAttribute('aria-invalid')).toBe('true');
  });

  test('of gains takes a corridor that is drawn: corners dragged, moved by keys, added and taken out', async () => {
    render(<Editor start={newPart('gains', [], { system: 'G' })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a corridor' }));
    const corners = () => ((part as GainsPart).nails.at(-1) as CorridorNail).corridor;
    const corner = (name: string) => screen.getByRole('slider', { name });
    const placeOf = (name: string): [x: number, y: number] => [
      Number(corner(name).getAttribute('cx')),
      Number(corner(name).getAttribute('cy')),
    ];
    const plot = screen.getByRole('group', { name: 'Corridor, drawn' });
    plot.setPointerCapture = () => undefined;
    fireEvent.keyDown(corner('Corner 2, highest'), { key: 'ArrowUp', shiftKey: true });
    expect(corners()[1]!.high).toBeGreaterThan(1.1);
    expect(corners()[1]).toMatchObject({ time: 2, low: 0.9 });

    const [x, y] = placeOf('Corner 2, lowest');
    pointAt(plot, 'pointerdown', x, y);
    pointAt(plot, 'pointermove', x + 40, y + 10);
    pointAt(plot, 'pointerup', x + 40, y + 10);
    const moved = corners()[1]!;
    expect(moved.time).toBeGreaterThan(2);
    expect(moved.low).toBeLessThan(0.9);
    pointAt(plot, 'pointermove', 0, 0);
    expect(corners()[1]).toEqual(moved);
    const box = screen.getByLabelText<HTMLTextAreaElement>(/Corridor of y/);
    expect(box.value).toContain(`${moved.time}  ${moved.low}`);

    const between = (placeOf('Corner 2, highest')[0] + placeOf('Corner 3, highest')[0]) / 2;
    pointAt(plot, 'pointerdown', between, 20);
    expect(corners()).toHaveLength(4);
    expect(valid()).toEqual([]);
    fireEvent.keyDown(corner('Corner 3, highest'), { key: 'Delete' });
    expect(corners()).toHaveLength(3);
  });

  test('of gains: a corner stays between its neighbours and on its side of the other bound', () => {
    const corridor = [
      { time: 0, low: null, high: 1.2 },
      { time: 2, low: 0.9, high: 1.1 },
      { time: 5, low: 0.95, high: 1.05 },
    ];
    const rung = { time: 0.1, value: 0.01 };
    expect(cornerMoved(corridor, 1, 'low', { time: 9, value: 3 }, rung)[1]).toEqual({ time: 4.9, low: 1.1, high: 1.1 });
    expect(cornerMoved(corridor, 1, 'high', { time: -1, value: 0 }, rung)[1]).toEqual({
      time: 0.1,
      low: 0.9,
      high: 0.9,
    });
    expect(cornerMoved(corridor, 0, 'high', { time: -3, value: 1.337 }, rung)[0]).toEqual({
      time: 0,
      low: null,
      high: 1.34,
    });
    expect(cornerAdded(corridor, { time: 3.5, value: 1.4 }, rung)![2]).toEqual({ time: 3.5, low: 0.93, high: 1.4 });
    expect(cornerAdded(corridor, { time: 8, value: 0.5 }, rung)![3]).toEqual({ time: 8, low: 0.5, high: 1.05 });
    expect(cornerAdded(corridor, { time: 2.01, value: 1.4 }, rung)).toBeUndefined();
  });

  test('of a number writes the formula of what is picked, with its unit', async () => {
    render(<Editor start={newPart('number', [], { system: 'G' })} />);
    await userEvent.selectOptions(screen.getByLabelText('Asked for'), 'phaseMargin');
    expect(part).toMatchObject({ formula: 'phaseMargin(closed(G))', unit: '°' });
    await userEvent.selectOptions(screen.getByLabelText('counted'), 'absolute');
    change('Tolerance', '2');
    expect(part).toMatchObject({ toleranceAbsolute: 2 });
    change('Formula', '2*pi/sqrt(b)');
    const formulas = () => [...document.querySelectorAll('annotation')].map((node) => node.textContent).join();
    await waitFor(() => expect(formulas()).toContain('=\\;3.63'));
  });

  test('of a choice has conditions, remarks and several right ones', async () => {
    render(<Editor start={newPart('choice', [], { system: 'G' })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add an option' }));
    change('Option 3', 'It rests at once.');
    change('Remark when option 3 is wrong', 'It has two poles.');
    await userEvent.click(screen.getByText('Several can be right'));
    expect(part).toMatchObject({ several: true });
    expect((part as Extract<Part, { kind: 'choice' }>).options[2]).toEqual({
      id: 'c',
      text: 'It rests at once.',
      right: false,
      remark: 'It has two poles.',
    });
    await userEvent.click(screen.getByRole('button', { name: 'Remove option 3' }));
    expect(valid()).toEqual([]);
  });

  test('of a trend table adds rows and columns with ids of their own', async () => {
    render(<Editor start={newPart('trend', [], { system: 'G' })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a column' }));
    change('Parameter of column 2', 'b');
    await userEvent.click(screen.getByRole('button', { name: 'Add a row' }));
    expect(valid()).toEqual([]);
    const { changes, rows } = part as Extract<Part, { kind: 'trend' }>;
    expect([changes.length, rows.length]).toEqual([2, 3]);
  });

  test('of any typed part can carry curves that come afterwards', async () => {
    render(<Editor start={newPart('number', [], { system: 'G' })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add curves to this part' }));
    await userEvent.click(screen.getByText('after the answer'));
    expect(part.figure).toMatchObject({ curves: [{ system: 'G', afterwards: true }] });
    expect(valid()).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Remove curve 1' }));
    expect(part.figure).toBeUndefined();
  });

  test('of curves takes initial conditions sign by sign', async () => {
    render(<Editor start={newPart('number', [], { system: 'G' })} />);
    await userEvent.click(screen.getByRole('button', { name: 'Add curves to this part' }));
    await userEvent.selectOptions(screen.getByLabelText('Input'), 'initial conditions');
    expect(valid()).toMatchObject([{ message: expect.stringContaining('2 numbers') as string }]);
    const field = screen.getByRole('textbox', { name: /^y; y′/ });
    await userEvent.clear(field);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    await userEvent.type(field, '−0.5; 1.25');
    expect(part.figure!.input).toEqual({ kind: 'initial', values: [-0.5, 1.25] });
    expect(valid()).toEqual([]);
  });
});

test('a controller that changes its form asks for the gains of that form', () => {
  expect(newController('PI', 'series').gains.map(({ name }) => name)).toEqual(['Kp', 'Ti']);
  expect(newController('P', 'ideal').gains.map(({ name }) => name)).toEqual(['Kp']);
});
