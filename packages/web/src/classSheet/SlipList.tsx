import { type ClassSheet, type Part } from '@nailset/core';
import { useMemo } from 'react';
import { OwnWord } from '../shared/OwnWord';
import { shortNames, slipsOf } from './summary';

/** What went wrong in a part, the commonest first, with who it was. */
export function SlipList({
  part,
  sheet,
  chosen,
  onChoose,
}: {
  part: Part;
  sheet: ClassSheet;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}) {
  const slips = slipsOf(sheet, part.id);
  const called = useMemo(() => shortNames(sheet.rows.map(({ person }) => person.name)), [sheet]);
  if (slips.length === 0) return null;
  return (
    <section aria-label="Slips">
      <h2 className="caption mb-1">Slips</h2>
      <OwnWord word="slip" />
      <ul>
        {slips.map(({ id, words, cells }) => (
          <li key={id} className="grid grid-cols-[28px_1fr] border-t border-grid py-1.5">
            <b className={`text-[15px] font-medium ${id ? 'text-copper' : 'text-slate'}`}>{cells.length}</b>
            <div>
              <span className={id ? '' : 'text-slate'}>{words}</span>
              <p className="flex flex-wrap gap-x-2.5 text-note">
                {cells.map(({ submissionId, name }) => (
                  <button
                    key={submissionId}
                    type="button"
                    className="link"
                    aria-pressed={submissionId === chosen}
                    aria-label={`Answer of ${name}`}
                    onClick={() => onChoose(submissionId)}
                  >
                    {called(name)}
                  </button>
                ))}
              </p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
