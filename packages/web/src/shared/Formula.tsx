import katex from 'katex';
import { useLayoutEffect, useRef } from 'react';

/** A formula, typeset; screen readers get its MathML. */
export function Formula({
  latex,
  display = false,
  className,
}: {
  latex: string;
  display?: boolean;
  className?: string;
}) {
  const place = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    // Rendered into the page, not as markup, so that the content policy can forbid inline styles.
    katex.render(latex, place.current!, {
      displayMode: display,
      throwOnError: false,
      strict: false,
      maxExpand: 20_000,
    });
  }, [latex, display]);
  return <span ref={place} className={className} />;
}
