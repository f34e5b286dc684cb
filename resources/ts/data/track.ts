import type { Ease, Key, Keyed, ShotDocument, Value } from './document';
import { hasMover, letsGo } from './motion';

/** Where named cues stand, as far as that is known, and which of them only what happens decides. */
export interface Moments {
    frames: Readonly<Record<string, number | null>>;
    late: Readonly<Record<string, true>>;
    /** Where keyed props follow the pace: the frame their keys have come to at each frame of the shot, counted from the first. */
    pace?: { first: number; scene: readonly number[] };
}

/** The frame the keys of a prop have come to at a frame that is shown. */
export function ownFrame({ pace }: Moments, frame: number): number {
    if (pace === undefined || frame <= pace.first) return frame;
    const at = frame - pace.first;
    const end = pace.scene.length - 1;
    if (at >= end) return pace.first + pace.scene[end]! + at - end;
    const k = Math.floor(at);
    return pace.first + pace.scene[k]! + (at - k) * (pace.scene[k + 1]! - pace.scene[k]!);
}

/** The first frame of the shot at which the keys of a prop have come to a frame of their own; the last where they never do. */
export function shownFrame({ pace }: Moments, own: number): number {
    if (pace === undefined) return own;
    const k = pace.scene.findIndex((at) => at >= own - pace.first - 1e-9);
    const end = pace.scene.length - 1;
    return pace.first + (k < 0 ? end + Math.max(0, Math.ceil(own - pace.first - pace.scene[end]!)) : k);
}

export const NOWHERE: Moments = { frames: {}, late: {} };

/** A key with its frame known. */
export interface Knot {
    frame: number;
    value: number;
    ease: Ease;
    /** Its place among the keys of the value; −1 where it is none of them. */
    at: number;
}

/** Cues of a document; `found` are those a bake or a search has found. */
export function momentsOf(document: ShotDocument, found: Readonly<Record<string, number>>): Moments {
    const frames: Record<string, number | null> = {};
    const late: Record<string, true> = {};
    for (const cue of document.cues ?? []) {
        if (cue.at.on === 'frame') frames[cue.id] = cue.at.frame;
        else {
            const at = cue.at;
            frames[cue.id] = found[cue.id] ?? null;
            // Where what drifts is met only a bake tells; a map looks at it where its drift has it.
            const looked = (at.on === 'touch' ? [at.one, at.other] : looksAt(document, at.map)).map((id) => document.props.find((p) => p.id === id)?.motion);
            if (looked.some((m) => m !== undefined && (letsGo(m) || (at.on === 'touch' && hasMover(m))))) late[cue.id] = true;
        }
    }
    return { frames, late };
}

/** The props a weight map looks at, and those it takes over; not the one it is of. */
function looksAt(document: ShotDocument, map: string, seen: readonly string[] = []): string[] {
    const own = document.props.flatMap((p) => p.weights ?? []).find((m) => m.id === map);
    if (own === undefined || seen.includes(map)) return [];
    return own.sources.flatMap((s) => [s, s.within ?? null]).flatMap((s) => {
        if (s === null) return [];
        const values = s.values as Record<string, unknown>;
        const own = [values.to, s.on].filter((id): id is string => typeof id === 'string');
        const drifts = own.flatMap((id) => document.props.find((p) => p.id === id)?.motion.drift?.map ?? []);
        return [...own, ...drifts.flatMap((m) => looksAt(document, m, [...seen, map])), ...(typeof values.map === 'string' ? looksAt(document, values.map, [...seen, map]) : [])];
    });
}

export function isKeyed(value: Value | undefined): value is Keyed {
    return typeof value === 'object';
}

export function frameOf(key: Key, moments: Moments): number | null {
    if (key.cue === undefined) return key.frame ?? 0;
    const anchor = moments.frames[key.cue] ?? null;
    return anchor === null ? null : anchor + (key.offset ?? 0);
}

type Outside = NonNullable<Keyed['before']>;

/** Its keys that have a frame, in order; of two on one frame the last counts. */
export function knotsOf(value: Keyed, moments: Moments): Knot[] {
    const by = new Map<number, Knot>();
    value.keys.forEach((key, at) => {
        const frame = frameOf(key, moments);
        if (frame !== null) by.set(frame, { frame, value: key.value, ease: key.ease ?? 'linear', at });
    });
    return [...by.values()].sort((a, b) => a.frame - b.frame);
}

/** The value at a frame, as the core has it: for drawing, and for setting keys. */
export function valueAt(value: Value, frame: number, moments: Moments): number {
    if (!isKeyed(value)) return value;
    const last = latest(value, moments);
    if (last !== null && frame < last.frame) return valueAt(value, frame, without(moments, last.cue));
    let knots = knotsOf(value, moments);
    let before = value.before ?? 'hold';
    if (last !== null) {
        knots = knots.filter((k) => k.frame >= last.frame);
        if (knots.length === 0 || knots[0]!.frame > last.frame) knots.unshift({ frame: last.frame, value: valueAt(value, last.frame, without(moments, last.cue)), ease: 'linear', at: -1 });
        before = 'hold';
    }
    if (knots.length === 0) return value.keys[0].value;
    if (knots.length === 1) return knots[0]!.value;
    const [k, share] = progress(knots, frame, before, value.after ?? 'hold');
    const [a, b] = [knots[k]!, knots[k + 1]!];
    return share === 1 ? b.value : a.value + (b.value - a.value) * share;
}

/** How far it has got from one of two keys or more to the next: the number of the key it comes from, and the share of the change that is done. */
export function progress(knots: readonly Pick<Knot, 'frame' | 'ease'>[], frame: number, before: Outside, after: Outside): [number, number] {
    const first = knots[0]!;
    const end = knots[knots.length - 1]!;
    let at = frame;
    if (frame < first.frame || frame > end.frame) {
        const how = frame < first.frame ? before : after;
        if (how === 'hold') return frame < first.frame ? [0, 0] : [knots.length - 2, 1];
        const span = end.frame - first.frame;
        const turns = Math.floor((frame - first.frame) / span);
        const rest = frame - first.frame - turns * span;
        at = how === 'swing' && turns % 2 !== 0 ? first.frame + span - rest : first.frame + rest;
    }
    let low = 0;
    let high = knots.length - 1;
    while (high - low > 1) {
        const middle = (low + high) >> 1;
        if (knots[middle]!.frame <= at) low = middle;
        else high = middle;
    }
    const a = knots[low]!;
    const share = (at - a.frame) / (knots[low + 1]!.frame - a.frame);
    return [low, share >= 1 ? 1 : eased(a.ease, share)];
}

/** Where its keys stand, and how each leads on, what is over by a cue that came with them; nothing where it never changes. */
export function stationsOf(value: Keyed, moments: Moments): Pick<Knot, 'frame' | 'ease'>[] {
    const knots = knotsOf(value, moments);
    const last = latest(value, moments);
    if (last === null) return knots.length > 1 || value.keys.some((k) => frameOf(k, moments) === null) ? knots : [];
    const own: Pick<Knot, 'frame' | 'ease'>[] = knots.filter((k) => k.frame >= last.frame);
    if (own.length === 0 || own[0]!.frame > last.frame) own.unshift({ frame: last.frame, ease: 'linear' });
    return [...stationsOf(value, without(moments, last.cue)).filter((k) => k.frame < last.frame), ...own];
}

/** The cue that came last of those that only what happens decides, among what a value's keys are tied to. */
function latest(value: Keyed, moments: Moments): { cue: string; frame: number } | null {
    let last: { cue: string; frame: number } | null = null;
    for (const key of value.keys) {
        const anchor = key.cue === undefined || !moments.late[key.cue] ? null : (moments.frames[key.cue] ?? null);
        if (anchor !== null && (last === null || anchor >= last.frame)) last = { cue: key.cue!, frame: anchor };
    }
    return last;
}

function without(moments: Moments, cue: string): Moments {
    return { ...moments, frames: { ...moments.frames, [cue]: null } };
}

/** Handles of the eases that are curves. */
export const CURVES: Readonly<Record<string, readonly [number, number, number, number]>> = {
    smooth: [1 / 3, 0, 2 / 3, 1],
    'hard-start': [0, 0.5, 0.55, 1],
    'long-tail': [0.05, 0.85, 0.1, 1],
    overshoot: [0.3, 0.2, 0.35, 1.55],
};

/** The share of the change that is done after a share of the time. */
export function eased(ease: Ease, share: number): number {
    if (ease === 'linear') return share;
    if (ease === 'hold') return share < 1 ? 0 : 1;
    if (ease === 'bounce') return bounce(share);
    const [x1, y1, x2, y2] = (typeof ease === 'string' ? CURVES[ease] : ease) as readonly [number, number, number, number];
    if (share <= 0 || share >= 1) return share <= 0 ? 0 : 1;
    const s = parameter(share, x1, x2);
    const r = 1 - s;
    return 3 * r * s * (r * y1 + s * y2) + s * s * s;
}

function parameter(share: number, x1: number, x2: number): number {
    const c = 3 * x1;
    const b = 3 * (x2 - x1) - c;
    const a = 1 - c - b;
    let low = 0;
    let high = 1;
    let s = share;
    for (let round = 0; round < 64; round++) {
        const x = ((a * s + b) * s + c) * s - share;
        if (Math.abs(x) < 1e-14) break;
        if (x > 0) high = s;
        else low = s;
        const slope = (3 * a * s + 2 * b) * s + c;
        const next = slope > 1e-9 ? s - x / slope : -1;
        s = next > low && next < high ? next : 0.5 * (low + high);
    }
    return s;
}

function bounce(share: number): number {
    let t = share * 2.75;
    if (t <= 1) return t * t;
    t -= 1;
    for (let k = 0, e = 0.5; k < 3; k++, e /= 2) {
        if (t <= 2 * e) return 1 - e * e + (t - e) ** 2;
        t -= 2 * e;
    }
    return 1;
}
