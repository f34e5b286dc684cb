import { describe, expect, it, vi } from 'vitest';
import { CutOff, untilWhole } from './api';

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
