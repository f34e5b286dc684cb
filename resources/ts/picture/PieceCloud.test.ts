import { Quaternion, Ray, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import type { BreakFigures } from '../data/api';
import type { PropPieces } from '../data/pieces';
import { PieceCloud, pieceExtents } from './PieceCloud';

/** Two upright triangles of one metre facing +z, as two pieces. */
const pieces: PropPieces = {
    tag: '',
    vertices: 6,
    positions: new Float32Array([-0.5, -0.5, 0, 0.5, -0.5, 0, 0, 0.5, 0, -0.5, -0.5, 0, 0.5, -0.5, 0, 0, 0.5, 0]),
    normals: new Int16Array(24),
    pieceOf: new Uint16Array([0, 0, 0, 1, 1, 1]),
    pieces: [
        { name: 'a', volume: 1, centre: [0, 0, 0] },
        { name: 'b', volume: 1, centre: [3, 0, -2] },
    ],
    figures: {} as BreakFigures,
    fitness: null, mended: [], lengths: { patterns: {}, steps: {}, weights: {} }, plans: { break: null, rework: [] }, places: null, mapped: false, weights: null, weighed: false, pointOf: null, first: false, rings: null, skinned: false, finished: null,
};

const towards = (x: number, y: number) => new Ray(new Vector3(x, y, 10), new Vector3(0, 0, -1));

const baked = (poses: number[], sizes: number[] | null = null) => ({ poses: new Float32Array(poses), sizes: sizes === null ? null : new Float32Array(sizes), seen: true, looks: null, points: null, corners: null, skin: null, shares: null, dust: null, chips: null });

describe('PieceCloud', () => {
    it('moves rings apart along the way they were hit, the middle farthest', () => {
        const cloud = new PieceCloud({ ...pieces, rings: { axis: [0, 0, 1], of: [0, 2] } });
        cloud.placeWhole(new Quaternion(), [0, 0, 0]);
        cloud.spreadRings(0.5);
        const moved = 0.5 * cloud.ball().radius;
        expect(cloud.hit(towards(0, 0))!.distance).toBeCloseTo(10 - moved, 5);
        expect(cloud.hit(towards(3, 0))).toMatchObject({ piece: 1, distance: 12 });
        cloud.spread(0);
        expect(cloud.hit(towards(0, 0))).toMatchObject({ piece: 0, distance: 10 });
    });
    it('is seen as it is until its weights have come', () => {
        const cloud = new PieceCloud({ ...pieces, skinned: true, pointOf: new Uint32Array([0, 1, 2, 3, 4, 5]) });
        const seen = () => [...(cloud.mesh.geometry.getAttribute('skin').array as Uint8Array)].filter((_, k) => k % 3 === 1);
        expect(seen()).toEqual(Array(6).fill(255));
        cloud.wearSkin({ depth: 0, weights: new Uint8Array(18) });
        expect(seen()).toEqual(Array(6).fill(0));
        cloud.wearSkin(null);
        expect(seen()).toEqual(Array(6).fill(255));
    });
    it('wears the weights of its pieces, and those it was broken by after that', () => {
        const cloud = new PieceCloud({ ...pieces, weights: new Uint8Array([9, 9, 9, 7, 7, 7]), weighed: true });
        const worn = () => [...(cloud.mesh.geometry.getAttribute('weight').array as Uint8Array)];
        expect(worn()).toEqual([9, 9, 9, 7, 7, 7]);
        cloud.weigh(new Uint8Array([200, 40]));
        expect(worn()).toEqual([200, 200, 200, 40, 40, 40]);
        // Of other pieces, before these were made.
        cloud.weigh(new Uint8Array([1, 2, 3]));
        expect(worn()).toEqual([200, 200, 200, 40, 40, 40]);
        cloud.weigh(null);
        expect(worn()).toEqual([9, 9, 9, 7, 7, 7]);
    });
    it('shows no cracks before its pieces part, but all of a lone piece, as of a core its flakes have left', () => {
        const whole = (of: PropPieces) => {
            const cloud = new PieceCloud(of);
            cloud.placeWhole(new Quaternion(), [0, 0, 0]);
            cloud.surface('stone', 'surface');
            return cloud;
        };
        const broken = whole(pieces);
        expect(broken.hidesInner).toBe(true);
        broken.spread(0.3);
        expect(broken.hidesInner).toBe(false);
        expect(whole({ ...pieces, pieceOf: new Uint16Array(6), pieces: [pieces.pieces[0]!] }).hidesInner).toBe(false);
    });
    it('is hit where its pieces stand', () => {
        const cloud = new PieceCloud(pieces);
        cloud.placeWhole(new Quaternion(), [0, 0, 0]);
        expect(cloud.hit(towards(0, 0))).toMatchObject({ piece: 0, distance: 10 });
        expect(cloud.hit(towards(3, 0))).toMatchObject({ piece: 1, distance: 12 });
        expect(cloud.hit(towards(1.5, 0))).toBeNull();
    });
    it('is hit where a bake has moved them, the nearest first', () => {
        const cloud = new PieceCloud(pieces);
        // Both on one line; the second turned half about y shows its back and cannot be hit from here.
        cloud.placeFrom(baked([0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 4, 0, 0, 0, 0, 1]));
        expect(cloud.hit(towards(0, 0))?.piece).toBe(1);
        cloud.placeFrom(baked([0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 4, 0, 0, 1, 0, 0]));
        expect(cloud.hit(towards(0, 0))?.piece).toBe(0);
    });
    it('is hit at the size a frame gives it, and not where it is not seen', () => {
        const cloud = new PieceCloud(pieces);
        const stand = [0, 0, 0, 0, 0, 0, 0, 1, 3, 0, 0, 0, 0, 0, 0, 1];
        cloud.placeFrom(baked(stand));
        const edge = towards(0.1, 0);
        expect(cloud.hit(edge)?.piece).toBe(0);
        cloud.placeFrom(baked(stand, [0.1, 1]));
        expect(cloud.hit(edge)).toBeNull();
        cloud.placeFrom({ ...baked(stand), seen: false });
        expect(cloud.hit(edge)).toBeNull();
    });
    it('spreads pieces away from their common middle', () => {
        const cloud = new PieceCloud(pieces);
        cloud.placeWhole(new Quaternion(), [0, 0, 0]);
        cloud.spread(1);
        // The middle is 1.5, −1: the pieces go to −1.5 and 4.5 along x, 1 and −3 along z.
        expect(cloud.hit(towards(-1.5, 0))).toMatchObject({ piece: 0, distance: 9 });
        expect(cloud.hit(towards(4.5, 0))).toMatchObject({ piece: 1, distance: 13 });
        expect(cloud.hit(towards(0, 0))).toBeNull();
    });
    it('knows a ball round the unbroken prop', () => {
        const ball = new PieceCloud(pieces).ball();
        expect(ball.centre.toArray()).toEqual([1.5, 0, -1]);
        expect(ball.radius).toBeCloseTo(Math.hypot(2, 0.5, 1), 6);
    });
});

describe('pieceExtents', () => {
    it('tells which vertices are a piece’s and how far they reach', () => {
        const [a, b] = pieceExtents(pieces);
        expect([a!.first, a!.end, b!.first, b!.end]).toEqual([0, 3, 3, 6]);
        expect(b!.radius).toBeCloseTo(Math.SQRT1_2, 6);
    });
});
