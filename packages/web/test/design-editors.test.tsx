/** @jest-environment jsdom */
import { type Compensator, type GainsPart, isPid, type Part } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { newExercise, newPart } from '../src/builder/newExercise';
import { watchSizes } from './page';
import { EditedPart } from './partEditor';

beforeAll(watchSizes);

let part: Part;
const Editor = ({ start }: { start: Part }) => <EditedPart start={start} onPart={(now) => (part = now)} />;
const findings = () => examine({ ...newExercise(), parts: [JSON.parse(JSON.stringify(part)) as Part] });
const change = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));
const choose = (label: string, value: string) => userEvent.selectOptions(screen.getByLabelText(label), value);

describe('a compensator', () => {
  const compensator = () => {
    const { controller } = part as GainsPart;
    if (isPid(controller)) throw new Error('It is a PID controller.');
    return controller;
  };
  const names = () => compensator().gains.map(({ name }) => name);
  const start = async () => {
    render(<Editor start={newPart('gains', [], { system: 'G' })} />);
    await choose('Controller', 'compensator');
  };

  test('begins with what can be published', async () => {
    await start();
    expect(names()).toEqual(['K', 'z1', 'p1']);
    expect(findings()).toEqual([]);
  });

  test('gets more terms in their order, until there are no more, and loses a pair as a whole', async () => {
    await start();
    await press('Add a pair of zeros');
    await press('Add a second lead or lag');
    expect(names()).toEqual(['K', 'z1', 'p1', 'z2', 'p2', 'zr', 'zi']);
    expect(screen.queryByRole('button', { name: 'Add a second lead or lag' })).toBeNull();
    await press('Remove zi');
    expect(names()).toEqual(['K', 'z1', 'p1', 'z2', 'p2']);
    expect(findings()).toEqual([]);
  });

  test('leaves a place to the student, to be added, or gives it away', async () => {
    await start();
    const place = () => compensator().gains[1];
    await choose('z1: set by the student or given', 'optional');
    expect(place()).toMatchObject({ name: 'z1', optional: true });
    await choose('z1: set by the student or given', 'given');
    change('z1, given as', '-2*a');
    expect(place()).toEqual({ name: 'z1', value: '-2*a' });
    // A zero that is there from the start asks for a pole that is.
    expect(findings()[0]!.message).toMatch(/at least as many poles as zeros/);
    await choose('p1: set by the student or given', 'open');
    expect(findings()).toEqual([]);
    await choose('z1: set by the student or given', 'open');
    expect(place()).not.toHaveProperty('optional');
    expect(place()).toHaveProperty('start');
    // The gain itself is never left out.
    const options = screen.getByLabelText('K: set by the student or given').querySelectorAll('option');
    expect([...options].map(({ value }) => value)).toEqual(['open', 'given']);
  });

  test('has a limit on its ratio only when one is typed', async () => {
    await start();
    const ratio = () => (compensator() satisfies Compensator).largestRatio;
    change('Largest ratio of a lead or lag', '8');
    expect(ratio()).toBe(8);
    change('Largest ratio of a lead or lag', '0.5');
    expect(ratio()).toBe(8);
    expect(screen.getByLabelText('Largest ratio of a lead or lag').getAttribute('aria-invalid')).toBe('true');
    change('Largest ratio of a lead or lag', '');
    expect(compensator()).not.toHaveProperty('largestRatio');
  });

  test('keeps its ladder when the student’s gain is written in the other form', async () => {
    await start();
    change('K, start', '2.5');
    await choose('Form', 'corners');
    expect(compensator()).toMatchObject({ form: 'corners', gains: [{ name: 'K', start: 2.5 }, {}, {}] });
  });

  test('goes back to PID, and the student’s views stay', async () => {
    await start();
    await userEvent.click(screen.getByLabelText('Bode'));
    await choose('Controller', 'PI');
    expect(part).toMatchObject({ controller: { terms: 'PI', form: 'parallel' } });
    expect((part as GainsPart).views).toContain('bode');
    expect(findings()).toEqual([]);
  });
});

describe('a match over frequency', () => {
  const table = (text: string) => {
    const file = new File([text], 'shaken.csv', { type: 'text/csv' });
    // The file of this page cannot be read otherwise.
    file.text = async () => text;
    return userEvent.upload(document.querySelector<HTMLInputElement>('input[type=file]')!, file);
  };

  test('follows a hidden system between two frequencies', async () => {
    render(<Editor start={newPart('bode', [], { system: 'G' })} />);
    change('Frequencies from', '0.2');
    expect(part).toMatchObject({ target: { from: 0.2 } });
    expect(findings()).toEqual([]);
    change('Frequencies from', '1000');
    expect(findings()[0]!.path).toBe('parts/0/target');
  });

  test('takes points that were measured, and goes back', async () => {
    render(<Editor start={newPart('bode', [], { system: 'G' })} />);
    await table('frequency in Hz,magnitude in dB\n1,0\n2,-3\n4,-9\n8,-15\n16,-21');
    expect(part).toMatchObject({ target: { name: 'shaken', magnitudesDb: [0, -3, -9, -15, -21] } });
    const { target } = part as Extract<Part, { kind: 'bode' }>;
    expect('omegas' in target && target.omegas[0]).toBeCloseTo(2 * Math.PI, 4);
    expect(screen.getByText(/5 points from 6\.28 to 101 rad\/s, no phases/)).not.toBeNull();
    expect(findings()).toEqual([]);
    await press('Take a system instead');
    expect(part).toMatchObject({ target: { system: expect.stringContaining('s') as string } });
  });

  test('says what is wrong with a file by its name, and keeps what there was', async () => {
    render(<Editor start={newPart('bode', [], { system: 'G' })} />);
    const before = (part as Extract<Part, { kind: 'bode' }>).target;
    await table('these are no numbers');
    expect(screen.getByRole('alert').textContent).toMatch(/^shaken\.csv: /);
    expect((part as Extract<Part, { kind: 'bode' }>).target).toEqual(before);
  });

  test('offers terms, in one order however they are ticked', async () => {
    render(<Editor start={{ ...newPart('bode', [], { system: 'G' }), terms: ['poles'] } as Part} />);
    await userEvent.click(screen.getByLabelText('dead time'));
    await userEvent.click(screen.getByLabelText('integrators'));
    expect(part).toMatchObject({ terms: ['origin', 'poles', 'deadTime'] });
    await userEvent.click(screen.getByLabelText('poles'));
    expect(part).toMatchObject({ terms: ['origin', 'deadTime'] });
  });
});

describe('points of the plane', () => {
  test('are asked for with the tolerance that goes with them', async () => {
    render(<Editor start={newPart('points', [], { system: 'G' })} />);
    const fields = () =>
      ['How many', 'Within', 'Angle within'].filter((label) => screen.queryByLabelText(label) !== null);
    const expected = {
      poles: ['Within'],
      realAxis: [],
      asymptotes: ['Within', 'Angle within'],
      locus: ['How many', 'Angle within'],
    };
    for (const [what, shown] of Object.entries(expected)) {
      await choose('Asked', what);
      expect([what, fields()]).toEqual([what, shown]);
    }
    change('How many', '7.4');
    expect(part).not.toHaveProperty('count', 7.4);
    change('How many', '7');
    expect(part).toMatchObject({ what: 'locus', count: 7 });
    expect(findings()).toEqual([]);
  });

  test('are asked for in words that follow what is asked, until the instructor has own ones', async () => {
    render(<Editor start={newPart('points', [], { system: 'G' })} />);
    expect(part).toMatchObject({ title: 'Poles', prompt: 'The loop is $L(s) = {{G}}$. Where are its poles?' });
    change('System, or open loop L', '2*G');
    await choose('Asked', 'asymptotes');
    expect(part).toMatchObject({
      title: 'Asymptotes',
      prompt: expect.stringMatching(/\{\{2\*G\}\}.*asymptotes/) as string,
    });
    change('What to do', 'Own words.');
    await choose('Asked', 'zeros');
    expect(part).toMatchObject({ title: 'Zeros', prompt: 'Own words.' });
  });
});
