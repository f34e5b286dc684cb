import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { directions, fit, heavyStep, roundStep } from './fit';

const VIEWS = [new Vector3(0.7, 0.3, 1), new Vector3(0, 0.04, 1), new Vector3(0, 1, 0.0001)];

/** Corners of a box, and how they fall into a picture of the given shape: shares of its half width and height. */
function seen(size: [number, number, number], at: [number, number, number], from: Vector3, aspect: number) {
    const points = new Float32Array(24);
    for (let k = 0; k < 8; k++) points.set([at[0] + (k & 1 ? size[0] : 0), at[1] + (k & 2 ? size[1] : 0), at[2] + (k & 4 ? size[2] : 0)], 3 * k);
    const half = Math.tan((16 * Math.PI) / 180);
    const { position, target } = fit(points, from, half * aspect * 0.8, half * 0.8);
    const camera = new PerspectiveCamera(32, aspect, 1e-4, 1e6);
    camera.position.copy(position);
    camera.lookAt(target);
    camera.updateMatrixWorld();
    camera.updateProjectionMatrix();
    const p = Array.from({ length: 8 }, (_, k) => new Vector3().fromArray(points, 3 * k).project(camera));
    return { left: Math.min(...p.map((v) => v.x)), right: Math.max(...p.map((v) => v.x)), low: Math.min(...p.map((v) => v.y)), high: Math.max(...p.map((v) => v.y)) };
}

describe('fit', () => {
    it.each(VIEWS)('fills the side that binds, and never the other more, looking from %o', (from) => {
        for (const size of [[1, 1, 1], [4, 0.3, 0.2], [0.1, 5, 0.1], [0.001, 0.001, 3]] as [number, number, number][]) {
            const s = seen(size, [3, -2, 40], from, 1.7);
            expect(Math.max(s.right - s.left, s.high - s.low) / 2).toBeCloseTo(0.8, 4);
            // Whatever is slack lies in the middle; perspective leaves a little over.
            expect(Math.max(s.right, -s.left, s.high, -s.low)).toBeLessThanOrEqual(0.8 + 1e-4);
        }
    });
    it('is the same at every size', () => {
        const one = seen([1, 2, 3], [0, 0, 0], VIEWS[0]!, 1.4);
        for (const k of [0.01, 100]) {
            const other = seen([k, 2 * k, 3 * k], [0, 0, 0], VIEWS[0]!, 1.4);
            expect(other.left).toBeCloseTo(one.left, 5);
            expect(other.high).toBeCloseTo(one.high, 5);
        }
    });
    it('stands off a single point', () => {
        const { position, target } = fit(new Float32Array([1, 2, 3]), VIEWS[0]!, 0.3, 0.3);
        expect(position.distanceTo(target)).toBeGreaterThan(0);
    });
});

describe('steps', () => {
    it('go 1, 2, 5', () => {
        expect([0.9, 1, 1.9, 2, 4.9, 5, 9.9, 0.03].map((l) => roundStep(l))).toEqual([0.5, 1, 1, 2, 2, 5, 5, 0.02]);
        expect([0.9, 1, 1.1, 2.1, 6].map((l) => roundStep(l, true))).toEqual([1, 1, 2, 5, 10]);
    });
    it('have heavy lines on fine ones', () => {
        expect([1, 2, 5, 0.02].map(heavyStep)).toEqual([10, 10, 50, 0.1]);
    });
});

describe('directions', () => {
    it('are of length one and miss no side', () => {
        const all = directions(64);
        for (const d of all) expect(d.length()).toBeCloseTo(1, 9);
        for (const axis of [new Vector3(1, 0, 0), new Vector3(0, -1, 0), new Vector3(0, 0, 1)]) expect(Math.max(...all.map((d) => d.dot(axis)))).toBeGreaterThan(0.95);
    });
});
