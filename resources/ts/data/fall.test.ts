import { Quaternion } from 'three';
import { describe, expect, it } from 'vitest';
import type { Prop } from './document';
import { fallPatch, fallWay, freeMotion, uprightSpan } from './fall';
import { turnOf } from './pose';

const prop = { id: 'a', name: 'A', place: { position: [1, 0.1, 2], turn: [0, 0, 0], size: 1 }, motion: { kind: 'fixed' } } as unknown as Prop;

describe('letting fall', () => {
    it('finds how high a prop reaches, turned as it is', () => {
        const pieces = { positions: new Float32Array([-1, 0, 0, 3, 0.5, 0]), pieceOf: new Uint16Array([0, 0]), pieces: [{ name: 'a', volume: 1, centre: [0, 1, 0] as [number, number, number] }] };
        expect(uprightSpan(pieces, new Quaternion())).toEqual([1, 1.5]);
        // A quarter turn about z takes x to y.
        const [low, high] = uprightSpan(pieces, turnOf([0, 0, 90]));
        expect(low).toBeCloseTo(-1, 6);
        expect(high).toBeCloseTo(3, 6);
    });
    it('raises what stands low to its own height, and leaves what is high enough', () => {
        expect(fallPatch('/props/0', prop, 'all', [0, 0.4], 1)[1]).toEqual({ op: 'replace', path: '/props/0/place/position', value: [1, 0.4, 2] });
        expect(fallPatch('/props/0', prop, 'all', [-0.3, 0.1], 1)[1]).toEqual({ op: 'replace', path: '/props/0/place/position', value: [1, 0.7, 2] });
        expect(fallPatch('/props/0', { ...prop, place: { ...prop.place, position: [0, 3, 0] } }, 'all', [0, 0.4], 1)).toHaveLength(1);
    });
    it('breaks what is broken where it lands, and just lets go of what is whole', () => {
        const broken = { ...prop, break: { pattern: 'cells', values: {} } };
        expect(fallPatch('/props/0', broken, 'clumps', null, 400)).toEqual([{ op: 'replace', path: '/props/0/motion', value: { kind: 'free', values: { held: 'whole', clump: 20 }, release: { on: 'touch', reach: null } } }]);
        expect(fallPatch('/props/0', broken, 'near', [0, 0.4], 400)[0]).toMatchObject({ value: { values: { held: 'whole' }, release: { on: 'touch', reach: 0.12, speed: 1 } } });
        expect(fallPatch('/props/0', prop, 'clumps', null, 1)[0]).toMatchObject({ value: { kind: 'free', release: { on: 'frame', frame: 0 } } });
    });
    it('knows its own ways again', () => {
        const broken = { ...prop, break: { pattern: 'cells', values: {} } };
        for (const way of ['clumps', 'near', 'all'] as const) expect(fallWay(freeMotion(broken, way, { pieces: 8, height: 0.4 }))).toBe(way);
        expect(fallWay({ kind: 'free', release: { on: 'frame', frame: 3 } })).toBeNull();
    });
});
