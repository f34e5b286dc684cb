import { create } from 'zustand';
import { api, ask, bytesOf, ProblemError, type MapKind, type MapTold, type Problem } from './api';
import type { Prop, ShotDocument, WeightMap, WeightSource } from './document';
import { loadWhole, type PropPieces } from './pieces';
import { useShot } from './shot';
import { useUi } from './ui';
import { persist } from './persist';

/** The weights of a map at a frame, with what is told of all of them. */
export interface MapFrame {
    /** A byte a point, 255 for full. */
    weights: Uint8Array;
    none: number;
    full: number;
    least: number;
    mean: number;
    most: number;
}

/** Milliseconds between questions while frames are missing: the one at the playhead, or others. */
const ASK_AGAIN = { here: 50, others: 150 } as const;

/** Frames held; the oldest go first. */
const HELD = 400;

const HEAD = 28;

/** What is told of a map that is followed. */
export interface Followed {
    told: MapTold | null;
    /** Of the shot that is told of. */
    revision: number;
    problem: Problem | null;
}

interface Trial {
    frame: number;
    weights: MapFrame;
    /** After it was let go: the last round that knows nothing of the change. */
    until: number | null;
}

interface MapsState {
    /** Props unbroken, as maps are shown on them. */
    wholes: Record<string, PropPieces | undefined>;
    /** The map that is followed, and what is told of it. */
    of: string | null;
    told: MapTold | null;
    /** Of the shot that is told of; −1 as long as nothing is. */
    revision: number;
    problem: Problem | null;
    /** How many questions had begun before the one that was answered by this. */
    round: number;
    /** A frame as it would be with what is being dragged, or a source by itself; null where neither is shown. */
    trial: Trial | null;
    /** Rises whenever frames have come. */
    came: number;
}

export const useMaps = create<MapsState>(() => ({ wholes: {}, of: null, told: null, revision: -1, round: 0, problem: null, trial: null, came: 0 }));

const held = new Map<string, MapFrame>();
const asked = new Set<string>();
let following: AbortController | null = null;
let rounds = 0;

export function decodeFrame(bytes: ArrayBuffer): MapFrame {
    const view = new DataView(bytes);
    if (bytes.byteLength < HEAD || view.getUint32(0) !== 0x59425731) throw new Error('These are no weights.');
    const [none, full, least, mean, most] = [0, 1, 2, 3, 4].map((k) => view.getFloat32(8 + 4 * k, true)) as [number, number, number, number, number];
    return { weights: new Uint8Array(bytes, HEAD, view.getUint32(4, true)), none, full, least, mean, most };
}

/** The map that is shown, and the prop it is of. */
export function shownMap(document: ShotDocument | null | undefined, chosen: string | null, map: string | null): { prop: Prop; map: WeightMap; at: number } | null {
    const prop = document?.props.find((p) => p.id === chosen);
    const at = (prop?.weights ?? []).findIndex((m) => m.id === map);
    if (prop === undefined || prop.weights === undefined || prop.weights.length === 0) return null;
    return { prop, map: prop.weights[Math.max(0, at)]!, at: Math.max(0, at) };
}

export function currentMap(): ReturnType<typeof shownMap> {
    const { chosen, map } = useUi.getState();
    return shownMap(useShot.getState().shot?.document, chosen, map);
}

/** The weights told of at a frame, as far as they are here. */
export function heldAt(told: MapTold | null, frame: number): MapFrame | null {
    const key = told?.keys[Math.min(told.keys.length - 1, Math.max(0, frame - told.first))];
    return key === undefined ? null : (held.get(key) ?? null);
}

/** What is shown at a frame: a trial, or what is worked out. */
export function frameShown(frame: number): MapFrame | null {
    const { told, round, trial } = useMaps.getState();
    const made = heldAt(told, frame);
    if (trial === null || trial.frame !== frame) return made;
    return made === null || trial.until === null || round <= trial.until ? trial.weights : made;
}

/** Follows a map: asks how far it is worked out until all of it is, and fetches the frames round the playhead. */
export function follow(shot: string, prop: string, map: string): () => void {
    following?.abort();
    const control = new AbortController();
    following = control;
    if (useMaps.getState().of !== map) useMaps.setState({ of: map, told: null, revision: -1, trial: null, problem: null });
    const round = ++rounds;
    void watchMap(shot, map, 'points', control.signal, (now) => {
        useMaps.setState(now.told === null ? { ...now, trial: null } : { of: map, round, ...now });
        void fillShown();
    });
    void fetchWhole(shot, prop, control.signal);
    return () => control.abort();
}

/** Fetches the frames of the map that is followed. */
export function fillShown(): Promise<void> {
    const { told } = useMaps.getState();
    return fill(told, () => useMaps.getState().told === told);
}

/** Asks how far the weights of a map are worked out until all are, and says each answer. */
export async function watchMap(shot: string, map: string, kind: MapKind, signal: AbortSignal, say: (now: Followed) => void): Promise<void> {
    for (;;) {
        const revision = useShot.getState().shot?.revision ?? -1;
        const { frame } = useUi.getState();
        let told: MapTold;
        try {
            told = await api.map(shot, map, frame, signal, kind);
        } catch (e) {
            if (signal.aborted) return;
            if (!(e instanceof ProblemError)) throw e;
            say({ told: null, revision, problem: e.problem });
            return;
        }
        if (signal.aborted) return;
        say({ told, revision, problem: told.problem });
        if (told.done || told.problem !== null) return;
        const here = told.coverage[useUi.getState().frame - told.first] != null;
        await new Promise((r) => setTimeout(r, here ? ASK_AGAIN.others : ASK_AGAIN.here));
        if (signal.aborted) return;
    }
}

/** Milliseconds that are waited for a map to be worked out. */
const PATIENCE = 30_000;

/** The first frame at which a map is full everywhere, as far as it is worked out in good time; the last one where it never is. */
export async function fullAt(shot: string, map: string, frames: { first: number; last: number }): Promise<number> {
    for (const until = performance.now() + PATIENCE; performance.now() < until; ) {
        try {
            const told = await api.map(shot, map, frames.last, new AbortController().signal);
            const full = told.coverage.findIndex((c) => c !== null && c[1] > 0.999);
            const open = told.coverage.findIndex((c) => c === null);
            if (full >= 0 && (open < 0 || open > full)) return told.first + full;
            if (told.done || told.problem !== null) break;
        } catch (e) {
            if (!(e instanceof ProblemError)) throw e;
            break;
        }
        await new Promise((r) => setTimeout(r, ASK_AGAIN.others));
    }
    return frames.last;
}

async function fetchWhole(shot: string, prop: string, signal: AbortSignal): Promise<void> {
    try {
        const whole = await loadWhole(shot, prop, useMaps.getState().wholes[prop], signal);
        if (whole !== null && !signal.aborted) useMaps.setState((s) => ({ wholes: { ...s.wholes, [prop]: whole } }));
    } catch (e) {
        // Why it cannot be made is said elsewhere.
        if (!signal.aborted && !(e instanceof ProblemError)) throw e;
    }
}

/** Fetches frames that are worked out and not here yet, for as long as they are wanted: the one at the playhead first, then those after it. */
export function fill(told: MapTold | null, wanted: () => boolean): Promise<void> {
    return told === null ? Promise.resolve() : persist(() => fetchFrames(told, wanted), wanted);
}

async function fetchFrames(told: MapTold, wanted: () => boolean): Promise<void> {
    const here = useUi.getState().frame - told.first;
    const order = told.keys.map((_, k) => k).filter((k) => told.coverage[k] !== null).sort((a, b) => ahead(a, here) - ahead(b, here));
    for (const k of order.slice(0, HELD)) {
        const key = told.keys[k]!;
        if (held.has(key) || asked.has(key)) continue;
        asked.add(key);
        try {
            hold(key, decodeFrame(await bytesOf(await ask(`maps/frames/${key}`))));
        } finally {
            asked.delete(key);
        }
        if (!wanted()) return;
    }
}

function hold(key: string, frame: MapFrame): void {
    held.set(key, frame);
    for (const old of held.keys()) {
        if (held.size <= HELD) break;
        held.delete(old);
    }
    useMaps.setState((s) => ({ came: s.came + 1 }));
}

/** What lies ahead counts as nearer. */
function ahead(frame: number, here: number): number {
    return frame >= here ? frame - here : 3 * (here - frame);
}

let asking = false;
let next: Record<string, unknown> | null = null;
/** The last round before what was tried was let go; null while it is dragged. */
let settled: number | null = null;

/** Shows what a change would make of the map at the playhead, before it is made; always the newest that was asked for. */
export function tryOut(change: { sources?: readonly WeightSource[]; layer?: number }): void {
    next = { ...change, frame: useUi.getState().frame };
    settled = null;
    if (!asking) void askTrial();
}

async function askTrial(): Promise<void> {
    asking = true;
    try {
        while (next !== null) {
            const body = next;
            next = null;
            const shown = currentMap();
            const shot = useShot.getState().shot?.id;
            if (shown === null || shot === undefined) return;
            try {
                const response = await ask(`shots/${shot}/maps/${shown.map.id}/trial`, { method: 'POST', body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } });
                const weights = decodeFrame(await bytesOf(response));
                if (next !== STOP) useMaps.setState({ trial: { frame: Number(body.frame), weights, until: settled } });
            } catch (e) {
                if (!(e instanceof ProblemError)) throw e;
            }
            if (next === STOP) {
                next = null;
                useMaps.setState({ trial: null });
            }
        }
    } finally {
        asking = false;
    }
}

const STOP: Record<string, unknown> = {};

/** What was dragged is let go: it stays in the picture until the change is worked out, or turned out not to be possible. */
export function settleTrial(change: Promise<boolean>): void {
    settled = rounds;
    useMaps.setState(({ trial }) => ({ trial: trial && { ...trial, until: settled } }));
    void change.then((made) => {
        if (!made) endTrial();
    });
}

/** Goes back to what is worked out. */
export function endTrial(): void {
    if (asking) next = STOP;
    else useMaps.setState({ trial: null });
}
