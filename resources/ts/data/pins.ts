import type { Prop, ShotDocument, WeightMap, WeightSource } from './document';
import type { Triple } from './pieces';
import { editProp } from './shot';
import { freeMapId, freeMapName } from './weights';

/** Corners and edges of a prop, in its own coordinates. */
export interface Rims {
    corners: Triple[];
    lines: { middle: Triple; points: Triple[]; closed: boolean }[];
    /** Whether there are more than are told. */
    more: boolean;
}

/** What was picked. */
export interface Pinned {
    corners: Triple[];
    edges: Triple[];
}

/** The map a prop is held by, and the source of it that was picked. */
export function heldBy(prop: Prop): { map: WeightMap | null; at: number; source: number; pinned: Pinned } {
    const id = String(prop.motion.values?.hold ?? '');
    const maps = prop.weights ?? [];
    const at = maps.findIndex((m) => m.id === id);
    const map = maps[at] ?? null;
    const source = map?.sources.findIndex((s) => s.source === 'pins') ?? -1;
    return { map, at, source, pinned: pinnedBy(map?.sources[source]) };
}

export function pinnedBy(source: WeightSource | undefined): Pinned {
    const { corners, edges } = (source?.values ?? {}) as { corners?: Triple[] | null; edges?: Triple[] | null };
    return { corners: corners ?? [], edges: edges ?? [] };
}

/** Holds a prop by what is picked; makes the map it is held by where there is none. */
export function holdBy(document: ShotDocument, prop: Prop, label: string, pinned: Pinned): void {
    const { map, at, source } = heldBy(prop);
    const values = { corners: pinned.corners.length > 0 ? pinned.corners : null, edges: pinned.edges.length > 0 ? pinned.edges : null };
    if (map === null) {
        const name = freeMapName(document, `${prop.name} held`);
        const made: WeightMap = { id: freeMapId(document, name), name, sources: [{ source: 'pins', operation: 'add', amount: 1, values: { ...values, reach: 0 } }] };
        void editProp(prop.id, label, { '/weights': [...(prop.weights ?? []), made], '/motion/values': { ...prop.motion.values, hold: made.id } });
    } else if (source < 0) {
        void editProp(prop.id, label, { [`/weights/${at}/sources`]: [...map.sources, { source: 'pins', operation: 'larger', amount: 1, values: { ...values, reach: 0 } }] });
    } else {
        void editProp(prop.id, label, { [`/weights/${at}/sources/${source}/values`]: { ...map.sources[source]!.values, ...values } });
    }
}

/** Of some places the one that stands for what was picked, as far as there is one: the nearest. */
export function standsFor(at: Triple, places: readonly Triple[]): number {
    let best = Infinity;
    let out = -1;
    places.forEach((p, k) => {
        const d = Math.hypot(p[0] - at[0], p[1] - at[1], p[2] - at[2]);
        if (d < best) {
            best = d;
            out = k;
        }
    });
    return out;
}
