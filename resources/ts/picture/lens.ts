import { create } from 'zustand';
import type { Triple } from '../data/pieces';

/** How the picture is looked at, for what is drawn over it. */
interface Lens {
    /** Rises whenever the camera or the size of the picture has changed. */
    seen: number;
    /** Pixels from the left and the top for a point of the scene. */
    project: (p: Triple) => [number, number];
    /** The line of sight through a pixel: where it starts, and its direction. */
    cast: (x: number, y: number) => { from: Triple; towards: Triple };
}

export const useLens = create<Lens>(() => ({ seen: 0, project: () => [0, 0], cast: () => ({ from: [0, 0, 0], towards: [0, 0, -1] }) }));
