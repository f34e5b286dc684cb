import type { Dust, ShotDocument } from './document';
import { free, freeAmong } from './make';

/** Grains of one prop, as a baked frame has them. */
export interface DustFrame {
    count: number;
    /** Low corner of the box they are in, and its sides, in metres. */
    box: readonly [number, number, number, number, number, number];
    /** Metres across, the largest. */
    largest: number;
    /** Four numbers a grain, as the stream has them: place in the box (3), then age, which dust and size in the bits of one. */
    grains: Uint16Array;
}

/** Bytes before the first grain. */
const LEAD = 28;

export function readDust(bytes: ArrayBuffer, from: number, size: number): DustFrame {
    const [x, y, z, w, h, d, largest] = new Float32Array(bytes, from, 7) as unknown as [number, number, number, number, number, number, number];
    return { count: (size - LEAD) / 8, box: [x, y, z, w, h, d], largest, grains: new Uint16Array(bytes, from + LEAD, (size - LEAD) / 2) };
}

/** A kind of dust as it comes new: named by what it comes from. */
export function newDust(document: ShotDocument, prop: string, from: string, label: string, values: Dust['values']): Dust {
    const own = document.props.find((p) => p.id === prop);
    const all = own?.dust ?? [];
    const map = own?.weights?.[0]?.id;
    return { id: free(from, '-', (id) => all.some((d) => d.id === id)), name: freeAmong(all.map((d) => d.name), `Dust ${label.toLowerCase()}`), from, values: from === 'map' && map !== undefined ? { ...values, map } : values };
}
