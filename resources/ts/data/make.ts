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

/** What a prop is made of that begins as a material usually does. */
export function materialOf(name: string, { label: _label, own: _own, ...values }: MaterialPreset): Prop['material'] {
    return { name, ...values };
}

export function newProp(document: ShotDocument, name: string, source: Prop['source'], materialId: string, material: MaterialPreset): Prop {
    return {
        id: freeId(document, name),
        name: freeName(document, name),
        source,
        prepare: [],
        place: { position: [0, 0, 0], turn: [0, 0, 0], size: 1 },
        material: materialOf(materialId, material),
        break: null,
        motion: { kind: 'fixed' },
    };
}

/** Whether a material is as it usually is: what is keyed, or goes by a map, belongs to the prop. */
export function isUsual(material: Prop['material'], usual: MaterialPreset): boolean {
    const own = Object.entries(material).filter(([, v]) => JSON.stringify(v).search(/"(keys|map)":/) < 0);
    const given = new Map<string, unknown>(Object.entries(materialOf(material.name, usual)));
    return own.every(([name, v]) => JSON.stringify(given.get(name)) === JSON.stringify(v));
}
