import { describe, expect, it } from 'vitest';
import { wrongLine } from './ScoreBoard';

describe('wrongLine', () => {
    it('finds the line a problem is about', () => {
        expect(wrongLine('lines.lines[2]')).toBe(2);
        expect(wrongLine('props[1].break.values.lines.lines[0].points[4]')).toBe(0);
    });
    it('finds none elsewhere', () => {
        expect(wrongLine('lines')).toBe(-1);
        expect(wrongLine('props[3].break')).toBe(-1);
        expect(wrongLine(undefined)).toBe(-1);
    });
});
