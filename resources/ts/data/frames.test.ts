import { afterEach, describe, expect, it, vi } from 'vitest';
import { FrameStore, readFrames } from './frames';

/** A record as the server writes it: poses of each prop, of so many pieces. */
function record(frame: number, counts: readonly number[], extra: { prop: number; kind: number; bytes: Uint8Array }[] = []): Uint8Array {
    const streams = [...counts.map((n, prop) => ({ prop, kind: 1, bytes: new Uint8Array(new Float32Array(8 * n).fill(frame).buffer) })), ...extra];
    let at = 16 + 16 * streams.length;
    const length = streams.reduce((n, s) => n + Math.ceil(s.bytes.length / 4) * 4, at);
    const out = new Uint8Array(length);
    const view = new DataView(out.buffer);
    out.set([0x59, 0x42, 0x46, 0x31]);
    view.setUint32(4, length, true);
    view.setInt32(8, frame, true);
    view.setUint32(12, streams.length, true);
    streams.forEach((s, k) => {
        const entry = 16 + 16 * k;
        view.setUint16(entry, s.prop, true);
        view.setUint16(entry + 2, s.kind, true);
        view.setUint32(entry + 8, at, true);
        view.setUint32(entry + 12, s.bytes.length, true);
        out.set(s.bytes, at);
        at += Math.ceil(s.bytes.length / 4) * 4;
    });
    return out;
}

function joined(parts: Uint8Array[]): ArrayBuffer {
    const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
    let at = 0;
    for (const p of parts) {
        out.set(p, at);
        at += p.length;
    }
    return out.buffer;
}

describe('readFrames', () => {
    it('reads each prop, and what is not usual of it', () => {
        const frames = readFrames(joined([record(4, [2, 1]), record(5, [2, 1], [{ prop: 1, kind: 5, bytes: new Uint8Array([0]) }, { prop: 0, kind: 6, bytes: new Uint8Array(new Float32Array([0.5, 1]).buffer) }])]), 2);
        expect(frames.map((f) => f.map((p) => p.poses.length))).toEqual([[16, 8], [16, 8]]);
        expect(frames[0]!.map((p) => [p.seen, p.sizes])).toEqual([[true, null], [true, null]]);
        expect([frames[1]![1]!.seen, [...frames[1]![0]!.sizes!]]).toEqual([false, [0.5, 1]]);
    });
    it('leaves out a frame that is cut, and refuses what it does not know', () => {
        const whole = record(1, [3]);
        expect(readFrames(joined([whole, whole.subarray(0, 40)]), 1)).toHaveLength(1);
        expect(() => readFrames(new ArrayBuffer(64), 1)).toThrow('no baked frames');
    });
});

describe('FrameStore', () => {
    afterEach(() => vi.unstubAllGlobals());

    it('asks on where fewer frames come at once than it asked for, as of large ones', async () => {
        const asked: string[] = [];
        vi.stubGlobal('fetch', (url: string) => {
            const [from, count] = [Number(/from=(\d+)/.exec(url)![1]), Number(/count=(\d+)/.exec(url)![1])];
            asked.push(`${from} ${count}`);
            return Promise.resolve(new Response(joined(Array.from({ length: Math.min(4, count) }, (_, k) => record(from + k, [2])))));
        });
        const store = new FrameStore('bake', [2], () => undefined);
        await store.fill(9, 10);
        expect(asked).toEqual(['0 10', '4 6', '8 2']);
        expect(store.get(9)![0]!.poses[0]).toBe(9);
        expect(store.run).toBe(10);
    });

    it('scrubs a thousand frames of 5,000 pieces without holding them all', async () => {
        const counts = [5000];
        vi.stubGlobal('fetch', (url: string) => {
            const [from, count] = [Number(/from=(\d+)/.exec(url)![1]), Number(/count=(\d+)/.exec(url)![1])];
            return Promise.resolve(new Response(joined(Array.from({ length: count }, (_, k) => record(from + k, counts)))));
        });
        const store = new FrameStore('bake', counts, () => undefined);
        for (const frame of [0, 300, 999, 500, 20]) {
            await store.fill(frame, 1000);
            expect(store.get(frame)?.[0]?.poses[0]).toBe(frame);
            expect(store.held).toBeLessThan(100_000_000);
        }
        // All of them would be 160 MB.
        expect(store.get(900)).toBeNull();
    });

    it('asks for few frames at once where there is dust, however few pieces there are', async () => {
        const asked: number[] = [];
        vi.stubGlobal('fetch', (url: string) => {
            const [from, count] = [Number(/from=(\d+)/.exec(url)![1]), Number(/count=(\d+)/.exec(url)![1])];
            asked.push(count);
            return Promise.resolve(new Response(joined(Array.from({ length: count }, (_, k) => record(from + k, [1])))));
        });
        await new FrameStore('bake', [1], () => undefined, true).fill(0, 12);
        expect(Math.max(...asked)).toBe(3);
        asked.length = 0;
        await new FrameStore('bake', [1], () => undefined).fill(0, 12);
        expect(asked).toEqual([12]);
    });
});
