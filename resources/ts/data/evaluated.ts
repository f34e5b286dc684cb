import { create } from 'zustand';
import { ask, bytesOf, ProblemError, type Problem } from './api';
import type { Prop } from './document';
import { readFrames, type PropFrame } from './frames';
import { useShot } from './shot';
import { useUi } from './ui';
import { persist } from './persist';

interface Told {
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
export function evaluatedAt(prop: string, frame: number): PropFrame | null {
    const { told } = useEvaluated.getState();
    const keys = told?.props[prop]?.keys;
    if (told === null || keys === undefined) return null;
    for (let k = Math.min(keys.length - 1, Math.max(0, frame - told.first)); k >= 0; k--) {
        const there = keys[k] == null ? undefined : held.get(keys[k]!);
        if (there !== undefined) return there;
    }
    return null;
}

/** Whether what is shown of a prop at a frame is of that very frame. */
export function isWorkedOut(prop: string, frame: number): boolean {
    const { told } = useEvaluated.getState();
    const keys = told?.props[prop]?.keys;
    const key = told === null ? null : keys?.[Math.min(keys.length - 1, Math.max(0, frame - told.first))];
    return key != null && held.has(key);
}

/** Whether weight maps decide where the pieces of a prop are, which are seen, or how its surface looks. */
export function isEvaluated(p: Prop): boolean {
    return p.motion.kind === 'drift' || p.appears != null || p.relief != null || p.material.second != null || p.blend != null;
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
        const told = (await (await ask(`shots/${shot}/evaluated?at=${useUi.getState().frame}`, { signal })).json()) as Told;
        if (signal.aborted) return;
        useEvaluated.setState({ told, revision });
        void fillEvaluated();
        if (props.every((p) => told.props[p.id]?.problem != null || told.props[p.id]?.keys.every((k) => k !== null))) return;
        await new Promise((r) => setTimeout(r, ASK_AGAIN));
        if (signal.aborted) return;
    }
}

/** Fetches frames that are worked out and not here yet, the one at the playhead first. */
export function fillEvaluated(): Promise<void> {
    const { told } = useEvaluated.getState();
    return told === null ? Promise.resolve() : persist(() => fetchFrames(told), () => useEvaluated.getState().told === told);
}

async function fetchFrames(told: Told): Promise<void> {
    const here = useUi.getState().frame - told.first;
    const keys = Object.values(told.props).flatMap((p) => p.keys.flatMap((key, k) => (key === null || held.has(key) ? [] : [{ key, far: k >= here ? k - here : 3 * (here - k) }])));
    for (const { key } of keys.sort((a, b) => a.far - b.far)) {
        if (wanted.has(key) || held.has(key)) continue;
        wanted.add(key);
        try {
            const got = await bytesOf(await ask(`maps/frames/${key}`));
            hold(key, readFrames(got, 1)[0]![0]!, got.byteLength);
        } finally {
            wanted.delete(key);
        }
        if (useEvaluated.getState().told !== told) return;
    }
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
