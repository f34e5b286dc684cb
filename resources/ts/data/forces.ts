import { create } from 'zustand';
import { ask, ProblemError, type PatchStep } from './api';
import type { Force, ShotDocument } from './document';
import { free, freeAmong } from './make';

/** What forces do to a prop at a frame, in words. */
export interface ForceWords {
    /** Null as long as its pieces are being made. */
    words: string[] | null;
    /** m/s of the air at its pieces. */
    wind: number;
    /** m/s where the strip ends. */
    fastest: number;
    /** Share of its pieces carried off by air of a speed, from 0 to the fastest. */
    strip: number[];
}

interface AirState {
    /** Whether arrows are drawn, and at which height, in metres; null for that of what is worked on. */
    shown: boolean;
    height: number | null;
    /** Whether lines that follow the air are drawn instead of arrows. */
    lined: boolean;
    /** Six numbers a place: where it is, and m/s of the air or m/s² of what pulls; and of each line four numbers a point: where it is, and m/s. */
    arrows: { air: number[]; pull: number[]; lines: number[][] };
}

export const useAir = create<AirState>(() => ({ shown: true, height: null, lined: false, arrows: { air: [], pull: [], lines: [] } }));

/** Asks how the air goes over a level plane. */
export function askAir(shot: string, frame: number, height: number, [x0, x1, z0, z1]: readonly [number, number, number, number]): () => void {
    return askOnce<AirState['arrows']>(`shots/${shot}/air?frame=${frame}&height=${height}&x0=${x0}&x1=${x1}&z0=${z0}&z1=${z1}&lines=${useAir.getState().lined ? 1 : 0}`, (arrows) => useAir.setState({ arrows }));
}

/** How one picked piece would fly if it were let go alone. */
interface ForecastState {
    of: { prop: string; piece: number } | null;
    /** Metres, from frame to frame. */
    path: [number, number, number][];
    words: string;
}

export const useForecast = create<ForecastState>(() => ({ of: null, path: [], words: '' }));

export function askForecast(shot: string, prop: string, piece: number, frame: number): () => void {
    const stop = askUntilTold<Pick<ForecastState, 'path'> & { words: string | null }>(`shots/${shot}/props/${prop}/forecast?piece=${piece}&frame=${frame}`, ({ path, words }) => useForecast.setState({ path, words: words ?? '', of: { prop, piece } }));
    return () => {
        stop();
        useForecast.setState({ of: null, path: [], words: '' });
    };
}

/** Asks what forces do to a prop. */
export function askForces(shot: string, prop: string, frame: number, told: (words: ForceWords) => void): () => void {
    return askUntilTold(`shots/${shot}/props/${prop}/forces?frame=${frame}`, told);
}

/** Asks again as long as pieces are being made, so that nothing can be said. */
export function askUntilTold<T extends { words: unknown }>(path: string, told: (answer: T) => void): () => void {
    let again: ReturnType<typeof setTimeout> | undefined;
    let stop = () => {};
    const go = () => {
        stop = askOnce<T>(path, (answer) => {
            told(answer);
            if (answer.words === null) again = setTimeout(go, 800);
        });
    };
    go();
    return () => {
        clearTimeout(again);
        stop();
    };
}

function askOnce<T>(path: string, told: (answer: T) => void): () => void {
    const control = new AbortController();
    void (async () => {
        try {
            const answer = (await (await ask(path, { signal: control.signal })).json()) as T;
            if (!control.signal.aborted) told(answer);
        } catch (e) {
            if (!control.signal.aborted && !(e instanceof ProblemError)) throw e;
        }
    })();
    return () => control.abort();
}

/** A force as it comes new: named by what it is. */
export function newForce(document: ShotDocument, kind: string, label: string, values: Force['values']): PatchStep[] {
    const all = document.forces ?? [];
    const force = { id: free(kind, '-', (id) => all.some((f) => f.id === id)), name: freeAmong(all.map((f) => f.name), label), kind, values };
    return [document.forces === undefined ? { op: 'add', path: '/forces', value: [force] } : { op: 'add', path: '/forces/-', value: force }];
}
