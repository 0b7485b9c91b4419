import { nameToLatex } from '@nailset/core';
import { readBlocks } from '@nailset/core/diagrams';
import { lazy, type ReactNode, Suspense, useMemo } from 'react';
import { useSize } from '../plot/useSize';
import { Formula } from '../shared/Formula';

/** What kinds put on paper in the place of their bench. */

const DiagramView = lazy(async () => ({ default: (await import('../diagram/DiagramView')).DiagramView }));

const heights = { 1: 'h-[11mm]', 2: 'h-[22mm]', 4: 'h-[40mm]', 8: 'h-[75mm]' } as const;

/** A frame to write an answer into. */
export function AnswerBox({
  lines = 1,
  before,
  after,
}: {
  lines?: keyof typeof heights;
  before?: ReactNode;
  after?: ReactNode;
}) {
  return (
    <div className="mt-2 flex items-center gap-2 break-inside-avoid">
      {before && <span className="whitespace-nowrap">{before}</span>}
      <div className={`min-w-0 flex-1 border border-ink/50 ${heights[lines]}`} data-answer-box="" />
      {after && <span>{after}</span>}
    </div>
  );
}

/** A frame for each of the things to be set. */
export function SettingBoxes({ names }: { names: readonly string[] }) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-8">
      {names.map((name) => (
        <AnswerBox key={name} before={<Formula latex={`${nameToLatex(name)}=`} />} />
      ))}
    </div>
  );
}

/** The drawing that a part is about. */
export function PaperDrawing({
  title,
  equations,
  from,
  outputs,
}: {
  title: string;
  equations: string;
  from: string;
  outputs: readonly string[];
}) {
  const diagram = useMemo(() => readBlocks(equations, [from]), [equations, from]);
  return (
    <Suspense fallback={null}>
      <div className="my-3 break-inside-avoid">
        <DiagramView title={title} diagram={diagram} outputs={outputs} bare className="h-[52mm] w-full" />
      </div>
    </Suspense>
  );
}

/** A picture of the width of the sheet, drawn once its size is known. */
export function PaperPicture({
  label,
  className,
  children,
}: {
  label: string;
  /** Its height. */
  className: string;
  children: (width: number, height: number) => ReactNode;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  return (
    <div ref={place} className={className}>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={label} className="block overflow-hidden text-[11px]">
          {children(width, height)}
        </svg>
      )}
    </div>
  );
}
