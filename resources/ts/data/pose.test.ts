import { describe, expect, it } from 'vitest';
import type { Prop } from './document';
import { isSeen, poseAt, turnOf } from './pose';
import { NOWHERE } from './track';

function prop(place: Partial<Prop['place']>, kind: Prop['motion']['kind'] = 'keyed'): Prop {
    return {
        id: 'gate',
        name: 'Gate',
        source: { kind: 'shape', shape: 'box', values: {} },
        place: { position: [1, 2, 3], turn: [0, 30, 0], size: 1, ...place },
        material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
        motion: { kind },
    };
}

const from = (...keys: [number, number][]) => ({ keys: keys.map(([frame, value]) => ({ frame, value })) }) as Prop['place']['size'];

describe('poseAt', () => {
    it('follows a pace as the server has it', () => {
        const position: Prop['place']['position'] = [{ keys: [{ frame: 0, value: 0 }, { frame: 10, value: 10 }] }, 0, 0];
        const half = { ...NOWHERE, pace: { first: 0, scene: [0, 0.5, 1, 1.5, 2] } };
        expect(poseAt(prop({ position }), 3, half).position[0]).toBeCloseTo(1.5, 9);
        expect(poseAt(prop({ position }), 3.5, half).position[0]).toBeCloseTo(1.75, 9);
        expect(poseAt(prop({ position }), 6, half).position[0]).toBeCloseTo(4, 9);
    });

    it('is the plain place without keys', () => {
        expect(poseAt(prop({}), 5)).toEqual({ position: [1, 2, 3], turn: [0, 30, 0], size: 1 });
    });
    it('follows keys, and stands still at the start where the prop is fixed', () => {
        const position: Prop['place']['position'] = [from([10, 0], [20, 2]), 0, 4];
        expect(poseAt(prop({ position }), 15).position).toEqual([1, 0, 4]);
        expect(poseAt(prop({ position }, 'fixed'), 15, NOWHERE, 12).position[0]).toBeCloseTo(0.4, 12);
    });
    it('says size as a share of the largest', () => {
        const size = from([0, 0.5], [10, 2], [20, 0]);
        expect([0, 10, 15, 30].map((f) => poseAt(prop({ size }), f).size)).toEqual([0.25, 1, 0.5, 0]);
    });
    it('turns the shortest way where that is asked for', () => {
        const turn: Prop['place']['turn'] = [0, from([0, 0], [10, 350]), 0];
        expect(poseAt(prop({ turn }), 5).turn[1]).toBeCloseTo(175, 9);
        const q = turnOf(poseAt(prop({ turn, between: 'shortest' }), 5).turn);
        expect(q.angleTo(turnOf([0, -5, 0]))).toBeCloseTo(0, 9);
    });
    it('is seen from a half on', () => {
        const seen = from([0, 1], [10, 0]);
        expect([4, 5, 6].map((f) => isSeen(prop({ seen }), f))).toEqual([true, true, false]);
    });
});

describe('turnOf', () => {
    it('turns about x first, then y, then z', () => {
        // x by 90° takes y to z; then y by 90° takes z to x.
        const q = turnOf([90, 90, 0]);
        const [x, y, z, w] = [q.x, q.y, q.z, q.w];
        const turned = (v: number[]) => {
            const [a, b, c] = v as [number, number, number];
            const tx = 2 * (y * c - z * b);
            const ty = 2 * (z * a - x * c);
            const tz = 2 * (x * b - y * a);
            return [a + w * tx + y * tz - z * ty, b + w * ty + z * tx - x * tz, c + w * tz + x * ty - y * tx];
        };
        const [a, b, c] = turned([0, 1, 0]);
        expect(a).toBeCloseTo(1, 9);
        expect(b).toBeCloseTo(0, 9);
        expect(c).toBeCloseTo(0, 9);
    });
});
