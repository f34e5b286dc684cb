import { create } from 'zustand';
import type { Cutting } from './cutting';
import type { Triple } from './pieces';
import type { Clock } from './time';

/** Where somebody works: the six stages of the spine, and what belongs to the shot as a whole. */
export type Stage = 'props' | 'break' | 'weights' | 'motion' | 'bake' | 'hand-off' | 'shot';
export type View = 'three-quarter' | 'front' | 'side' | 'top' | 'camera';
export type Show = 'surface' | 'pieces' | 'inside' | 'clear' | 'wire' | 'contact' | 'weight' | 'order' | 'mortar' | 'stretch' | 'pressure';
export type Handle = 'move' | 'turn' | 'size' | 'off';

interface UiState {
    stage: Stage;
    chosen: string | null;
    /** Props chosen together with that one. */
    also: readonly string[];
    frame: number;
    playing: boolean;
    loop: boolean;
    /** Times true speed; below zero backwards. */
    speed: number;
    /** Every frame is drawn, however long it takes, instead of leaving out those there is no time for. */
    everyFrame: boolean;
    clock: Clock;
    /** Frames played, first and last, or null for the whole shot. */
    range: readonly [number, number] | null;
    spread: number;
    /** Pieces move apart from a point, or ring by ring along the way they were hit. */
    spreadBy: 'distance' | 'ring';
    /** Lines are being drawn in the picture: those of the break, or of a step after it. */
    drawing: 'break' | number | null;
    /** The move of a drift whose path is being drawn in the picture. */
    path: number | null;
    /** The prop whose corners and edges are picked in the picture, to be held. */
    pinning: string | null;
    /** What is matched next in the picture to line the camera up: a point, or a line; null while it is not lined up, `look` while nothing is added. */
    lining: 'point' | 'line' | 'look' | null;
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
    /** A place the view is to come close to, and how much about it is to be seen, in metres. */
    look: { at: Triple; across: number; asked: number };
    /** Keys picked in the cue sheet, as `lane frame`. */
    keys: readonly string[];
    /** Frames by which those are being dragged. */
    keyShift: number;
    /** A cue that is dragged, and by how many frames. */
    cueShift: { id: string; by: number } | null;
    /** Keys that were copied. */
    cut: readonly Cutting[];
    /** The lane whose curves are in the drawer. */
    lane: string | null;
    drawer: boolean;
    /** The stretch of frames the cue sheet shows, or null for the whole shot. */
    stretch: readonly [number, number] | null;
    /** Lanes shown: all that can be keyed, or only what has keys; and of these such a name. */
    lanes: { keyed: boolean; search: string };
    /** Props whose lanes are folded to one. */
    folded: readonly string[];
    /** The weight map that is shown, and its source that is worked on. */
    map: string | null;
    layer: number;
    /** On Weights: what the map does is shown, not the prop unbroken that it lies on. */
    effect: boolean;
    /** A source shown by itself. */
    alone: number | null;
    set: (part: Partial<Omit<UiState, 'set'>>) => void;
}

const kept = typeof localStorage === 'undefined' ? null : localStorage.getItem('theme');

export const useUi = create<UiState>((set) => ({
    stage: 'break',
    chosen: null,
    also: [],
    frame: 0,
    playing: false,
    loop: true,
    speed: 1,
    everyFrame: false,
    clock: (typeof localStorage === 'undefined' ? null : (localStorage.getItem('clock') as Clock | null)) ?? 'frames',
    range: null,
    spread: 0,
    spreadBy: 'distance',
    drawing: null,
    path: null,
    pinning: null,
    lining: null,
    view: { name: 'three-quarter', asked: 0 },
    show: null,
    handles: 'move',
    turned: { how: 'orbit', x: 0, y: 0, asked: 0 },
    theme: kept === 'night' ? 'night' : 'day',
    lit: [],
    picked: [],
    frameAsked: 0,
    look: { at: [0, 0, 0], across: 1, asked: 0 },
    keys: [],
    keyShift: 0,
    cueShift: null,
    cut: [],
    lane: null,
    drawer: false,
    stretch: null,
    lanes: { keyed: true, search: '' },
    folded: [],
    map: null,
    layer: 0,
    effect: false,
    alone: null,
    // Whoever chooses one prop chooses it alone.
    set: (part) => set('chosen' in part && !('also' in part) ? { ...part, also: [] } : part),
}));

/** Whether props are shown as they are made: where the document has them, whatever a bake or their maps do to them. */
export function isMaking({ stage, effect }: Pick<UiState, 'stage' | 'effect'>): boolean {
    return stage === 'props' || stage === 'break' || (stage === 'weights' && !effect);
}

/** Where pieces are picked in the picture. */
export function isPicking(stage: Stage): boolean {
    return stage === 'break' || stage === 'weights' || stage === 'motion';
}

export function applyTheme(theme: 'day' | 'night'): void {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem('theme', theme);
}
