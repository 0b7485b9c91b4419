import {
  fitFraction,
  fitFrequency,
  fitStep,
  formatNumber,
  isOverTime,
  rationalToNumber,
  type SheetData,
  type StructureName,
  withDeadTime,
} from '@nailset/core';
import { readFrequencyTable, readTable } from '../../shared/readTable';

/** A table of a file: over frequency where its heading says so, over time otherwise. @throws Error in words. */
export function dataFrom(file: string, text: string, most: number): SheetData {
  const name = file.replace(/\.\w+$/, '').slice(0, 40);
  const heading = text.slice(0, text.search(/\r?\n/) + 1);
  if (/\bhz\b|rad\s*\/\s*s|freq|omega|ω|\bdb\b/i.test(heading)) return { name, ...readFrequencyTable(text) };
  const { times, values } = readTable(text);
  const step = Math.ceil(times.length / most);
  const isKept = (_: number, k: number) => k % step === 0;
  return { name, times: times.filter(isKept), values: values.filter(isKept) };
}

/** Of a frequency response, by how many zeros and poles. */
const orders: Readonly<Record<string, readonly [zeros: number, poles: number]>> = {
  'one zero, two poles': [1, 2],
  'two zeros, two poles': [2, 2],
  'one zero, three poles': [1, 3],
  'two zeros, four poles': [2, 4],
};

/** A model fitted to a table, as the text of a line, and how far off it stays. @throws Problem where none fits. */
export function fitted(data: SheetData, structure: string, amplitude: number): { text: string; words: string } {
  const order = orders[structure];
  const fit = isOverTime(data)
    ? fitStep({ ...data, amplitude }, structure as StructureName)
    : order
      ? fitFraction(data, ...order)
      : fitFrequency(data, structure as StructureName);
  const plain = withDeadTime(fit.transfer);
  if (!plain) throw new Error('A fit has its dead time as a factor.');
  const { fraction, deadTime } = plain;
  const list = ({ integers, denominator }: { integers: readonly bigint[]; denominator: bigint }) =>
    `[${[...integers]
      .reverse()
      .map((numerator) => short(rationalToNumber({ numerator, denominator })))
      .join(', ')}]`;
  const delay = rationalToNumber(deadTime);
  const text = `${list(fraction.numerator)}/${list(fraction.denominator)}${delay > 0 ? `*exp(-${short(delay)}*s)` : ''}`;
  const unit = isOverTime(data) ? '' : ' dB';
  const { rms, largest } = fit.misfit;
  return { text, words: `misfit ${formatNumber(rms)}${unit} on average, ${formatNumber(largest)}${unit} at most` };
}

const short = (value: number): string => String(Number(value.toPrecision(6)));
