import { describe, expect, it } from 'vitest';
import { ago, readTime, timecode } from './time';

describe('ago', () => {
    it('says how long ago something was', () => {
        const now = Date.parse('2026-12-01T12:00:00Z');
        const all = [['2026-12-01T11:59:30Z', 'just now'], ['2026-12-01T12:00:05Z', 'just now'], ['2026-12-01T11:18:00Z', '42 min'], ['2026-12-01T09:30:00Z', '2 h'], ['2026-11-28T12:00:00Z', '3 d'], ['2026-11-20T12:00:00Z', '2026-11-20']] as const;
        for (const [at, words] of all) expect(ago(at, now)).toBe(words);
    });
});

describe('readTime', () => {
    it('reads frames, seconds and timecodes', () => {
        for (const [text, frame] of [['48', 48], ['-3', -3], ['2 s', 48], ['1.5s', 36], ['.5 s', 12], ['00:00:02:00', 48], ['1:12', 36], ['1:00:00:00', 86400]] as const) expect(readTime(text, [24, 1])).toBe(frame);
    });
    it('refuses what is no moment', () => {
        for (const text of ['', 'soon', '1:24', '60:00', '1,5 s', '12 m', '1::2']) expect(readTime(text, [24, 1])).toBe(null);
    });
    // SMPTE ST 12-1: at 29.97 the numbers 0 and 1 of each minute are left out but of every tenth.
    it('reads what is written, where numbers are left out too', () => {
        for (const rate of [[24, 1], [25, 1], [30000, 1001], [60000, 1001], [24000, 1001]] as const) {
            for (const frame of [0, 1, 29, 30, 1799, 1800, 1801, 17981, 17982, 17983, 35964, 107892, 215784]) expect(readTime(timecode(frame, rate), rate)).toBe(frame);
        }
    });
});
