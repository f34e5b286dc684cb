import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from './api';
import { followStretch, useStretch } from './stretch';

describe('the stretch of cloth', () => {
    beforeEach(() => void vi.useFakeTimers());
    afterEach(() => {
        vi.useRealTimers();
        vi.restoreAllMocks();
    });

    it('is asked for where the playhead comes to stand, not for every frame it passes', async () => {
        const ask = vi.spyOn(api, 'stretch').mockImplementation((_, __, frame) => Promise.resolve({ frame, worst: 0.1, mean: 0, gives: 0.2, at: [0, 0, 0], weights: btoa('\xff\0') }));
        let stop = () => {};
        for (let frame = 0; frame <= 118; frame++) {
            stop();
            stop = followStretch('bake', 'sheet', frame);
            await vi.advanceTimersByTimeAsync(30);
        }
        await vi.advanceTimersByTimeAsync(1000);
        expect(ask.mock.calls).toEqual([['bake', 'sheet', 118]]);
        expect([useStretch.getState().of, [...useStretch.getState().found!.weights]]).toEqual(['sheet', [255, 0]]);
    });

    it('has one question on its way, and then only the newest', async () => {
        const answers: (() => void)[] = [];
        const ask = vi.spyOn(api, 'stretch').mockImplementation((_, __, frame) => new Promise((done) => answers.push(() => done({ frame, worst: 0, mean: 0, gives: 1, at: [0, 0, 0], weights: '' }))));
        for (const frame of [1, 2, 3]) {
            followStretch('bake', 'sheet', frame);
            await vi.advanceTimersByTimeAsync(500);
        }
        expect(ask).toHaveBeenCalledTimes(1);
        answers[0]!();
        await vi.advanceTimersByTimeAsync(10);
        expect(ask.mock.calls.map((c) => c[2])).toEqual([1, 3]);
        answers[1]!();
    });
});
