import { ask, bytesOf } from './api';
import type { Ground } from './document';
import { persist } from './persist';

/** The ground round a place, as the core has it: rings of places about a middle. */
export interface GroundSheet {
    rings: number;
    sectors: number;
    /** x, y and z of the middle, then of each place, ring by ring. */
    places: Float32Array;
}

/** Whether there is ground to be drawn; where a prop is it, that is drawn. */
export function isDrawn(ground: Ground): boolean {
    return ground.kind !== 'none' && ground.kind !== 'prop';
}

/** Sheets that are asked for and not here yet. */
let coming = 0;

/** Whether the ground that is drawn may be another one than the shot has. */
export function isGroundComing(): boolean {
    return coming > 0;
}

/**
 * Asks for the sheet of a ground.
 *
 * @param take is given it, or null where it is flat; not called any more once it is not wanted
 */
export async function askSheet(ground: Ground, x: number, z: number, radius: number, wanted: () => boolean, take: (sheet: GroundSheet | null) => void): Promise<void> {
    coming++;
    try {
        await persist(async () => {
            const response = await ask(`ground?ground=${encodeURIComponent(JSON.stringify(ground))}&x=${x}&z=${z}&radius=${radius}`);
            const places = new Float32Array(await bytesOf(response));
            if (wanted()) take(places.length === 0 ? null : { rings: Number(response.headers.get('X-Rings')), sectors: Number(response.headers.get('X-Sectors')), places });
        }, wanted);
    } finally {
        coming--;
    }
}

/** The triangles of a sheet. */
export function trianglesOf({ rings, sectors }: Pick<GroundSheet, 'rings' | 'sectors'>): Uint32Array {
    const out = new Uint32Array(3 * sectors * (2 * rings - 1));
    let o = 0;
    const at = (ring: number, k: number) => 1 + (ring - 1) * sectors + (k % sectors);
    for (let k = 0; k < sectors; k++) {
        out.set([0, at(1, k), at(1, k + 1)], o);
        o += 3;
        for (let ring = 1; ring < rings; ring++) {
            out.set([at(ring, k), at(ring + 1, k), at(ring + 1, k + 1), at(ring, k), at(ring + 1, k + 1), at(ring, k + 1)], o);
            o += 6;
        }
    }
    return out;
}
