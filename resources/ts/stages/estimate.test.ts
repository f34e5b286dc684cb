import { describe, expect, it } from 'vitest';
import { estimate } from './estimate';

describe('estimate', () => {
    it('grows with frames and pieces', () => {
        const last = { seconds: 6, framesDone: 30, pieces: 100 };
        expect(estimate(last, 30, 100)).toBeCloseTo(6, 9);
        expect(estimate(last, 60, 100)).toBeCloseTo(12, 9);
        expect(estimate(last, 30, 250)).toBeCloseTo(15, 9);
    });
});
