import { formatMark, inPoints, type Marks, type MarksCell, type MarksRow, must } from '@nailset/core';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useMarks } from '../api/course';
import { useMemberships } from '../api/queries';
import { CourseNav } from '../page/CourseNav';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty } from '../page/states';
import { isFoundIn } from '../shared/found';
import { LongTable } from '../shared/LongTable';
import { useTitle } from '../shared/useTitle';
import { ExcuseDialog, type Excusing } from './ExcuseDialog';
import { ExportMenu } from './ExportMenu';
import { MarkingDialog } from './MarkingDialog';
import { MyMarks } from './MyMarks';
import { percent } from './percent';

/** The gradebook for staff; for a student their own row. */
export function MarksPage() {
  const { courseId = '' } = useParams();
  const role = useMemberships().find((entry) => entry.courseId === courseId)?.role;
  useTitle('Marks');
  return role === 'student' ? <MyMarks courseId={courseId} /> : <Gradebook courseId={courseId} role={role} />;
}

function Gradebook({ courseId, role }: { courseId: string; role: string | undefined }) {
  const marks = useMarks(courseId);
  return (
    <PageOf query={marks} what="Adding up marks">
      {(data) => <Loaded courseId={courseId} data={data} mayChange={role === 'instructor'} />}
    </PageOf>
  );
}

type Order = 'name' | 'group' | 'total';

function Loaded({ courseId, data, mayChange }: { courseId: string; data: Marks; mayChange: boolean }) {
  const [order, setOrder] = useState<Order>('name');
  const [words, setWords] = useState('');
  const [excusing, setExcusing] = useState<Excusing>();
  const rows = useMemo(
    () => sorted(data.rows, order).filter(({ person }) => isFoundIn(`${person.name} ${person.studentNumber}`, words)),
    [data, order, words],
  );
  const { sets } = data.marking;
  return (
    <div className="flex min-h-dvh flex-col md:h-dvh">
      <Header crumbs={[{ text: data.course, to: `/courses/${courseId}` }, { text: 'Marks' }]}>
        <CourseNav courseId={courseId} />
      </Header>
      <main className="flex min-h-0 flex-1 flex-col px-5 py-5">
        <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
          <h1 className="font-serif text-[26px]">Marks</h1>
          <span className="text-[13px] text-slate">
            {schemeWords(data)}
            {data.rows.some(({ cells }) => cells.some(({ counting }) => counting === 'dropped')) && (
              <>
                {' '}
                · <s>struck out</s>: not among the best
              </>
            )}
          </span>
          <span className="ml-auto flex flex-wrap gap-2 print:hidden">
            <input
              type="search"
              className="input w-48 py-1"
              aria-label="Find a student"
              placeholder="Find a student"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
            {mayChange && <MarkingDialog courseId={courseId} marks={data} />}
            <ExportMenu courseId={courseId} />
          </span>
        </div>
        {data.exercises.length === 0 ? (
          <Empty title="No marks yet.">They come with the first exercise that is published.</Empty>
        ) : (
          <LongTable
            label="Marks"
            className="min-h-0 flex-1 border-t border-rule"
            tableClass="border-separate border-spacing-0"
            rows={rows}
            keyOf={({ person }) => person.id}
            height={30}
            head={<Head data={data} order={order} onOrder={setOrder} />}
            row={(row) => (
              <>
                <th
                  scope="row"
                  className="sticky left-0 z-[1] max-w-[30ch] truncate border-b border-grid bg-paper py-1 pr-4 text-left text-[13px] font-normal"
                  title={row.person.name}
                >
                  {row.person.name}
                  {row.person.group && <span className="ml-2 text-note text-slate">{row.person.group}</span>}
                </th>
                <td className="border-b border-grid px-3 text-right font-medium whitespace-nowrap">
                  {percent(row.total)}
                </td>
                {sets.length > 1 &&
                  row.sets.map((share, k) => (
                    <td
                      key={must(sets[k]).id}
                      className="border-b border-grid px-3 text-right text-[13px] whitespace-nowrap text-slate"
                    >
                      {percent(share)}
                    </td>
                  ))}
                {row.cells.map((cell, k) => (
                  <td key={must(data.exercises[k]).id} className="border-b border-grid px-2 text-right text-[13px]">
                    <Cell
                      cell={cell}
                      person={row.person}
                      exercise={must(data.exercises[k])}
                      onExcuse={mayChange ? setExcusing : undefined}
                    />
                  </td>
                ))}
              </>
            )}
          />
        )}
        {excusing && <ExcuseDialog courseId={courseId} of={excusing} onClose={() => setExcusing(undefined)} />}
      </main>
    </div>
  );
}

function sorted(rows: readonly MarksRow[], order: Order): MarksRow[] {
  const byName = (a: MarksRow, b: MarksRow) => a.person.name.localeCompare(b.person.name, undefined, { numeric: true });
  const orders = {
    name: byName,
    group: (a: MarksRow, b: MarksRow) =>
      a.person.group.localeCompare(b.person.group, undefined, { numeric: true }) || byName(a, b),
    total: (a: MarksRow, b: MarksRow) => (b.total ?? -1) - (a.total ?? -1) || byName(a, b),
  };
  return [...rows].sort(orders[order]);
}

/** How marks are made, in a line. */
function schemeWords({ marking, exercises }: Pick<Marks, 'marking' | 'exercises'>): string {
  const { sets } = marking;
  const [first] = sets;
  if (sets.length === 1 && first?.best === null && Object.keys(marking.exercises).length === 0)
    return `Every point of ${exercises.length} exercises counts alike.`;
  const whole = sets.reduce((sum, { weight }) => sum + weight, 0);
  return sets
    .map(({ name, weight, best }) => {
      const share = sets.length > 1 ? ` ${formatMark((100 * weight) / whole)} %` : '';
      return `${name}${share}${best === null ? '' : `, best ${best}`}`;
    })
    .join(' · ');
}

function Head({ data, order, onOrder }: { data: Marks; order: Order; onOrder: (order: Order) => void }) {
  const { sets } = data.marking;
  const look = (by: Order) => (order === by ? 'font-medium text-ink' : 'hover:underline');
  const cell = 'border-b border-rule px-2 py-1.5 align-bottom text-note font-normal text-slate';
  const hasGroups = data.rows.some(({ person }) => person.group !== '');
  return (
    <tr>
      <th
        className={`${cell} sticky left-0 z-[1] bg-paper pl-0 text-left`}
        aria-sort={order === 'total' ? 'none' : 'ascending'}
      >
        <button type="button" className={look('name')} onClick={() => onOrder('name')}>
          Student
        </button>
        {hasGroups && (
          <button type="button" className={`ml-3 ${look('group')}`} onClick={() => onOrder('group')}>
            by group
          </button>
        )}
      </th>
      <th className={`${cell} px-3 text-right`} aria-sort={order === 'total' ? 'descending' : 'none'}>
        <button type="button" className={look('total')} onClick={() => onOrder('total')}>
          Total
        </button>
      </th>
      {sets.length > 1 &&
        sets.map(({ id, name }) => (
          <th key={id} className={`${cell} px-3 text-right`}>
            {name}
          </th>
        ))}
      {data.exercises.map(({ id, title, outOf }) => (
        <th key={id} className={`${cell} min-w-20 text-right`}>
          <Link
            to={`/exercises/${id}/class`}
            className="line-clamp-2 max-w-28 hover:text-ink hover:underline"
            title={title}
          >
            {title}
          </Link>
          <span className="block">of {formatMark(outOf)}</span>
        </th>
      ))}
    </tr>
  );
}

function Cell({
  cell,
  person,
  exercise,
  onExcuse,
}: {
  cell: MarksCell;
  person: MarksRow['person'];
  exercise: Marks['exercises'][number];
  onExcuse: ((of: Excusing) => void) | undefined;
}) {
  const { points, outOf, excused, counting } = cell;
  const told = `${person.name}, ${exercise.title}: ${points === null ? 'not handed in' : `${formatMark(points)} of ${inPoints(outOf)}`}`;
  const shown =
    excused !== null ? (
      <span className="text-plum" title={`Excused: ${excused}`}>
        excused
      </span>
    ) : points === null ? (
      <span className="text-slate">{counting === 'open' ? '·' : '–'}</span>
    ) : (
      <span className={counting === 'dropped' ? 'text-slate line-through' : ''}>{formatMark(points)}</span>
    );
  return (
    <span className="group flex items-baseline justify-end gap-1">
      {points === null ? (
        <span aria-label={told} role="img">
          {shown}
        </span>
      ) : (
        <Link to={`/exercises/${exercise.id}/class?person=${person.id}`} aria-label={told} className="hover:underline">
          {shown}
        </Link>
      )}
      {onExcuse && (
        <button
          type="button"
          aria-label={`Excuse ${person.name} from ${exercise.title}`}
          className="px-0.5 text-slate opacity-0 group-hover:opacity-100 hover:text-ink focus-visible:opacity-100 print:hidden"
          onClick={({ currentTarget }) => onExcuse({ person, exercise, excused, button: currentTarget })}
        >
          ⋮
        </button>
      )}
    </span>
  );
}
