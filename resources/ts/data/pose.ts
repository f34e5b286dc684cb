import { Euler, Quaternion, Vector3 } from 'three';
import type { Prop } from './document';

export interface Pose {
    position: [number, number, number];
    /** degrees about x, y, z */
    turn: [number, number, number];
}

const rad = Math.PI / 180;

/** Where keys or its own place put a prop before anything is baked: for drawing and for setting keys. */
export function poseAt(prop: Prop, frame: number): Pose {
    const keys = prop.motion.kind === 'fixed' ? [] : (prop.motion.keys ?? []);
    const first = keys[0];
    const last = keys[keys.length - 1];
    if (first === undefined || last === undefined) return { position: prop.place.position, turn: prop.place.turn };
    if (frame <= first.frame) return first;
    if (frame >= last.frame) return last;
    const k = keys.findIndex((key) => frame <= key.frame);
    const a = keys[k - 1]!;
    const b = keys[k]!;
    const share = (frame - a.frame) / (b.frame - a.frame);
    const p = new Vector3(...a.position).lerp(new Vector3(...b.position), share);
    const q = turnOf(a.turn).slerp(turnOf(b.turn), share);
    const e = new Euler().setFromQuaternion(q, 'ZYX');
    return { position: [p.x, p.y, p.z], turn: [e.x / rad, e.y / rad, e.z / rad] };
}

export function turnOf(t: readonly [number, number, number]): Quaternion {
    return new Quaternion().setFromEuler(new Euler(t[0] * rad, t[1] * rad, t[2] * rad, 'ZYX'));
}

/** Where a point of a prop's own coordinates lies in the scene. */
export function inScene(pose: Pose, at: readonly number[]): [number, number, number] {
    return new Vector3(at[0], at[1], at[2]).applyQuaternion(turnOf(pose.turn)).add(new Vector3(...pose.position)).toArray();
}
