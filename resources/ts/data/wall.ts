import { create } from 'zustand';
import { api, ProblemError, type Problem } from './api';
import type { ShotDocument } from './document';
import { fetchFrames, isEvaluated, tellOfBake, type Told } from './evaluated';
import { FrameStore } from './frames';
import { loadPieces, type PropPieces } from './pieces';
import { visibleProps } from './shot';
import { momentsOf, type Moments } from './track';
import type { SeenBake } from './trials';
import { useUi } from './ui';

/** Something that is looked at beside others: a variant of a trial, or a bake. */
export interface WallPicture {
    key: string;
    /** Where its document and pieces are asked for. */
    at: string;
    words: string;
    /** What tells it from the others. */
    short: string;
    problem: Problem | null;
    bake: SeenBake | null;
}

/** What is drawn of one. */
export interface Drawn {
    document: ShotDocument;
    pieces: Record<string, PropPieces>;
    store: FrameStore;
    moments: Moments;
    /** Frames there are. */
    loaded: number;
    /** What weight maps decide beside the bake; null as long as it is not told, or where they decide nothing. */
    told: Told | null;
}

/** Beside each other; one in place of the other; or one through the other. */
export type Beside = 'beside' | 'flip' | 'ghost';

/** Pictures in sync at most; a contact sheet has more, each at a frame of its own. */
export const MOST = 9;
export const ON_A_SHEET = 16;

/** Bytes of frames held of all pictures together. */
const KEPT = 160_000_000;

interface WallState {
    pictures: readonly WallPicture[];
    /** Those shown, by key, in their order. */
    shown: readonly string[];
    how: Beside;
    /** While a key is held: each shows the first; of two in one place, the other. */
    flipped: boolean;
    /** Each at the frame that tells most of it. */
    sheet: boolean;
    drawn: Readonly<Record<string, Drawn>>;
    problems: Readonly<Record<string, Problem>>;
    /** Raised whenever something has come. */
    came: number;
    /** Takes what is known of pictures now, and fetches what is missing of those that are shown. */
    take: (pictures: readonly WallPicture[]) => void;
    show: (keys: readonly string[]) => void;
    clear: () => void;
}

const NOTHING = { pictures: [], shown: [], how: 'beside', flipped: false, sheet: false, drawn: {}, problems: {} } as const;

const asking = new Map<string, AbortController>();

/** Asking what weight maps decide, by picture. */
const telling = new Map<string, AbortController>();

export const useWall = create<WallState>((set, get) => {
    const came = () => set((s) => ({ came: s.came + 1 }));

    function fill(): void {
        const { shown, pictures, drawn } = get();
        for (const key of Object.keys(drawn)) if (!shown.includes(key)) drop(key);
        for (const picture of pictures) {
            if (!shown.includes(picture.key) || (picture.bake?.framesDone ?? 0) === 0) continue;
            const own = drawn[picture.key];
            // Taken up anew it is another bake.
            if (own !== undefined && own.store.bake !== picture.bake!.id) drop(picture.key);
            if (get().drawn[picture.key] === undefined) void fetchOne(picture);
            else more(picture);
        }
    }

    /** Frames that have come since, those round the playhead first; on a sheet only the one that tells most. */
    function more(picture: WallPicture): void {
        const own = get().drawn[picture.key];
        const bake = picture.bake!;
        if (own === undefined) return;
        if (own.loaded !== bake.framesDone) set((s) => ({ drawn: { ...s.drawn, [picture.key]: { ...own, loaded: bake.framesDone } } }));
        const at = frameOf(picture, useUi.getState().frame);
        if (own.store.get(at) === null || !get().sheet) void own.store.fill(at, bake.framesDone, get().sheet ? 1 : Infinity).catch(ignoreProblem);
        if (own.told !== null) weights(picture.key, own.told);
        else if (bake.state === 'done' && !telling.has(picture.key)) void tell(picture.key, own, bake);
    }

    /** Beside a whole bake stands what weight maps decide: how far that is worked out, and its frames. */
    async function tell(key: string, own: Drawn, bake: SeenBake): Promise<void> {
        const props = visibleProps(own.document).filter(isEvaluated);
        if (props.length === 0) return;
        const control = new AbortController();
        telling.set(key, control);
        try {
            await tellOfBake(bake.id, props, control.signal, (told) => {
                const now = get().drawn[key];
                if (now?.store !== own.store) return control.abort();
                set((s) => ({ drawn: { ...s.drawn, [key]: { ...now, told } } }));
                weights(key, told);
            });
        } catch (e) {
            if (!control.signal.aborted) ignoreProblem(e);
        }
    }

    function weights(key: string, told: Told): void {
        const at = () => {
            const picture = get().pictures.find((p) => p.key === key);
            return picture?.bake == null ? told.first : picture.bake.first + frameOf(picture, useUi.getState().frame);
        };
        void fetchFrames(told, at, () => get().drawn[key]?.told === told, get().sheet);
    }

    async function fetchOne(picture: WallPicture): Promise<void> {
        if (asking.has(picture.key)) return;
        const control = new AbortController();
        asking.set(picture.key, control);
        const bake = picture.bake!;
        try {
            const document = await api.documentOf(picture.at);
            const pieces: Record<string, PropPieces> = {};
            await Promise.all(visibleProps(document).map(async (p) => (pieces[p.id] = await loadPieces(picture.at, p.id, control.signal))));
            if (control.signal.aborted) return;
            const store = new FrameStore(bake.id, bake.counts, came, bake.dusty, KEPT / Math.max(1, get().shown.length));
            set((s) => ({ drawn: { ...s.drawn, [picture.key]: { document, pieces, store, moments: momentsOf(document, bake.anchored), loaded: bake.framesDone, told: null } } }));
            came();
            more(get().pictures.find((p) => p.key === picture.key) ?? picture);
        } catch (e) {
            if (control.signal.aborted) return;
            if (!(e instanceof ProblemError)) throw e;
            const problem = e.problem;
            set((s) => ({ problems: { ...s.problems, [picture.key]: problem } }));
        } finally {
            asking.delete(picture.key);
        }
    }

    function drop(key: string): void {
        telling.get(key)?.abort();
        telling.delete(key);
        get().drawn[key]?.store.dispose();
        set((s) => ({ drawn: Object.fromEntries(Object.entries(s.drawn).filter(([k]) => k !== key)) }));
    }

    // Whoever goes to a far frame finds it there soon.
    useUi.subscribe((ui, before) => {
        if (ui.frame !== before.frame && get().shown.length > 0) fill();
    });

    return {
        ...NOTHING,
        came: 0,
        take: (pictures) => {
            set({ pictures });
            fill();
        },
        show: (shown) => {
            set({ shown });
            fill();
        },
        clear: () => {
            asking.forEach((control) => control.abort());
            asking.clear();
            Object.keys(get().drawn).forEach(drop);
            set({ ...NOTHING });
        },
    };
});

/** The frame of its bake that a picture shows, counted from the first. */
export function frameOf({ bake }: WallPicture, frame: number): number {
    if (bake === null) return 0;
    const asked = useWall.getState().sheet && bake.telling !== null ? bake.telling : frame;
    return Math.min(Math.max(0, bake.framesDone - 1), Math.max(0, asked - bake.first));
}

/** What each part of the wall shows: keys of one picture, or of two of which the first is seen through. */
export function partsOf({ shown, how, flipped }: Pick<WallState, 'shown' | 'how' | 'flipped'>): (readonly string[])[] {
    const [one, other] = shown;
    if (shown.length === 2 && how === 'flip') return [[flipped ? one! : other!]];
    if (shown.length === 2 && how === 'ghost') return [flipped ? [other!] : [one!, other!]];
    return shown.map((key) => [flipped ? one! : key]);
}

function ignoreProblem(e: unknown): void {
    if (!(e instanceof ProblemError)) throw e;
}
