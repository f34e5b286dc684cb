import { create } from 'zustand';

export type Stage = 'props' | 'break' | 'weights' | 'motion' | 'bake' | 'hand-off';
export type View = 'three-quarter' | 'front' | 'side' | 'top';
export type Show = 'surface' | 'pieces';

interface UiState {
    stage: Stage;
    chosen: string | null;
    frame: number;
    playing: boolean;
    loop: boolean;
    spread: number;
    view: { name: View; asked: number };
    show: Show | null;
    theme: 'day' | 'night';
    /** Pieces lit up in the picture and the chart, by number within the chosen prop. */
    lit: readonly number[];
    picked: readonly number[];
    frameAsked: number;
    set: (part: Partial<Omit<UiState, 'set'>>) => void;
}

const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem('theme');

export const useUi = create<UiState>((set) => ({
    stage: 'break',
    chosen: null,
    frame: 0,
    playing: false,
    loop: true,
    spread: 0,
    view: { name: 'three-quarter', asked: 0 },
    show: null,
    theme: kept === 'night' ? 'night' : 'day',
    lit: [],
    picked: [],
    frameAsked: 0,
    set: (part) => set(part),
}));

export function applyTheme(theme: 'day' | 'night'): void {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem('theme', theme);
}
