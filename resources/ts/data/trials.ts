import type { Problem } from './api';

/** A value of a shot that is of use as the rest is. */
export interface ShotValue {
    path: string;
    kind: 'number' | 'whole' | 'choice' | 'pattern';
    /** The prop or force it is of; empty for the world. */
    of: string;
    part: string;
    label: string;
    unit: string;
    /** That what is written is taken, to be what stands in the document. */
    times: number;
    least: number;
    most: number;
    choices: Record<string, string>;
    now: number | string | null;
    keyed: boolean;
    keyable: boolean;
    /** Where it is whatever stands before it in a list; null where that cannot be told. */
    place: string | null;
}

/** What of a shot is tried, as what. */
export interface Tried {
    path: string;
    values: string;
}

/** What a trial would be, and take: of the first variants each, of all together. */
export interface TrialPlan {
    count: number;
    variants: { words: string; pieces: number; seconds: number; bytes: number; problem: string | null }[];
    seconds: number;
    bytes: number;
    /** Whether that goes by a bake of the shot. */
    known: boolean;
}

/** Figures by which bakes are told apart. */
export interface Outcome {
    /** The first frame from which nothing moves; null where something does at its end, or nothing ever did. */
    rests: number | null;
    moved: boolean;
    /** m on the ground within which nine tenths of what moves end up. */
    spread: number | null;
    energy: number;
    overlap: number;
    seconds: number;
    pieces: number;
}

/** A bake that is looked at beside others. */
export interface SeenBake {
    id: string;
    state: 'queued' | 'running' | 'done' | 'cancelled' | 'failed';
    first: number;
    last: number;
    framesDone: number;
    pieces: number;
    counts: number[];
    kept: number;
    seconds: number;
    note: string;
    problem: Problem | null;
    props: string[];
    dusty: boolean;
    anchored: Record<string, number>;
    telling: number | null;
    outcome: Outcome | null;
}

export interface Variant {
    id: number;
    number: number;
    words: string;
    problem: Problem | null;
    bake: SeenBake | null;
}

export interface TrialView {
    id: string;
    name: string;
    at: string;
    axes: (Tried & { label: string; words: string[] })[];
    variants: Variant[];
}

export interface TrialCard {
    id: string;
    name: string;
    at: string;
    count: number;
    done: number;
    open: boolean;
}

/** A bake of a shot that is still there, by what the shot was then. */
export interface KeptBake {
    words: string;
    at: string;
    latest: boolean;
    bake: SeenBake;
}

/** What is different of one bake from another, and the first thing that made it so. */
export interface Against {
    words: string[];
    what: string | null;
    from: number | null;
}

/** Figures variants can be told apart and put in order by; how each reads. */
export const FIGURES = [
    { name: 'rests', label: 'rests', hint: 'The frame from which nothing moves' },
    { name: 'spread', label: 'spread', hint: 'Nine tenths of what moves end up within so much of where it began' },
    { name: 'energy', label: 'energy', hint: 'The most that moved at one time' },
    { name: 'overlap', label: 'overlap', hint: 'The deepest, while it was baked' },
    { name: 'seconds', label: 'took', hint: 'Computing, on one worker' },
    { name: 'pieces', label: 'pieces', hint: 'Drawn in its picture' },
] as const;

export type FigureName = (typeof FIGURES)[number]['name'];

/** What tells a variant from the others: its values alone. */
export function valuesOf(axes: TrialView['axes'], number: number): string {
    const words: string[] = [];
    let rest = number;
    for (const { words: all } of [...axes].reverse()) {
        words.unshift(all[rest % all.length]!);
        rest = Math.floor(rest / all.length);
    }
    return words.join(' · ');
}

/** A figure as a number to put variants in order by: what never rests comes last, and so does what is not known. */
export function orderBy(outcome: Outcome | null, figure: FigureName): number {
    const value = outcome?.[figure];
    return value ?? (outcome === null ? Infinity : 1e9);
}

/** Variants in order: as they were made, or by a figure. */
export function ordered<T extends { bake: SeenBake | null }>(variants: readonly T[], by: FigureName | 'number'): T[] {
    if (by === 'number') return [...variants];
    return variants.map((v, k) => [orderBy(v.bake?.outcome ?? null, by), k, v] as const).sort((a, b) => (a[0] === b[0] ? a[1] - b[1] : a[0] - b[0])).map(([, , v]) => v);
}
