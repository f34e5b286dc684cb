import { describe, expect, it } from 'vitest';
import { playSpan, withEnd } from './play';

const frames = { first: 0, last: 96, rate: [24, 1] as [number, number] };

describe('playSpan', () => {
    it('is the whole shot without a range, or as far as it is baked', () => {
        expect(playSpan(frames, null, null)).toEqual([0, 96]);
        expect(playSpan(frames, null, 40)).toEqual([0, 40]);
    });
    it('is the range, within the shot and the bake', () => {
        expect(playSpan(frames, [10, 20], null)).toEqual([10, 20]);
        expect(playSpan(frames, [10, 20], 15)).toEqual([10, 15]);
        expect(playSpan(frames, [10, 200], null)).toEqual([10, 96]);
    });
    it('never runs backwards, even where nothing of the range is baked yet', () => {
        expect(playSpan(frames, [30, 60], 5)).toEqual([30, 30]);
        expect(playSpan({ ...frames, last: 20 }, [30, 60], null)).toEqual([20, 20]);
    });
});

describe('withEnd', () => {
    it('moves one end and keeps the other', () => {
        expect(withEnd(frames, null, 0, 12)).toEqual([12, 96]);
        expect(withEnd(frames, [12, 96], 1, 40)).toEqual([12, 40]);
    });
    it('keeps at least two frames', () => {
        expect(withEnd(frames, [12, 40], 0, 80)).toEqual([39, 40]);
        expect(withEnd(frames, [12, 40], 1, 3)).toEqual([12, 13]);
    });
    it('is no range where it would be the whole shot', () => {
        expect(withEnd(frames, [12, 96], 0, 0)).toBeNull();
    });
});
