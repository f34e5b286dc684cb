import { create } from 'zustand';

export type Stage = 'props' | 'break' | 'weights' | 'motion' | 'bake' | 'hand-off';
export type View = 'three-quarter' | 'front' | 'side' | 'top';
export type Show = 'surface' | 'pieces' | 'inside' | 'clear' | 'wire' | 'weight';
export type Handle = 'move' | 'turn' | 'size' | 'off';

interface UiState {
    stage: Stage;
    chosen: string | null;
    frame: number;
    playing: boolean;
    loop: boolean;
    /** Frames played, first and last, or null for the whole shot. */
    range: readonly [number, number] | null;
    spread: number;
    /** Pieces move apart from a point, or ring by ring along the way they were hit. */
    spreadBy: 'distance' | 'ring';
    /** Lines are being drawn in the picture: those of the break, or of a step after it. */
    drawing: 'break' | number | null;
    view: { name: View; asked: number };
    show: Show | null;
    handles: Handle;
    /** The last push the keyboard gave the camera. */
    turned: { how: 'orbit' | 'pan' | 'zoom'; x: number; y: number; asked: number };
    theme: 'day' | 'night';
    /** Pieces lit up in the picture and the chart, by number within the chosen prop. */
    lit: readonly number[];
    picked: readonly number[];
    frameAsked: number;
    /** Keys picked in the cue sheet, as `prop frame`. */
    keys: readonly string[];
    /** Frames by which those are being dragged. */
    keyShift: number;
    /** Props whose lanes are folded to one. */
    folded: readonly string[];
    set: (part: Partial<Omit<UiState, 'set'>>) => void;
}

const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem('theme');

export const useUi = create<UiState>((set) => ({
    stage: 'break',
    chosen: null,
    frame: 0,
    playing: false,
    loop: true,
    range: null,
    spread: 0,
    spreadBy: 'distance',
    drawing: null,
    view: { name: 'three-quarter', asked: 0 },
    show: null,
    handles: 'move',
    turned: { how: 'orbit', x: 0, y: 0, asked: 0 },
    theme: kept === 'night' ? 'night' : 'day',
    lit: [],
    picked: [],
    frameAsked: 0,
    keys: [],
    keyShift: 0,
    folded: [],
    set: (part) => set(part),
}));

export function applyTheme(theme: 'day' | 'night'): void {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem('theme', theme);
}
