import { memo, useEffect, useLayoutEffect, useRef } from 'react';
import { typesetter } from './typesetter';

/** In ms. A formula that changes with every frame of a drag is typeset this often. */
const pause = 300;

/** Does something once a frame is painted, no sooner than in so many ms. Gives back how to call it off. */
function afterFrame(work: () => void, wait: number): () => void {
  let frame = 0;
  let timer = setTimeout(() => {
    frame = requestAnimationFrame(() => (timer = setTimeout(work)));
  }, wait);
  return () => {
    clearTimeout(timer);
    cancelAnimationFrame(frame);
  };
}

/** A formula, typeset; screen readers get its MathML. */
export const Formula = memo(function Formula({
  latex,
  display = false,
  className,
}: {
  latex: string;
  display?: boolean;
  className?: string;
}) {
  const place = useRef<HTMLSpanElement>(null);
  const typeset = useRef<{ latex: string; stop: (() => void) | undefined; at: number }>({
    ...{ latex, stop: undefined, at: -Infinity },
  });
  useLayoutEffect(() => {
    const state = typeset.current;
    state.latex = latex;
    if (state.stop) return;
    const write = () => {
      state.stop = undefined;
      state.at = performance.now();
      if (!place.current) return;
      if (typesetter.failed) {
        // As it was written, which can be read and answered.
        place.current.textContent = state.latex;
        return;
      }
      if (!typesetter.now) {
        state.stop = typesetter.onceThere(write);
        return;
      }
      // Rendered into the page, not as markup, so that the content policy can forbid inline styles.
      typesetter.now.render(state.latex, place.current, {
        displayMode: display,
        throwOnError: false,
        strict: false,
        maxExpand: 20_000,
        // In em: what is typed cannot cover the page.
        maxSize: 40,
      });
    };
    if (state.at === -Infinity) write();
    else state.stop = afterFrame(write, state.at + pause - performance.now());
  }, [latex, display]);
  useEffect(() => {
    const state = typeset.current;
    return () => {
      state.stop?.();
      state.stop = undefined;
    };
  }, []);
  return <span ref={place} className={className} />;
});
