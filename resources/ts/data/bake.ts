import { create } from 'zustand';
import { api, ask, ProblemError, type BakeView, type FrameFigures } from './api';
import { said } from './said';

/** Floats a piece: position (3), state (0 held, 1 moving, 2 resting), turn (4). */
export const STRIDE = 8;

interface BakeStore {
    bake: BakeView | null;
    /** The shot whose bake is known, if it has one. */
    asked: string | null;
    /** All frames loaded so far, one after the other. */
    frames: Float32Array;
    loaded: number;
    figures: FrameFigures[];
    /** Milliseconds from pressing Bake to the first frame being here. */
    firstFrameAfter: number | null;
    watch: (shot: string) => () => void;
    start: (shot: string) => Promise<void>;
    cancel: () => Promise<void>;
    resume: () => Promise<void>;
}

/** Frames asked for at once. */
const BLOCK = 96;

let wake: (() => void) | null = null;
let pressedAt = 0;

export const useBake = create<BakeStore>((set, get) => {
    async function take(bake: BakeView | null): Promise<void> {
        if (bake?.id !== get().bake?.id) set({ frames: new Float32Array(0), loaded: 0, figures: [] });
        set({ bake });
        if (bake === null) return;
        while (get().loaded < bake.framesDone && get().bake?.id === bake.id) {
            const from = get().loaded;
            const bytes = await framesOf(bake.id, from, bake.framesDone);
            const size = bake.pieces * STRIDE;
            const got = Math.floor(bytes.length / size);
            if (got === 0 || get().bake?.id !== bake.id) break;
            let frames = get().frames;
            const total = (bake.last - bake.first + 1) * size;
            if (frames.length < total) frames = new Float32Array(total);
            frames.set(bytes.subarray(0, got * size), from * size);
            if (from === 0 && pressedAt > 0) {
                set({ firstFrameAfter: performance.now() - pressedAt });
                pressedAt = 0;
            }
            set({ frames, loaded: from + got });
        }
        const known = get().figures;
        if (known.length < bake.framesDone) set({ figures: [...known, ...(await api.figures(bake.id, known.length))] });
    }

    async function change(work: Promise<{ bake: BakeView }>): Promise<void> {
        try {
            await take((await work).bake);
        } catch (e) {
            said(e);
        }
        wake?.();
    }

    return {
        bake: null,
        asked: null,
        frames: new Float32Array(0),
        loaded: 0,
        figures: [],
        firstFrameAfter: null,
        watch: (shot) => {
            let on = true;
            void (async () => {
                while (on) {
                    try {
                        const known = get().bake;
                        const bake = known !== null && busy(known) ? { ...known, ...(await api.bakeState(known.id)) } : (await api.bake(shot)).bake;
                        if (on) await take(bake);
                        if (on) set({ asked: shot });
                    } catch (e) {
                        if (!(e instanceof ProblemError)) throw e;
                    }
                    const waiting = busy(get().bake);
                    await new Promise<void>((r) => {
                        // The first frame is waited for.
                        const timer = setTimeout(r, waiting ? (get().loaded === 0 ? 60 : 200) : 4000);
                        wake = () => {
                            clearTimeout(timer);
                            r();
                        };
                    });
                }
            })();
            return () => {
                on = false;
                wake?.();
                set({ bake: null, asked: null, frames: new Float32Array(0), loaded: 0, figures: [] });
            };
        },
        start: (shot) => {
            pressedAt = performance.now();
            set({ firstFrameAfter: null });
            return change(api.startBake(shot));
        },
        cancel: () => change(api.cancelBake(get().bake!.id)),
        resume: () => change(api.resumeBake(get().bake!.id)),
    };
});

/** Asks for the bake's state soon, after something it depends on has changed. */
export function pokeBake(): void {
    wake?.();
}

/** Whether the loaded frames fit the pieces on the stage, prop for prop. */
export function framesFit(bake: BakeView | null, pieces: number): boolean {
    return bake !== null && bake.pieces === pieces && !bake.changed.some((part) => part === 'order' || part.startsWith('shape:'));
}

function busy(bake: BakeView | null): boolean {
    return bake !== null && (bake.state === 'queued' || bake.state === 'running');
}

/** Some frames of a bake from one on, counted from its first; blocks of the same frames can be kept by the browser. */
async function framesOf(bake: string, from: number, done: number, signal?: AbortSignal): Promise<Float32Array> {
    const bytes = await (await ask(`bakes/${bake}/frames?from=${from}&count=${Math.min(BLOCK, done - from)}`, { signal })).arrayBuffer();
    return new Float32Array(bytes, 0, Math.floor(bytes.byteLength / 4));
}

/** All frames of a bake that is done. */
export async function loadFrames(bake: BakeView, signal: AbortSignal): Promise<Float32Array> {
    const size = bake.pieces * STRIDE;
    const frames = new Float32Array(bake.framesDone * size);
    for (let at = 0; at < frames.length; ) {
        const got = await framesOf(bake.id, at / size, bake.framesDone, signal);
        const whole = got.subarray(0, Math.floor(got.length / size) * size);
        if (whole.length === 0) break;
        frames.set(whole.subarray(0, frames.length - at), at);
        at += whole.length;
    }
    return frames;
}
