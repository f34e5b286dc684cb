import { expect, test } from 'vitest';
import type { FrameFigures } from './api';
import { brokenAt, cracksAt } from './mortar';

const frame = (number: number, cracks?: FrameFigures['cracks']): FrameFigures => ({ frame: number, released: {}, moving: 0, resting: 0, energy: 0, overlap: 0, seconds: 0, marks: [], ...(cracks ? { cracks } : {}) });

test('bonds are told by the frame at which they broke, each prop by itself', () => {
    const figures = [frame(0), frame(1, { wall: [[0, 1], [2, 3]] }), frame(2, { wall: [[1, 2]], jar: [[0, 1]] }), frame(3, {})];
    expect([...brokenAt(figures, 'wall')]).toEqual([['0 1', 1], ['2 3', 1], ['1 2', 2]]);
    expect([...brokenAt(figures, 'jar')]).toEqual([['0 1', 2]]);
    expect(brokenAt(figures, 'lid').size).toBe(0);
    expect(figures.map(cracksAt)).toEqual([0, 2, 2, 0]);
});
