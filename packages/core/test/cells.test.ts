import { cellText } from '../src/index';

test.each([
  ['=1+2', "'=1+2"],
  ['+cmd', "'+cmd"],
  ['-2+3+cmd|x', "'-2+3+cmd|x"],
  ['−A1', "'−A1"],
  ['@sum', "'@sum"],
  ['\t=1', "'\t=1"],
  ['-2', '-2'],
  ['-2.5e-3', '-2.5e-3'],
  ['+0,5', '+0,5'],
  ['1/(s+1)', '1/(s+1)'],
  ['', ''],
])('%j stands in a table as %j', (text, cell) => {
  expect(cellText(text)).toBe(cell);
});
