import { create } from 'zustand';
import type { PropPieces } from './pieces';

export type BrushHow = 'paint' | 'erase' | 'smooth';
export type Mirror = '' | 'x' | 'y' | 'z';

interface BrushState {
    /** Whether presses in the picture paint, or pick, instead of choosing. */
    on: boolean;
    how: BrushHow;
    /** Metres from its middle to where it does nothing; null for what suits the prop. */
    size: number | null;
    strength: number;
    mirror: Mirror;
}

/** The brush in hand. */
export const useBrush = create<BrushState>(() => ({ on: true, how: 'paint', size: null, strength: 0.6, mirror: '' }));

/** Dabs of a stroke lie so far apart, in sizes of the brush. */
export const APART = 0.25;

/** A stroke as a document has it; a dab is a place on the surface, and the way it looks there. */
export interface Stroke {
    how: BrushHow;
    size: number;
    strength: number;
    mirror: Mirror;
    dabs: number[][];
}

/** What is needed of a dab, in figures that can be told apart. */
export function dabOf(at: readonly number[], normal: readonly number[]): number[] {
    return [...at.map((v) => Number(v.toPrecision(6))), ...normal.map((v) => Number(v.toFixed(3)))];
}

/** Metres of a brush that suits a prop: a tenth of its longest side. */
export function brushSize(pieces: PropPieces | undefined): number {
    const box = pieces?.fitness?.bounds;
    if (!box) return 0.1;
    return Number((0.1 * Math.max(...box[1].map((v, a) => v - box[0][a]!))).toPrecision(2));
}

/** A dab, and the one it is mirrored to. */
export function mirrored(dab: readonly number[], mirror: Mirror): number[][] {
    if (mirror === '') return [[...dab]];
    const axis = 'xyz'.indexOf(mirror);
    const other = [...dab];
    other[axis] = -other[axis]!;
    other[axis + 3] = -other[axis + 3]!;
    return [[...dab], other];
}
