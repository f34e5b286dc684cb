import { describe, expect, it } from 'vitest';
import { along, playSpan, withEnd, zoomed } from './play';

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

describe('zoomed', () => {
    const frames = { first: 0, last: 100, rate: [24, 1] as [number, number] };
    it('keeps the frame under the pointer where it is, and stays within the shot', () => {
        expect(zoomed(frames, [0, 100], 50, 0.5)).toEqual([25, 75]);
        expect(zoomed(frames, [0, 100], 0, 0.5)).toEqual([0, 50]);
        expect(zoomed(frames, [25, 75], 75, 0.5)).toEqual([50, 75]);
    });
    it('never shows less than a few frames, and all of them is no stretch', () => {
        expect(zoomed(frames, [40, 48], 44, 0.1)).toEqual([40, 48]);
        expect(zoomed(frames, [10, 90], 50, 2)).toBeNull();
    });
    it('goes along as far as the shot goes', () => {
        expect(along(frames, [10, 30], 20)).toEqual([30, 50]);
        expect(along(frames, [10, 30], 200)).toEqual([80, 100]);
        expect(along(frames, [10, 30], -200)).toEqual([0, 20]);
    });
});
