import { describe, expect, it } from 'vitest';
import type { Prop } from '../data/document';
import { placeGrip, pointGrip, pointsOf } from './grips';

const prop: Prop = {
    id: 'jar',
    name: 'Jar',
    source: { kind: 'shape', shape: 'box', values: {} },
    place: { position: [1, 0, 0], turn: [0, 90, 0], size: 2 },
    material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
    motion: { kind: 'fixed' },
};

const struck = (values: Record<string, unknown>): Prop => ({ ...prop, break: { pattern: 'cells', values } });

describe('pointGrip', () => {
    it('stands where the prop’s own coordinates say, turned with it', () => {
        const { pose } = pointGrip(struck({ point: [0, 0.5, 2] }), 0, 0)!;
        // A quarter turn about y takes z to x.
        expect(pose.position[0]).toBeCloseTo(3, 9);
        expect(pose.position[1]).toBeCloseTo(0.5, 9);
        expect(pose.position[2]).toBeCloseTo(0, 9);
    });
    it('says its place in the prop’s own coordinates again', () => {
        const grip = pointGrip(struck({ cluster: [[0, 0, 0], [0.1, 0.2, 0.3]] }), 1, 0)!;
        expect(grip.words(grip.pose, 1)).toBe('crowd point 2 x 0.100  y 0.200  z 0.300 m');
        expect(grip.carries).toBe(false);
    });
    it('finds where a weight lies, after the points pieces crowd round', () => {
        const found = pointsOf(struck({ point: null, cluster: [[1, 2, 3]], weight: { source: 'front', values: { point: [0, 1, 0], direction: [0, 1, 0] } } }));
        expect(found.map((p) => p.path)).toEqual(['/break/values/cluster/0', '/break/values/weight/values/point']);
        expect(found.map((p) => p.name)).toEqual(['crowd point 1', 'the weight']);
    });
    it('is not there where the pattern has no point', () => {
        expect(pointGrip(struck({ cluster: null }), 0, 0)).toBeNull();
        expect(pointsOf(struck({ point: null, cluster: [[1, 2, 3]] })).map((p) => p.path)).toEqual(['/break/values/cluster/0']);
    });
});

describe('placeGrip', () => {
    it('says metres, degrees or the size', () => {
        const pose = { position: [1, 2, 3] as [number, number, number], turn: [0, 45, 0] as [number, number, number] };
        expect(placeGrip(prop, 'move', 0).words(pose, 1)).toBe('x 1.000  y 2.000  z 3.000 m');
        expect(placeGrip(prop, 'turn', 0).words(pose, 1)).toBe('x 0.0  y 45.0  z 0.0 °');
        expect(placeGrip(prop, 'size', 0).words(pose, 1.5)).toBe('size × 3');
    });
    it('keeps the size within what a shot allows', () => {
        const pose = placeGrip(prop, 'size', 0).pose;
        expect(placeGrip(prop, 'size', 0).words(pose, 1e6)).toBe('size × 1000');
        expect(placeGrip(prop, 'size', 0).words(pose, 1e-9)).toBe('size × 0.001');
    });
});
