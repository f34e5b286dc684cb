import { Euler, Quaternion, Vector3 } from 'three';
import type { Prop, Value, Values } from './document';
import { isKeyed, knotsOf, NOWHERE, valueAt, type Moments } from './track';

export interface Pose {
    position: [number, number, number];
    /** degrees about x, y, z */
    turn: [number, number, number];
    /** Times the size it is made at. */
    size?: number;
}

const rad = Math.PI / 180;

/** Where a prop stands before anything is baked, by its keys or its plain place: for drawing and for setting keys. */
export function poseAt(prop: Prop, frame: number, moments: Moments = NOWHERE, first = 0): Pose {
    const at = prop.motion.kind === 'fixed' ? first : frame;
    const { position, turn, size, between } = prop.place;
    return {
        position: three(position, at, moments),
        turn: between === 'shortest' && turn.some(isKeyed) ? shortest(turn, at, moments) : three(turn, at, moments),
        size: isKeyed(size) && prop.motion.kind !== 'fixed' ? valueAt(size, at, moments) / fullSize(size) : 1,
    };
}

/** The size a prop is made at: the largest it is keyed to. */
export function fullSize(size: Value): number {
    return isKeyed(size) ? Math.max(...size.keys.map((k) => k.value)) : size;
}

export function isSeen(prop: Prop, frame: number, moments: Moments = NOWHERE): boolean {
    return valueAt(prop.place.seen ?? 1, frame, moments) >= 0.5;
}

function three(values: Values, frame: number, moments: Moments): [number, number, number] {
    return [valueAt(values[0], frame, moments), valueAt(values[1], frame, moments), valueAt(values[2], frame, moments)];
}

/** The turn as a whole, the shortest way from key to key; outside its keys it holds. */
function shortest(turn: Values, frame: number, moments: Moments): [number, number, number] {
    const frames = [...new Set(turn.flatMap((v) => (isKeyed(v) ? knotsOf(v, moments).map((k) => k.frame) : [])))].sort((a, b) => a - b);
    if (frames.length < 2) return three(turn, frame, moments);
    const at = Math.min(frames.at(-1)!, Math.max(frames[0]!, frame));
    const k = Math.min(frames.length - 1, frames.filter((f) => f <= at).length);
    const [a, b] = [frames[k - 1]!, frames[k]!];
    const q = turnOf(three(turn, a, moments)).slerp(turnOf(three(turn, b, moments)), (at - a) / (b - a));
    const e = new Euler().setFromQuaternion(q, 'ZYX');
    return [e.x / rad, e.y / rad, e.z / rad];
}

export function turnOf(t: readonly [number, number, number]): Quaternion {
    return new Quaternion().setFromEuler(new Euler(t[0] * rad, t[1] * rad, t[2] * rad, 'ZYX'));
}

/** Where a point of a prop's own coordinates lies in the scene. */
export function inScene(pose: Pose, at: readonly number[]): [number, number, number] {
    return new Vector3(at[0], at[1], at[2]).multiplyScalar(pose.size ?? 1).applyQuaternion(turnOf(pose.turn)).add(new Vector3(...pose.position)).toArray();
}
