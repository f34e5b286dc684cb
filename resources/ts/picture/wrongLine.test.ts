import { describe, expect, it } from 'vitest';
import { freeLineName, wrongLine } from './ScoreBoard';

describe('freeLineName', () => {
    const line = (name?: string) => ({ points: [], closed: false, ...(name === undefined ? {} : { name }) });
    it('goes on from the number of lines, past names that are taken', () => {
        expect(freeLineName([])).toBe('1');
        expect(freeLineName([line(), line()])).toBe('3');
        expect(freeLineName([line('2'), line('3')])).toBe('4');
        expect(freeLineName([line('1'), line('3')])).toBe('4');
    });
});

describe('wrongLine', () => {
    it('finds the line a problem is about', () => {
        expect(wrongLine('lines.lines[2]', 'break')).toBe(2);
        expect(wrongLine('props[1].break.values.lines.lines[0].points[4]', 'break')).toBe(0);
        expect(wrongLine('rework[3].values.lines.lines[1]', 3)).toBe(1);
    });
    it('finds none elsewhere', () => {
        expect(wrongLine('lines', 'break')).toBe(-1);
        expect(wrongLine('props[3].break', 'break')).toBe(-1);
        expect(wrongLine('rework[3].values.lines.lines[1]', 'break')).toBe(-1);
        expect(wrongLine('lines.lines[1]', 0)).toBe(-1);
        expect(wrongLine(undefined, 'break')).toBe(-1);
    });
});
