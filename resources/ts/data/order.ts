import { create } from 'zustand';
import { ask, ProblemError } from './api';

/** When the pieces of a prop are let go, as far as that can be told without a bake. */
interface OrderState {
    prop: string | null;
    /** By piece: the frame, or null where only a bake can tell; null as a whole as long as it is not known. */
    frames: readonly (number | null)[] | null;
}

export const useOrder = create<OrderState>(() => ({ prop: null, frames: null }));

let asking: AbortController | null = null;

/** Milliseconds between questions while the pieces are being made. */
const ASK_AGAIN = 600;

/** Asks for the order of a prop's pieces. */
export function askOrder(shot: string, prop: string): () => void {
    asking?.abort();
    const control = new AbortController();
    asking = control;
    if (useOrder.getState().prop !== prop) useOrder.setState({ prop, frames: null });
    void (async () => {
        for (;;) {
            try {
                const { frames } = (await (await ask(`shots/${shot}/props/${prop}/order`, { signal: control.signal })).json()) as { frames: (number | null)[] | null };
                if (control.signal.aborted) return;
                useOrder.setState({ prop, frames });
                if (frames !== null) return;
            } catch (e) {
                if (control.signal.aborted || e instanceof ProblemError) return;
                throw e;
            }
            await new Promise((r) => setTimeout(r, ASK_AGAIN));
            if (control.signal.aborted) return;
        }
    })();
    return () => control.abort();
}

/** The first and the last frame at which any goes, or null where none does. */
export function spanOf(frames: readonly (number | null)[]): readonly [number, number] | null {
    const told = frames.filter((f): f is number => f !== null);
    return told.length === 0 ? null : [Math.min(...told), Math.max(...told)];
}
