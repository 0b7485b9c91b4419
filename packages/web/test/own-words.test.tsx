/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react';
import { KeysDialog } from '../src/bench/KeysDialog';
import { type OwnWordName, ownWords } from '../src/shared/OwnWord';

/** What a page that is loaded anew shows to a word: nothing is left of earlier ones but what the browser keeps. */
async function onFreshPage(...words: OwnWordName[]): Promise<string> {
  jest.resetModules();
  const { createElement } = await import('react');
  const { renderToStaticMarkup } = await import('react-dom/server');
  const { OwnWord } = await import('../src/shared/OwnWord');
  const pages = words.map((word) => renderToStaticMarkup(createElement(OwnWord, { word })));
  return pages.join('').replace(/<[^>]*>/g, '');
}

beforeEach(() => localStorage.clear());

test('a word is explained on the first three pages with it, and then known', async () => {
  const texts: string[] = [];
  for (let k = 0; k < 5; k++) texts.push(await onFreshPage('nail'));
  expect(texts.map(Boolean)).toEqual([true, true, true, false, false]);
  expect(texts[0]).toBe('What the response must meet; solid when it holds.');
});

test('each word is counted by itself, and once a page', async () => {
  for (let k = 0; k < 4; k++) await onFreshPage('nail');
  expect(await onFreshPage('slip', 'trail', 'trail', 'trail')).toMatch(/^A usual mistake .*\.Every setting/);
  expect(JSON.parse(localStorage.getItem('nailset words met')!)).toEqual({ nail: 4, slip: 1, trail: 1 });
});

test.each(['no JSON', '7', 'null', '{"nail":"often"}'])('%s in the browser stops nothing', async (kept) => {
  localStorage.setItem('nailset words met', kept);
  expect(await onFreshPage('nail')).toBe('What the response must meet; solid when it holds.');
});

test('the list under ? has every word that is explained', () => {
  render(<KeysDialog open onOpenChange={() => undefined} />);
  for (const [word, sentence] of Object.entries(ownWords)) {
    expect(screen.getByText(word)).toBeTruthy();
    expect(screen.getByText(sentence)).toBeTruthy();
  }
});
