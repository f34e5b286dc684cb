import { create } from 'zustand';
import { api, ProblemError } from './api';

/** By how much cloth is drawn at a baked frame. */
export interface Stretch {
    frame: number;
    /** Shares of its length: where it is drawn most, on the mean, and by how much it gives before it is taut. */
    worst: number;
    mean: number;
    gives: number;
    /** Where it is drawn most. */
    at: [number, number, number];
    /** A byte a point of its pieces, 255 for as far as it gives. */
    weights: Uint8Array;
}

export const useStretch = create<{ of: string | null; found: Stretch | null; problem: string | null }>(() => ({ of: null, found: null, problem: null }));

/** Milliseconds that the playhead stands still before anything is asked. */
const STILL = 300;

let asking = false;
let next: readonly [string, string, number] | null = null;

/** Asks for the stretch of a prop at a frame once the playhead stands there, one question at a time; the last answer stays until the next one is there. */
export function followStretch(bake: string, prop: string, frame: number): () => void {
    const wait = setTimeout(() => {
        next = [bake, prop, frame];
        if (!asking) void askAll();
    }, STILL);
    return () => clearTimeout(wait);
}

async function askAll(): Promise<void> {
    asking = true;
    try {
        while (next !== null) {
            const [bake, prop, frame] = next;
            next = null;
            await askStretch(bake, prop, frame);
        }
    } finally {
        asking = false;
    }
}

async function askStretch(bake: string, prop: string, frame: number): Promise<void> {
    try {
        const told = await api.stretch(bake, prop, frame);
        useStretch.setState({ of: prop, found: { ...told, weights: Uint8Array.from(atob(told.weights), (c) => c.charCodeAt(0)) }, problem: null });
    } catch (e) {
        if (!(e instanceof ProblemError)) throw e;
        useStretch.setState({ of: prop, found: null, problem: e.problem.message });
    }
}
