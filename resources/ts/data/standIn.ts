import type { PatchStep } from './api';
import type { Prop, ShotDocument, WeightMap } from './document';
import { propPath, useShot } from './shot';
import { freeMapId, freeMapName } from './weights';

/** The map of another prop that takes over a map of one, and shows it. */
function takenOver(prop: Prop, map: string): WeightMap | undefined {
    return prop.weights?.find((m) => m.id === prop.appears?.map && m.sources.some((s) => s.source === 'map' && (s.values as Record<string, unknown>).map === map));
}

/** The prop that comes as another one goes by a map. */
export function standInOf(document: ShotDocument, prop: Prop, map: WeightMap): Prop | null {
    return document.props.find((p) => p.id !== prop.id && takenOver(p, map.id) !== undefined) ?? null;
}

/**
 * Lets one prop come as another goes: the first is shown by a map that takes over that of the other, where it stands
 * nearest, and the other goes by its own. Both are cut along one line, so that they never lie in each other's way.
 *
 * @param before what stood in up to now
 * @param next what is to; null for nothing
 */
export function standsIn(prop: Prop, map: WeightMap, before: Prop | null, next: Prop | null): Promise<boolean> {
    const { shot, edit } = useShot.getState();
    if (shot === null) return Promise.resolve(false);
    const { document } = shot;
    const patch: PatchStep[] = [];
    if (before !== null) {
        patch.push({ op: 'add', path: `${propPath(document, before.id)}/appears`, value: null });
    }
    const own = propPath(document, prop.id);
    if (next === null) {
        patch.push({ op: 'add', path: `${own}/appears`, value: null });
        return edit(`Nothing takes the place of ${prop.name}`, patch);
    }
    const name = freeMapName(document, `${prop.name} gives way`);
    const taken: WeightMap = { id: freeMapId(document, name), name, sources: [{ source: 'map', values: { map: map.id }, operation: 'add', amount: 1 }] };
    const there = propPath(document, next.id);
    patch.push({ op: 'add', path: `${there}/weights`, value: [...(next.weights ?? []), taken] }, { op: 'add', path: `${there}/appears`, value: { map: taken.id, how: 'surface' } });
    patch.push({ op: 'add', path: `${own}/appears`, value: { map: map.id, how: 'surface', invert: true } });
    return edit(`${next.name} takes the place of ${prop.name}`, patch);
}
