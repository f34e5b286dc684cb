import { create } from 'zustand';

/** A place that is pointed out in the picture, in the coordinates of its prop. */
interface PlaceShown {
    shown: { prop: string; at: readonly [number, number, number]; asked: number } | null;
}

export const usePlace = create<PlaceShown>(() => ({ shown: null }));

export function showPlace(prop: string, at: readonly [number, number, number]): void {
    usePlace.setState((s) => ({ shown: { prop, at, asked: (s.shown?.asked ?? 0) + 1 } }));
}
