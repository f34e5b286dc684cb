import { pointerOf } from './lanes';
import type { ShotDocument } from './document';
import { useShot } from './shot';
import type { ShotValue } from './trials';

/** Where a value is whatever stands before it in a list, what has an id being named by that; null where a list has none. An axis is given of what has three. */
export function placeOf(document: ShotDocument, lane: string, axis?: number): string | null {
    const names = `${pointerOf(document, { id: lane })}${axis === undefined ? '' : `/${axis}`}`.split('/').slice(1);
    let node: unknown = document;
    const out: string[] = [];
    for (const name of names) {
        const list: boolean = Array.isArray(node);
        node = (node as Record<string, unknown> | undefined)?.[name];
        const named = list && typeof node === 'object' && node !== null && !('keys' in node);
        const id = named ? (node as { id?: string }).id : name;
        if (id === undefined) return null;
        out.push(id);
    }
    return out.join('/');
}

/** The places that are tied to one. */
export function tiedTo(document: ShotDocument, place: string): readonly string[] {
    return (document.ties?.find((t) => t.includes(place)) ?? []).filter((p) => p !== place);
}

/** The ties with one place, and all that is tied to it already, tied to another that leads. */
export function tied(ties: readonly (readonly string[])[], place: string, to: string): string[][] {
    const of = (p: string) => ties.find((t) => t.includes(p)) ?? [p];
    const whole = [...new Set([to, ...of(to), ...of(place)])];
    return [...ties.filter((t) => !whole.some((p) => t.includes(p))).map((t) => [...t]), whole];
}

/** The ties without one place. */
export function untied(ties: readonly (readonly string[])[], place: string): string[][] {
    return ties.map((t) => t.filter((p) => p !== place)).filter((t) => t.length > 1);
}

/** Makes a value the same as another, from now on: where one is changed, so is the other. */
export function tie(place: string, label: string, to: ShotValue): void {
    const { shot, edit } = useShot.getState();
    if (shot === null || to.place === null) return;
    void edit(`${label} the same as ${called(to)}`, [{ op: 'add', path: '/ties', value: tied(shot.document.ties ?? [], place, to.place) }]);
}

export function untie(place: string, label: string): void {
    const { shot, edit } = useShot.getState();
    if (shot === null) return;
    const left = untied(shot.document.ties ?? [], place);
    void edit(`${label} by itself again`, [left.length === 0 ? { op: 'remove', path: '/ties' } : { op: 'add', path: '/ties', value: left }]);
}

/** A value by its name, and that of what it is of. */
export function called(value: Pick<ShotValue, 'label' | 'of'>): string {
    return `${value.label.toLowerCase()}${value.of === '' ? '' : ` of ${value.of}`}`;
}

/** What one can be the same as: numbers of its kind, its own name first. */
export function alike(all: readonly ShotValue[], place: string): ShotValue[] {
    const own = all.find((v) => v.place === place);
    if (own === undefined || (own.kind !== 'number' && own.kind !== 'whole')) return [];
    const near = (v: ShotValue) => (v.label === own.label ? 0 : v.of === own.of ? 1 : 2);
    return all.filter((v) => v !== own && v.place !== null && v.kind === own.kind && v.unit === own.unit && v.keyable === own.keyable).sort((a, b) => near(a) - near(b));
}
