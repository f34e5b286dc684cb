import { Vector3 } from 'three';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import type { Handle } from '../data/ui';
import { showAll, showNumber } from '../data/quantity';
import { keyFrame, setAt, setKey } from '../data/keys';
import { currentMoments } from '../data/moments';
import { fullSize, poseAt, turnOf, type Pose } from '../data/pose';
import { isKeyed, valueAt } from '../data/track';

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
    const size = (scale: number) => Math.min(1000, Math.max(0.001, rounded(fullSize(prop.place.size) * scale, 1000)));
    const keyed = prop.motion.kind !== 'fixed' && [...prop.place.position, ...prop.place.turn].some(isKeyed);
    const pose = poseAt(prop, frame, currentMoments());
    const sizes = `${prop.id}:place/size`;
    const at = keyFrame(sizes, frame, currentMoments());
    return {
        prop: prop.id,
        mode,
        pose: { position: pose.position, turn: pose.turn },
        carries: true,
        words: (pose, scale) => (mode === 'move' ? axes(pose.position, 'm') : mode === 'turn' ? axes(pose.turn, '°') : `size × ${showNumber(size(scale), 3)}`),
        set: (pose, scale) => {
            if (mode === 'size') {
                if (scale !== 1 && !isKeyed(prop.place.size)) void editProp(prop.id, `Size of ${prop.name}`, { '/place/size': size(scale) });
                else if (scale !== 1) setAt(sizes, 0, at, valueAt(prop.place.size, at, currentMoments()) * scale, true, `Size of ${prop.name}`);
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

/** Where a place in the scene lies in a prop's own coordinates. */
export function within(stand: Pose, at: readonly number[]): [number, number, number] {
    return new Vector3(at[0], at[1], at[2]).sub(new Vector3(...stand.position)).applyQuaternion(turnOf(stand.turn).invert()).toArray();
}

export function rounded(v: number, parts: number): number {
    return Math.round(v * parts) / parts + 0;
}

/** Three figures with their axes. */
export function axes(v: readonly number[], unit: string): string {
    const [x, y, z, name] = [...showAll(v, unit, ' ', 4).split(' '), ''];
    return `x ${x}  y ${y}  z ${z} ${name}`.trimEnd();
}
