/** Numbers as people type and read them. */
import { amountText, readAmount } from '@yellowhammer/core/fields/amounts';
import { numberText, typedNumber } from '@yellowhammer/core/model/number-text';
import fc from 'fast-check';

test.each<[string, number | undefined]>([
  ['12', 12],
  ['12.5', 12.5],
  ['0.5', 0.5],
  ['.5', 0.5],
  ['12.', 12],
  // A comma before just three digits parts thousands, elsewhere it is the decimal sign.
  ['12,5', 12.5],
  ['0,5', 0.5],
  [',5', 0.5],
  ['0,125', 0.125],
  ['12,50', 12.5],
  ['1,250', 1250],
  ['1,250.75', 1250.75],
  ['12,345,678', 12_345_678],
  ['1234,567', 1234.567],
  ['1234567,5', 1234567.5],
  ['12.345,6', 12_345.6],
  ['1.234.567', 1_234_567],
  ['1.234.567,89', 1_234_567.89],
  // One point is always the decimal sign.
  ['1.250', 1.25],
  ['1 234', 1234],
  ['1\u202f234,5', 1234.5],
  ['1’234.50', 1234.5],
  ['-3', -3],
  ['−3,5', -3.5],
  ['+1,250', 1250],
  ['1.5e3', 1500],
  ['1,5,0', undefined],
  ['1,23,456', undefined],
  ['12,', undefined],
  ['1.2.3', undefined],
  ['1,250,5', undefined],
  ['0x10', undefined],
  ['1e999', undefined],
  ['five', undefined],
  ['5 each', undefined],
  ['', undefined],
  ['-', undefined],
  ['.', undefined],
])('%s is %s', (text, expected) => expect(typedNumber(text)).toBe(expected));

test('what is shown reads back', () => {
  fc.assert(fc.property(fc.integer({ min: -1e12, max: 1e12 }), (n) => typedNumber(numberText(n / 100, 2)) === n / 100 && readAmount(amountText(n / 100)) === n / 100));
  expect([readAmount(' '), readAmount('12,50'), readAmount('1e13'), readAmount('much')]).toEqual([null, 12.5, undefined, undefined]);
});
