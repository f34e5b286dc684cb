import type { Dust, Prop, ShotDocument } from './document';
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

/** Chips of one prop, likewise: eight numbers a chip, the last four its turn as signed ones. */
export interface ChipFrame {
    count: number;
    box: DustFrame['box'];
    largest: number;
    chips: Uint16Array;
}

/** A small body: corners about its middle, flat, its largest extent 1, and triangles. */
export interface ChipShape {
    points: number[];
    faces: number[];
}

/** How a value goes over the life of a grain: pairs of a share of it and the value there. */
export type Course = readonly (readonly [number, number])[];

/** What a kind of dust looks like. */
export interface DustLooks {
    colour: string;
    turns: string;
    turning: Course;
    sizes: Course;
    shows: Course;
    /** Whether its light is added to what is behind it. */
    adds: boolean;
}

/** The value of a course at a share. */
export function courseAt(course: Course, share: number): number {
    let before = course[0]!;
    for (const point of course) {
        if (point[0] > share) return point[0] > before[0] ? before[1] + ((point[1] - before[1]) * Math.max(0, share - before[0])) / (point[0] - before[0]) : point[1];
        before = point;
    }
    return before[1];
}

export function looksOf(prop: Prop, of: number): DustLooks {
    const dust = prop.dust?.[of];
    const v = (dust?.values ?? {}) as Record<string, unknown>;
    return {
        colour: dust?.from === 'cracks' ? prop.material.inner : prop.material.colour,
        turns: String(v.turns ?? ''),
        turning: (v.turning as Course | undefined) ?? [[0, 0], [1, 1]],
        sizes: (v.sizes as Course | undefined) ?? [[0, 1], [1, 0.4]],
        shows: (v.shows as Course | undefined) ?? [[0, 1], [0.9, 1], [1, 0]],
        adds: v.light === 'adds-up',
    };
}

/** Bytes before the first grain. */
const LEAD = 28;

export function readDust(bytes: ArrayBuffer, from: number, size: number): DustFrame {
    const [x, y, z, w, h, d, largest] = new Float32Array(bytes, from, 7) as unknown as [number, number, number, number, number, number, number];
    return { count: (size - LEAD) / 8, box: [x, y, z, w, h, d], largest, grains: new Uint16Array(bytes, from + LEAD, (size - LEAD) / 2) };
}

export function readChips(bytes: ArrayBuffer, from: number, size: number): ChipFrame {
    const [x, y, z, w, h, d, largest] = new Float32Array(bytes, from, 7) as unknown as [number, number, number, number, number, number, number];
    return { count: (size - LEAD) / 16, box: [x, y, z, w, h, d], largest, chips: new Uint16Array(bytes, from + LEAD, (size - LEAD) / 2) };
}

/** A kind of dust as it comes new: named by what it comes from. */
export function newDust(document: ShotDocument, prop: string, from: string, label: string, values: Dust['values']): Dust {
    const own = document.props.find((p) => p.id === prop);
    const all = own?.dust ?? [];
    const map = own?.weights?.[0]?.id;
    return { id: free(from, '-', (id) => all.some((d) => d.id === id)), name: freeAmong(all.map((d) => d.name), `Dust ${label.toLowerCase()}`), from, values: from === 'map' && map !== undefined ? { ...values, map } : values };
}
