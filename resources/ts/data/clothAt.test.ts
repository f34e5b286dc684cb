import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from './api';
import { followCloth, useClothAt } from './clothAt';

describe('what cloth bears', () => {
    beforeEach(() => void vi.useFakeTimers());
    afterEach(() => {
        vi.useRealTimers();
        vi.restoreAllMocks();
    });

    it('is asked for where the playhead comes to stand, not for every frame it passes', async () => {
        const ask = vi.spyOn(api, 'cloth').mockImplementation((_, __, frame) => Promise.resolve({ frame, stretch: { worst: 0.1, mean: 0, gives: 0.2, at: [0, 0, 0], weights: btoa('\xff\0') }, pressure: { most: 4, least: 0, at: [0, 0, 0], weights: btoa('\0\x80') } }));
        let stop = () => {};
        for (let frame = 0; frame <= 118; frame++) {
            stop();
            stop = followCloth('bake', 'sheet', frame);
            await vi.advanceTimersByTimeAsync(30);
        }
        await vi.advanceTimersByTimeAsync(1000);
        expect(ask.mock.calls).toEqual([['bake', 'sheet', 118]]);
        const { of, found } = useClothAt.getState();
        expect([of, [...found!.stretch.weights], [...found!.pressure!.weights]]).toEqual(['sheet', [255, 0], [0, 128]]);
    });

    it('has one question on its way, and then only the newest', async () => {
        const answers: (() => void)[] = [];
        const ask = vi.spyOn(api, 'cloth').mockImplementation((_, __, frame) => new Promise((done) => answers.push(() => done({ frame, stretch: { worst: 0, mean: 0, gives: 1, at: [0, 0, 0], weights: '' }, pressure: null }))));
        for (const frame of [1, 2, 3]) {
            followCloth('bake', 'sheet', frame);
            await vi.advanceTimersByTimeAsync(500);
        }
        expect(ask).toHaveBeenCalledTimes(1);
        answers[0]!();
        await vi.advanceTimersByTimeAsync(10);
        expect(ask.mock.calls.map((c) => c[2])).toEqual([1, 3]);
        answers[1]!();
    });
});
