/** @jest-environment jsdom */
import { act, fireEvent, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { withFormula } from '../src/kinds/fields/editor';
import { InputEditor } from '../src/kinds/fields/InputEditor';
import { LadderFields } from '../src/kinds/fields/LadderFields';
import { type Kept, useKept } from '../src/loop/useKept';
import { DecimalField, OptionalDecimalField } from '../src/shared/DecimalField';
import { Formula } from '../src/shared/Formula';
import { typesetter } from '../src/shared/typesetter';
import { FieldScope, UnreadProvider, useUnreadTexts } from '../src/shared/unread';
import { usePaced } from '../src/shared/useSettled';

describe('a formula', () => {
  const written = () => document.querySelector('annotation')?.textContent;
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  test('that changes with every frame is typeset now and then, and ends with the last', () => {
    const { rerender } = render(<Formula latex="K=1" />);
    expect(written()).toBe('K=1');
    const seen = new Set([written()]);
    for (let k = 2; k <= 400; k++) {
      rerender(<Formula latex={`K=${k}`} />);
      // What moves is drawn first: the formula follows after the frame.
      expect(written()).not.toBe(`K=${k}`);
      act(() => void jest.advanceTimersByTime(10));
      seen.add(written());
    }
    expect(seen.size).toBeGreaterThan(3);
    expect(seen.size).toBeLessThan(7);
    act(() => void jest.advanceTimersByTime(400));
    expect(written()).toBe('K=400');
  });

  test('that changes once in a while follows at once', () => {
    const { rerender } = render(<Formula latex="K=1" />);
    act(() => void jest.advanceTimersByTime(2000));
    rerender(<Formula latex="K=2" />);
    act(() => void jest.advanceTimersByTime(40));
    expect(written()).toBe('K=2');
  });

  test('that is taken away leaves nothing behind', () => {
    const { rerender, unmount } = render(<Formula latex="a" />);
    rerender(<Formula latex="b" />);
    unmount();
    expect(jest.getTimerCount()).toBe(0);
  });

  test('that cannot be typeset says so instead of ending the page', () => {
    render(<Formula latex="\\frac{1" />);
    expect(document.querySelector('.katex-error')).not.toBeNull();
  });

  test('is readable as it was written where what typesets it did not come', () => {
    const { now } = typesetter;
    Object.assign(typesetter, { now: undefined, failed: true });
    const { container } = render(<Formula latex="K/(s+1)" />);
    Object.assign(typesetter, { now, failed: false });
    expect(container.textContent).toBe('K/(s+1)');
  });
});

describe('what is followed at a pace', () => {
  afterEach(() => jest.useRealTimers());

  test('comes once in so long, the first change at once and the last one always', () => {
    jest.useFakeTimers();
    const { result, rerender } = renderHook(({ value }) => usePaced(value, 100), { initialProps: { value: 0 } });
    const pass = (ms: number) => act(() => jest.advanceTimersByTime(ms));
    const seen = (value: number, ms: number) => {
      rerender({ value });
      pass(ms);
      return result.current;
    };
    pass(500);
    expect(seen(1, 1)).toBe(1);
    expect([2, 3, 4, 5, 6].map((value) => seen(value, 15))).toEqual([1, 1, 1, 1, 1]);
    expect([7, 8, 9].map((value) => seen(value, 15))).toEqual([1, 8, 8]);
    pass(100);
    expect(result.current).toBe(9);
  });
});

describe('a view that comes and goes', () => {
  function View({ kept }: { kept: Kept }) {
    const [count, setCount] = useKept(kept, 'count', () => 3);
    return (
      <button type="button" onClick={() => setCount((old) => old + 1)}>
        {count}
      </button>
    );
  }
  function Tabs() {
    const [kept] = useState<Kept>(() => new Map());
    const [shown, setShown] = useState(true);
    return (
      <>
        <button type="button" onClick={() => setShown(!shown)}>
          turn
        </button>
        {shown && <View kept={kept} />}
      </>
    );
  }

  test('finds again what was set on it', async () => {
    render(<Tabs />);
    await userEvent.click(screen.getByRole('button', { name: '3' }));
    await userEvent.click(screen.getByRole('button', { name: '4' }));
    await userEvent.click(screen.getByRole('button', { name: 'turn' }));
    expect(screen.queryByRole('button', { name: '5' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'turn' }));
    expect(screen.getByRole('button', { name: '5' })).toBeTruthy();
  });
});

describe('a number', () => {
  const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
  const isMarked = (label: string) => screen.getByLabelText(label).getAttribute('aria-invalid') === 'true';

  test('is told only when it is one; what is typed stays until then', () => {
    const heard: number[] = [];
    render(<DecimalField label="Limit" value={2} min={0} onChange={(value) => heard.push(value)} />);
    for (const text of ['', '-', '−1', 'x', '1e400']) {
      type('Limit', text);
      expect(isMarked('Limit')).toBe(true);
    }
    expect(heard).toEqual([]);
    type('Limit', '3.5');
    expect(heard).toEqual([3.5]);
    fireEvent.blur(screen.getByLabelText('Limit'));
    expect(screen.getByLabelText<HTMLInputElement>('Limit').value).toBe('2');
  });

  test('that may be missing is missing when its field is empty', () => {
    const heard: (number | undefined)[] = [];
    render(
      <OptionalDecimalField
        label="Ratio"
        value={10}
        min={1}
        placeholder="no limit"
        onChange={(value) => heard.push(value)}
      />,
    );
    type('Ratio', '');
    type('Ratio', '0.5');
    expect(isMarked('Ratio')).toBe(true);
    type('Ratio', ' 12 ');
    expect(heard).toEqual([undefined, 12]);
  });

  test('at the end of a ladder may stay open; its key goes with it', () => {
    const ladders: object[] = [];
    const ladder = { name: 'K', start: 1, fine: 0.1, coarse: 1, low: 0, high: 40 };
    render(<LadderFields name="K" ladder={ladder} onChange={(next) => ladders.push(next)} />);
    type('K, highest', '');
    type('K, fine rung', '0');
    type('K, lowest', '−2');
    type('K, start', '−1');
    const { high: _high, ...open } = ladder;
    expect(ladders).toEqual([open, { ...ladder, low: -2 }, { ...ladder, start: -1 }]);
  });
});

test('a prompt follows what its part is about, and nothing else in it', () => {
  const prompt = 'Loop $L = {{1/(s + 1)}}$, plant {{G}}.';
  expect(withFormula(prompt, '1/(s + 1)', '2/(s + 3)')).toBe('Loop $L = {{2/(s + 3)}}$, plant {{G}}.');
  expect(withFormula(prompt, '1/(s + 1)', '  ')).toBe(prompt);
  expect(withFormula(prompt, 'H', 'F')).toBe(prompt);
});

describe('texts that are not understood', () => {
  function Page() {
    const [open, setOpen] = useState('a');
    const [limits, setLimits] = useState<Record<string, number>>({ a: 1, b: 2 });
    const [hasNail, setHasNail] = useState(true);
    const { value } = useUnreadTexts(open, ['a', 'b']);
    return (
      <UnreadProvider value={value}>
        <button onClick={() => setOpen(open === 'a' ? 'b' : 'a')}>other part</button>
        <button onClick={() => setHasNail(false)}>remove nail</button>
        <FieldScope name={open} key={open}>
          {hasNail && (
            <FieldScope name="nail">
              <DecimalField
                label="Limit"
                value={limits[open]!}
                onChange={(limit) => setLimits({ ...limits, [open]: limit })}
              />
            </FieldScope>
          )}
        </FieldScope>
        <output>{[...value.texts.values()].map(({ scope, text, message }) => `${scope}: ${text}: ${message}`)}</output>
      </UnreadProvider>
    );
  }
  const field = () => screen.getByLabelText<HTMLInputElement>('Limit');
  const told = () => screen.getByRole('status').textContent;

  test('are known to the page and found again when their part is opened again', async () => {
    render(<Page />);
    fireEvent.change(field(), { target: { value: '3 tries' } });
    fireEvent.blur(field());
    expect(told()).toBe('a: 3 tries: “3 tries” is not a number.');
    await userEvent.click(screen.getByText('other part'));
    expect(field().value).toBe('2');
    expect(told()).toContain('3 tries');
    await userEvent.click(screen.getByText('other part'));
    expect(field().value).toBe('3 tries');
    fireEvent.change(field(), { target: { value: '3' } });
    expect(told()).toBe('');
  });

  test('of two inputs of one part are told apart, though their fields have one name', () => {
    const levels = { kind: 'levels', from: 0, to: 1, at: 0 } as const;
    function Two() {
      const { value } = useUnreadTexts('a', ['a']);
      return (
        <UnreadProvider value={value}>
          {['Reference', 'Disturbance'].map((label) => (
            <InputEditor key={label} label={label} input={levels} series={[]} onChange={() => undefined} />
          ))}
          <output>{[...value.texts.values()].map(({ text }) => text)}</output>
        </UnreadProvider>
      );
    }
    render(<Two />);
    const [reference, disturbance] = screen.getAllByLabelText('to');
    fireEvent.change(reference!, { target: { value: 'abc' } });
    fireEvent.change(disturbance!, { target: { value: 'x' } });
    fireEvent.change(disturbance!, { target: { value: '2' } });
    expect(told()).toBe('abc');
  });

  test('do not come back with a part that has the name of one that was taken out', () => {
    function Parts({ parts }: { parts: readonly string[] }) {
      const { value } = useUnreadTexts('b', parts);
      return (
        <UnreadProvider value={value}>
          {parts.includes('a') && (
            <FieldScope name="a">
              <DecimalField label="Limit" value={1} onChange={() => undefined} />
            </FieldScope>
          )}
          <output>{value.texts.size}</output>
        </UnreadProvider>
      );
    }
    const { rerender } = render(<Parts parts={['a', 'b']} />);
    fireEvent.change(field(), { target: { value: 'x' } });
    expect(told()).toBe('1');
    rerender(<Parts parts={['b']} />);
    expect(told()).toBe('0');
    rerender(<Parts parts={['a', 'b']} />);
    expect([field().value, told()]).toEqual(['1', '0']);
  });

  test('go with the entry that they belong to', async () => {
    render(<Page />);
    fireEvent.change(field(), { target: { value: 'x' } });
    await userEvent.click(screen.getByText('remove nail'));
    expect(told()).toBe('');
  });
});
