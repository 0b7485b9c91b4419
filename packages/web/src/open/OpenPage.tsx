import {
  formatNumber,
  linesReader,
  numbersOf,
  type Sheet,
  sheetLimits,
  type SheetPane,
  sheetPanes,
  timeFor,
  timeUnits,
} from '@nailset/core';
import { lazy, memo, Suspense, useCallback, useEffect, useEffectEvent, useMemo, useState } from 'react';
import { useSession } from '../api/queries';
import { Header } from '../page/Header';
import { TimeUnitContext } from '../plot/timeUnit';
import { Button } from '../shared/Button';
import { undoKey } from '../shared/history';
import { NumberIn } from '../shared/NumberIn';
import { SavingNote } from '../shared/saving';
import { Toggle } from '../shared/Toggle';
import { useSteady } from '../shared/useLatest';
import { useTitle } from '../shared/useTitle';
import { AboutSystem } from './AboutSystem';
import { DataPanel } from './lines/DataPanel';
import { DriveFields } from './lines/DriveFields';
import { LinesColumn } from './lines/LinesColumn';
import { paneNames, Panes, plots } from './panes/Panes';
import { useHeld } from './panes/useHeld';
import { type Drawn, drawnOf, placesOf } from './sheet/drawn';
import { lastStart } from './sheet/drives';
import { examples } from './sheet/examples';
import { useFollowed } from './sheet/useFollowed';
import { type SheetRest, type SheetState, useSheet } from './sheet/useSheet';
import { type SheetSaving, useSheetSaving } from './sheet/useSheetSaving';
import { SheetActions } from './SheetActions';

const ProjectedSheet = lazy(() => import('./ProjectedSheet'));

/** Looking at systems, without an exercise and without an account: typed, drawn, compared. */
export default function OpenPage() {
  const session = useSession();
  if (session.isPending) return null;
  const owner = session.data ? (session.data.person?.id ?? null) : undefined;
  return <OpenBench key={owner} owner={owner} />;
}

function OpenBench({ owner }: { owner: string | null | undefined }) {
  const state = useSheet(owner);
  const { sheet, rest, change, changeLine, slideLine, controls } = state;
  const isSignedIn = typeof owner === 'string';
  const saving = useSheetSaving(state, isSignedIn);
  const [isProjected, setProjected] = useState(false);
  useTitle(sheet.title || 'Open bench');
  const { sheet: settled, opened } = useFollowed(state.shown, state.isSlid);
  const [readNext] = useState(linesReader);
  const read = useMemo(() => readNext(settled.lines), [readNext, settled.lines]);
  const drawn = useMemo(() => drawnOf(settled, read), [settled, read]);
  const [line, setLine] = useState(() => Math.max(0, sheet.lines.length - 1));
  const [member, setMember] = useState('');
  const ofLine = drawn.filter((each) => each.line === line);
  const chosen = ofLine.find(({ id }) => id === member) ?? ofLine[0] ?? drawn.at(-1);
  // Of the sheet that they were kept on; another one has none.
  const [left, setLeft] = useState<{ on: number; drawn: readonly Drawn[] }>({ on: 0, drawn: [] });
  const kept = left.on === opened ? left.drawn : nothing;
  const [fitted, setFitted] = useState(0);
  // Numbers that change leave the axes as they are; systems that come, go or become others are fitted.
  const fits = `${opened} ${fitted} ${drawn.map(structureOf).join()}`;
  const { axes: time } = useHeld(drawn.length > 0, fits, () =>
    timeFor(drawn.filter(({ panes }) => panes !== 'frequency').map(({ facts }) => facts)),
  );
  const around = useMemo(
    () => ({ data: settled.data, initial: settled.initial, numbers: numbersOf(settled.lines, read) }),
    [settled, read],
  );
  const [large, setLarge] = useState<SheetPane>();
  const choose = useCallback((next: number) => {
    setLine(next);
    setMember('');
  }, []);
  useEverything();
  usePageKeys(state, settled.panes, large, setLarge, !isProjected);
  const onNails = useCallback((nails: Sheet['nails']) => change({ nails }, 'nails'), [change]);
  const onProject = useCallback(() => setProjected(true), []);
  const onGhosts = useSteady((ghosts: readonly Drawn[]) => setLeft({ on: opened, drawn: ghosts }));
  const onKeep = useSteady(() => setLeft({ on: opened, drawn: kept.length > 0 ? [] : drawn }));
  const onFit = useSteady(() => setFitted(fitted + 1));
  const until = settled.time ?? time + lastStart(settled.drives);
  const places = placesOf(settled, read);
  if (isProjected) {
    return (
      <TimeUnitContext value={sheet.unit}>
        <Suspense>
          <ProjectedSheet
            {...{ state, read, drawn, places, chosen, fits, around, until }}
            onClose={() => setProjected(false)}
          />
        </Suspense>
      </TimeUnitContext>
    );
  }
  return (
    <TimeUnitContext value={sheet.unit}>
      <div className="flex min-h-dvh flex-col xl:h-dvh">
        <TopLine {...{ controls, saving, onProject }} chosen={chosen?.line} />
        <main className="grid min-h-0 flex-1 xl:grid-cols-[400px_minmax(0,1fr)] xl:grid-rows-[minmax(0,1fr)]">
          <h1 className="sr-only">Open bench</h1>
          <div className="grid content-start gap-4 border-rule px-4 py-3 max-xl:border-b xl:overflow-y-auto xl:border-r">
            <TitleLine title={sheet.title} {...{ change, saving, isSignedIn }} />
            {state.trouble && (
              <p role="alert" className="text-note text-brick">
                {state.trouble}
              </p>
            )}
            <LinesColumn
              lines={sheet.lines}
              {...{ change, changeLine, slideLine, read, places }}
              sheetNow={controls.sheetNow}
              chosen={line}
              facts={chosen?.line}
              about={chosen && sheet.lines[chosen.line]?.name}
              onChoose={choose}
            />
            {ofLine.length > 1 && (
              <div role="group" aria-label="Which of them" className="flex flex-wrap gap-x-3 text-[13px]">
                {ofLine.map(({ id, label }) => (
                  <Toggle key={id} on={id === chosen?.id} words={label} onChange={() => setMember(id)} />
                ))}
              </div>
            )}
            {chosen && (
              <AboutSystem
                {...{ controls, change, changeLine, chosen, onGhosts }}
                line={sheet.lines[chosen.line]}
                read={read[chosen.line]}
                onAdded={choose}
              />
            )}
            <DataPanel
              data={rest.data}
              isFull={sheet.lines.length >= sheetLimits.lines}
              change={change}
              sheetNow={controls.sheetNow}
            />
          </div>
          <div className="flex min-w-0 flex-col gap-2 px-4 py-2.5 xl:overflow-y-auto">
            <Tools
              sheet={rest}
              change={change}
              time={drawn.length > 0 ? time : undefined}
              inputs={chosen?.parts?.map(({ input }) => input).join(' ') ?? ''}
              numbers={rest.drives.some(({ kind }) => kind === 'typed') ? around.numbers : noNumbers}
              hasKept={kept.length > 0}
              onKeep={onKeep}
              onFit={onFit}
            />
            {drawn.length === 0 ? (
              <Beginning state={state} />
            ) : (
              <Panes
                {...{ sheet: settled, drawn, chosen, kept, fits, around, large, until }}
                onLarge={setLarge}
                onNails={onNails}
              />
            )}
          </div>
        </main>
      </div>
    </TimeUnitContext>
  );
}

const crumbs = [{ text: 'Open bench' }];

/** It stays as it is while numbers and systems change. */
const TopLine = memo(function TopLine(props: Parameters<typeof SheetActions>[0]) {
  return (
    <Header crumbs={crumbs}>
      <SheetActions {...props} />
    </Header>
  );
});

const nothing: readonly Drawn[] = [];
const noNumbers: ReadonlyMap<string, number> = new Map();

const structureOf = ({ id, facts: { system } }: Drawn): string =>
  `${id} ${system?.poles.length ?? 0} ${system?.zeros.length ?? 0}`;

/** What drives the systems, for how long, and which panes there are. */
const Tools = memo(function Tools({
  sheet,
  change,
  time,
  inputs,
  numbers,
  hasKept,
  onKeep,
  onFit,
}: {
  sheet: SheetRest;
  change: SheetState['change'];
  time: number | undefined;
  /** Of the chosen system where it has several, between blanks. */
  inputs: string;
  numbers: ReadonlyMap<string, number>;
  hasKept: boolean;
  onKeep: () => void;
  onFit: () => void;
}) {
  const toggle = (pane: SheetPane) =>
    change(({ panes }) => ({
      panes: sheetPanes.filter((each) => (each === pane ? !panes.includes(pane) : panes.includes(each))),
    }));
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13px]">
      <DriveFields {...{ sheet, change, numbers }} inputs={inputs.split(' ').filter(Boolean)} />
      <NumberIn
        words="for"
        label="Time shown"
        value={sheet.time}
        empty={time === undefined ? '–' : formatNumber(time + lastStart(sheet.drives))}
        isFine={(next) => next > 0 && next <= 1e9}
        onChange={(next) => change({ time: next }, 'time')}
      />
      <select
        aria-label="Unit of time"
        className="-ml-3 bg-transparent text-petrol"
        value={sheet.unit}
        onChange={(event) => change({ unit: timeUnits.find((each) => each === event.target.value) ?? 's' })}
      >
        {timeUnits.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
      <span role="group" aria-label="Panes" className="flex flex-wrap gap-x-3">
        {sheetPanes.map((pane) => (
          <Toggle key={pane} on={sheet.panes.includes(pane)} words={paneNames[pane]} onChange={() => toggle(pane)} />
        ))}
      </span>
      <span className="ml-auto flex gap-x-3">
        <button type="button" className="link" title="Leaves what is drawn now as ghosts" onClick={onKeep}>
          {hasKept ? 'Let go' : 'Keep'}
        </button>
        <button type="button" className="link" title="Fits the axes of every pane" onClick={onFit}>
          Fit all
        </button>
      </span>
    </div>
  );
});

const TitleLine = memo(function TitleLine({
  title,
  change,
  saving: { saving, isKept, asCopy },
  isSignedIn,
}: {
  title: string;
  change: SheetState['change'];
  saving: SheetSaving;
  isSignedIn: boolean;
}) {
  return (
    <div>
      <input
        aria-label="Title of the sheet"
        className="w-full border-b border-transparent bg-transparent font-serif text-[20px] outline-none hover:border-rule focus:border-petrol"
        maxLength={sheetLimits.title}
        placeholder="Untitled sheet"
        value={title}
        onChange={(event) => change({ title: event.target.value }, 'title')}
      />
      {isSignedIn && (
        <p className="text-note text-slate">
          <SavingNote
            saving={saving}
            saved={isKept && 'Saved'}
            way={
              <button type="button" className="link" onClick={asCopy}>
                Go on with a copy
              </button>
            }
          />
        </p>
      )}
    </div>
  );
});

/** Where nothing is drawn yet: systems of the harbour to begin with. */
function Beginning({ state: { open } }: { state: SheetState }) {
  return (
    <div className="m-auto max-w-md py-16 text-center">
      <p className="font-serif text-lg">Type a system on the left, and look at it.</p>
      <p className="mt-4 text-slate">Or begin with one of the harbour:</p>
      <ul className="mt-2 grid gap-1">
        {examples.map((sheet) => (
          <li key={sheet.title}>
            <Button look="quiet" onClick={() => open(sheet)}>
              {sheet.title}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What is not on the page yet is fetched when there is time, so that all of it works without a network as well. */
function useEverything(): void {
  useEffect(() => {
    const fetchAll = () =>
      void Promise.allSettled([
        ...[
          import('./DesignDialog'),
          import('./ProjectedSheet'),
          import('./lines/StatesPanel'),
          import('./lines/PlantDrawing'),
        ],
        ...[import('./sheet/measured'), import('../plot/savePlot')],
      ]);
    const timer = setTimeout(fetchAll, 4000);
    return () => clearTimeout(timer);
  }, []);
}

/**
 * Undo and redo by keys, also in the fields, as each keeps what its line says; a pane's number enlarges it, Escape and
 * the number again bring the others back.
 */
function usePageKeys(
  { step }: SheetState,
  panes: readonly SheetPane[],
  large: SheetPane | undefined,
  setLarge: (pane: SheetPane | undefined) => void,
  isOn: boolean,
): void {
  const onKey = useEffectEvent((event: globalThis.KeyboardEvent) => {
    if (event.defaultPrevented || !isOn) return;
    const way = undoKey(event);
    if (way) {
      event.preventDefault();
      return step(way);
    }
    if (event.ctrlKey || event.metaKey || event.altKey || isField(event.target)) return;
    const pane = plots[Number(event.key) - 1];
    if (event.key === 'Escape' && large) setLarge(undefined);
    else if (pane && (panes.includes(pane) || pane === large)) setLarge(pane === large ? undefined : pane);
  });
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => onKey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [role=dialog]') !== null;
