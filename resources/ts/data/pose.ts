import { Euler, Quaternion, Vector3 } from 'three';
import type { Ease, Prop, Value, Values } from './document';
import { isKeyed, NOWHERE, ownFrame, progress, stationsOf, valueAt, type Moments } from './track';

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
    const at = prop.motion.kind === 'fixed' ? first : ownFrame(moments, frame);
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

/** The turn as a whole, the shortest way from key to key of any axis with the ease of that key; outside them as the first axis that has keys. */
function shortest(turn: Values, frame: number, moments: Moments): [number, number, number] {
    const keyed = turn.filter(isKeyed).filter((axis) => stationsOf(axis, moments).length > 0);
    const by = new Map<number, Ease>();
    for (const axis of keyed) for (const k of stationsOf(axis, moments)) if (!by.has(k.frame)) by.set(k.frame, k.ease);
    const knots = [...by].map(([at, ease]) => ({ frame: at, ease })).sort((a, b) => a.frame - b.frame);
    if (knots.length < 2) return three(turn, frame, moments);
    const [k, share] = progress(knots, frame, keyed[0]!.before ?? 'hold', keyed[0]!.after ?? 'hold');
    const [from, to] = [turnOf(three(turn, knots[k]!.frame, moments)), turnOf(three(turn, knots[k + 1]!.frame, moments))];
    const e = new Euler().setFromQuaternion(towards(from, to, share), 'ZYX');
    return [e.x / rad, e.y / rad, e.z / rad];
}

/** The shortest way from one turn to another, also beyond its ends where an ease overshoots. */
function towards(from: Quaternion, to: Quaternion, share: number): Quaternion {
    const way = from.clone().invert().premultiply(to);
    if (way.w < 0) way.set(-way.x, -way.y, -way.z, -way.w);
    const half = Math.acos(Math.min(1, way.w));
    if (half < 1e-9) return from.clone();
    const axis = new Vector3(way.x, way.y, way.z).normalize();
    return new Quaternion().setFromAxisAngle(axis, 2 * half * share).multiply(from);
}

export function turnOf(t: readonly [number, number, number]): Quaternion {
    return new Quaternion().setFromEuler(new Euler(t[0] * rad, t[1] * rad, t[2] * rad, 'ZYX'));
}

/** Where a point of a prop's own coordinates lies in the scene. */
export function inScene(pose: Pose, at: readonly number[]): [number, number, number] {
    return new Vector3(at[0], at[1], at[2]).multiplyScalar(pose.size ?? 1).applyQuaternion(turnOf(pose.turn)).add(new Vector3(...pose.position)).toArray();
}
