/** @jest-environment jsdom */
import { act, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type ReactNode, useState } from 'react';
import { MemoryRouter, useLocation } from 'react-router';
import { usePartAsked, usePartInAddress } from '../src/page/usePartInAddress';
import { RemoveButton } from '../src/shared/fields';
import { useFocusOnMore } from '../src/shared/focus';
import { useBackCloses } from '../src/shared/useBackCloses';
import { openPage } from '../src/work/openPage';

describe('the part in the address', () => {
  const at = (address: string) => {
    const wrapper = ({ children }: { children: ReactNode }) => (
      <MemoryRouter initialEntries={[address]}>{children}</MemoryRouter>
    );
    return renderHook(
      ({ open }) => {
        const asked = usePartAsked();
        usePartInAddress(open ?? asked ?? 'a');
        return { asked, search: useLocation().search };
      },
      { wrapper, initialProps: { open: undefined as string | undefined } },
    );
  };

  test('stands there once another is opened, and goes on standing there for the first', () => {
    const page = at('/exercises/x?view=wide');
    expect(page.result.current.search).toBe('?view=wide');
    page.rerender({ open: 'b' });
    expect(page.result.current.search).toBe('?view=wide&part=b');
    page.rerender({ open: 'a' });
    expect(page.result.current.search).toBe('?view=wide&part=a');
  });

  test('is opened by its address', () => {
    const page = at('/exercises/x?part=b');
    expect(page.result.current).toEqual({ asked: 'b', search: '?part=b' });
  });
});

describe('a page that saves', () => {
  beforeEach(() => sessionStorage.clear());
  const opened = () => {
    const window = new EventTarget();
    const happens = (type: string, more = {}) => window.dispatchEvent(Object.assign(new Event(type), more));
    return {
      page: openPage(window),
      leave: () => happens('pagehide'),
      back: () => happens('pageshow', { persisted: true }),
    };
  };

  test('goes on after a reload under the same name, from the same count', () => {
    const first = opened();
    expect([first.page.nextSave(), first.page.nextSave()]).toEqual([1, 2]);
    first.leave();
    const second = opened();
    expect(second.page.id).toBe(first.page.id);
    expect(second.page.nextSave()).toBe(3);
  });

  test('is another one in a copy of its tab, and where something else lies in its place', () => {
    const first = opened();
    first.leave();
    const second = opened();
    expect(opened().page.id).not.toBe(second.page.id);
    sessionStorage.setItem('nailset page', '{"id":"x","saves":-1}');
    expect(opened().page.id).toMatch(/^[\w-]{16}$/);
  });

  test('that Back brings again goes on, unless another page saved meanwhile under its name', () => {
    const first = opened();
    const { id } = first.page;
    first.page.nextSave();
    first.leave();
    first.back();
    expect([first.page.id, first.page.nextSave()]).toEqual([id, 2]);
    first.leave();
    const second = opened();
    second.page.nextSave();
    second.leave();
    first.back();
    // What it shows may be older than what was saved: another page, which is asked.
    expect(first.page.id).not.toBe(id);
    expect(first.page.nextSave()).toBe(1);
  });
});

test('Back closes what lies over a page and nothing else; closing it leaves nothing behind', async () => {
  const closed = jest.fn();
  const before = history.length;
  const { result, unmount } = renderHook(() => useBackCloses(closed));
  expect(history.length).toBe(before + 1);
  const back = new Promise((resolve) => window.addEventListener('popstate', resolve, { once: true }));
  // Pressed twice in a hurry, it goes back once.
  const step = jest.spyOn(history, 'back');
  act(() => result.current());
  act(() => result.current());
  await act(() => back);
  expect(step).toHaveBeenCalledTimes(1);
  expect(closed).toHaveBeenCalledTimes(1);
  expect(history.state).toBeNull();
  unmount();
});

describe('the focus', () => {
  function List({ start }: { start: string[] }) {
    const [names, setNames] = useState(start);
    return (
      <section>
        {names.map((name) => (
          <RemoveButton key={name} label={name} onClick={() => setNames(names.filter((other) => other !== name))} />
        ))}
        <button type="button">Add</button>
      </section>
    );
  }

  test.each([
    [['a', 'b', 'c'], 'b', 'c'],
    [['a', 'b', 'c'], 'c', 'b'],
    [['a'], 'a', 'Add'],
  ])('of %j goes from %s to %s when that is removed', async (names, removed, then) => {
    render(<List start={names} />);
    await userEvent.click(screen.getByRole('button', { name: removed }));
    await act(() => new Promise((resolve) => setTimeout(resolve)));
    expect(document.activeElement).toBe(screen.getByRole('button', { name: then }));
  });

  test('goes to what came of handing in, but not away from where someone types', () => {
    function Tries({ count, of }: { count: number; of: string }) {
      const place = useFocusOnMore(count, of);
      return (
        <>
          <input aria-label="Kp" />
          <div ref={place} tabIndex={-1} data-testid="tries" />
        </>
      );
    }
    const { rerender } = render(<Tries count={0} of="a" />);
    rerender(<Tries count={1} of="a" />);
    expect(document.activeElement).toBe(screen.getByTestId('tries'));
    screen.getByLabelText('Kp').focus();
    rerender(<Tries count={2} of="a" />);
    expect(document.activeElement).toBe(screen.getByLabelText('Kp'));
    (document.activeElement as HTMLElement).blur();
    rerender(<Tries count={5} of="b" />);
    expect(document.activeElement).toBe(document.body);
  });
});
