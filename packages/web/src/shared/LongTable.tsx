import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';

/** Up to so many rows are drawn all; a find of the browser then reaches each. */
const few = 60;

/**
 * A table of any length in a frame that scrolls: rows are drawn as far as they are seen, and all of them on paper.
 * `row` gives the cells of a row, `height` is roughly how high one is, in px.
 */
export function LongTable<Row>({
  label,
  rows,
  keyOf,
  height,
  head,
  row,
  rowClass = () => '',
  className = '',
  tableClass = 'w-full',
  foot,
  follow,
}: {
  label: string;
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  height: number;
  head: ReactNode;
  row: (row: Row, index: number) => ReactNode;
  rowClass?: (row: Row) => string;
  className?: string;
  tableClass?: string;
  foot?: ReactNode;
  /** The row to keep in sight, when it becomes another one. */
  follow?: number | undefined;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const printing = usePrinting();
  const whole = printing || rows.length <= few;
  // It gives functions that are new at every drawing, which is what it is for.
  // oxlint-disable-next-line react/incompatible-library
  const virtual = useVirtualizer({
    count: whole ? 0 : rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => height,
    overscan: 14,
    getItemKey: (index) => (rows[index] ? keyOf(rows[index]) : index),
  });
  useEffect(() => {
    if (follow === undefined || follow < 0) return;
    if (!whole) virtual.scrollToIndex(follow, { align: 'auto' });
    else frame.current?.querySelector(`[data-index="${follow}"]`)?.scrollIntoView({ block: 'nearest' });
    // The virtualizer is another one at every drawing.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [follow, whole]);
  const items = virtual.getVirtualItems();
  const shown = whole
    ? rows.map((each, index) => ({ each, index }))
    : items.flatMap(({ index }) => (rows[index] ? [{ each: rows[index], index }] : []));
  const above = whole ? 0 : (items[0]?.start ?? 0);
  const below = whole ? 0 : virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  return (
    <div
      ref={frame}
      tabIndex={0}
      role="region"
      aria-label={label}
      className={`relative overflow-auto print:overflow-visible ${className}`}
    >
      <table className={tableClass} aria-rowcount={rows.length + 1}>
        <thead className="sticky top-0 z-10 bg-paper print:static">{head}</thead>
        <tbody>
          {above > 0 && <Gap height={above} />}
          {shown.map(({ each, index }) => (
            <tr
              key={keyOf(each)}
              data-index={index}
              aria-rowindex={index + 2}
              ref={whole ? undefined : virtual.measureElement}
              className={`border-b border-grid ${rowClass(each)}`}
            >
              {row(each, index)}
            </tr>
          ))}
          {below > 0 && <Gap height={below} />}
        </tbody>
        {foot && <tfoot>{foot}</tfoot>}
      </table>
    </div>
  );
}

function Gap({ height }: { height: number }) {
  return (
    <tr aria-hidden="true">
      <td ref={(cell) => void cell?.style.setProperty('height', `${height}px`)} colSpan={99} />
    </tr>
  );
}

/** Whether the page is being put on paper. */
export function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const set = (on: boolean) => () => flushSync(() => setPrinting(on));
    const [begin, end] = [set(true), set(false)];
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
    };
  }, []);
  return printing;
}
