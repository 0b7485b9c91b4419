import { type BenchSheetRow, emptySheet, orProblem, Problem, type Sheet, sheetFrom } from '@nailset/core';
import { DropdownMenu } from 'radix-ui';
import { lazy, type ReactNode, Suspense, useRef, useState } from 'react';
import { Link } from 'react-router';
import { useMemberships, useSession } from '../api/queries';
import { askSheet, useRemoveSheet, useShareSheet, useSheets } from '../api/sheets';
import { Button } from '../shared/Button';
import { copyText } from '../shared/copyText';
import { download } from '../shared/files';
import { jsonIn } from '../shared/json';
import { linkOf } from '../shared/sheetLink';
import { examples } from './sheet/examples';
import type { SheetControls } from './sheet/useSheet';
import type { SheetSaving } from './sheet/useSheetSaving';

/** The ways into the sheet and out of it. */
export function SheetActions({
  controls,
  saving,
  chosen,
  onProject,
}: {
  controls: SheetControls;
  saving: SheetSaving;
  /** The line of the system that is chosen. */
  chosen: number | undefined;
  onProject: () => void;
}) {
  const { step, canUndo, canRedo, sheetNow } = controls;
  const isSignedIn = Boolean(useSession().data?.person);
  const teaches = useMemberships().some(({ role }) => role === 'instructor');
  return (
    <>
      <button type="button" className="link" disabled={!canUndo} onClick={() => step('undo')}>
        Undo
      </button>
      <button type="button" className="link" disabled={!canRedo} onClick={() => step('redo')}>
        Redo
      </button>
      <OpenMenu {...{ controls, saving, isSignedIn }} />
      <ShareMenu {...{ controls, saving, isSignedIn }} />
      <button type="button" className="link" title="Plots alone, for the lecture hall" onClick={onProject}>
        Lectern
      </button>
      {teaches && <MakeExercise {...{ sheetNow, chosen }} />}
      {!isSignedIn && (
        <Link to="/" className="link inline-flex min-h-6 items-center">
          Sign in
        </Link>
      )}
    </>
  );
}

interface MenuProps {
  controls: SheetControls;
  saving: SheetSaving;
  isSignedIn: boolean;
}

const itemLook =
  'block w-full cursor-pointer px-3 py-1.5 text-left outline-none data-[highlighted]:bg-wash data-[disabled]:text-slate';

function Menu({ words, children, onOpen }: { words: string; children: ReactNode; onOpen?: (isOpen: boolean) => void }) {
  return (
    <DropdownMenu.Root modal={false} {...(onOpen ? { onOpenChange: onOpen } : {})}>
      <DropdownMenu.Trigger className="link">{words}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-20 max-h-[70dvh] w-[300px] overflow-y-auto rounded-[3px] border border-rule bg-sheet py-1 text-[14px]"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <DropdownMenu.Group className="border-t border-rule pt-1 first:border-t-0">
      <DropdownMenu.Label className="caption px-3 py-1">{title}</DropdownMenu.Label>
      {children}
    </DropdownMenu.Group>
  );
}

/** A new one, one from a file, one’s own, those of one’s courses, and those of the harbour. */
function OpenMenu({ controls: { id, open, setTrouble }, saving, isSignedIn }: MenuProps) {
  const [isOpen, setOpen] = useState(false);
  const { data = [], error } = useSheets(isOpen && isSignedIn);
  const remove = useRemoveSheet();
  const file = useRef<HTMLInputElement>(null);
  const take = async (chosen: File) => {
    const text = await chosen.text();
    const taken = orProblem(() => sheetFrom(jsonIn(text)));
    if (taken instanceof Problem) setTrouble(`“${chosen.name}” was not opened. ${taken.message}`);
    else open(taken);
  };
  const ask = ({ id }: BenchSheetRow) =>
    void askSheet(id).then(saving.openKept, (problem: Error) => setTrouble(`It was not opened. ${problem.message}`));
  const removeIt = () =>
    void remove.mutateAsync(id).then(
      () => {
        saving.forget(id);
        open(emptySheet);
      },
      (problem: Error) => setTrouble(`It was not removed. ${problem.message}`),
    );
  const rows = (of: readonly BenchSheetRow[]) =>
    of.map((row) => (
      <DropdownMenu.Item key={row.id} className={itemLook} onSelect={() => ask(row)}>
        <span className="block truncate">{row.title.trim() || 'Untitled sheet'}</span>
        {!row.mine && <span className="text-note text-slate">{row.by}</span>}
        {row.mine && row.course && <span className="text-note text-slate">shared with {row.course}</span>}
      </DropdownMenu.Item>
    ));
  const theirs = data.filter(({ mine }) => mine);
  const shared = data.filter(({ mine }) => !mine);
  return (
    <>
      <Menu words="Open" onOpen={setOpen}>
        <DropdownMenu.Item className={itemLook} onSelect={() => open(emptySheet)}>
          New sheet
        </DropdownMenu.Item>
        <DropdownMenu.Item className={itemLook} onSelect={() => file.current?.click()}>
          A file …
        </DropdownMenu.Item>
        {saving.isKept && (
          <DropdownMenu.Item className={itemLook} onSelect={removeIt}>
            Remove this sheet
          </DropdownMenu.Item>
        )}
        {error && <p className="px-3 py-1 text-note text-brick">{error.message}</p>}
        {theirs.length > 0 && <Group title="Your sheets">{rows(theirs)}</Group>}
        {[...new Set(shared.map(({ course }) => course ?? ''))].map((course) => (
          <Group key={course} title={course}>
            {rows(shared.filter((row) => row.course === course))}
          </Group>
        ))}
        <Group title="Of the harbour">
          {examples.map((sheet) => (
            <DropdownMenu.Item key={sheet.title} className={itemLook} onSelect={() => open(sheet)}>
              {sheet.title}
            </DropdownMenu.Item>
          ))}
        </Group>
      </Menu>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="A sheet from a file"
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = '';
          if (chosen) void take(chosen);
        }}
      />
    </>
  );
}

/** As a link, a file, a copy, or for a course that one teaches. */
function ShareMenu({ controls: { id, sheetNow }, saving, isSignedIn }: MenuProps) {
  const [isOpen, setOpen] = useState(false);
  const [told, setTold] = useState('');
  const teaching = useMemberships().filter(({ role }) => role === 'instructor');
  const { data, error } = useSheets(isOpen && isSignedIn && teaching.length > 0);
  const share = useShareSheet();
  const courseNow = data?.find((row) => row.id === id)?.courseId ?? null;
  const copyLink = async () => {
    if (await copyText(await linkOf(sheetNow()))) setTold('Link copied');
  };
  return (
    <>
      <span role="status">{told}</span>
      <Menu
        words="Share"
        onOpen={(next) => {
          setTold('');
          setOpen(next);
        }}
      >
        <DropdownMenu.Item className={itemLook} onSelect={() => void copyLink()}>
          Copy link
        </DropdownMenu.Item>
        <DropdownMenu.Item
          className={itemLook}
          onSelect={() => {
            const sheet = sheetNow();
            const file = new Blob([JSON.stringify(sheet, null, 2)], { type: 'application/json' });
            download(file, `${sheet.title.trim() || 'sheet'}.json`);
          }}
        >
          Save as file
        </DropdownMenu.Item>
        <DropdownMenu.Item className={itemLook} onSelect={saving.asCopy}>
          Go on with a copy
        </DropdownMenu.Item>
        {teaching.length > 0 && (
          <Group title="With a course">
            {error && <p className="px-3 py-1 text-note text-brick">{error.message}</p>}
            {teaching.map(({ courseId, course }) => (
              <DropdownMenu.CheckboxItem
                key={courseId}
                className={itemLook}
                // Not before it is known with whom it is shared.
                disabled={!saving.isKept || !data}
                checked={courseNow === courseId}
                onCheckedChange={(to) =>
                  void share.mutateAsync({ id, courseId: to ? courseId : null }).then(
                    () => setTold(to ? `Shared with ${course}` : 'No longer shared'),
                    (problem: Error) => setTold(`Not shared. ${problem.message}`),
                  )
                }
              >
                {courseNow === courseId ? '✓ ' : ''}
                {course}
              </DropdownMenu.CheckboxItem>
            ))}
          </Group>
        )}
      </Menu>
    </>
  );
}

const ExerciseDialog = lazy(() => import('./ExerciseDialog'));

/** The builder with what is on the sheet. */
function MakeExercise({ sheetNow, chosen }: { sheetNow: () => Sheet; chosen: number | undefined }) {
  const [asked, setAsked] = useState<Sheet>();
  return (
    <>
      <Button look="strong" disabled={chosen === undefined} onClick={() => setAsked(sheetNow())}>
        Make an exercise of it
      </Button>
      {asked && (
        <Suspense>
          <ExerciseDialog
            sheet={asked}
            chosen={(chosen !== undefined && asked.lines[chosen]?.name) || ''}
            onClose={() => setAsked(undefined)}
          />
        </Suspense>
      )}
    </>
  );
}
