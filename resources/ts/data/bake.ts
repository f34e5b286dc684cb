import { create } from 'zustand';
import { api, ProblemError, type BakeView, type FrameFigures } from './api';
import { FrameStore } from './frames';
import { said } from './said';
import { useUi } from './ui';

interface BakeState {
    bake: BakeView | null;
    /** The shot whose bake is known, if it has one. */
    asked: string | null;
    store: FrameStore | null;
    /** Frames there are, from the first on. */
    loaded: number;
    /** Raised whenever frames have come. */
    came: number;
    figures: FrameFigures[];
    /** Cues that a touch decides, where the bake or a search has found them. */
    found: Readonly<Record<string, number>>;
    /** Those that keys alone decide. */
    foreseen: Readonly<Record<string, number>>;
    /** Milliseconds from pressing Bake to the first frame being here. */
    firstFrameAfter: number | null;
    watch: (shot: string) => () => void;
    start: (shot: string) => Promise<void>;
    cancel: () => Promise<void>;
    resume: () => Promise<void>;
}

const NOTHING = { bake: null, store: null, loaded: 0, came: 0, figures: [], found: {}, foreseen: {} };

/** The bake of the shot, once it is done: what physics has moved is where that has it. */
export const useBaked = () => useBake((s) => (s.bake?.state === 'done' ? s.bake.id : null));

let wake: (() => void) | null = null;
let pressedAt = 0;

export const useBake = create<BakeState>((set, get) => {
    function came(): void {
        if (pressedAt > 0 && get().store?.get(0)) {
            set({ firstFrameAfter: performance.now() - pressedAt });
            pressedAt = 0;
        }
        set({ came: get().came + 1 });
    }

    async function take(bake: BakeView | null): Promise<void> {
        const before = get().bake;
        if (bake?.id !== before?.id) {
            get().store?.dispose();
            set({ ...NOTHING, asked: get().asked, foreseen: get().foreseen, found: get().foreseen });
        }
        set({ bake });
        if (bake === null) return;
        const found = { ...get().foreseen, ...bake.anchored };
        if (JSON.stringify(get().found) !== JSON.stringify(found)) set({ found });
        if (bake.framesDone > 0) {
            const store = get().store ?? new FrameStore(bake.id, bake.counts, came, bake.dusty);
            if (get().loaded !== bake.framesDone || get().store === null) {
                set({ store, loaded: bake.framesDone });
                void store.fill(useUi.getState().frame - bake.first, bake.framesDone).catch(said);
            }
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

    // Whoever goes to a far frame finds it there soon.
    useUi.subscribe((ui, before) => {
        const { store, bake, loaded } = get();
        if (ui.frame !== before.frame && store && bake && store.get(ui.frame - bake.first) === null) void store.fill(ui.frame - bake.first, loaded).catch(said);
    });

    return {
        ...NOTHING,
        asked: null,
        firstFrameAfter: null,
        watch: (shot) => {
            let on = true;
            void (async () => {
                while (on) {
                    try {
                        const known = get().bake;
                        const told = known !== null && busy(known) ? await api.bakeState(known.id) : null;
                        // What is true of it is told again once it has ended.
                        const bake = known !== null && told !== null && (told.state === 'running' || told.state === 'queued') ? { ...known, ...told } : (await api.bake(shot)).bake;
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
                get().store?.dispose();
                set({ ...NOTHING, asked: null });
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

/** Whether baked frames fit the props on the stage, piece for piece. */
export function framesFit(bake: Pick<BakeView, 'counts' | 'props'> | null, props: readonly { id: string; pieces: number }[]): boolean {
    return bake !== null && bake.counts.length === props.length && props.every((p, i) => bake.props[i] === p.id && bake.counts[i] === p.pieces);
}

/** The first frame of a bake that is no longer true, or none. */
export function staleFrom(bake: BakeView | null): number | null {
    return bake === null || bake.plan.same >= bake.framesDone ? null : bake.first + bake.plan.same;
}

function busy(bake: BakeView | null): boolean {
    return bake !== null && (bake.state === 'queued' || bake.state === 'running');
}

/** Asks when those touches come that keys alone decide. */
export async function foresee(shot: string): Promise<void> {
    const { found } = await api.moments(shot);
    useBake.setState((s) => ({ foreseen: found, found: { ...found, ...s.bake?.anchored } }));
}
