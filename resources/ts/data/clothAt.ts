import { create } from 'zustand';
import { api, ProblemError } from './api';

/** Something of cloth that is one number a point. */
export interface OnCloth {
    /** Where there is most of it. */
    at: [number, number, number];
    /** A byte a point of its pieces, 255 for all that there can be, or is. */
    weights: Uint8Array;
}

/** What cloth bears at a baked frame. */
export interface ClothAt {
    frame: number;
    /** Shares of its length: where it is drawn most, on the mean, and by how much it gives before it is taut. */
    stretch: OnCloth & { worst: number; mean: number; gives: number };
    /** Pa outwards, the most and the least of it; null for what is not puffed up. */
    pressure: (OnCloth & { most: number; least: number }) | null;
}

/** The same, as it is told. */
export interface ClothTold {
    frame: number;
    stretch: Omit<ClothAt['stretch'], 'weights'> & { weights: string };
    pressure: (Omit<NonNullable<ClothAt['pressure']>, 'weights'> & { weights: string }) | null;
}

export const useClothAt = create<{ of: string | null; found: ClothAt | null; problem: string | null }>(() => ({ of: null, found: null, problem: null }));

/** Milliseconds that the playhead stands still before anything is asked. */
const STILL = 300;

let asking = false;
let next: readonly [string, string, number] | null = null;

/** Asks what the cloth of a prop bears at a frame once the playhead stands there, one question at a time; the last answer stays until the next one is there. */
export function followCloth(bake: string, prop: string, frame: number): () => void {
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
            await ask(bake, prop, frame);
        }
    } finally {
        asking = false;
    }
}

const bytes = <T extends { weights: string }>(told: T): Omit<T, 'weights'> & { weights: Uint8Array } => ({ ...told, weights: Uint8Array.from(atob(told.weights), (c) => c.charCodeAt(0)) });

async function ask(bake: string, prop: string, frame: number): Promise<void> {
    try {
        const { stretch, pressure, ...told } = await api.cloth(bake, prop, frame);
        useClothAt.setState({ of: prop, found: { ...told, stretch: bytes(stretch), pressure: pressure && bytes(pressure) }, problem: null });
    } catch (e) {
        if (!(e instanceof ProblemError)) throw e;
        useClothAt.setState({ of: prop, found: null, problem: e.problem.message });
    }
}
