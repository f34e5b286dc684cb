import type { Catalogue, Entry, Option } from './api';
import type { Prop, ShotDocument, Value, Values, WeightMap } from './document';
import { isKeyed, knotsOf, type Knot, type Moments } from './track';

/** A value in time: of the world, or of a prop. Three axes share a lane. */
export interface Lane {
    /** `prop:place/position`, or `:world/gravity`. */
    id: string;
    prop: string | null;
    /** Path below the prop, or below the document. */
    path: string;
    label: string;
    unit: string;
    option: Option;
}

const GROUPS = ['place', 'material'] as const;

/** What of the catalogue says which values there are. */
export type Keyables = Pick<Catalogue, 'settings' | 'weights' | 'inTime' | 'pushes' | 'drifts' | 'forces' | 'movers'>;

/** All that can be keyed in a shot, prop by prop. */
export function lanesOf(document: ShotDocument, { settings, weights, inTime, pushes, drifts, forces, movers }: Keyables): Lane[] {
    const lane = (prop: string | null, group: 'world' | 'camera' | 'plate' | 'place' | 'material' | 'relief', option: Option): Lane => ({
        id: `${prop ?? ''}:${group}/${option.name}`, prop, path: `/${group}/${option.name}`, label: option.label, unit: option.unit, option,
    });
    const keyable = (options: readonly Option[]) => options.filter((o) => o.keyable);
    return [
        ...keyable(settings.world).map((o) => lane(null, 'world', o)),
        ...(document.camera ? keyable(settings.camera).map((o) => lane(null, 'camera', o)) : []),
        ...(document.plate ? keyable(settings.plate).map((o) => lane(null, 'plate', o)) : []),
        ...(document.forces ?? []).flatMap((f, k) => [...settings.force.map((o) => forceLane(k, o.name, `${f.name} ${o.label.toLowerCase()}`, o)), ...keyable(forces[f.kind]?.options ?? []).map((o) => forceLane(k, `values/${o.name}`, `${f.name} ${o.label.toLowerCase()}`, o))]),
        ...document.props.flatMap((p) => [...GROUPS.flatMap((g) => keyable(settings[g]).map((o) => lane(p.id, g, o))), ...entryLanes(p, 'motion', '', movers[p.motion.kind]), ...mapLanes(p, weights, inTime), ...pushLanes(p, pushes), ...driftLanes(p, drifts), ...(p.relief ? settings.relief.map((o) => lane(p.id, 'relief', o)) : [])]),
    ];
}

function forceLane(at: number, path: string, label: string, option: Option): Lane {
    return { id: `:forces/${at}/${path}`, prop: null, path: `/forces/${at}/${path}`, label, unit: option.unit, option };
}

function laneOf(prop: Prop, path: string, label: string, option: Option): Lane {
    return { id: `${prop.id}:${path}`, prop: prop.id, path: `/${path}`, label, unit: option.unit, option };
}

/** What can be keyed of one thing of a catalogue, at a place below the prop. */
function entryLanes(prop: Prop, at: string, of: string, entry: Entry | undefined): Lane[] {
    return (entry?.options ?? []).filter((o) => o.keyable).map((o) => laneOf(prop, `${at}/values/${o.name}`, of === '' ? o.label : `${of} ${o.label.toLowerCase()}`, o));
}

function pushLanes(prop: Prop, pushes: Catalogue['pushes']): Lane[] {
    return (prop.motion.pushes ?? []).flatMap((push, k) => entryLanes(prop, `motion/pushes/${k}`, `push ${(pushes[push.push]?.label ?? push.push).toLowerCase()}`, pushes[push.push]));
}

function driftLanes(prop: Prop, drifts: Catalogue['drifts']): Lane[] {
    return (prop.motion.drift?.moves ?? []).flatMap((move, k) => entryLanes(prop, `motion/drift/moves/${k}`, `drift ${(drifts[move.move]?.label ?? move.move).toLowerCase()}`, drifts[move.move]));
}

/** The values of a prop's weight maps. */
function mapLanes(prop: Prop, weights: Catalogue['weights'], inTime: Catalogue['inTime']): Lane[] {
    return (prop.weights ?? []).flatMap((map, m) => [
        ...map.sources.flatMap((s, k) => {
            const at = `weights/${m}/sources/${k}`;
            const of = `${map.name}: ${(weights[s.source]?.label ?? s.source).toLowerCase()}${amongAlike(map, k)}`;
            return [...entryLanes(prop, at, of, weights[s.source]), laneOf(prop, `${at}/amount`, `${of} amount`, AMOUNT)];
        }),
        ...(map.inTime ?? []).flatMap((s, k) => entryLanes(prop, `weights/${m}/inTime/${k}`, `${map.name}: ${(inTime[s.step]?.label ?? s.step).toLowerCase()}`, inTime[s.step])),
    ]);
}

/** Which of the sources of its kind one is, where a map has several. */
function amongAlike(map: WeightMap, at: number): string {
    const alike = map.sources.flatMap((s, k) => (s.source === map.sources[at]!.source ? [k] : []));
    return alike.length > 1 ? ` ${alike.indexOf(at) + 1}` : '';
}

/** How much of a source of weights counts. */
export const AMOUNT: Option = { name: 'amount', label: 'Amount', meaning: 'How much of it counts.', type: 'number', keyable: true, default: 1, least: -10, most: 10, unit: '', choices: [], with: '', ofPieces: false, part: '' };

/** Where a lane's value is in the document, as JSON Pointer. */
export function pointerOf(document: ShotDocument, lane: Pick<Lane, 'id'>): string {
    const [prop, path] = split(lane.id);
    return prop === '' ? `/${path}` : `/props/${document.props.findIndex((p) => p.id === prop)}/${path}`;
}

/** The axes of a lane's value; undefined where it is not set. */
export function axesOf(document: ShotDocument, lane: Pick<Lane, 'id'>): Value[] | undefined {
    const [prop, path] = split(lane.id);
    const owner: unknown = prop === '' ? document : document.props.find((p) => p.id === prop);
    const value = path.split('/').reduce<unknown>((node, name) => (node as Record<string, unknown> | undefined)?.[name], owner) as Value | Values | undefined;
    return value === undefined ? undefined : Array.isArray(value) ? value : [value];
}

/** Keys of all axes of a lane, by frame. */
export function framesOf(axes: readonly Value[], moments: Moments): { frame: number; tied: string | null }[] {
    const by = new Map<number, string | null>();
    for (const axis of axes) {
        if (!isKeyed(axis)) continue;
        for (const knot of knotsOf(axis, moments)) by.set(knot.frame, axis.keys[knot.at]!.cue ?? null);
    }
    return [...by].map(([frame, tied]) => ({ frame, tied })).sort((a, b) => a.frame - b.frame);
}

/** The keys next to a frame, before and after it. */
export function neighbours(knots: readonly Knot[], frame: number): { here: boolean; before: number | null; after: number | null } {
    const before = knots.filter((k) => k.frame < frame).at(-1)?.frame ?? null;
    const after = knots.find((k) => k.frame > frame)?.frame ?? null;
    return { here: knots.some((k) => k.frame === frame), before, after };
}

export function split(id: string): [string, string] {
    const at = id.indexOf(':');
    return [id.slice(0, at), id.slice(at + 1)];
}
