import { attempt, must, Problem, readLines, type Sheet, sheetFrom } from '@nailset/core';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useMemberships, useNewExercise, useSession } from '../api/queries';
import { Button } from '../shared/Button';
import { FileButton } from '../shared/FileButton';
import { download } from '../shared/files';
import type { Drawn } from './drawn';
import { examples } from './examples';
import { linkOf } from './link';
import type { SheetState } from './useSheet';

/** The ways into the sheet and out of it. */
export function SheetActions({ state, chosen }: { state: SheetState; chosen: Drawn | undefined }) {
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
