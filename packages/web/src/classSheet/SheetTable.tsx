import {
  type ClassSheet,
  formatMark,
  inPoints,
  nailLabel,
  nailsIn,
  type Part,
  type SheetCell,
  type SheetRow,
} from '@nailset/core';
import { LongTable } from '../shared/LongTable';
import { NailMark, nailState } from '../shared/NailMark';
import type { Order } from './filter';

/** With more parts their titles take more room than there is; letters stand for them. */
const fewParts = 5;

/** Students × parts, as nails. */
export function SheetTable({
  sheet,
  rows,
  order,
  onOrder,
  chosen,
  onChoose,
}: {
  sheet: Pick<ClassSheet, 'parts' | 'outOf'>;
  /** As they are shown: chosen and in order. */
  rows: readonly SheetRow[];
  order: Order;
  onOrder: (order: Order) => void;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const sorted = (by: Order) => (order === by ? 'font-medium text-ink' : 'hover:underline');
  const hasGroups = rows.some(({ group }) => group !== '');
  return (
    <LongTable
      label="Students"
      className="min-h-0 flex-1 max-xl:max-h-[75dvh] print:max-h-none"
      rows={rows}
      keyOf={({ person }) => person.id}
      height={27}
      follow={chosen === undefined ? undefined : rows.findIndex((row) => isOf(row, chosen))}
      rowClass={(row) => (chosen !== undefined && isOf(row, chosen) ? 'bg-wash' : '')}
      head={
        <tr className="align-bottom text-left text-note text-slate shadow-[inset_0_-1px_var(--color-rule)]">
          <th className="py-1.5 font-normal" aria-sort={order === 'points' ? 'none' : 'ascending'}>
            <button type="button" className={sorted('name')} onClick={() => onOrder('name')}>
              Student
            </button>
            {hasGroups && (
              <button type="button" className={`ml-3 ${sorted('group')}`} onClick={() => onOrder('group')}>
                by group
              </button>
            )}
          </th>
          {sheet.parts.map((part, k) => (
            <th key={part.id} className="px-2 py-1.5 font-normal">
              <span className="block" title={part.title}>
                {String.fromCharCode(97 + k)}
              </span>
              <span className={sheet.parts.length > fewParts ? 'sr-only' : ''}>{part.title}</span>
            </th>
          ))}
          <th className="py-1.5 pl-2 text-right font-normal" aria-sort={order === 'points' ? 'descending' : 'none'}>
            <button type="button" className={sorted('points')} onClick={() => onOrder('points')}>
              of {formatMark(sheet.outOf)}
            </button>
          </th>
        </tr>
      }
      row={({ person, group, points, cells }) => (
        <>
          <th
            scope="row"
            title={person.name}
            className="max-w-[30ch] truncate py-[2px] text-left text-[13px] font-normal"
          >
            {person.name}
            {group && <span className="ml-2 text-note text-slate">{group}</span>}
          </th>
          {sheet.parts.map((part) => (
            <td key={part.id} className="px-2">
              <Cell part={part} cell={cells[part.id]} name={person.name} chosen={chosen} onChoose={onChoose} />
            </td>
          ))}
          <td className="pl-2 text-right text-[13px]">{points === null ? '–' : formatMark(points)}</td>
        </>
      )}
    />
  );
}

/** Whether one of a student’s tries is this one. */
export const isOf = (row: SheetRow, submissionId: string): boolean =>
  Object.values(row.cells).some(({ tries }) => tries.some((each) => each.submissionId === submissionId));

function Cell({
  part,
  cell,
  name,
  chosen,
  onChoose,
}: {
  part: Part;
  cell: SheetCell | undefined;
  name: string;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const count = nailsIn(part).length || 1;
  if (!cell) {
    return (
      <span className="flex gap-0.5 opacity-80">
        {Array.from({ length: count }, (_, k) => (
          <NailMark key={k} state="none" />
        ))}
      </span>
    );
  }
  const review = cell.look ? ', to review' : '';
  return (
    <button
      type="button"
      aria-label={`${name}, ${part.title}: ${formatMark(cell.points)} of ${inPoints(cell.outOf)}, try ${cell.attempt}${review}`}
      aria-pressed={cell.tries.some(({ submissionId }) => submissionId === chosen)}
      onClick={() => onChoose(cell.submissionId)}
      className="-mx-1 flex min-h-6 min-w-6 items-center gap-0.5 rounded-[3px] px-1 py-[3px] hover:bg-wash aria-pressed:outline aria-pressed:outline-petrol"
    >
      {cell.outOfTime ? (
        <span className="text-note text-copper">not checked</span>
      ) : cell.checked ? (
        cell.items.map((item) => <NailMark key={item.id} state={nailState(item)} label={labelOf(part, item.id)} />)
      ) : (
        <span className="text-note text-slate">being checked</span>
      )}
      {cell.attempt > 1 && <span className="pl-0.5 text-[10px] text-slate">{cell.attempt}</span>}
    </button>
  );
}

function labelOf(part: Part, id: string): string {
  const nail = nailsIn(part).find((candidate) => candidate.id === id);
  return nail ? nailLabel(nail) : part.title;
}
