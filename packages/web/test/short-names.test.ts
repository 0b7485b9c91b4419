import { shortNames } from '../src/classSheet/summary';

test.each([
  ['Kofi Lindqvist', ['Kofi Lindqvist', 'Ana Voss'], 'Kofi'],
  ['Ana Voss', ['Ana Voss', 'Ana Brink'], 'Ana V.'],
  ['Ana Voss', ['Ana Voss', 'Ana Vega', 'Ana Brink'], 'Ana Voss'],
  ['Ana Brink', ['Ana Voss', 'Ana Vega', 'Ana Brink'], 'Ana B.'],
  ['Ana Voss', ['Ana Voss', 'Ana Voss'], 'Ana'],
  ['田中太郎', ['田中太郎', '田中花子'], '田中太郎'],
  ['Ana', ['Ana', 'Ana Voss'], 'Ana'],
  ['Ana Maria da Silva', ['Ana Maria da Silva', 'Ana Voss'], 'Ana S.'],
])('%s among %j is %s', (name, names, short) => {
  expect(shortNames(names)(name)).toBe(short);
});

test('no two of a class are called alike', () => {
  const names = Array.from({ length: 300 }, (_, k) => `Student ${k}`);
  expect(new Set(names.map(shortNames(names))).size).toBe(300);
});
