import { type ExerciseDocument, inPoints, must, nailLabel, nailsIn, nameToLatex, type Part } from '@nailset/core';
import type { Proof } from '@nailset/core/checks';
import { useMemo, useState } from 'react';
import type { PlotCurve } from '../../plot/curves';
import { frameFor } from '../../plot/frame';
import { GainMapPlot } from '../../plot/GainMapPlot';
import { ResponsePlot } from '../../plot/ResponsePlot';
import { curveFrom } from '../../plot/samples';
import { Button } from '../../shared/Button';
import { Formula } from '../../shared/Formula';
import { useProof } from './useProof';

/** What an instructor knows before publishing: the numbers of ten students, whether it can be solved, usual wrong answers. */
export function ProofPanel({
  document,
  open,
  ready,
}: {
  document: ExerciseDocument;
  /** The part that is proved. */
  open: string;
  /** Nothing is left to mend, so that it can be proved at all. */
  ready: boolean;
}) {
  const { state, start, cancel } = useProof();
  const part = document.parts.find(({ id }) => id === open) ?? must(document.parts[0]);
  const stale = state.state === 'done' && (state.document !== document || state.partId !== part.id);
  return (
    <section aria-label="Proof" className="grid content-start gap-5 px-5 py-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="font-serif text-[18px]">{part.title}</h2>
        {state.state === 'running' ? (
          <span className="flex items-center gap-3 text-[13px]">
            <progress className="h-1.5 w-32 accent-petrol" max={1} value={state.share} aria-label="Proving" />
            <Button onClick={cancel}>Cancel</Button>
          </span>
        ) : (
          <Button look="strong" disabled={!ready} onClick={() => start(document, part.id)}>
            {state.state === 'done' && !stale ? 'Prove again' : 'Prove this part'}
          </Button>
        )}
      </div>
      {!ready && <p className="text-slate">Fix the marked fields first.</p>}
      {state.state === 'failed' && <p className="text-brick">{state.message}</p>}
      {state.state === 'none' && ready && (
        <p className="max-w-prose text-slate">
          Tries the part with the numbers of ten imagined students: what is expected of each, whether it can be solved,
          and what the usual wrong answers are told.
        </p>
      )}
      {stale && <p className="text-note text-copper">The exercise changed, or this is another part. Prove again.</p>}
      {state.state === 'done' && !stale && <Proved proof={state.proof} part={part} />}
    </section>
  );
}

function Proved({ proof, part }: { proof: Proof; part: Part }) {
  return (
    <>
      {proof.warnings.map((warning) => (
        <p key={warning} className="border-l-2 border-copper py-1 pl-3 text-[13px]">
          {warning}
        </p>
      ))}
      {proof.search && <Solvable search={proof.search} part={part} />}
      <Draws proof={proof} part={part} />
      <Curves proof={proof} />
      <Wrong proof={proof} />
    </>
  );
}

function Solvable({ search, part }: { search: NonNullable<Proof['search']>; part: Part }) {
  const solved = search.draws.filter(({ settings }) => settings).length;
  const all = solved === search.draws.length;
  const labels = new Map(nailsIn(part).map((nail) => [nail.id, nailLabel(nail)]));
  return (
    <section aria-label="Can it be solved" className="grid gap-3 @min-[560px]:grid-cols-2">
      <div>
        <h3 className="caption mb-1">Can it be solved</h3>
        <p className={all ? 'text-moss' : 'text-brick'}>{solvedWords(solved, search.draws.length)}</p>
        {search.conflicts.length > 0 && (
          <div className="mt-2 text-[13px]">
            <p>Within the allowed gains nothing was found that holds these together:</p>
            <ul className="list-disc pl-5">
              {search.conflicts.map((set) => (
                <li key={set.join()}>
                  {set.map((id) => labels.get(id) ?? 'the misfit').join(' with ')}
                  {whose(search, set)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <GainMapPlot map={search.map} nails={search.nails.length} />
    </section>
  );
}

function solvedWords(solved: number, of: number): string {
  if (of === 1) return solved ? 'Yes.' : 'No.';
  return solved === of ? `Yes, for all ${of} draws.` : `For ${solved} of ${of} draws.`;
}

/** The draws that have a conflict, where not all have it. */
function whose({ draws }: NonNullable<Proof['search']>, set: readonly string[]): string {
  const ids = draws.flatMap(({ conflicts }, k) =>
    conflicts.some((other) => other.join() === set.join()) ? [String(k + 1)] : [],
  );
  if (ids.length === draws.length) return '';
  return `, for ${ids.length === 1 ? 'draw' : 'draws'} ${ids.join(', ')}`;
}

function Draws({ proof, part }: { proof: Proof; part: Part }) {
  const symbols = Object.keys(must(proof.draws[0]).values);
  const searched = proof.search !== null;
  // What is said of some draws names them by their numbers.
  const numbered = searched && proof.draws.length > 1;
  return (
    <section aria-label="Draws" className="overflow-x-auto">
      <h3 className="caption mb-1">
        {proof.draws.length === 1 ? 'The same numbers for everyone' : `${proof.draws.length} draws`}
      </h3>
      <table className="w-full text-right text-[13px] whitespace-nowrap">
        <thead className="text-note text-slate">
          <tr className="border-b border-rule">
            {numbered && (
              <th scope="col" className="py-1 pr-2 text-left font-normal">
                draw
              </th>
            )}
            {symbols.map((symbol) => (
              <th key={symbol} scope="col" className="px-2 py-1 font-normal">
                <span className="sr-only">{symbol}</span>
                <span aria-hidden="true">
                  <Formula latex={nameToLatex(symbol)} />
                </span>
              </th>
            ))}
            <th scope="col" className="px-2 text-left font-normal">
              {searched ? 'settings that hold' : 'expected'}
            </th>
          </tr>
        </thead>
        <tbody>
          {proof.draws.map(({ values, expected, settings }, k) => (
            <tr key={k} className="border-b border-grid">
              {numbered && (
                <th scope="row" className="py-1 pr-2 text-left font-normal text-slate">
                  {k + 1}
                </th>
              )}
              {symbols.map((symbol) => (
                <td key={symbol} className="px-2 py-1">
                  {values[symbol]}
                </td>
              ))}
              <td className="px-2 py-1 text-left">
                {searched ? (
                  settings ? (
                    Object.entries(settings)
                      .map(([name, value]) => `${name} ${value.replace('-', '−')}`)
                      .join(', ')
                  ) : (
                    <span className="text-brick">none found</span>
                  )
                ) : part.kind === 'transferFunction' ? (
                  <Formula latex={expected ?? ''} />
                ) : (
                  <span className="whitespace-normal">{expected}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Curves({ proof }: { proof: Proof }) {
  const curves = useMemo(
    () =>
      proof.draws.flatMap(({ curve }, k): PlotCurve[] =>
        curve
          ? [
              {
                id: `draw-${k}`,
                curve: curveFrom(curve),
                look: k === 0 ? 'now' : 'held',
                ...(k === 0 && proof.draws.length > 1 ? { label: 'first' } : {}),
              },
            ]
          : [],
      ),
    [proof],
  );
  const tMax = Math.max(0, ...curves.map(({ curve }) => curve.times[curve.times.length - 1] ?? 0));
  const fitted = useMemo(
    () =>
      frameFor(
        tMax || 1,
        curves.map(({ curve }) => curve),
      ),
    [curves, tMax],
  );
  const [frame, setFrame] = useState(fitted);
  if (curves.length === 0) return null;
  return (
    <ResponsePlot
      title={curves.length === 1 ? 'Response' : `Responses to ${curves.length} draws`}
      frame={frame}
      onFit={() => setFrame(fitted)}
      curves={curves}
      summary={`Responses that go with the expected answers to ${curves.length} draws.`}
      className="h-[190px]"
    />
  );
}

function Wrong({ proof }: { proof: Proof }) {
  if (proof.wrong.length === 0) return null;
  return (
    <section aria-label="Usual wrong answers">
      <h3 className="caption mb-1">Usual wrong answers, first draw</h3>
      <ul className="grid gap-2 text-[13px]">
        {proof.wrong.map(({ slip, answer, told, points }, k) => (
          <li key={k} className="border-t border-grid pt-1.5">
            <span className="block">{slip}</span>
            <span className="block font-mono text-note break-all text-slate">{answer}</span>
            <span className="block text-note text-slate">
              {told.startsWith(slip) ? `is told so, and:${told.slice(slip.length)}` : `is told: ${told}`}
              {points > 0 && ` (${inPoints(points)})`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
