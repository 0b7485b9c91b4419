import { Formula } from '../shared/Formula';

/** The expected answer, once the exercise shows it. */
export function Expected({ latex }: { latex: string }) {
  return (
    <div
      role="group"
      aria-label="Expected"
      tabIndex={0}
      className="overflow-x-auto overflow-y-hidden border-l-2 border-moss py-1 pl-4"
    >
      <span className="label mb-1">Expected</span>
      <Formula latex={latex} display />
    </div>
  );
}
