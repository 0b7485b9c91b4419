import { memo, useEffect, useLayoutEffect, useRef } from 'react';
import { typesetter } from './typesetter';

/** In ms. A formula that changes sooner than so long after its last change is typeset once it has rested that long, */
const rest = 120;
/** and at the latest so long after it was typeset last. */
const longest = 1000;

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
  const typeset = useRef<{ latex: string; stop: (() => void) | undefined; at: number; changed: number }>({
    ...{ latex, stop: undefined, at: -Infinity, changed: -Infinity },
  });
  useLayoutEffect(() => {
    const state = typeset.current;
    state.latex = latex;
    const now = performance.now();
    const isOften = now - state.changed < rest;
    state.changed = now;
    if (state.stop && now - state.at >= longest) return;
    state.stop?.();
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
    else state.stop = afterFrame(write, isOften ? rest : 0);
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
