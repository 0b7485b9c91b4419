import { type ReadLine, sheetLimits, type SheetLine } from '@nailset/core';
import { lazy, memo, Suspense, useState } from 'react';
import { usePaced } from '../shared/useSettled';
import { FactsPanel } from './lines/FactsPanel';
import { converted } from './sheet/convert';
import type { Drawn } from './sheet/drawn';
import { ghostsOf } from './sheet/ghosts';
import { freeName } from './sheet/names';
import { designLines } from './sheet/starts';
import type { SheetControls, SheetState } from './sheet/useSheet';

const DesignDialog = lazy(() => import('./DesignDialog'));

interface AboutProps {
  readonly controls: SheetControls;
  readonly change: SheetState['change'];
  readonly changeLine: SheetState['changeLine'];
  readonly chosen: Drawn;
  /** What is typed of it; what is drawn follows, and may for a moment be of a sheet with more lines. */
  readonly line: SheetLine | undefined;
  readonly read: ReadLine | undefined;
  readonly onAdded: (line: number) => void;
  /** Leaves systems beside what is drawn, faintly. */
  readonly onGhosts: (ghosts: readonly Drawn[]) => void;
}

/** In ms: nobody reads a table of numbers that changes faster than this. */
const pace = 100;

/** What is said about the chosen system and done with it; it follows the curves. */
export function AboutSystem(props: AboutProps) {
  const said = usePaced(props, pace);
  return <About said={said} />;
}

const About = memo(function About({ said }: { said: AboutProps }) {
  const { controls, change, changeLine, chosen, line, read, onAdded, onGhosts } = said;
  const { setTrouble, sheetNow } = controls;
  const [isDesigning, setDesigning] = useState(false);
  const name = line?.name ?? '';
  const isTooLong = (lines: readonly SheetLine[]): boolean => {
    if (lines.length <= sheetLimits.lines) return false;
    setTrouble(`A sheet has up to ${sheetLimits.lines} lines.`);
    return true;
  };
  const add = (lines: readonly Pick<SheetLine, 'name' | 'text'>[]) => {
    const before = sheetNow().lines.filter(({ text }) => text.trim());
    const all = [...before, ...lines.map((each): SheetLine => ({ drawn: true, panes: 'all', ...each }))];
    if (isTooLong(all)) return;
    change({ lines: all });
    onAdded(all.length - 1);
  };
  const convert = (written: readonly (readonly [string, string])[]) => {
    const before = sheetNow().lines;
    if (before[chosen.line]?.name !== name) return;
    const lines = converted(before, chosen.line, written);
    if (isTooLong(lines)) return;
    change({ lines });
    onAdded(chosen.line + written.length - 1);
  };
  return (
    <>
      <FactsPanel
        system={chosen}
        read={read}
        groups={line?.groups}
        onGroups={(groups) => changeLine(chosen.line, { groups: groups ?? [] })}
        onConvert={convert}
        onLine={(text) => add([{ name: freeName(sheetNow().lines, 'S'), text }])}
        onDesign={() => setDesigning(true)}
      />
      {isDesigning && (
        <Suspense>
          <DesignDialog
            system={chosen}
            onClose={() => setDesigning(false)}
            onUse={(design, beside) => {
              setDesigning(false);
              add(designLines(design, sheetNow().lines, name));
              if (beside.length > 0) onGhosts(ghostsOf(sheetNow(), name, beside));
            }}
          />
        </Suspense>
      )}
    </>
  );
});
