/** @jest-environment jsdom */
import type { ExerciseDocument, GainsPart } from '@nailset/core';
import { prove } from '@nailset/core/checks';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { newExercise } from '../src/builder/newExercise';
import { ProofPanel } from '../src/builder/proof/ProofPanel';
import { watchSizes } from './page';
import { Stand, standInForWorkers } from './standIn';

beforeAll(watchSizes);

describe('the proof', () => {
  standInForWorkers();
  const draft: ExerciseDocument = newExercise();
  const finished = (document: ExerciseDocument) => {
    const work = prove(document, document.parts[0]!);
    let next = work.next();
    while (!next.done) next = work.next();
    return next.value;
  };

  test('shows its progress, can be cancelled, and tells what it found', async () => {
    render(<ProofPanel document={draft} open="tune" ready />);
    await userEvent.click(screen.getByRole('button', { name: 'Prove this part' }));
    Stand.last.say({ share: 0.4 });
    expect(screen.getByRole('progressbar').getAttribute('value')).toBe('0.4');
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(Stand.last.ended).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Prove this part' }));
    const proof = finished(draft);
    Stand.last.say({ proof });
    // Of ten students some have the same numbers.
    const different = proof.draws.length;
    expect([different > 2, different <= 6]).toEqual([true, true]);
    expect(screen.getByText(`Yes, for all ${different} draws.`)).toBeTruthy();
    expect(screen.getByRole('img', { name: /^Gain map over Kp and Kd: all 2 nails hold on/ })).toBeTruthy();
    const draws = within(screen.getByRole('region', { name: 'Draws' }));
    expect(draws.getAllByRole('row')).toHaveLength(1 + different);
  });

  test('names nails that conflict', async () => {
    const part = draft.parts[0] as GainsPart;
    const nails: GainsPart['nails'] = [
      { id: 'slow', quantity: 'riseTime', relation: 'atLeast', limit: 2, points: 1 },
      { id: 'fast', quantity: 'settlingTime', relation: 'atMost', limit: 0.3, points: 1 },
    ];
    const document = { ...draft, parts: [{ ...part, nails }] };
    render(<ProofPanel document={document} open="tune" ready />);
    await userEvent.click(screen.getByRole('button', { name: 'Prove this part' }));
    // What the search finds is tested in the core; here it is what becomes of it.
    const proof = finished(draft);
    const search = proof.search!;
    const conflicts = [['slow', 'fast']];
    const draws = search.draws.map((each, k) => ({
      ...{ ...each, settings: null },
      conflicts: k < 2 ? conflicts : [],
    }));
    Stand.last.say({ proof: { ...proof, search: { ...search, nails: ['slow', 'fast'], draws, conflicts } } });
    expect(screen.getByText(`For 0 of ${draws.length} draws.`)).toBeTruthy();
    expect(screen.getByText(/Rise time, 10–90 %/).textContent).toBe(
      'Rise time, 10–90 % with Settling, 2 %, for draws 1, 2',
    );
    // The table has the same numbers.
    const heads = within(screen.getByRole('region', { name: 'Draws' })).getAllByRole('rowheader');
    expect(heads.map((head) => head.textContent)).toEqual(draws.map((_, k) => String(k + 1)));
  });

  test('says it once where everyone has the same numbers', async () => {
    const document = {
      ...draft,
      parameters: draft.parameters.map((each) => ({ ...each, draw: { kind: 'fixed' as const, value: 2 } })),
    };
    render(<ProofPanel document={document} open="tune" ready />);
    await userEvent.click(screen.getByRole('button', { name: 'Prove this part' }));
    Stand.last.say({ proof: finished(document) });
    expect(screen.getByText('Yes.')).toBeTruthy();
    const draws = within(screen.getByRole('region', { name: 'Draws' }));
    expect(draws.getByText('The same numbers for everyone')).toBeTruthy();
    expect(draws.getAllByRole('row')).toHaveLength(2);
  });

  test('is asked for again when the exercise changed, and not while it has to be mended', async () => {
    const { rerender } = render(<ProofPanel document={draft} open="tune" ready />);
    await userEvent.click(screen.getByRole('button', { name: 'Prove this part' }));
    Stand.last.say({ proof: finished(draft) });
    rerender(<ProofPanel document={{ ...draft, title: 'Other' }} open="tune" ready />);
    expect(screen.getByText(/The exercise changed/)).toBeTruthy();
    rerender(<ProofPanel document={draft} open="tune" ready={false} />);
    expect(screen.getByText(/Fix the marked fields/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Prove/ }).disabled).toBe(true);
  });
});
