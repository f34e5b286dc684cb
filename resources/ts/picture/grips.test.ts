import { describe, expect, it } from 'vitest';
import type { Prop } from '../data/document';
import { inScene, type Pose } from '../data/pose';
import { axes, placeGrip, pointsOf, within } from './grips';
import { snapped } from './lens';

const prop: Prop = {
    id: 'jar',
    name: 'Jar',
    source: { kind: 'shape', shape: 'box', values: {} },
    place: { position: [1, 0, 0], turn: [0, 90, 0], size: 2 },
    material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
    motion: { kind: 'fixed' },
};

const struck = (values: Record<string, unknown>): Prop => ({ ...prop, break: { pattern: 'cells', values } });

describe('points', () => {
    it('come back from the scene to the prop’s own coordinates', () => {
        // A quarter turn about y takes z to x.
        const stand = { position: prop.place.position, turn: prop.place.turn } as Pose;
        expect(inScene(stand, [0, 0.5, 2]).map((v) => Number(v.toFixed(9)) + 0)).toEqual([3, 0.5, 0]);
        expect(within(stand, [3, 0.5, 0]).map((v) => Number(v.toFixed(9)) + 0)).toEqual([0, 0.5, 2]);
    });
    it('are found in a pattern, and where a weight lies after the points pieces crowd round', () => {
        const found = pointsOf(struck({ point: null, cluster: [[1, 2, 3]], weight: { source: 'front', values: { point: [0, 1, 0], direction: [0, 1, 0] } } }));
        expect(found.map((p) => p.path)).toEqual(['/break/values/cluster/0', '/break/values/weight/values/point']);
        expect(found.map((p) => p.name)).toEqual(['crowd point 1', 'the weight']);
        expect(pointsOf(struck({ point: null, cluster: null }))).toEqual([]);
    });
    it('are said in one unit', () => {
        expect(axes([0.1, 0.2, 0.3], 'm')).toBe('x 10  y 20  z 30 cm');
        expect(axes([1, -0.2, 0], 'm')).toBe('x 1  y -0.2  z 0 m');
    });
    it('are rounded to less than a pixel', () => {
        expect(snapped(0.12345, 100)).toBeCloseTo(0.125, 9);
        expect(snapped(0.00012345, 100000)).toBeCloseTo(0.000125, 9);
    });
});

describe('placeGrip', () => {
    it('says metres, degrees or the size', () => {
        const pose = { position: [1, 2, 3] as [number, number, number], turn: [0, 45, 0] as [number, number, number] };
        expect(placeGrip(prop, 'move', 0).words(pose, 1)).toBe('x 1  y 2  z 3 m');
        expect(placeGrip(prop, 'turn', 0).words(pose, 1)).toBe('x 0  y 45  z 0 °');
        expect(placeGrip(prop, 'size', 0).words(pose, 1.5)).toBe('size × 3');
    });
    it('keeps the size within what a shot allows', () => {
        const pose = placeGrip(prop, 'size', 0).pose;
        expect(placeGrip(prop, 'size', 0).words(pose, 1e6)).toBe('size × 1000');
        expect(placeGrip(prop, 'size', 0).words(pose, 1e-9)).toBe('size × 0.001');
    });
});
