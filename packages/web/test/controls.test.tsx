/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ApiError } from '../src/api/client';
import { ErrorNote } from '../src/page/states';
import { DecimalField } from '../src/shared/DecimalField';
import { ExpressionField } from '../src/shared/ExpressionField';
import { Field } from '../src/shared/Field';
import { NailMark, nailState } from '../src/shared/NailMark';
import { Statement } from '../src/statement/Statement';

describe('a decimal field', () => {
  function Harness({
    start = 1,
    min,
    max,
    heard,
  }: {
    start?: number;
    min?: number;
    max?: number;
    heard: (value: number) => void;
  }) {
    const [value, setValue] = useState(start);
    return (
      <>
        <DecimalField
          label="limit"
          value={value}
          {...(min === undefined ? {} : { min })}
          {...(max === undefined ? {} : { max })}
          onChange={(next) => {
            heard(next);
            setValue(next);
          }}
        />
        <button onClick={() => setValue(7)}>seven</button>
      </>
    );
  }
  const field = () => screen.getByRole<HTMLInputElement>('textbox');

  test('keeps what is typed and tells only of numbers', async () => {
    const heard = jest.fn();
    render(<Harness heard={heard} />);
    await userEvent.clear(field());
    expect(field().getAttribute('aria-invalid')).toBe('true');
    await userEvent.type(field(), '0.50');
    expect(field().value).toBe('0.50');
    expect(heard.mock.calls.map(([value]: [number]) => value)).toEqual([0, 0, 0.5, 0.5]);
    await userEvent.clear(field());
    await userEvent.type(field(), '−2');
    expect(heard).toHaveBeenLastCalledWith(-2);
  });

  test.each([
    ['many', '“many” is not a number.'],
    ['3 tries', '“3 tries” is not a number.'],
    ['1.2/a', '“1.2/a” is not a number.'],
    ['1.234,5', '“1.234,5” is not a number.'],
    ['', 'A number is missing.'],
    ['-3', 'At least 0 is needed.'],
    ['101', 'At most 100 is possible.'],
  ])('keeps %j when it is left, says what is wrong, and changes nothing', (typed, words) => {
    const heard = jest.fn();
    render(<Harness heard={heard} start={3} min={0} max={100} />);
    fireEvent.change(field(), { target: { value: typed } });
    fireEvent.blur(field());
    expect([field().value, screen.getByRole('alert').textContent]).toEqual([typed, words]);
    expect(heard).not.toHaveBeenCalled();
  });

  test.each([
    ['0,5', 0.5],
    ['−2', -2],
    [' 1e-9 ', 1e-9],
    ['.5', 0.5],
  ])('reads %j as people mean it', (typed, value) => {
    const heard = jest.fn();
    render(<Harness heard={heard} start={3} />);
    fireEvent.change(field(), { target: { value: typed } });
    expect(heard).toHaveBeenLastCalledWith(value);
    expect(field().value).toBe(typed);
    fireEvent.blur(field());
    expect(field().value).toBe(String(value));
  });

  test('refuses what lies below its least value, and follows changes from outside', async () => {
    const heard = jest.fn();
    render(<Harness heard={heard} min={1} />);
    fireEvent.change(field(), { target: { value: '0.5' } });
    expect(heard).not.toHaveBeenCalled();
    expect(field().getAttribute('aria-invalid')).toBe('true');
    fireEvent.blur(field());
    await userEvent.click(screen.getByText('seven'));
    expect(field().value).toBe('7');
  });
});

describe('a typed expression', () => {
  const show = (text: string, onChange: (text: string) => void = () => undefined) =>
    render(<ExpressionField label="Plant" text={text} scope={{ names: new Map() }} onChange={onChange} lead="P(s)=" />);

  test('is shown back typeset', () => {
    const { container } = show('1/(s^2+2s)');
    expect(container.querySelector('annotation')!.textContent).toBe('\\displaystyle P(s)=\\frac{1}{s^{2}+2\\,s}');
    expect(screen.getByLabelText('Plant').getAttribute('aria-invalid')).toBe('false');
  });

  test('says what is wrong and marks the place', () => {
    const { container } = show('2*(s+q)');
    expect(screen.getByText(/“q” is not known here/)).toBeTruthy();
    expect(container.querySelector('mark')!.textContent).toBe('q');
    expect(screen.getByLabelText('Plant').getAttribute('aria-invalid')).toBe('true');
  });

  test('marks the end where something is missing there', () => {
    const { container } = show('s+');
    expect(container.querySelector('mark')!.textContent).toBe('\u00a0');
  });

  test('is not blamed for being empty', () => {
    const { container } = show('');
    expect(container.querySelector('mark')).toBeNull();
    expect(screen.getByLabelText('Plant').getAttribute('aria-invalid')).toBe('false');
  });

  test('hands on every change', () => {
    const heard = jest.fn();
    show('s', heard);
    fireEvent.change(screen.getByLabelText('Plant'), { target: { value: 's+1' } });
    expect(heard).toHaveBeenCalledWith('s+1');
  });
});

describe('a statement', () => {
  const latexOf = (container: HTMLElement) =>
    [...container.querySelectorAll('annotation')].map(({ textContent }) => textContent);

  test('sets formulas within a line and on lines of their own', () => {
    const { container } = render(<Statement text={'With $a = 2$:\n\n$$\\frac{1}{s}$$\n\nand\n\n$$\ns+1\n$$'} />);
    expect(latexOf(container)).toEqual(['a = 2', '\\frac{1}{s}', 's+1']);
    expect(container.querySelectorAll('.katex-display')).toHaveLength(2);
  });

  test('shows markup as text and makes no images of foreign addresses', () => {
    const { container } = render(
      <Statement text={'<script>alert(1)</script>\n\n<b onclick="x()">bold</b> **strong**'} />,
    );
    expect(container.querySelector('script, b')).toBeNull();
    expect(container.textContent).toContain('<script>alert(1)</script>');
    expect(container.querySelector('strong')!.textContent).toBe('strong');
  });

  test('a broken formula does not break the page', () => {
    const { container } = render(<Statement text={'$\\frac{1}{$ and more'} />);
    expect(container.textContent).toContain('and more');
  });
});

describe('nails', () => {
  test.each([
    [{ met: true, close: false }, 'held'],
    [{ met: true, close: true }, 'close'],
    [{ met: false, close: true }, 'missed'],
  ] as const)('%o is %s', (item, state) => {
    expect(nailState(item)).toBe(state);
  });

  test('say their state in words, not by colour alone', () => {
    render(<NailMark state="missed" label="Overshoot" />);
    expect(screen.getByRole('img', { name: 'Overshoot: missed' })).toBeTruthy();
  });
});

describe('forms and errors', () => {
  test('a field ties its label and its complaint to the input', () => {
    render(<Field label="Title" error="The exercise needs a title." children={(ids) => <input {...ids} />} />);
    const input = screen.getByLabelText('Title');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(document.getElementById(input.getAttribute('aria-describedby')!)!.textContent).toBe(
      'The exercise needs a title.',
    );
  });

  test('an error offers another try, but not for what does not exist', async () => {
    const again = jest.fn();
    const { rerender } = render(<ErrorNote error={new ApiError(0, 'offline', 'No connection.')} retry={again} />);
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(again).toHaveBeenCalledTimes(1);
    rerender(<ErrorNote error={new ApiError(404, 'notFound', 'Nothing here.')} retry={again} />);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByRole('alert').textContent).toBe('Nothing here.');
  });
});
