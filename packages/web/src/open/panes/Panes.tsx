import { type Around, isOverFrequency, type LinePanes, type Sheet, type SheetPane, sheetPanes } from '@nailset/core';
import { lazy, memo, Suspense, useMemo, useState } from 'react';
import { useFrequencyReadings } from '../../frequency/readings';
import type { Drawn } from '../sheet/drawn';
import { nailLimits } from '../sheet/nails';
import { MeasuresPane } from './MeasuresPane';
import type { PaneProps } from './paneProps';
import { ResponsePane } from './ResponsePane';

export const paneNames: Record<SheetPane, string> = {
  response: 'Response',
  plane: 'Poles',
  bode: 'Bode',
  nyquist: 'Nyquist',
  measures: 'Measures',
};

const PlanePane = lazy(() => import('./PlanePane'));
const BodePane = lazy(() => import('./BodePane'));
const NyquistPane = lazy(() => import('./NyquistPane'));

/** The panes that can be enlarged, in the order of their keys. */
export const plots: readonly SheetPane[] = sheetPanes.filter((pane) => pane !== 'measures');

/** Every pane that is shown, or the one that is enlarged; they stay as they are while letters are painted. */
export const Panes = memo(function Panes({
  sheet,
  until,
  around,
  large,
  onLarge,
  onNails,
  isProjected = false,
  ...systems
}: Omit<PaneProps, 'className' | 'tools' | 'isLarge'> & {
  sheet: Sheet;
  until: number;
  around: Around;
  large: SheetPane | undefined;
  onLarge: (pane: SheetPane | undefined) => void;
  onNails: (nails: Sheet['nails']) => void;
  /** Larger by a third, without the lines and the tools. */
  isProjected?: boolean;
}) {
  const readings = useFrequencyReadings(useState<readonly number[]>([]));
  const data = useMemo(() => sheet.data.filter(isOverFrequency), [sheet.data]);
  const shown = plots.filter((pane) => (large ? pane === large : sheet.panes.includes(pane)));
  const className = `${isProjected ? projectedHeight(shown.length) : heightFor(shown.length, sheet.panes.includes('measures'), large !== undefined)} h-[290px] min-h-[170px]`;
  const over = (pane: SheetPane, panes: LinePanes) => {
    const isIn = (each: Drawn) => each.panes === 'all' || each.panes === panes;
    const tools = <Enlarge pane={pane} isLarge={large === pane} onLarge={onLarge} />;
    return {
      ...systems,
      drawn: systems.drawn.filter(isIn),
      kept: systems.kept.filter(isIn),
      className,
      tools,
      isLarge: large === pane,
    };
  };
  return (
    <>
      <div className={`grid gap-x-5 gap-y-2.5 ${shown.length > 1 ? 'md:grid-cols-2' : ''}`}>
        {shown.includes('response') && (
          <ResponsePane
            {...over('response', 'time')}
            drives={sheet.drives}
            {...{ around, until }}
            limits={nailLimits(sheet, systems.chosen, until)}
          />
        )}
        {shown.includes('plane') && (
          <Suspense fallback={<div className={className} />}>
            <PlanePane {...over('plane', 'time')} />
          </Suspense>
        )}
        {shown.includes('bode') && (
          <Suspense fallback={<div className={className} />}>
            <BodePane {...over('bode', 'frequency')} {...{ readings, data }} />
          </Suspense>
        )}
        {shown.includes('nyquist') && (
          <Suspense fallback={<div className={className} />}>
            <NyquistPane {...over('nyquist', 'frequency')} {...{ readings, data }} />
          </Suspense>
        )}
      </div>
      {sheet.panes.includes('measures') && !large && (
        <MeasuresPane {...over('measures', 'time')} nails={sheet.nails} onNails={onNails} />
      )}
    </>
  );
});

function heightFor(count: number, withMeasures: boolean, isLarge: boolean): string {
  if (isLarge) return 'xl:h-[calc(100vh-170px)]';
  if (count > 2) return withMeasures ? 'xl:h-[calc(41vh-92px)]' : 'xl:h-[calc(50vh-92px)]';
  return count > 1 ? 'xl:h-[calc(66vh-92px)]' : 'xl:h-[calc(78vh-92px)]';
}

const projectedHeight = (count: number): string =>
  count > 2 ? 'sm:h-[calc(37vh-72px)]' : count > 1 ? 'sm:h-[calc(60vh-72px)]' : 'sm:h-[calc(72vh-72px)]';

/** One pane on all the room, and back; its number does the same from the keyboard. */
function Enlarge({
  pane,
  isLarge,
  onLarge,
}: {
  pane: SheetPane;
  isLarge: boolean;
  onLarge: (pane: SheetPane | undefined) => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={isLarge}
      aria-label={`Enlarge ${paneNames[pane]}`}
      title={`Key ${plots.indexOf(pane) + 1}`}
      className="link no-underline"
      onClick={() => onLarge(isLarge ? undefined : pane)}
    >
      {isLarge ? '⤡' : '⤢'}
    </button>
  );
}
