import { create } from 'zustand';
import { ask, ProblemError, type FrameFigures } from './api';
import { said } from './said';

/** Numbers of a bond, one after the other: two pieces, its middle, half its two sides, the share of its strength, its strain. */
export type Section = readonly number[];

interface MortarState {
    prop: string | null;
    /** Null as long as they are being found. */
    words: string[] | null;
    sections: readonly Section[];
}

export const useMortar = create<MortarState>(() => ({ prop: null, words: null, sections: [] }));

/** Milliseconds between questions while it is being found. */
const ASK_AGAIN = 700;

/** Asks what the mortar of a prop holds; again as long as that is being found. */
export function askMortar(shot: string, prop: string): () => void {
    const control = new AbortController();
    if (useMortar.getState().prop !== prop) useMortar.setState({ prop, words: null, sections: [] });
    void (async () => {
        for (;;) {
            try {
                const told = (await (await ask(`shots/${shot}/props/${prop}/mortar`, { signal: control.signal })).json()) as Omit<MortarState, 'prop'>;
                if (control.signal.aborted) return;
                if (told.words !== null) {
                    useMortar.setState({ prop, ...told });
                    return;
                }
            } catch (e) {
                if (control.signal.aborted) return;
                if (e instanceof ProblemError) {
                    said(e);
                    return;
                }
                throw e;
            }
            await new Promise((r) => setTimeout(r, ASK_AGAIN));
            if (control.signal.aborted) return;
        }
    })();
    return () => control.abort();
}

/** The frame at which each bond of a prop broke, by its two pieces. */
export function brokenAt(figures: readonly FrameFigures[], prop: string): Map<string, number> {
    const out = new Map<string, number>();
    for (const { frame, cracks } of figures) for (const [one, other] of cracks?.[prop] ?? []) out.set(`${one} ${other}`, frame);
    return out;
}

/** How many bonds of all props broke at a frame. */
export function cracksAt({ cracks }: FrameFigures): number {
    return Object.values(cracks ?? {}).reduce((n, list) => n + list.length, 0);
}
