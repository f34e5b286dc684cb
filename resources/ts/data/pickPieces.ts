import { ask, bytesOf } from './api';
import { decodeFrame } from './maps';
import type { PropPieces } from './pieces';

type Piece = PropPieces['pieces'][number];

/** Pieces by name: words that it holds, `*` for anything, several parted by commas. */
export function piecesByName(pieces: readonly Piece[], words: string): number[] {
    const wanted = words.split(',').map((w) => w.trim().toLowerCase()).filter((w) => w !== '');
    const meets = wanted.map((w) => new RegExp(w.includes('*') ? `^${w.split('*').map((part) => part.replace(/[.+?^${}()|[\]\\]/g, '\\$&')).join('.*')}$` : w.replace(/[.+?^${}()|[\]\\]/g, '\\$&')));
    return pieces.flatMap((p, k) => (meets.some((m) => m.test(p.name.toLowerCase())) ? [k] : []));
}

/** Pieces whose share of the bulk of all is within a span: the larger half, or the dust. */
export function piecesBySize(pieces: readonly Piece[], which: 'larger' | 'smaller', count: number): number[] {
    const order = pieces.map((_, k) => k).sort((a, b) => pieces[b]!.volume - pieces[a]!.volume || a - b);
    return (which === 'larger' ? order.slice(0, count) : order.slice(Math.max(0, order.length - count))).sort((a, b) => a - b);
}

/** All that were not picked. */
export function otherPieces(count: number, picked: readonly number[]): number[] {
    const had = new Set(picked);
    return Array.from({ length: count }, (_, k) => k).filter((k) => !had.has(k));
}

/** Pieces where a weight map is at least so much at a frame. */
export async function piecesByMap(shot: string, map: string, frame: number, least: number): Promise<number[]> {
    const answer = await ask(`shots/${shot}/maps/${map}/trial`, { method: 'POST', body: JSON.stringify({ frame, kind: 'pieces' }), headers: { 'Content-Type': 'application/json' } });
    return [...decodeFrame(await bytesOf(answer)).weights].flatMap((w, k) => (w >= 255 * least - 0.5 ? [k] : []));
}

/** A part of the picture, in pixels: left, top, right, bottom. */
export type Box = readonly [number, number, number, number];

export function boxOf(a: readonly [number, number], b: readonly [number, number]): Box {
    return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])];
}

/** Which of some places lie in a box of the picture; what is behind the camera does not. */
export function withinBox(places: Float32Array, box: Box, project: (x: number, y: number, z: number) => readonly [number, number, number]): number[] {
    const out: number[] = [];
    for (let k = 0; 3 * k < places.length; k++) {
        const [x, y, depth] = project(places[3 * k]!, places[3 * k + 1]!, places[3 * k + 2]!);
        if (depth < 1 && depth > -1 && x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3]) out.push(k);
    }
    return out;
}
