import { describe, expect, it } from 'vitest';
import type { Prop } from './document';
import { poseAt, turnOf } from './pose';

function prop(motion: Prop['motion']): Prop {
    return {
        id: 'gate',
        name: 'Gate',
        source: { kind: 'shape', shape: 'box', values: {} },
        place: { position: [1, 2, 3], turn: [0, 30, 0], size: 1 },
        material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
        motion,
    };
}

const keys = [
    { frame: 10, position: [0, 0, 0] as [number, number, number], turn: [0, 0, 0] as [number, number, number] },
    { frame: 20, position: [2, 0, 4] as [number, number, number], turn: [0, 90, 0] as [number, number, number] },
];

describe('poseAt', () => {
    it('is the place without keys, also where a fixed prop has some left', () => {
        expect(poseAt(prop({ kind: 'free' }), 5).position).toEqual([1, 2, 3]);
        expect(poseAt(prop({ kind: 'fixed', keys }), 15).turn).toEqual([0, 30, 0]);
    });
    it('holds the first key before it and the last after it', () => {
        expect(poseAt(prop({ kind: 'keyed', keys }), 0).position).toEqual([0, 0, 0]);
        expect(poseAt(prop({ kind: 'keyed', keys }), 99).position).toEqual([2, 0, 4]);
    });
    it('goes straight between keys and turns evenly', () => {
        const half = poseAt(prop({ kind: 'keyed', keys }), 15);
        expect(half.position).toEqual([1, 0, 2]);
        expect(half.turn[0]).toBeCloseTo(0, 9);
        expect(half.turn[1]).toBeCloseTo(45, 9);
        expect(half.turn[2]).toBeCloseTo(0, 9);
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
