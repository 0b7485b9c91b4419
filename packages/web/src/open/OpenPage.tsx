import {
  attempt,
  formatNumber,
  type LinePanes,
  must,
  Problem,
  readLines,
  type Sheet,
  sheetFrom,
  type SheetInput,
  sheetInputs,
  sheetLimits,
  type SheetPane,
  sheetPanes,
  timeFor,
} from '@nailset/core';
import { useDeferredValue, useEffect, useEffectEvent, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMemberships, useNewExercise, useSession } from '../api/queries';
import { Header } from '../page/Header';
import { Button } from '../shared/Button';
import { FileButton } from '../shared/FileButton';
import { download } from '../shared/files';
import { undoKey } from '../shared/history';
import { useTitle } from '../shared/useTitle';
import { BodePane } from './BodePane';
import { type Drawn, drawnOf, placesOf } from './drawn';
import { examples } from './examples';
import { FactsPanel } from './FactsPanel';
import { LinesColumn } from './LinesColumn';
import { linkOf } from './link';
import { MeasuresPane } from './MeasuresPane';
import { NumberIn } from './NumberIn';
import { NyquistPane } from './NyquistPane';
import type { PaneProps } from './panes';
import { PlanePane, Toggle } from './PlanePane';
import { ResponsePane } from './ResponsePane';
import { useHeld } from './useHeld';
import { type SheetState, useSheet } from './useSheet';

const paneNames: Record<SheetPane, string> = {
  response: 'Response',
  plane: 'Poles',
  bode: 'Bode',
  nyquist: 'Nyquist',
  measures: 'Measures',
};

/** Looking at systems, without an exercise and without an account: typed, drawn, compared. */
export default function OpenPage() {
  const state = useSheet();
  const { sheet } = state;
  useTitle(sheet.title || 'Open bench');
  // Letters are painted first.
  const { sheet: settled, opened } = useDeferredValue(state.shown);
  const read = useMemo(() => readLines(settled.lines), [settled.lines]);
  const drawn = useMemo(() => drawnOf(settled, read), [settled, read]);
  const [line, setLine] = useState(() => Math.max(0, sheet.lines.length - 1));
  const [member, setMember] = useState('');
  const ofLine = drawn.filter((each) => each.line === line);
  const chosen = ofLine.find(({ id }) => id === member) ?? ofLine[0] ?? drawn.at(-1);
  // Of the sheet that they were kept on; another one has none.
  const [left, setLeft] = useState<{ on: number; drawn: readonly Drawn[] }>({ on: 0, drawn: [] });
  const kept = left.on === opened ? left.drawn : [];
  const [asked, setAsked] = useState(0);
  const fits = `${opened} ${asked}`;
  const [time] = useHeld(drawn.length > 0, fits, () =>
    timeFor(drawn.filter(({ panes }) => panes !== 'frequency').map(({ facts }) => facts)),
  );
  useStepKeys(state);
  return (
    <div className="flex min-h-dvh flex-col xl:h-dvh">
      <Header crumbs={[{ text: 'Open bench' }]}>
        <Actions state={state} chosen={chosen} />
      </Header>
      <main className="grid min-h-0 flex-1 xl:grid-cols-[400px_minmax(0,1fr)] xl:grid-rows-[minmax(0,1fr)]">
        <h1 className="sr-only">Open bench</h1>
        <div className="grid content-start gap-4 border-rule px-4 py-3 max-xl:border-b xl:overflow-y-auto xl:border-r">
          <TitleLine state={state} />
          {state.trouble && (
            <p role="alert" className="text-note text-brick">
              {state.trouble}
            </p>
          )}
          <LinesColumn
            {...{ state, read }}
            chosen={chosen?.line ?? line}
            places={placesOf(settled, read)}
            about={chosen && sheet.lines[chosen.line]?.name}
            onChoose={(next) => {
              setLine(next);
              setMember('');
            }}
          />
          {ofLine.length > 1 && (
            <div role="group" aria-label="Which of them" className="flex flex-wrap gap-x-3 text-[13px]">
              {ofLine.map(({ id, label }) => (
                <Toggle key={id} on={id === chosen?.id} words={label} onChange={() => setMember(id)} />
              ))}
            </div>
          )}
          {chosen && <FactsPanel system={chosen} />}
        </div>
        <div className="flex min-w-0 flex-col gap-2 px-4 py-2.5 xl:overflow-y-auto">
          <Tools
            state={state}
            time={time}
            hasKept={kept.length > 0}
            onKeep={() => setLeft({ on: opened, drawn: kept.length > 0 ? [] : drawn })}
            onFit={() => setAsked(asked + 1)}
          />
          {drawn.length === 0 ? (
            <Beginning state={state} />
          ) : (
            <Panes {...{ sheet: settled, drawn, chosen, kept, fits }} until={sheet.time ?? time + sheet.at} />
          )}
        </div>
      </main>
    </div>
  );
}

function Panes({
  sheet,
  until,
  ...systems
}: Omit<PaneProps, 'className'> & {
  sheet: Sheet;
  until: number;
}) {
  const shown = sheet.panes.filter((pane) => pane !== 'measures');
  const rows = sheet.panes.includes('measures') ? 'xl:h-[calc(41vh-92px)]' : 'xl:h-[calc(50vh-92px)]';
  const className = `${shown.length > 2 ? rows : shown.length > 1 ? 'xl:h-[calc(66vh-92px)]' : 'xl:h-[calc(78vh-92px)]'} h-[290px] min-h-[170px]`;
  const over = (panes: LinePanes): PaneProps => {
    const isIn = (each: Drawn) => each.panes === 'all' || each.panes === panes;
    return { ...systems, drawn: systems.drawn.filter(isIn), kept: systems.kept.filter(isIn), className };
  };
  return (
    <>
      <div className={`grid gap-x-5 gap-y-2.5 ${shown.length > 1 ? 'md:grid-cols-2' : ''}`}>
        {shown.includes('response') && <ResponsePane {...over('time')} driven={sheet} until={until} />}
        {shown.includes('plane') && <PlanePane {...over('time')} />}
        {shown.includes('bode') && <BodePane {...over('frequency')} />}
        {shown.includes('nyquist') && <NyquistPane {...over('frequency')} />}
      </div>
      {sheet.panes.includes('measures') && <MeasuresPane {...over('time')} />}
    </>
  );
}

/** What drives the systems, for how long, and which panes there are. */
function Tools({
  state: { sheet, change },
  time,
  hasKept,
  onKeep,
  onFit,
}: {
  state: SheetState;
  time: number;
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
      <label>
        <select
          aria-label="Input"
          className="bg-transparent text-petrol"
          value={sheet.input}
          onChange={(event) => change({ ...sheet, input: event.target.value as SheetInput })}
        >
          {sheetInputs.map((input) => (
            <option key={input}>{input}</option>
          ))}
        </select>
      </label>
      <NumberIn
        words="of"
        label="Size of the input"
        value={sheet.size}
        isFine={(size) => size !== 0 && Math.abs(size) <= 1e9}
        onChange={(size) => change({ ...sheet, size: size ?? 1 }, 'size')}
      />
      <NumberIn
        words="at"
        unit="s"
        label="When it sets in, in seconds"
        value={sheet.at}
        isFine={(at) => at >= 0 && at <= 1e9}
        onChange={(at) => change({ ...sheet, at: at ?? 0 }, 'at')}
      />
      <NumberIn
        words="for"
        unit="s"
        label="Time shown, in seconds"
        value={sheet.time}
        empty={formatNumber(time + sheet.at)}
        isFine={(next) => next > 0 && next <= 1e9}
        onChange={(next) => change({ ...sheet, time: next }, 'time')}
      />
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

function TitleLine({ state: { sheet, change } }: { state: SheetState }) {
  return (
    <input
      aria-label="Title of the sheet"
      className="w-full border-b border-transparent bg-transparent font-serif text-[20px] outline-none hover:border-rule focus:border-petrol"
      maxLength={sheetLimits.title}
      placeholder="Untitled sheet"
      value={sheet.title}
      onChange={(event) => change({ ...sheet, title: event.target.value }, 'title')}
    />
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

/** The ways into the sheet and out of it. */
function Actions({ state, chosen }: { state: SheetState; chosen: Drawn | undefined }) {
  const { sheet, step, canUndo, canRedo, setTrouble } = state;
  const [told, setTold] = useState('');
  const isSignedIn = Boolean(useSession().data?.person);
  const teaching = useMemberships().find(({ role }) => role === 'instructor');
  const copyLink = async () => {
    const link = await linkOf(sheet);
    await navigator.clipboard.writeText(link).then(
      () => setTold('Link copied'),
      // Where the browser does not let the page copy, people can.
      () => void window.prompt('Copy this link:', link),
    );
  };
  const take = async (file: File) => {
    const text = await file.text();
    const found = attempt(() => sheetFrom(orNothing(() => JSON.parse(text) as unknown)));
    if (found instanceof Problem) setTrouble(`“${file.name}” was not opened. ${found.message}`);
    else state.open(found);
  };
  return (
    <>
      <span role="status">{told}</span>
      <button type="button" className="link" disabled={!canUndo} onClick={() => step('undo')}>
        Undo
      </button>
      <button type="button" className="link" disabled={!canRedo} onClick={() => step('redo')}>
        Redo
      </button>
      <select
        aria-label="Begin with"
        className="w-[104px] bg-transparent text-petrol"
        value=""
        onChange={(event) => state.open(must(examples.find(({ title }) => title === event.target.value)))}
      >
        <option value="">Begin with …</option>
        {examples.map(({ title }) => (
          <option key={title}>{title}</option>
        ))}
      </select>
      <button type="button" className="link" onClick={() => void copyLink()}>
        Copy link
      </button>
      <button
        type="button"
        className="link"
        onClick={() =>
          download(
            new Blob([JSON.stringify(sheet, null, 2)], { type: 'application/json' }),
            `${sheet.title.trim() || 'sheet'}.json`,
          )
        }
      >
        Save as file
      </button>
      <FileButton words="Open a file" accept=".json,application/json" onFile={(file) => void take(file)} />
      {teaching && <MakeExercise courseId={teaching.courseId} sheet={sheet} chosen={chosen} />}
      {!isSignedIn && (
        <Link to="/" className="link">
          Sign in
        </Link>
      )}
    </>
  );
}

const orNothing = (work: () => unknown): unknown => {
  try {
    return work();
  } catch {
    return undefined;
  }
};

/** The builder with what is on the sheet. */
function MakeExercise({ courseId, sheet, chosen }: { courseId: string; sheet: Sheet; chosen: Drawn | undefined }) {
  const create = useNewExercise(courseId);
  const navigate = useNavigate();
  const make = async () => {
    const { exerciseOf } = await import('./exercise');
    const name = chosen ? (sheet.lines[chosen.line]?.name ?? '') : '';
    const { id } = await create.mutateAsync(exerciseOf(sheet, readLines(sheet.lines), name));
    await navigate(`/exercises/${id}/build`);
  };
  return (
    <>
      {create.error && <span className="text-brick">{create.error.message}</span>}
      <Button look="strong" disabled={!chosen || create.isPending} onClick={() => void make()}>
        Make an exercise of it
      </Button>
    </>
  );
}

/** Undo and redo by keys, also in the fields: each keeps what its line says. */
function useStepKeys({ step }: SheetState): void {
  const onKey = useEffectEvent((event: globalThis.KeyboardEvent) => {
    const way = undoKey(event);
    if (!way || event.defaultPrevented) return;
    event.preventDefault();
    step(way);
  });
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => onKey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
