import { create } from 'zustand';
import type { Triple } from '../data/pieces';
import { roundStep } from './fit';

/** How the picture is looked at, for what is drawn over it. */
interface Lens {
    /** Rises whenever the camera or the size of the picture has changed. */
    seen: number;
    /** Pixels from the left and the top for a point of the scene. */
    project: (p: Triple) => [number, number];
    /** The line of sight through a pixel: where it starts, and its direction. */
    cast: (x: number, y: number) => { from: Triple; towards: Triple };
    /** Where that line first meets a prop, or null where it misses. */
    surface: (prop: string, x: number, y: number) => Triple | null;
    /** The weight shown there, 0…1. */
    weight: (prop: string, x: number, y: number) => number | null;
    /** Pixels a metre takes at the point looked at. */
    metre: number;
}

export const useLens = create<Lens>(() => ({ seen: 0, project: () => [0, 0], cast: () => ({ from: [0, 0, 0], towards: [0, 0, -1] }), surface: () => null, weight: () => null, metre: 100 }));

/** Metres, rounded to what can be told apart in the picture: 1, 2 or 5 of a decimal place, finer than a pixel. */
export function snapped(value: number, pixelsPerMetre: number): number {
    const step = roundStep(Math.min(0.5 / pixelsPerMetre, 0.5));
    return Number((Math.round(value / step) * step).toPrecision(12)) + 0;
}
