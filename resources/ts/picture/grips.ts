import { Vector3 } from 'three';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import type { Handle } from '../data/ui';
import { showNumber } from '../parts/number';
import { setKey } from '../stages/keys';
import { inScene, poseAt, turnOf, type Pose } from './pose';

/** Something in the picture that can be taken hold of. */
export interface Grip {
    prop: string;
    mode: Exclude<Handle, 'off'>;
    /** Where the handle stands. */
    pose: Pose;
    /** Whether the prop itself follows the handle while it is dragged. */
    carries: boolean;
    /** What would be set, in words. */
    words: (pose: Pose, scale: number) => string;
    /** Sets it in the document. */
    set: (pose: Pose, scale: number) => void;
}

/** A prop's place; where it has keys, one is set at the playhead instead. */
export function placeGrip(prop: Prop, mode: Grip['mode'], frame: number): Grip {
    const size = (scale: number) => Math.min(1000, Math.max(0.001, rounded(prop.place.size * scale, 1000)));
    const keyed = prop.motion.kind !== 'fixed' && (prop.motion.keys?.length ?? 0) > 0;
    return {
        prop: prop.id,
        mode,
        pose: poseAt(prop, frame),
        carries: true,
        words: (pose, scale) => (mode === 'move' ? metres(pose.position) : mode === 'turn' ? `${three(pose.turn, 1)} °` : `size × ${showNumber(size(scale), 3)}`),
        set: (pose, scale) => {
            if (mode === 'size') {
                if (scale !== 1) void editProp(prop.id, `Size of ${prop.name}`, { '/place/size': size(scale) });
            } else if (keyed) setKey(prop.id, frame, pose);
            else if (mode === 'move') void editProp(prop.id, `Move ${prop.name}`, { '/place/position': pose.position });
            else void editProp(prop.id, `Turn ${prop.name}`, { '/place/turn': pose.turn });
        },
    };
}

/** Points among the values of a pattern, each with its place there. */
export function pointsOf(prop: Prop): { path: string; at: readonly number[]; name: string }[] {
    const { point, cluster, weight } = (prop.break?.values ?? {}) as { point?: number[] | null; cluster?: number[][] | null; weight?: { values: Record<string, unknown> } | null };
    const weighed = ['middle', 'point'].filter((name) => Array.isArray(weight?.values[name])).map((name) => ({ path: `/break/values/weight/values/${name}`, at: weight!.values[name] as number[], name: 'the weight' }));
    return [...(point ? [{ path: '/break/values/point', at: point, name: 'the hit point' }] : []), ...(cluster ?? []).map((at, i) => ({ path: `/break/values/cluster/${i}`, at, name: `crowd point ${i + 1}` })), ...weighed];
}

/** A point of a break pattern, which is given in the prop's own coordinates. */
export function pointGrip(prop: Prop, number: number, frame: number): Grip | null {
    const points = pointsOf(prop);
    const chosen = points[Math.min(number, points.length - 1)];
    if (chosen === undefined) return null;
    const stand = poseAt(prop, frame);
    const turn = turnOf(stand.turn);
    const own = (pose: Pose): [number, number, number] => {
        const p = new Vector3(...pose.position).sub(new Vector3(...stand.position)).applyQuaternion(turn.clone().invert());
        return [rounded(p.x, 1000), rounded(p.y, 1000), rounded(p.z, 1000)];
    };
    return {
        prop: prop.id,
        mode: 'move',
        pose: { position: inScene(stand, chosen.at), turn: [0, 0, 0] },
        carries: false,
        words: (pose) => `${chosen.name.replace('the ', '')} ${metres(own(pose))}`,
        set: (pose) => void editProp(prop.id, `Move ${chosen.name} of ${prop.name}`, { [chosen.path]: own(pose) }, 'replace'),
    };
}

export function rounded(v: number, parts: number): number {
    return Math.round(v * parts) / parts + 0;
}

function three(v: readonly number[], digits: number): string {
    return `x ${v[0]!.toFixed(digits)}  y ${v[1]!.toFixed(digits)}  z ${v[2]!.toFixed(digits)}`;
}

function metres(v: readonly number[]): string {
    return `${three(v, 3)} m`;
}
