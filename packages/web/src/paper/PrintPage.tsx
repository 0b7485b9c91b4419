import { formatMark, inPoints, must, nameToLatex, type Paper, type PaperSheet } from '@nailset/core';
import { Suspense, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { usePaper } from '../api/course';
import { useShelf } from '../api/queries';
import { FigurePlot } from '../bench/FigurePlot';
import { paperOf } from '../kinds/papers';
import { isFormula } from '../kinds/students';
import { Header } from '../page/Header';
import { ErrorNote, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { Formula } from '../shared/Formula';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';
import { WorkingList } from '../shared/WorkingList';
import { ShownContext, Statement } from '../statement/Statement';

type Key = 'none' | 'after' | 'working' | 'only' | 'onlyWorking';

const keys: Readonly<Record<Key, string>> = {
  none: 'without',
  after: 'after the sheets',
  working: 'after them, with the working',
  only: 'the key alone',
  onlyWorking: 'the key alone, with the working',
};

/** An exercise, or several of a course, on paper: one sheet for all or each student’s own, with room for answers and a key. */
export default function PrintPage() {
  const { exerciseId, courseId } = useParams();
  const [each, setEach] = useState(false);
  const [key, setKey] = useState<Key>('none');
  const [size, setSize] = useState<'a4' | 'letter'>('a4');
  const [chosen, setChosen] = useState<readonly string[]>(exerciseId ? [exerciseId] : []);
  useTitle('Print');
  return (
    <>
      <div className="print:hidden">
        <Header crumbs={[{ text: 'Shelf', to: courseId ? `/courses/${courseId}` : '/' }, { text: 'Print' }]} />
        <form
          className="mx-auto flex w-full max-w-4xl flex-wrap items-end gap-4 px-5 pt-5"
          onSubmit={(event) => {
            event.preventDefault();
            window.print();
          }}
        >
          <h1 className="mr-4 font-serif text-[26px]">Print</h1>
          <label className="label">
            Numbers
            <select
              className="input mt-1"
              value={each ? 'each' : 'one'}
              onChange={(event) => setEach(event.target.value === 'each')}
            >
              <option value="one">one sheet for all</option>
              <option value="each">each student’s own</option>
            </select>
          </label>
          <label className="label">
            Key
            <select className="input mt-1" value={key} onChange={(event) => setKey(event.target.value as Key)}>
              {Object.entries(keys).map(([name, words]) => (
                <option key={name} value={name}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <label className="label">
            Paper
            <select
              className="input mt-1"
              value={size}
              onChange={(event) => setSize(event.target.value as 'a4' | 'letter')}
            >
              <option value="a4">A4</option>
              <option value="letter">Letter</option>
            </select>
          </label>
          <Button look="strong" type="submit" disabled={chosen.length === 0}>
            Print
          </Button>
        </form>
        {courseId && <Exercises courseId={courseId} chosen={chosen} onChosen={setChosen} />}
      </div>
      <main className={size === 'a4' ? 'paper-a4' : 'paper-letter'}>
        {chosen.map((id) => (
          <OnPaper key={id} exerciseId={id} each={each} withKey={key} />
        ))}
      </main>
    </>
  );
}

/** Which exercises of a course are printed, in the order of the shelf. */
function Exercises({
  courseId,
  chosen,
  onChosen,
}: {
  courseId: string;
  chosen: readonly string[];
  onChosen: (chosen: string[]) => void;
}) {
  const shelf = useShelf(courseId);
  if (shelf.error && !shelf.data) return <ErrorNote error={shelf.error} retry={() => void shelf.refetch()} />;
  const rows = shelf.data?.exercises.filter(({ version, archived }) => version !== null && !archived) ?? [];
  return (
    <fieldset className="mx-auto mt-4 grid w-full max-w-4xl gap-x-6 px-5 sm:grid-cols-2">
      <legend className="sr-only">Exercises</legend>
      {rows.map(({ id, title }) => (
        <label key={id} className="flex items-baseline gap-2 text-[13px]">
          <input
            type="checkbox"
            className="accent-petrol"
            checked={chosen.includes(id)}
            onChange={(event) => {
              const next = new Set(event.target.checked ? [...chosen, id] : chosen.filter((other) => other !== id));
              onChosen(rows.map((row) => row.id).filter((each) => next.has(each)));
            }}
          />
          {title}
        </label>
      ))}
    </fieldset>
  );
}

function OnPaper({ exerciseId, each, withKey }: { exerciseId: string; each: boolean; withKey: Key }) {
  const paper = usePaper(exerciseId, { each, working: withKey === 'working' || withKey === 'onlyWorking' });
  if (paper.isPending) return <Loading what="Making the sheets" />;
  if (!paper.data) return <ErrorNote error={paper.error} retry={() => void paper.refetch()} />;
  const { sheets } = paper.data;
  return (
    <>
      {withKey !== 'only' &&
        withKey !== 'onlyWorking' &&
        sheets.map((sheet) => <Sheet key={sheet.person?.id ?? 'all'} paper={must(paper.data)} sheet={sheet} />)}
      {withKey !== 'none' && <Answers paper={paper.data} />}
    </>
  );
}

/** A short name for one student’s sheet, so that paper finds its way back. */
const codeOf = ({ version }: Paper, { person }: PaperSheet): string =>
  `${person ? person.id.slice(0, 6).toUpperCase() : 'ALL'}-${version}`;

function SheetHead({ paper, sheet, words }: { paper: Paper; sheet: PaperSheet; words?: string }) {
  const { person } = sheet;
  return (
    <header className="mb-4 border-b border-ink pb-2">
      <div className="flex items-baseline justify-between gap-4 text-[12px] text-slate">
        <span>{paper.course}</span>
        <span>
          {paper.dueAt && `Due ${dayAndTime(paper.dueAt)} · `}
          {codeOf(paper, sheet)}
        </span>
      </div>
      <h2 className="mt-1 font-serif text-[22px]">
        {paper.title}
        {words && `: ${words}`}
      </h2>
      {person ? (
        <p>
          {person.name}{' '}
          <span className="text-slate">{[person.studentNumber, person.group].filter(Boolean).join(' · ')}</span>
        </p>
      ) : (
        !words && <p className="mt-3">Name: ______________________________ Number: ________________</p>
      )}
    </header>
  );
}

/** One sheet, as a student gets it. */
function Sheet({ paper, sheet }: { paper: Paper; sheet: PaperSheet }) {
  const shown = useMemo(
    () => ({ pictures: paper.pictures, diagrams: sheet.diagrams }),
    [paper.pictures, sheet.diagrams],
  );
  return (
    <ShownContext value={shown}>
      <article className="paper-sheet" aria-label={`Sheet ${codeOf(paper, sheet)}`}>
        <SheetHead paper={paper} sheet={sheet} />
        <Statement text={sheet.statement} />
        {sheet.parameters.length > 0 && (
          <p className="my-2">
            Numbers:{' '}
            {sheet.parameters.map(({ symbol, value, unit }, k) => (
              <span key={symbol} className="whitespace-nowrap">
                {k > 0 && ', '}
                <Formula latex={`${nameToLatex(symbol)}=`} /> {value} {unit}
              </span>
            ))}
          </p>
        )}
        {sheet.parts.map((part, k) => {
          const OwnPaper = paperOf(part);
          return (
            <section key={part.id} className="mt-5 break-inside-avoid">
              <h3 className="mb-1 flex items-baseline justify-between gap-4 break-after-avoid font-medium">
                <span>
                  {sheet.parts.length > 1 && `${String.fromCharCode(97 + k)}) `}
                  {part.title}
                </span>
                <span className="text-[12px] font-normal text-slate">{inPoints(part.points)}</span>
              </h3>
              {part.prompt && <Statement text={part.prompt} />}
              {part.figure && <FigurePlot figure={part.figure} revealed={[]} committed={false} />}
              <Suspense fallback={null}>
                <OwnPaper part={part} series={paper.series} />
              </Suspense>
            </section>
          );
        })}
      </article>
    </ShownContext>
  );
}

/** The expected answers: of the one sheet, or a line for each student. */
function Answers({ paper }: { paper: Paper }) {
  const [first] = paper.sheets;
  if (!first) return null;
  const single = first.person === null;
  return (
    <article className="paper-sheet" aria-label="Key">
      <SheetHead paper={paper} sheet={{ ...first, person: null }} words="key" />
      {first.parts.map((part, k) => (
        <section key={part.id} className="mt-4">
          <h3 className="mb-1 break-after-avoid font-medium">
            {first.parts.length > 1 && `${String.fromCharCode(97 + k)}) `}
            {part.title} <span className="font-normal text-slate">· {formatMark(part.points)}</span>
          </h3>
          <table className="w-full">
            <tbody>
              {paper.sheets.map((sheet) => (
                <tr key={sheet.person?.id ?? 'all'} className="break-inside-avoid border-b border-grid align-baseline">
                  {!single && (
                    <th scope="row" className="w-[46mm] py-1 pr-3 text-left text-[12px] font-normal">
                      {sheet.person?.name} <span className="text-slate">{codeOf(paper, sheet)}</span>
                    </th>
                  )}
                  <td className="py-1">
                    <Expected sheet={sheet} partId={part.id} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </article>
  );
}

function Expected({ sheet, partId }: { sheet: PaperSheet; partId: string }) {
  const part = must(sheet.parts.find(({ id }) => id === partId));
  const solution = sheet.solutions.find((each) => each.partId === partId);
  const working = sheet.workings.find((each) => each.partId === partId)?.steps ?? [];
  return (
    <>
      {!solution ? (
        <span className="text-slate">many answers are right</span>
      ) : isFormula(part) ? (
        <Formula latex={solution.text} />
      ) : (
        <span className="whitespace-pre-line">{solution.text}</span>
      )}
      {working.length > 0 && (
        <div className="mt-2 border-l border-rule pl-3">
          <WorkingList steps={working} />
        </div>
      )}
    </>
  );
}
