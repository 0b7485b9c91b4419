import { factoredToLatex, fractionOf, fractionToLatex, nameToLatex, parse, toLatex } from '../src/index';

describe('names are set as course books set them', () => {
  test.each([
    ['K', 'K'],
    ['Kp', 'K_{p}'],
    ['G12', 'G_{12}'],
    ['zeta', '\\zeta'],
    ['tau1', '\\tau_{1}'],
    ['omegan', '\\omega_{n}'],
    ['wn', '\\omega_{n}'],
    ['wd', '\\omega_{d}'],
    ['T_d', 'T_{d}'],
    ['zeta_1', '\\zeta_{1}'],
    ['ζ', 'ζ'],
    ['offset', '\\mathit{offset}'],
  ])('%s', (name, latex) => {
    expect(nameToLatex(name)).toBe(latex);
  });
});

describe('what was typed keeps its structure', () => {
  test.each([
    ['s+1', 's+1'],
    ['1/(s+1)/(s+2)', '\\frac{\\frac{1}{s+1}}{s+2}'],
    ['(s+1)*(s+2)', '\\left(s+1\\right)\\,\\left(s+2\\right)'],
    ['-(s+1)', '-\\left(s+1\\right)'],
    ['1-(-s)', '1-\\left(-s\\right)'],
    ['(1/s)^2', '\\left(\\frac{1}{s}\\right)^{2}'],
    ['2*s^3', '2\\,s^{3}'],
    ['2*3', '2\\cdot 3'],
    ['s*2', 's\\cdot 2'],
    ['K*1/s', '\\frac{K\\cdot 1}{s}'],
    ['1.50e4', '1.50\\cdot 10^{4}'],
    ['s^-1', 's^{-1}'],
  ])('%s', (text, latex) => {
    expect(toLatex(parse(text))).toBe(latex);
  });
});

describe('fractions', () => {
  test.each([
    ['s^2+1', 's^{2}+1'],
    ['-s', '-s'],
    ['1/(2s-1)', '\\frac{1}{2\\,s-1}'],
    ['0', '0'],
    ['1/3', '\\frac{1}{3}'],
    ['100000000*s', '100000000\\,s'],
    ['123456789*s', '123460000\\,s'],
    ['1e-9/(s+1)', '\\frac{1\\cdot 10^{-9}}{s+1}'],
  ])('%s expanded', (text, latex) => {
    expect(fractionToLatex(fractionOf(text))).toBe(latex);
  });

  test.each([
    ['1/(s^2+3s+2)', '\\frac{1}{\\left(s+2\\right)\\left(s+1\\right)}'],
    ['1/(s+1)^3', '\\frac{1}{\\left(s+1\\right)^{3}}'],
    ['5', '5'],
    ['2(s+1)/(s+1)', '2'],
    ['(2s+1)/(4s+8)', '\\frac{0.5\\,\\left(s+0.5\\right)}{s+2}'],
    ['-(s+1)/s', '\\frac{-\\left(s+1\\right)}{s}'],
    ['(s-1)/(s^2+2)', '\\frac{s-1}{s^{2}+2}'],
    ['1/(s^2*(3s+1))', '\\frac{0.33333}{\\left(s+0.33333\\right)s^{2}}'],
  ])('%s factored', (text, latex) => {
    expect(factoredToLatex(fractionOf(text))).toBe(latex);
  });
});
