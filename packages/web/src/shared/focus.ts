import { useEffect, useRef } from 'react';

/** Runs something once what was changed is in the page. */
const soon = (work: () => void): void => void setTimeout(work);

/** Whether the focus went down with what had it. */
const isLost = (): boolean => document.activeElement === null || document.activeElement === document.body;

/**
 * Removes an entry by its button and leaves the focus near it: on the button of the entry that takes its place, of the
 * one before it, or on the last button of its list, which adds one.
 */
export function removeBy(button: HTMLElement, remove: () => void): void {
  const list = button.closest('section, fieldset, main') ?? document.body;
  const removing = (): HTMLElement[] => [...list.querySelectorAll<HTMLElement>('[data-removes]')];
  const place = removing().indexOf(button);
  remove();
  soon(() => {
    if (!isLost()) return;
    const left = removing();
    const next = left[Math.min(place, left.length - 1)] ?? [...list.querySelectorAll('button')].at(-1);
    next?.focus({ preventScroll: true });
  });
}

/** The element that gets the focus when this count has grown and the focus is nowhere, as after a button went off. */
export function useFocusOnMore(count: number, of: string) {
  const place = useRef<HTMLDivElement>(null);
  const before = useRef({ count, of });
  useEffect(() => {
    const grown = before.current.of === of && count > before.current.count;
    before.current = { count, of };
    const isOff = document.activeElement instanceof HTMLButtonElement && document.activeElement.disabled;
    if (grown && (isLost() || isOff)) place.current?.focus({ preventScroll: true });
  }, [count, of]);
  return place;
}
