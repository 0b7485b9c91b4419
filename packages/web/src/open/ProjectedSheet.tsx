import { type Around, must, type ReadLine, type SheetLine, type SheetPane } from '@nailset/core';
import { type KeyboardEvent, useEffect, useEffectEvent, useState } from 'react';
import { VoteList } from '../lectern/VoteList';
import type { Votes } from '../lectern/votes';
import { Button } from '../shared/Button';
import { nudgedBy, Swatch, Understood } from './lines/LinesColumn';
import { Panes } from './panes/Panes';
import type { Drawn } from './sheet/drawn';
import type { SheetState } from './sheet/useSheet';

const letters = ['A', 'B', 'C', 'D', 'E'];
const mostGuesses = letters.length;

/** The sheet for a lecture hall: large plots, values typed as they are called out, systems hidden until hands are counted. */
export default function ProjectedSheet({
  state,
  read,
  drawn,
  places,
  chosen,
  fits,
  around,
  until,
  onClose,
}: {
  state: SheetState;
  read: readonly ReadLine[];
  drawn: readonly Drawn[];
  places: readonly (number | undefined)[];
  chosen: Drawn | undefined;
  fits: string;
  around: Around;
  until: number;
  onClose: () => void;
}) {
  const { sheet, changeLine, change } = state;
  const [hidden, setHidden] = useState<readonly number[]>([]);
  const [large, setLarge] = useState<SheetPane>();
  const onKey = useEffectEvent((event: globalThis.KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return;
    if (large) setLarge(undefined);
    else onClose();
  });
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => onKey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  const systems = sheet.lines.flatMap((line, k) => (line.drawn && read[k]?.kind === 'system' ? [k] : []));
  const seen = drawn.filter(({ line }) => !hidden.includes(line));
  const isHidden = hidden.length > 0;
  return (
    <div className="grid min-h-dvh grid-rows-[auto_1fr] sm:min-h-[calc(100dvh/1.35)] sm:[zoom:1.35]">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-4 py-1.5 text-[13px]">
        <button type="button" className="link" onClick={onClose}>
          Close
        </button>
        <h1 className="min-w-40 flex-1 truncate font-serif text-[16px]">{sheet.title || 'Open bench'}</h1>
        <Button look="strong" disabled={systems.length === 0} onClick={() => setHidden(isHidden ? [] : systems)}>
          {isHidden ? 'Reveal' : 'Hide'}
        </Button>
      </header>
      <main className="grid gap-x-4 gap-y-3 px-4 py-2 sm:grid-cols-[210px_minmax(0,1fr)]">
        <section aria-label="Systems and numbers" className="grid content-start gap-2">
          <ul className="grid gap-1.5">
            {sheet.lines.map((line, k) => {
              const meaning = read[k];
              if (meaning?.kind === 'numbers') {
                return <NumberRow key={k} line={line} onText={(text) => changeLine(k, { text })} />;
              }
              if (!meaning || !systems.includes(k)) return null;
              const isOn = !hidden.includes(k);
              return (
                <li key={k} className="flex items-center gap-1.5 text-[13px]">
                  <button
                    type="button"
                    aria-pressed={isOn}
                    aria-label={`Show ${line.name}`}
                    className="grid h-7 w-7 shrink-0 place-items-center rounded-[3px] hover:bg-wash"
                    onClick={() => setHidden(isOn ? [...hidden, k] : hidden.filter((each) => each !== k))}
                  >
                    <Swatch place={isOn ? places[k] : undefined} />
                  </button>
                  <span className="min-w-0 overflow-x-auto">
                    {isOn ? <Understood name={line.name} text={line.text} read={meaning} /> : line.name}
                  </span>
                </li>
              );
            })}
          </ul>
          <Hands />
        </section>
        <section aria-label="Shown" className="grid min-w-0 content-start gap-2">
          <Panes
            {...{ sheet, chosen, fits, around, until, large }}
            drawn={seen}
            kept={[]}
            isProjected
            onLarge={setLarge}
            onNails={(nails) => change({ nails }, 'nails')}
          />
        </section>
      </main>
    </div>
  );
}

/** A value called out in the room. */
function NumberRow({ line: { name, text }, onText }: { line: SheetLine; onText: (text: string) => void }) {
  const keys = (event: KeyboardEvent) => {
    const nudged = nudgedBy(text, event);
    if (nudged === undefined) return;
    onText(nudged);
    event.preventDefault();
  };
  return (
    <li className="flex items-center gap-2">
      <label className="flex min-w-0 flex-1 items-center gap-2 font-mono text-[15px]">
        <span className="w-12 truncate text-right">{name}</span>
        <input
          className="input min-w-0 flex-1 px-2 py-1 text-[16px]"
          value={text}
          spellCheck={false}
          onKeyDown={keys}
          onChange={(event) => onText(event.target.value)}
        />
      </label>
    </li>
  );
}

/** Two to five guesses with the hands raised for each. */
function Hands() {
  const [text, setText] = useState('');
  const [votes, setVotes] = useState<Votes>({});
  const options = text
    .split(';')
    .map((each) => each.trim())
    .filter(Boolean)
    .slice(0, mostGuesses)
    .map((each, k) => ({ id: must(letters[k]), text: each }));
  return (
    <div className="mt-2 grid gap-2 border-t border-rule pt-2 text-[13px]">
      <label>
        <span className="text-slate">Guesses, two to five</span>
        <input
          className="input mt-1 px-2 py-1 text-[13px]"
          placeholder="faster; slower; as before"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {options.length > 1 && <VoteList options={options} votes={votes} right={undefined} onChange={setVotes} />}
    </div>
  );
}
