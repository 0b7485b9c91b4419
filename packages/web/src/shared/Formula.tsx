import katex from 'katex';
import { memo, useEffect, useLayoutEffect, useRef } from 'react';

/** In ms. A formula that changes with every frame of a drag is typeset this often, so that curves are not held up. */
const pause = 70;

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
  const typeset = useRef<{ latex: string; timer: ReturnType<typeof setTimeout> | undefined; at: number }>({
    ...{ latex, timer: undefined, at: -Infinity },
  });
  useLayoutEffect(() => {
    const state = typeset.current;
    state.latex = latex;
    if (state.timer !== undefined) return;
    const write = () => {
      state.timer = undefined;
      state.at = performance.now();
      // Rendered into the page, not as markup, so that the content policy can forbid inline styles.
      if (place.current) {
        katex.render(state.latex, place.current, {
          displayMode: display,
          throwOnError: false,
          strict: false,
          maxExpand: 20_000,
        });
      }
    };
    const wait = state.at + pause - performance.now();
    if (wait <= 0) write();
    else state.timer = setTimeout(write, wait);
  }, [latex, display]);
  useEffect(() => {
    const state = typeset.current;
    return () => {
      clearTimeout(state.timer);
      state.timer = undefined;
    };
  }, []);
  return <span ref={place} className={className} />;
});
