import { describe, expect, it } from 'vitest';
import { Pace, STEPS } from './Pace';

function draw(pace: Pace, milliseconds: number, frames: number): void {
    for (let k = 0; k < frames; k++) pace.took(milliseconds);
}

describe('Pace', () => {
    it('stays fine at sixty frames a second', () => {
        const pace = new Pace();
        draw(pace, 16.7, 600);
        expect(pace.fineness).toBe(STEPS[0]);
    });
    it('goes down step by step while it stutters, and no further than the last', () => {
        const pace = new Pace();
        draw(pace, 33, 12);
        expect(pace.fineness).toBe(STEPS[1]);
        draw(pace, 33, 1200);
        expect(pace.fineness).toBe(STEPS[STEPS.length - 1]);
    });
    it('is not moved by single slow frames', () => {
        const pace = new Pace();
        for (let k = 0; k < 60; k++) draw(pace, k % 4 === 0 ? 100 : 16, 1);
        expect(pace.fineness).toBe(STEPS[0]);
    });
    it('comes back up after a long easy stretch only', () => {
        const pace = new Pace();
        draw(pace, 33, 12);
        draw(pace, 6, 60);
        expect(pace.fineness).toBe(STEPS[1]);
        draw(pace, 6, 60);
        expect(pace.fineness).toBe(STEPS[0]);
    });
    it('lowers nothing but pixels, occlusion and shadow', () => {
        for (let k = 1; k < STEPS.length; k++) {
            expect(Object.keys(STEPS[k]!)).toEqual(['ratio', 'occlusion', 'shadow']);
            for (const key of ['ratio', 'occlusion', 'shadow'] as const) expect(STEPS[k]![key]).toBeLessThanOrEqual(STEPS[k - 1]![key]);
        }
    });
});
