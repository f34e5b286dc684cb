import { describe, expect, it } from 'vitest';
import { readNumber, show, showAll, showNumber } from './quantity';

describe('readNumber', () => {
    it('reads numbers and simple sums', () => {
        expect(readNumber('1/24', '')).toBeCloseTo(1 / 24, 12);
        expect(readNumber('2 + 3 * (4 - 1)', '')).toBe(11);
        expect(readNumber('-0.5', 'm')).toBe(-0.5);
        expect(readNumber('0,25', 'm')).toBe(0.25);
    });
    it('reads units: an inch is 25.4 mm and a foot 12 of them (international yard and pound, 1959)', () => {
        expect(readNumber('12 cm', 'm')).toBeCloseTo(0.12, 12);
        expect(readNumber('1in', 'm')).toBeCloseTo(0.0254, 12);
        expect(readNumber('1 ft', 'm')).toBeCloseTo(12 * 0.0254, 12);
        expect(readNumber('36 km/h', 'm/s')).toBeCloseTo(10, 12);
    });
    it.each(['', 'abc', '1 +', '(2', '1/0', '3 apples', '2..5'])('refuses %j', (text) => {
        expect(readNumber(text, 'm')).toBeNull();
    });
});

describe('showing', () => {
    it('is short', () => {
        expect(showNumber(0.1 + 0.2)).toBe('0.3');
        expect(showNumber(0.0000123)).toBe('0.0000123');
    });
    it.each([
        [170123, 'J', '170 kJ'], [0.0032, 'm', '3.2 mm'], [0.041, 'kg', '41 g'], [0.12, 'm', '12 cm'], [0.004, 'm', '4 mm'], [1200, 'm', '1.2 km'], [25e-6, 'm', '25 µm'],
        [0, 'm', '0 m'], [-0.5, 'm', '-50 cm'], [0.02, 'm³', '20 l'], [0.2, 'm³', '0.2 m³'], [3e-5, 'm³', '30 cm³'], [5e-10, 'm³', '0.5 mm³'], [2500, 'kg', '2.5 t'], [0.25, 's', '250 ms'], [100, 's', '100 s'], [150, 's', '2.5 min'],
        [1536, 'B', '1.54 kB'], [0.00002, 'J', '20 µJ'], [0.99996, 'm', '1 m'], [12.5, '°', '12.5 °'], [7, '', '7'],
    ])('says %d %s as %s', (value, unit, words) => expect(show(value, unit)).toBe(words));
    it('says several with one multiple', () => {
        expect(showAll([0.5, 0.25, 1], 'm')).toBe('0.5 × 0.25 × 1 m');
        expect(showAll([0.005, 0.002, 0.001], 'm')).toBe('5 × 2 × 1 mm');
    });
});
