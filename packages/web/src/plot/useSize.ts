import { type RefObject, useLayoutEffect, useRef, useState } from 'react';

/** Width and height of an element, followed as it changes; zero before the first measurement. */
export function useSize<T extends HTMLElement>(): [RefObject<T | null>, { width: number; height: number }] {
  const place = useRef<T>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = place.current!;
    const measure = () =>
      setSize((old) =>
        old.width === element.clientWidth && old.height === element.clientHeight
          ? old
          : { width: element.clientWidth, height: element.clientHeight },
      );
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [place, size];
}
