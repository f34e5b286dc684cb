import { create } from 'zustand';
import { ask, bytesOf, ProblemError, type Problem } from './api';
import type { Prop } from './document';
import { readFrames, type PropFrame } from './frames';
import { useShot } from './shot';
import { useUi } from './ui';
import { persist } from './persist';

/** What weight maps decide of props, as far as it is worked out. */
export interface Told {
    first: number;
    /** By prop: what each frame depends on, null as long as it is not worked out. */
    props: Record<string, { keys: (string | null)[]; problem: Problem | null }>;
}

interface EvaluatedState {
    told: Told | null;
    /** Of the shot that is told of; −1 as long as nothing is. */
    revision: number;
    /** Rises whenever frames have come. */
    came: number;
}

export const useEvaluated = create<EvaluatedState>(() => ({ told: null, revision: -1, came: 0 }));

/** Milliseconds between questions while frames are missing. */
const ASK_AGAIN = 150;

/** Bytes of frames held; the oldest go first. */
const HELD = 120_000_000;

const held = new Map<string, PropFrame>();
const wanted = new Set<string>();
let bytes = 0;
let following: AbortController | null = null;

/** What weight maps decide of a prop at a frame; the nearest one before it as long as that is not here. */
export function evaluatedIn(told: Told | null, prop: string, frame: number): PropFrame | null {
    const keys = told?.props[prop]?.keys;
    if (told === null || keys === undefined) return null;
    for (let k = Math.min(keys.length - 1, Math.max(0, frame - told.first)); k >= 0; k--) {
        const there = keys[k] == null ? undefined : held.get(keys[k]!);
        if (there !== undefined) return there;
    }
    return null;
}

/** The same of the shot that is open. */
export function evaluatedAt(prop: string, frame: number): PropFrame | null {
    return evaluatedIn(useEvaluated.getState().told, prop, frame);
}

/** Whether what is shown of a prop at a frame is of that very frame. */
export function isWorkedOutIn(told: Told | null, prop: string, frame: number): boolean {
    const keys = told?.props[prop]?.keys;
    const key = told === null ? null : keys?.[Math.min(keys.length - 1, Math.max(0, frame - told.first))];
    return key != null && held.has(key);
}

/** The same of the shot that is open. */
export function isWorkedOut(prop: string, frame: number): boolean {
    return isWorkedOutIn(useEvaluated.getState().told, prop, frame);
}

/** Whether weight maps decide where the pieces of a prop are, which are seen, or how its surface looks. */
export function isEvaluated(p: Prop): boolean {
    return p.motion.kind === 'drift' || p.appears != null || p.relief != null || p.material.second != null || p.blend != null;
}

/** Whether what they decide of a prop goes before what was baked of it: drift is evaluated, not baked, unless it hands pieces over to physics. */
export function goesByMaps(p: Prop, baked: boolean): boolean {
    return p.motion.kind === 'drift' && (!baked || p.motion.drift?.handOver !== true);
}

/** Follows the props of a shot that weight maps move or show: asks how far they are worked out until all are, and fetches the frames. */
export function followEvaluated(shot: string): () => void {
    following?.abort();
    const control = new AbortController();
    following = control;
    void watch(shot, control.signal).catch((e: unknown) => {
        if (!control.signal.aborted && !(e instanceof ProblemError)) throw e;
    });
    return () => control.abort();
}

async function watch(shot: string, signal: AbortSignal): Promise<void> {
    for (;;) {
        const { shot: now } = useShot.getState();
        const props = now?.document.props.filter((p) => isEvaluated(p) && !p.hidden) ?? [];
        const revision = now?.revision ?? -1;
        if (props.length === 0) {
            useEvaluated.setState({ told: null, revision });
            return;
        }
        const told = await askTold(`shots/${shot}`, signal);
        if (signal.aborted) return;
        useEvaluated.setState({ told, revision });
        void fillEvaluated();
        if (isWhole(told, props)) return;
        await new Promise((r) => setTimeout(r, ASK_AGAIN));
        if (signal.aborted) return;
    }
}

/** How far props of a shot (`shots/…`) or of what was baked (`bakes/…`) are worked out; what is missing is begun. */
async function askTold(at: string, signal: AbortSignal): Promise<Told> {
    return (await (await ask(`${at}/evaluated?at=${useUi.getState().frame}`, { signal })).json()) as Told;
}

function isWhole(told: Told, props: readonly Prop[]): boolean {
    return props.every((p) => told.props[p.id]?.problem != null || told.props[p.id]?.keys.every((k) => k !== null) === true);
}

/**
 * Asks how far what weight maps decide of a bake is worked out, until all of it is.
 *
 * @param props of the bake that they decide something of
 */
export async function tellOfBake(bake: string, props: readonly Prop[], signal: AbortSignal, told: (told: Told) => void): Promise<void> {
    for (;;) {
        const now = await askTold(`bakes/${bake}`, signal);
        if (signal.aborted) return;
        told(now);
        if (isWhole(now, props)) return;
        await new Promise((r) => setTimeout(r, ASK_AGAIN));
        if (signal.aborted) return;
    }
}

/** Fetches frames that are worked out and not here yet, the one at the playhead first. */
export function fillEvaluated(): Promise<void> {
    const { told } = useEvaluated.getState();
    return told === null ? Promise.resolve() : fetchFrames(told, () => useUi.getState().frame, () => useEvaluated.getState().told === told);
}

/** What is being fetched of just now, so that a playhead on its way does not begin it once a frame. */
const fetching = new WeakSet<Told>();

/**
 * Fetches frames of what is told that are not here yet, those nearest to where `frame` is by then first, as long as they are wanted.
 *
 * @param only the frame itself, and none beside it
 */
export async function fetchFrames(told: Told, frame: () => number, isWanted: () => boolean, only = false): Promise<void> {
    if (fetching.has(told)) return;
    fetching.add(told);
    try {
        await persist(async () => {
            for (let key = nearest(told, frame(), only); key !== null && isWanted(); key = nearest(told, frame(), only)) {
                wanted.add(key);
                try {
                    const got = await bytesOf(await ask(`maps/frames/${key}`));
                    hold(key, readFrames(got, 1)[0]![0]!, got.byteLength);
                } finally {
                    wanted.delete(key);
                }
            }
        }, isWanted);
    } finally {
        fetching.delete(told);
    }
}

/** What is missing nearest to a frame, what comes before it counting as farther. */
function nearest(told: Told, frame: number, only: boolean): string | null {
    const here = frame - told.first;
    let best: string | null = null;
    let least = Infinity;
    for (const { keys } of Object.values(told.props)) {
        keys.forEach((key, k) => {
            const far = k >= here ? k - here : 3 * (here - k);
            if (key !== null && far < least && (!only || far === 0) && !held.has(key) && !wanted.has(key)) {
                best = key;
                least = far;
            }
        });
    }
    return best;
}

function hold(key: string, frame: PropFrame, size: number): void {
    held.set(key, frame);
    bytes += size;
    for (const [old, { poses, points, corners, skin }] of held) {
        if (bytes <= HELD || old === key) break;
        held.delete(old);
        bytes -= poses.byteLength + (points?.byteLength ?? 0) + (corners?.byteLength ?? 0) + (skin?.weights.byteLength ?? 0);
    }
    useEvaluated.setState((s) => ({ came: s.came + 1 }));
}
