import { create } from 'zustand';
import { FinishedSurface, type Finish } from './finish';
import { useShot } from './shot';
import { ask, askUntilThere, bytesOf, CutOff, ProblemError, untilWhole, type BreakFigures, type Fitness, type Problem } from './api';

/** A prop's pieces as the server sends them: see app/Yard/PropPicture.php for the layout. */
export interface PropPieces {
    tag: string;
    vertices: number;
    positions: Float32Array;
    normals: Int16Array;
    pieceOf: Uint16Array;
    /** Two numbers a vertex, or null where the prop has no place for a picture. */
    places: Float32Array | null;
    mapped: boolean;
    /** One number a vertex, 255 for full, or null where nothing weighs the prop. */
    weights: Uint8Array | null;
    weighed: boolean;
    /** Of the prop unbroken the point of its mesh that each vertex is; where it is skinned, that of its pieces, one after the other. */
    pointOf: Uint32Array | null;
    /** How its surface follows from points that move by themselves. */
    finished: FinishedSurface | null;
    /** Whether its surface goes by weight maps. */
    skinned: boolean;
    /** Only a first look, while the whole is being made. */
    first: boolean;
    /** The ring each piece lies in, and the way they were hit, in the prop's own coordinates. */
    rings: { axis: Triple; of: number[] } | null;
    pieces: { name: string; volume: number; centre: [number, number, number] }[];
    figures: BreakFigures;
    fitness: Fitness | null;
    /** What repairs did, in words. */
    mended: string[];
    /** Lengths that suit the prop's size better than the defaults, by pattern and by step. */
    lengths: { patterns: Record<string, Record<string, unknown>>; steps: Record<string, Record<string, unknown>>; weights: Record<string, Record<string, unknown>> };
    /** Directions of the plans that lines are drawn on, in the prop's own coordinates: that of its break, and that of each step after it. */
    plans: { break: Plan | null; rework: (Plan | null)[] };
}

export type Triple = [number, number, number];

export interface Plan {
    u: Triple;
    v: Triple;
    w: Triple;
}

interface PiecesState {
    byProp: Record<string, PropPieces>;
    problems: Record<string, Problem | undefined>;
    /** Share of the break made so far, or null where nothing is being made. */
    working: Record<string, number | null>;
    refresh: (shot: string, prop: string) => Promise<void>;
    clear: () => void;
}

const running = new Map<string, AbortController>();

export const usePieces = create<PiecesState>((set, get) => ({
    byProp: {},
    problems: {},
    working: {},
    clear: () => set({ byProp: {}, problems: {}, working: {} }),
    refresh: async (shot, prop) => {
        const drawn = get().byProp[prop];
        const tag = useShot.getState().shot?.tags[prop];
        // Nothing about it has changed: nothing is asked.
        if (drawn && !drawn.first && tag !== undefined && drawn.tag === tag && !running.has(prop)) {
            set((s) => ({ problems: { ...s.problems, [prop]: undefined } }));
            return;
        }
        // Only the newest question matters.
        running.get(prop)?.abort();
        const control = new AbortController();
        running.set(prop, control);
        set((s) => ({ working: { ...s.working, [prop]: 0 } }));
        let look = false;
        let seen = false;
        try {
            for (;;) {
                const known = get().byProp[prop];
                // By its tag the browser may have kept it.
                const kept = !look && tag !== undefined && !known?.first;
                const [response, pieces] = await untilWhole(async () => {
                    const answer = await ask(`shots/${shot}/props/${prop}/picture${look ? '?first=1' : kept ? `?tag=${tag.replaceAll('"', '')}` : ''}`, { signal: control.signal, cache: kept ? 'default' : 'no-store', headers: known && !known.first ? { 'If-None-Match': known.tag } : {} });
                    return [answer, answer.status === 200 ? decode(await bytesOf(answer), answer.headers.get('ETag') ?? '') : null] as const;
                }, control.signal);
                if (response.status === 202) {
                    const { share, first } = (await response.json()) as { share: number; first: boolean };
                    if (!control.signal.aborted) set((s) => ({ working: { ...s.working, [prop]: share } }));
                    look = first && !seen;
                    if (look) continue;
                    await new Promise((r) => setTimeout(r, 250));
                    if (control.signal.aborted) return;
                    continue;
                }
                if (pieces !== null) {
                    if (control.signal.aborted) return;
                    set((s) => ({ byProp: { ...s.byProp, [prop]: pieces } }));
                    if (pieces.first) {
                        // The whole comes after; until then nothing is said about it.
                        seen = true;
                        look = false;
                        continue;
                    }
                }
                set((s) => ({ problems: { ...s.problems, [prop]: undefined } }));
                break;
            }
        } catch (e) {
            if (control.signal.aborted) return;
            if (!(e instanceof ProblemError)) throw e;
            const problem = e.problem;
            set((s) => ({ problems: { ...s.problems, [prop]: problem } }));
            if (get().byProp[prop] === undefined) await unbroken(shot, prop, control.signal, (pieces) => set((s) => ({ byProp: { ...s.byProp, [prop]: pieces } })));
        } finally {
            if (running.get(prop) === control) {
                running.delete(prop);
                set((s) => ({ working: { ...s.working, [prop]: null } }));
            }
        }
    },
}));

/**
 * A prop's pieces, whole, however long they take to make.
 *
 * @param of where they are asked for: `shots/…`, or the variant or bake they are of
 */
export async function loadPieces(of: string, prop: string, signal: AbortSignal): Promise<PropPieces> {
    return untilWhole(async () => {
        const response = await askUntilThere(`${of}/props/${prop}/picture`, { signal, every: 500 });
        return decode(await bytesOf(response), response.headers.get('ETag') ?? '');
    }, signal);
}

/** Where no break has been seen yet, the prop as it is shows at least what to mend. */
async function unbroken(shot: string, prop: string, signal: AbortSignal, show: (pieces: PropPieces) => void): Promise<void> {
    try {
        const response = await ask(`shots/${shot}/props/${prop}/picture?whole=1`, { signal, cache: 'no-store' });
        const pieces = decode(await bytesOf(response), '');
        if (!signal.aborted) show(pieces);
    } catch (e) {
        // The prop itself cannot be made; why is said already.
        if (!signal.aborted && !(e instanceof ProblemError)) throw e;
    }
}

export function decode(buffer: ArrayBuffer, tag: string): PropPieces {
    const length = buffer.byteLength < 4 ? 0 : new DataView(buffer).getUint32(0, true);
    if (length === 0 || buffer.byteLength < 4 + length) throw new CutOff();
    const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as Omit<PropPieces, 'tag' | 'positions' | 'normals' | 'pieceOf' | 'places' | 'weights' | 'pointOf' | 'finished'> & { finish?: Finish };
    const at = 4 + length;
    const n = head.vertices;
    const places = at + 22 * n + ((2 * n) % 4);
    const weights = places + (head.mapped ? 8 * n : 0);
    const end = head.weighed ? weights + n : head.mapped ? weights : at + 22 * n;
    if (buffer.byteLength < end) throw new CutOff();
    const points = weights + (head.weighed ? n : 0);
    const pointOf = pointsAt(buffer, points, n);
    if (head.finish !== undefined && pointOf === null) throw new CutOff();
    const finished = head.finish !== undefined && pointOf !== null ? new FinishedSurface(buffer, points + ((4 - (points % 4)) % 4) + 4 * n, pointOf, head.finish) : null;
    return {
        ...head,
        tag,
        positions: new Float32Array(buffer.slice(at, at + 12 * n)),
        normals: new Int16Array(buffer.slice(at + 12 * n, at + 20 * n)),
        pieceOf: new Uint16Array(buffer.slice(at + 20 * n, at + 22 * n)),
        places: head.mapped ? new Float32Array(buffer.slice(places, places + 8 * n)) : null,
        weights: head.weighed ? new Uint8Array(buffer.slice(weights, weights + n)) : null,
        pointOf,
        finished,
    };
}

/** Numbers of points stand at the end, from a multiple of four bytes on, where there are any. */
function pointsAt(buffer: ArrayBuffer, end: number, n: number): Uint32Array | null {
    const at = end + ((4 - (end % 4)) % 4);
    return buffer.byteLength >= at + 4 * n && n > 0 ? new Uint32Array(buffer.slice(at, at + 4 * n)) : null;
}

/** The prop as it is before any break. */
export async function loadWhole(shot: string, prop: string, known: PropPieces | undefined, signal: AbortSignal): Promise<PropPieces | null> {
    const response = await ask(`shots/${shot}/props/${prop}/picture?whole=1`, { signal, cache: 'no-store', headers: known ? { 'If-None-Match': known.tag } : {} });
    return response.status === 304 ? null : decode(await bytesOf(response), response.headers.get('ETag') ?? '');
}
