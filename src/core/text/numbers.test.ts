import fc from 'fast-check';
import { decimalSignOf, numberFault, readBack, readNumber, unmistakable } from './numbers';

it.each([
  ['1,5', 1.5],
  ['1.5', 1.5],
  ['1.234,5', 1234.5],
  ["1'234.5", 1234.5],
  ["2'500", 2500],
  ['2 500,50', 2500.5],
  ['2\u202f500,50', 2500.5],
  ['1,234,567', 1234567],
  ['1.234.567,25', 1234567.25],
  ['0.125', 0.125],
  ['-0,125', -0.125],
  ['1234.567', 1234.567],
  ['12.3456', 12.3456],
  ['−32', -32],
  ['1e3', 1000],
  ['', null],
  ['1e400', null],
  ['12a', null],
  ['1 2', null],
  ['12 34', null],
  ['1.23.456', null],
  ['1,234.5,6', null],
  ['1.2345,6', null],
])('reads %j as %j', (text, value) => {
  expect(readNumber(text)).toBe(value);
});

it.each([
  ['2.500', '“2.500” can mean 2500 or 2.5; write 2500 or 2.5.'],
  ['2,500', '“2,500” can mean 2500 or 2.5; write 2500 or 2.5.'],
  ['-12.345', '“-12.345” can mean -12345 or -12.345; write -12345 or -12.3450.'],
])('refuses %j, which can mean two things, and says what to write', (text, fault) => {
  expect(numberFault(text)).toBe(fault);
  for (const clear of fault.replace(/.*write (.*)\.$/, '$1').split(' or ')) {
    expect(numberFault(clear)).toBeNull();
  }
});

it('reads what is left open as the rest of the list shows it', () => {
  expect(decimalSignOf(['name', '2.500', '1.25', '40'])).toBe('.');
  expect(decimalSignOf(['2.500', '1.234,5'])).toBe(',');
  expect(decimalSignOf(['2.500', '1.234.567'])).toBe(',');
  expect(decimalSignOf(['2.500', '3.750'])).toBeNull();
  expect(decimalSignOf(['1.25', '1,25'])).toBeNull();
  expect(readNumber('2.500', '.')).toBe(2.5);
  expect(readNumber('2.500', ',')).toBe(2500);
  expect(readNumber('2,500', ',')).toBe(2.5);
});

it('shows back what was read where it was written another way', () => {
  expect(readBack('2 500,50')).toBe('= 2500.5');
  expect(readBack('1,5')).toBe('= 1.5');
  for (const plain of ['2500', '2.5', '2.50', '-3', '', 'x', '2.500'])
    expect(readBack(plain)).toBeNull();
});

it('what it writes it reads again, whatever the number', () => {
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => {
      expect(readNumber(unmistakable(value))).toBe(value === 0 ? 0 : value);
    }),
  );
  expect(unmistakable(1.125)).toBe('1.1250');
});
