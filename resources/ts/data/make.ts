import type { MaterialPreset } from './api';
import type { Prop, ShotDocument } from './document';

/** What is wanted, or with the first number that nothing has yet. */
export function free(wanted: string, between: string, taken: (one: string) => boolean): string {
    let one = wanted;
    for (let n = 2; taken(one); n++) one = `${wanted}${between}${n}`;
    return one;
}

/** The same of a name, whatever its case. */
export function freeAmong(names: readonly string[], wanted: string): string {
    const lower = new Set(names.map((n) => n.toLowerCase()));
    return free(wanted, ' ', (one) => lower.has(one.toLowerCase()));
}

/** A word of small letters, figures and dashes. */
export function idOf(wanted: string, otherwise: string): string {
    return wanted.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 30) || otherwise;
}

/** An id no prop of the shot has yet. */
export function freeId(document: ShotDocument, wanted: string): string {
    return free(idOf(wanted, 'prop'), '-', (id) => document.props.some((p) => p.id === id));
}

export function freeName(document: ShotDocument, wanted: string): string {
    return freeAmong(document.props.map((p) => p.name), wanted.slice(0, 50));
}

export function newProp(document: ShotDocument, name: string, source: Prop['source'], materialId: string, material: MaterialPreset): Prop {
    const { label: _, ...values } = material;
    return {
        id: freeId(document, name),
        name: freeName(document, name),
        source,
        prepare: [],
        place: { position: [0, 0, 0], turn: [0, 0, 0], size: 1 },
        material: { name: materialId, ...values },
        break: null,
        motion: { kind: 'fixed' },
    };
}
