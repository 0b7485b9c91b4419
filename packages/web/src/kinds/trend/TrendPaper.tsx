import { type SeenOf } from '@nailset/core';

/** The part on paper. */
export const TrendPaper = ({ part }: { part: SeenOf<'trend'> }) => (
  <table className="mt-2 break-inside-avoid">
    <thead>
      <tr>
        <td />
        {part.changes.map(({ id, label }) => (
          <th key={id} className="px-3 py-1 text-left font-normal">
            {label}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {part.rows.map(({ id, label }) => (
        <tr key={id}>
          <th scope="row" className="pr-4 text-left font-normal">
            {label}
          </th>
          {part.changes.map((change) => (
            <td key={change.id} className="h-[9mm] min-w-[26mm] border border-ink/50" data-answer-box="" />
          ))}
        </tr>
      ))}
    </tbody>
  </table>
);
