import { afterEach, describe, expect, it, vi } from 'vitest';
import { ask, CutOff, untilWhole } from './api';

describe('what breaks off on its way', () => {
    it('is asked for again until it is whole', async () => {
        vi.useFakeTimers();
        let asked = 0;
        const got = untilWhole(async () => {
            if (++asked < 4) throw new CutOff();
            return 'whole';
        }, new AbortController().signal);
        await vi.runAllTimersAsync();
        expect(await got).toBe('whole');
        expect(asked).toBe(4);
        vi.useRealTimers();
    });

    it('is given up after a while, and at once where it is not wanted any more or something else is wrong', async () => {
        vi.useFakeTimers();
        let asked = 0;
        const never = untilWhole(async () => { asked++; throw new CutOff(); }, new AbortController().signal);
        const said = expect(never).rejects.toBeInstanceOf(CutOff);
        await vi.runAllTimersAsync();
        await said;
        expect(asked).toBe(20);
        vi.useRealTimers();
        const left = new AbortController();
        left.abort();
        await expect(untilWhole(async () => { throw new CutOff(); }, left.signal)).rejects.toBeInstanceOf(CutOff);
        await expect(untilWhole(async () => { throw new RangeError('else'); }, new AbortController().signal)).rejects.toBeInstanceOf(RangeError);
    });
});

describe('a question whose way breaks before anything came', () => {
    afterEach(() => {
        vi.unstubAllGlobals();
        vi.useRealTimers();
    });

    it('is asked once more where it changes nothing, and said to be out of reach after that', async () => {
        vi.useFakeTimers();
        const fetch = vi.fn().mockRejectedValueOnce(new TypeError('gone')).mockResolvedValue(new Response('{}'));
        vi.stubGlobal('fetch', fetch);
        const got = ask('shots');
        await vi.runAllTimersAsync();
        expect((await got).ok).toBe(true);
        expect(fetch).toHaveBeenCalledTimes(2);
        fetch.mockReset().mockRejectedValue(new TypeError('gone'));
        const never = expect(ask('shots')).rejects.toMatchObject({ status: 0 });
        await vi.runAllTimersAsync();
        await never;
        expect(fetch).toHaveBeenCalledTimes(2);
    });

    it('is not asked again where it changes something: it may have come through', async () => {
        const fetch = vi.fn().mockRejectedValue(new TypeError('gone'));
        vi.stubGlobal('fetch', fetch);
        await expect(ask('shots', { method: 'POST' })).rejects.toMatchObject({ status: 0 });
        expect(fetch).toHaveBeenCalledTimes(1);
    });
});
