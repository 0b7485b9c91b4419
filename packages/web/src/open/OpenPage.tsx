import {
  formatNumber,
  linesReader,
  numbersOf,
  type ReadLine,
  type Sheet,
  sheetLimits,
  type SheetLine,
  type SheetPane,
  sheetPanes,
  timeFor,
  timeUnits,
} from '@nailset/core';
import { lazy, Suspense, useEffect, useEffectEvent, useMemo, useState } from 'react';
import { useSession } from '../api/queries';
import { Header } from '../page/Header';
import { TimeUnitContext } from '../plot/timeUnit';
import { Button } from '../shared/Button';
import { undoKey } from '../shared/history';
import { NumberIn } from '../shared/NumberIn';
import { SavingNote } from '../shared/saving';
import { useSteady } from '../shared/useLatest';
import { useTitle } from '../shared/useTitle';
import { Toggle } from './fields/Toggle';
import { DataPanel } from './lines/DataPanel';
import { DriveFields } from './lines/DriveFields';
import { FactsPanel } from './lines/FactsPanel';
import { LinesColumn } from './lines/LinesColumn';
import { paneNames, Panes, plots } from './panes/Panes';
import { useHeld } from './panes/useHeld';
import { converted } from './sheet/convert';
import { type Drawn, drawnOf, placesOf } from './sheet/drawn';
import { lastStart } from './sheet/drives';
import { examples } from './sheet/examples';
import { ghostsOf } from './sheet/ghosts';
import { freeName } from './sheet/names';
import { designLines } from './sheet/starts';
import { useFollowed } from './sheet/useFollowed';
import { type SheetState, useSheet } from './sheet/useSheet';
import { type SheetSaving, useSheetSaving } from './sheet/useSheetSaving';
import { SheetActions } from './SheetActions';

const DesignDialog = lazy(() => import('./DesignDialog'));
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
  const { sheet } = state;
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
  const [asked, setAsked] = useState(0);
  // Numbers that change leave the axes as they are; systems that come, go or become others are fitted.
  const fits = `${opened} ${asked} ${drawn.map(structureOf).join()}`;
  const { axes: time } = useHeld(drawn.length > 0, fits, () =>
    timeFor(drawn.filter(({ panes }) => panes !== 'frequency').map(({ facts }) => facts)),
  );
  const around = useMemo(
    () => ({ data: settled.data, initial: settled.initial, numbers: numbersOf(settled.lines, read) }),
    [settled, read],
  );
  const [large, setLarge] = useState<SheetPane>();
  const choose = (next: number) => {
    setLine(next);
    setMember('');
  };
  useEverything();
  usePageKeys(state, settled.panes, large, setLarge, !isProjected);
  const onNails = useSteady((nails: Sheet['nails']) => state.change({ ...sheet, nails }, 'nails'));
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
        <Header crumbs={[{ text: 'Open bench' }]}>
          <SheetActions {...{ state, saving, chosen }} onProject={() => setProjected(true)} />
        </Header>
        <main className="grid min-h-0 flex-1 xl:grid-cols-[400px_minmax(0,1fr)] xl:grid-rows-[minmax(0,1fr)]">
          <h1 className="sr-only">Open bench</h1>
          <div className="grid content-start gap-4 border-rule px-4 py-3 max-xl:border-b xl:overflow-y-auto xl:border-r">
            <TitleLine state={state} saving={saving} isSignedIn={isSignedIn} />
            {state.trouble && (
              <p role="alert" className="text-note text-brick">
                {state.trouble}
              </p>
            )}
            <LinesColumn
              {...{ state, read, places }}
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
              <About
                {...{ state, chosen }}
                read={read[chosen.line]}
                onAdded={choose}
                onGhosts={(ghosts) => setLeft({ on: opened, drawn: ghosts })}
              />
            )}
            <DataPanel state={state} />
          </div>
          <div className="flex min-w-0 flex-col gap-2 px-4 py-2.5 xl:overflow-y-auto">
            <Tools
              state={state}
              time={drawn.length > 0 ? time : undefined}
              inputs={chosen?.parts?.map(({ input }) => input) ?? []}
              numbers={around.numbers}
              hasKept={kept.length > 0}
              onKeep={() => setLeft({ on: opened, drawn: kept.length > 0 ? [] : drawn })}
              onFit={() => setAsked(asked + 1)}
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

/** What is said about the chosen system and done with it. */
function About({
  state: { sheet, change, changeLine, setTrouble },
  chosen,
  read,
  onAdded,
  onGhosts,
}: {
  state: SheetState;
  chosen: Drawn;
  read: ReadLine | undefined;
  onAdded: (line: number) => void;
  /** Leaves systems beside what is drawn, faintly. */
  onGhosts: (ghosts: readonly Drawn[]) => void;
}) {
  const [isDesigning, setDesigning] = useState(false);
  // What is drawn follows what is typed: for a moment it may be of a sheet with more lines.
  const name = sheet.lines[chosen.line]?.name ?? '';
  const add = (lines: readonly Pick<SheetLine, 'name' | 'text'>[]) => {
    const before = sheet.lines.filter(({ text }) => text.trim());
    const all = [...before, ...lines.map((each): SheetLine => ({ drawn: true, panes: 'all', ...each }))];
    if (all.length > sheetLimits.lines) return setTrouble(`A sheet has up to ${sheetLimits.lines} lines.`);
    change({ ...sheet, lines: all });
    onAdded(all.length - 1);
  };
  const convert = (written: readonly (readonly [string, string])[]) => {
    if (!sheet.lines[chosen.line]) return;
    const lines = converted(sheet.lines, chosen.line, written);
    if (lines.length > sheetLimits.lines) return setTrouble(`A sheet has up to ${sheetLimits.lines} lines.`);
    change({ ...sheet, lines });
    onAdded(chosen.line + written.length - 1);
  };
  return (
    <>
      <FactsPanel
        system={chosen}
        read={read}
        groups={sheet.lines[chosen.line]?.groups}
        onGroups={(groups) => changeLine(chosen.line, { groups: groups ?? [] })}
        onConvert={convert}
        onLine={(text) => add([{ name: freeName(sheet.lines, 'S'), text }])}
        onDesign={() => setDesigning(true)}
      />
      {isDesigning && (
        <Suspense>
          <DesignDialog
            system={chosen}
            onClose={() => setDesigning(false)}
            onUse={(design, beside) => {
              setDesigning(false);
              add(designLines(design, sheet.lines, name));
              if (beside.length > 0) onGhosts(ghostsOf(sheet, name, beside));
            }}
          />
        </Suspense>
      )}
    </>
  );
}

const nothing: readonly Drawn[] = [];

const structureOf = ({ id, facts: { system } }: Drawn): string =>
  `${id} ${system?.poles.length ?? 0} ${system?.zeros.length ?? 0}`;

/** What drives the systems, for how long, and which panes there are. */
function Tools({
  state: { sheet, change },
  time,
  inputs,
  numbers,
  hasKept,
  onKeep,
  onFit,
}: {
  state: SheetState;
  time: number | undefined;
  inputs: readonly string[];
  numbers: ReadonlyMap<string, number>;
  hasKept: boolean;
  onKeep: () => void;
  onFit: () => void;
}) {
  const toggle = (pane: SheetPane) =>
    change({
      ...sheet,
      panes: sheetPanes.filter((each) => (each === pane ? !sheet.panes.includes(pane) : sheet.panes.includes(each))),
    });
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13px]">
      <DriveFields state={{ sheet, change }} inputs={inputs} numbers={numbers} />
      <NumberIn
        words="for"
        label="Time shown"
        value={sheet.time}
        empty={time === undefined ? '–' : formatNumber(time + lastStart(sheet.drives))}
        isFine={(next) => next > 0 && next <= 1e9}
        onChange={(next) => change({ ...sheet, time: next }, 'time')}
      />
      <select
        aria-label="Unit of time"
        className="-ml-3 bg-transparent text-petrol"
        value={sheet.unit}
        onChange={(event) => change({ ...sheet, unit: timeUnits.find((each) => each === event.target.value) ?? 's' })}
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
}

function TitleLine({
  state: { sheet, change },
  saving: { saving, isKept, asCopy },
  isSignedIn,
}: {
  state: SheetState;
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
        value={sheet.title}
        onChange={(event) => change({ ...sheet, title: event.target.value }, 'title')}
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
}

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
