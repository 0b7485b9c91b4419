import { type ClassSheet, formatMark, inPoints, nailLabel, type Part, type SheetCell } from '@nailset/core';
import { useState } from 'react';
import { NailMark, nailState } from '../shared/NailMark';

/** With more parts their titles take more room than there is; letters stand for them. */
const fewParts = 5;

/** Students × parts, as nails. */
export function SheetTable({
  sheet,
  chosen,
  onChoose,
}: {
  sheet: ClassSheet;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const [order, setOrder] = useState<'points' | 'name'>('points');
  const rows =
    order === 'name'
      ? [...sheet.rows].sort((a, b) => a.person.name.localeCompare(b.person.name))
      : [...sheet.rows].sort(
          (a, b) => (b.points ?? -1) - (a.points ?? -1) || a.person.name.localeCompare(b.person.name),
        );
  const sorted = (by: 'points' | 'name') => (order === by ? 'font-medium text-ink' : 'hover:underline');
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full">
        <thead>
          <tr className="border-b border-rule align-bottom text-left text-note text-slate">
            <th className="py-1.5 font-normal" aria-sort={order === 'name' ? 'ascending' : 'none'}>
              <button type="button" className={sorted('name')} onClick={() => setOrder('name')}>
                Student
              </button>
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
              <button type="button" className={sorted('points')} onClick={() => setOrder('points')}>
                of {formatMark(sheet.outOf)}
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ person, points, cells }) => {
            const active = Object.values(cells).some((cell) => cell.submissionId === chosen);
            return (
              <tr key={person.id} className={`border-b border-grid ${active ? 'bg-wash' : ''}`}>
                <th scope="row" className="py-[2px] text-left text-[13px] font-normal whitespace-nowrap">
                  {person.name}
                </th>
                {sheet.parts.map((part) => (
                  <td key={part.id} className="px-2">
                    <Cell part={part} cell={cells[part.id]} name={person.name} chosen={chosen} onChoose={onChoose} />
                  </td>
                ))}
                <td className="pl-2 text-right text-[13px]">{points === null ? '–' : formatMark(points)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

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
  const count = part.kind === 'gains' ? part.nails.length : 1;
  if (!cell) {
    return (
      <span className="flex gap-0.5 opacity-80">
        {Array.from({ length: count }, (_, k) => (
          <NailMark key={k} state="none" />
        ))}
      </span>
    );
  }
  return (
    <button
      type="button"
      aria-label={`${name}, ${part.title}: ${formatMark(cell.points)} of ${inPoints(cell.outOf)}, try ${cell.attempt}`}
      aria-pressed={cell.submissionId === chosen}
      onClick={() => onChoose(cell.submissionId)}
      className="-mx-1 flex items-center gap-0.5 rounded-[3px] px-1 py-[3px] hover:bg-wash aria-pressed:outline aria-pressed:outline-petrol"
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
  const nail = part.kind === 'gains' ? part.nails.find((candidate) => candidate.id === id) : undefined;
  return nail ? nailLabel(nail) : part.title;
}
