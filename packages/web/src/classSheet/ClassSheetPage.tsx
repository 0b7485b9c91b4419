import { type ClassSheet, must, type Part, type SheetRow } from '@nailset/core';
import { DropdownMenu, Tabs } from 'radix-ui';
import { Suspense, useEffect, useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useClassSheet } from '../api/queries';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty, Loading } from '../page/states';
import { isFoundIn } from '../shared/found';
import { dayAndTime } from '../shared/time';
import { useLatest } from '../shared/useLatest';
import { useTitle } from '../shared/useTitle';
import { AnswerPanel } from './AnswerPanel';
import { choicesOf, inOrder, isChosen, type Order } from './filter';
import { PartPanel } from './PartPanel';
import { PointsChart } from './PointsChart';
import { SheetTable } from './SheetTable';
import { SlipList } from './SlipList';
import { summarise } from './summary';

/** A class: rows of nails on the left, everyone's responses and one student's answer on the right. */
export default function ClassSheetPage() {
  const { exerciseId = '' } = useParams();
  const sheet = useClassSheet(exerciseId);
  useTitle(sheet.data ? `Class sheet: ${sheet.data.title}` : 'Class sheet');
  return (
    <PageOf query={sheet} what="Opening the class sheet">
      {(data) => <Loaded sheet={data} />}
    </PageOf>
  );
}

function Loaded({ sheet }: { sheet: ClassSheet }) {
  const [address] = useSearchParams();
  const [chosen, setChosen] = useState(() => firstOf(sheet, address.get('person')));
  const [partId, setPartId] = useState(() => partOf(sheet, chosen) ?? startingPart(sheet).id);
  const [order, setOrder] = useState<Order>('points');
  const [choice, setChoice] = useState(address.get('show') ?? '');
  const [words, setWords] = useState('');
  const part = sheet.parts.find(({ id }) => id === partId) ?? must(sheet.parts[0]);
  const { handedIn, look } = summarise(sheet);
  const rows = useMemo(
    () =>
      inOrder(sheet.rows, order).filter(
        (row) => isChosen(row, part.id, choice) && isFoundIn(`${row.person.name} ${row.studentNumber}`, words),
      ),
    [sheet, order, part, choice, words],
  );

  const choose = (submissionId: string) => {
    setChosen(submissionId);
    const part = partOf(sheet, submissionId);
    if (part) setPartId(part);
  };
  useNextKeys(rows, part.id, choice === 'review', chosen, choose);

  return (
    <div className="flex min-h-dvh flex-col xl:h-dvh">
      <Header
        crumbs={[
          { text: 'Shelf', to: `/courses/${sheet.courseId}` },
          { text: sheet.title, to: `/exercises/${sheet.exerciseId}/build` },
          { text: 'Class sheet' },
        ]}
      >
        {sheet.dueAt && <span>Due {dayAndTime(sheet.dueAt)}</span>}
        <span>
          <b className="font-medium text-ink">
            {handedIn} of {sheet.rows.length}
          </b>{' '}
          handed in
        </span>
        {look > 0 && (
          <button type="button" className="link" onClick={() => setChoice('review')}>
            {look} to review
          </button>
        )}
        <SheetMenu exerciseId={sheet.exerciseId} partId={part.id} />
      </Header>
      {sheet.rows.length === 0 ? (
        <Empty title="Nobody has joined yet.">
          <Link className="link" to={`/courses/${sheet.courseId}/people`}>
            Add people from a list
          </Link>
          , or let them join with the course code.
        </Empty>
      ) : (
        <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] xl:grid-cols-[1.12fr_1fr] xl:grid-rows-[minmax(0,1fr)] print:block">
          <div className="relative flex min-h-0 flex-col border-rule px-5 py-4 max-xl:border-b xl:border-r">
            <h1 className="sr-only">Class sheet</h1>
            <RowFilter
              {...{ sheet, part, choice, words }}
              count={rows.length}
              onChoice={setChoice}
              onWords={setWords}
            />
            <SheetTable sheet={sheet} rows={rows} order={order} onOrder={setOrder} chosen={chosen} onChoose={choose} />
          </div>
          <div className="relative flex min-w-0 flex-col gap-5 px-5 py-4 xl:overflow-y-auto">
            <div>
              {sheet.parts.length > 1 && <PartTabs parts={sheet.parts} open={part.id} onOpen={setPartId} />}
              <PartPanel key={part.id} part={part} sheet={sheet} chosen={chosen} onChoose={choose} />
            </div>
            {chosen ? (
              <AnswerPanel submissionId={chosen} onClose={() => setChosen(undefined)} onChoose={choose} />
            ) : (
              <>
                <SlipList part={part} sheet={sheet} chosen={chosen} onChoose={choose} />
                <p className="text-note text-slate">
                  Choose a nail, a curve or a name to see the answer, its measures and its trail; keys n and p go on.
                </p>
                <Suspense fallback={<Loading what="Counting" />}>
                  <PointsChart sheet={sheet} />
                </Suspense>
              </>
            )}
          </div>
        </main>
      )}
    </div>
  );
}

/** The part that most is to be seen of. */
const startingPart = (sheet: ClassSheet): Part =>
  sheet.parts.findLast(({ kind }) => kind === 'gains') ?? must(sheet.parts[0]);

/** The part that an answer is to. */
const partOf = (sheet: ClassSheet, submissionId: string | undefined): string | undefined =>
  sheet.rows
    .flatMap(({ cells }) => Object.entries(cells))
    .find(([, { tries }]) => tries.some((each) => each.submissionId === submissionId))?.[0];

/** The answer of someone to show first, to the part that most is to be seen of. */
function firstOf(sheet: ClassSheet, personId: string | null): string | undefined {
  const cells = sheet.rows.find(({ person }) => person.id === personId)?.cells ?? {};
  return (cells[startingPart(sheet).id] ?? Object.values(cells)[0])?.submissionId;
}

/** Keys n and p go to the next and the one before of the shown answers to a part; of those to review where only these are shown. */
function useNextKeys(
  rows: readonly SheetRow[],
  partId: string,
  onlyReview: boolean,
  chosen: string | undefined,
  choose: (submissionId: string) => void,
): void {
  const latest = useLatest({ rows, partId, onlyReview, chosen, choose });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.key !== 'n' && event.key !== 'p') || event.ctrlKey || event.metaKey || event.altKey) return;
      if ((event.target as HTMLElement).matches('input, textarea, select, [role=menuitem]')) return;
      const now = latest.current;
      const cells = now.rows.flatMap((row) =>
        now.onlyReview
          ? Object.values(row.cells).filter(({ look }) => look)
          : [row.cells[now.partId]].filter((cell) => cell !== undefined),
      );
      const at = cells.findIndex(({ tries }) => tries.some(({ submissionId }) => submissionId === now.chosen));
      const next = at < 0 ? cells[0] : cells[at + (event.key === 'n' ? 1 : -1)];
      if (next) now.choose(next.submissionId);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [latest]);
}

/** Which rows are shown. */
function RowFilter({
  sheet,
  part,
  choice,
  words: typed,
  count,
  onChoice,
  onWords,
}: {
  sheet: ClassSheet;
  part: Part;
  choice: string;
  words: string;
  count: number;
  onChoice: (choice: string) => void;
  onWords: (words: string) => void;
}) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2 print:hidden">
      <select
        aria-label="Show"
        className="input w-auto max-w-56 py-1 text-[13px]"
        value={choice}
        onChange={(event) => onChoice(event.target.value)}
      >
        {choicesOf(sheet, part).map(({ heading, choices }) => (
          <optgroup key={heading} label={heading}>
            {choices.map(({ value, words }) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <input
        type="search"
        aria-label="Find a student"
        placeholder="Find a student"
        className="input w-40 py-1 text-[13px]"
        value={typed}
        onChange={(event) => onWords(event.target.value)}
      />
      {count < sheet.rows.length && (
        <span role="status" className="text-note text-slate">
          {count} of {sheet.rows.length}
        </span>
      )}
    </div>
  );
}

/** What else there is to do with the answers of a class. */
function SheetMenu({ exerciseId, partId }: { exerciseId: string; partId: string }) {
  const links = [
    [`answers/${partId}`, 'All answers'],
    ['again', 'Check again'],
    ['entered', 'Answers from elsewhere'],
    ['print', 'Print'],
  ] as const;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="link">More</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-30 rounded-[3px] border border-rule bg-sheet py-1 text-body"
        >
          {links.map(([tail, words]) => (
            <DropdownMenu.Item
              key={tail}
              asChild
              className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-wash"
            >
              <Link to={`/exercises/${exerciseId}/${tail}`} className="block">
                {words}
              </Link>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function PartTabs({ parts, open, onOpen }: { parts: readonly Part[]; open: string; onOpen: (id: string) => void }) {
  return (
    <Tabs.Root value={open} onValueChange={onOpen}>
      <Tabs.List aria-label="Part" className="mb-3 flex flex-wrap gap-x-5 gap-y-1">
        {parts.map(({ id, title }, k) => (
          <Tabs.Trigger
            key={id}
            value={id}
            aria-label={title}
            title={title}
            className="border-b-2 border-transparent pb-1 text-slate data-[state=active]:border-petrol data-[state=active]:font-medium data-[state=active]:text-ink"
          >
            {parts.length > 4 && id !== open ? String.fromCharCode(97 + k) : title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {parts.map(({ id }) => (
        <Tabs.Content key={id} value={id} className="sr-only">
          Responses below
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
