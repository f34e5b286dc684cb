import type { MaterialPreset } from './api';
import type { Prop, ShotDocument } from './document';

/** An id no prop of the shot has yet. */
export function freeId(document: ShotDocument, wanted: string): string {
    const base = wanted.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 30) || 'prop';
    let id = base;
    for (let n = 2; document.props.some((p) => p.id === id); n++) id = `${base}-${n}`;
    return id;
}

export function freeName(document: ShotDocument, wanted: string): string {
    let name = wanted.slice(0, 50);
    for (let n = 2; document.props.some((p) => p.name.toLowerCase() === name.toLowerCase()); n++) name = `${wanted.slice(0, 50)} ${n}`;
    return name;
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
