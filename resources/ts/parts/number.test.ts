import { describe, expect, it } from 'vitest';
import { readNumber, showLength, showNumber } from './number';

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
        expect(showLength(0.12)).toBe('12 cm');
        expect(showLength(0.004)).toBe('4 mm');
    });
});
