import { describe, expect, it } from 'vitest';
import type { ShotDocument } from './document';
import { LESSONS, stepAt, type Seen } from './lessons';

const seen = (part: Partial<Seen> & { prop?: object }): Seen => ({
    document: { frames: { first: 0, last: 72, rate: [24, 1] }, props: [{ id: 'jar', place: { position: [0, 1.1, 0] }, motion: { kind: 'fixed' }, break: null, ...part.prop }] } as unknown as ShotDocument,
    moments: { frames: {}, rate: 24 } as never, undo: null, stage: 'props', frame: 0, playing: false, spread: 0, bake: null, path: '/shots/x', ...part,
});

describe('lessons', () => {
    it('are five, and none of them is done before anything was', () => {
        expect(LESSONS).toHaveLength(5);
        for (const lesson of LESSONS) expect(stepAt(lesson, 0, seen({}))).toBe(0);
    });
    it('go on as far as has been done, and not back', () => {
        const [first] = LESSONS;
        expect(stepAt(first!, 0, seen({ stage: 'break' }))).toBe(1);
        expect(stepAt(first!, 0, seen({ stage: 'break', prop: { break: { pattern: 'cells', values: { count: 200 } } } }))).toBe(3);
        expect(stepAt(first!, 2, seen({ stage: 'props' }))).toBe(2);
        expect(stepAt(first!, 3, seen({ spread: 0.4 }))).toBe(4);
    });
    it('wait where the reader has to say so', () => {
        const last = LESSONS.at(-1)!;
        expect(stepAt(last, 0, seen({ stage: 'bake', path: '/shots/x/trials/1', undo: 'Choose: seed 2' }))).toBe(last.steps.length - 1);
    });
});
