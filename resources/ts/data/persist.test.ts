import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { MapTold } from './api';
import { fill, heldAt } from './maps';

/** The bytes of one frame of weights. */
function frame(): ArrayBuffer {
    const bytes = new ArrayBuffer(31);
    new DataView(bytes).setUint32(0, 0x59425731);
    new DataView(bytes).setUint32(4, 3, true);
    return bytes;
}

const told = (key: string): MapTold => ({ first: 0, keys: [key], coverage: [[0, 1, 0, 1, 1]], done: true, problem: null }) as unknown as MapTold;

describe('frames that are wanted', () => {
    beforeEach(() => { vi.useFakeTimers(); });
    afterEach(() => { vi.useRealTimers(); vi.unstubAllGlobals(); });

    it('are fetched again after the server was out of reach or busy', async () => {
        let asks = 0;
        vi.stubGlobal('fetch', () => {
            asks++;
            if (asks === 1) return Promise.reject(new TypeError('network'));
            return Promise.resolve(asks === 2 ? new Response('{}', { status: 503 }) : new Response(frame()));
        });
        const one = told('busy');
        const done = fill(one, () => true);
        await vi.advanceTimersByTimeAsync(10_000);
        await done;
        expect(asks).toBe(3);
        expect(heldAt(one, 0)?.weights.length).toBe(3);
    });

    it('are let be once they are wanted no more, or are gone for good', async () => {
        let asks = 0;
        let wanted = true;
        vi.stubGlobal('fetch', () => { asks++; return Promise.resolve(new Response('{}', { status: wanted ? 503 : 404 })); });
        const done = fill(told('unwanted'), () => wanted);
        await vi.advanceTimersByTimeAsync(100);
        wanted = false;
        await vi.advanceTimersByTimeAsync(60_000);
        await done;
        expect(asks).toBe(1);
        const gone = fill(told('gone'), () => true);
        await vi.advanceTimersByTimeAsync(60_000);
        await gone;
        expect(asks).toBe(2);
    });
});
