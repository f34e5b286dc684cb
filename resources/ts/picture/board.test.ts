import { describe, expect, it } from 'vitest';
import type { Plan, PropPieces } from '../data/pieces';
import { boardOf } from './board';

// One piece: a box of 2 by 1 by 0.4 about (0, 0.5, 0), as three of its corners.
const pieces = {
    pieces: [{ name: 'whole', volume: 0.8, centre: [0, 0.5, 0] }],
    positions: new Float32Array([-1, -0.5, -0.2, 1, 0.5, 0.2, 1, -0.5, 0.2]),
    pieceOf: new Uint16Array([0, 0, 0]),
} as unknown as PropPieces;

const plan: Plan = { u: [1, 0, 0], v: [0, 1, 0], w: [0, 0, 1] };

describe('boardOf', () => {
    it('lies on the side the plan is looked at from', () => {
        const board = boardOf(plan, pieces, { position: [0, 0, 0], turn: [0, 0, 0] });
        expect(board.box).toEqual({ low: [-1, 0], high: [1, 1] });
        expect(board.toScene([0.3, 0.7])[2]).toBeCloseTo(0.2, 6);
    });
    it('finds again what it has put into the scene, also where the prop is turned and moved', () => {
        const board = boardOf(plan, pieces, { position: [1, 2, 3], turn: [20, 35, -10] });
        const eye: [number, number, number] = [2, 4, 9];
        const at = board.toScene([0.25, 0.75]);
        expect(board.fromSight(eye, [at[0] - eye[0], at[1] - eye[1], at[2] - eye[2]])).toEqual([0.25, 0.75]);
    });
    it('is met by no line of sight along it', () => {
        const board = boardOf(plan, pieces, { position: [0, 0, 0], turn: [0, 0, 0] });
        expect(board.fromSight([0, 0, 5], [1, 0, 0])).toBeNull();
    });
});
