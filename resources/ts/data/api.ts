import type { ChipShape } from './dust';
import type { LinedUp } from './lineUp';
import type { Rims } from './pins';
import type { ClothTold } from './clothAt';
import type { Against, KeptBake, TrialCard, TrialPlan, TrialView, Tried, ShotValue } from './trials';
import type { Ease, Frames, Material, Plate, ShotDocument } from './document';
import { useDoor } from './door';

/** What the server says is wrong, in words. */
export interface Problem {
    kind: string;
    message: string;
    path: string;
    remedy: string;
    /** Where, in the prop's own coordinates. */
    place: [number, number, number] | null;
}

export class ProblemError extends Error {
    constructor(
        readonly problem: Problem,
        readonly status: number,
        readonly body: unknown,
    ) {
        super(problem.message);
    }
}

export interface ShotView {
    id: string;
    revision: number;
    document: ShotDocument;
    /** By prop: another where its pieces are others. */
    tags: Record<string, string>;
    /** By prop: another where what others meet of it is. */
    meets: Record<string, string>;
    /** Where keyed props follow the pace: the frame their keys have come to at each frame, counted from the first; none where they keep to frames. */
    pace: number[];
    undo: string | null;
    redo: string | null;
}

export interface ShotCard {
    id: string;
    name: string;
    revision: number;
    changedAt: string;
    madeAt: string;
    openedAt: string | null;
    /** Where it lies; empty for no folder. */
    folder: string;
    tags: string[];
    props: string[];
    frames: Frames;
    bake: { id: string; state: BakeState; share: number; telling: number | null } | null;
    /** When its picture was drawn, and what of. */
    picture: number | null;
    pictureOf: string | null;
}

/** A prop that was copied, to be pasted here or in another shot. */
export interface Copied {
    shot: string;
    prop: string;
    name: string;
}

/** Kept values of one bench. */
export interface PresetCard {
    id: string;
    bench: PresetBench;
    name: string;
    given: boolean;
}

export type PresetBench = 'break' | 'motion' | 'material' | 'dust' | 'weights';

/** What was done to a shot, the last first. */
export interface History {
    /** When the shot was made, ISO 8601. */
    begun: string;
    /** How many edits came before those told. */
    more: number;
    /** Of what the shot was right after each; whether it is known how that looked. */
    edits: { id: number; label: string; name: string; undone: boolean; at: string; picture: boolean }[];
    /** Whether it is known how it looked as it began. */
    picture: boolean;
}

export interface Option {
    name: string;
    label: string;
    meaning: string;
    type: 'whole' | 'number' | 'point' | 'points' | 'direction' | 'sizes' | 'profile' | 'path' | 'outline' | 'lines' | 'text' | 'choice' | 'weight' | 'prop' | 'map' | 'curve' | 'numbers' | 'names' | 'pictures' | 'strokes' | 'moment' | 'course' | 'colour';
    /** Whether it can be another value at every frame. */
    keyable: boolean;
    default: unknown;
    least: number;
    most: number;
    unit: string;
    choices: string[];
    /** Of no use unless this other option is set, is what stands after `=`, or more than what stands after `>`; or one of several, parted by `|`. */
    with: string;
    /** Of no use where there is one piece only. */
    ofPieces: boolean;
    /** What it belongs to with others, as a heading. */
    part: string;
    /** By choice: what is to be known of it. */
    notes?: Record<string, string> | never[];
    /** Set of pictures that has one of each choice; empty for none. */
    pictures?: string;
}

/** A thing of the catalogue: a shape, a step of preparation, a source of weights or a break pattern. */
export interface Entry {
    label: string;
    meaning?: string;
    options: Option[];
}

/** A way to move; its options are those of what moves pieces once they are let go. */
export interface MoverEntry extends Entry {
    /** It leads pieces by rule until they are let go, if ever they are. */
    leads: boolean;
    /** The points of a surface move by themselves. */
    waves: boolean;
    /** What it moves must enclose a volume, so that it has mass. */
    mass: boolean;
}

/** A source of weights. */
export interface SourceEntry extends Entry {
    /** It can be asked at any place, and so steer a break. */
    anywhere: boolean;
    /** It measures a distance and makes a weight of it. */
    measured: boolean;
}

/** What is doubtful about a weight map; paths are within the map, `at` in the prop's own coordinates. */
export interface MapFinding {
    message: string;
    remedy: string;
    path: string;
    frame: number | null;
    at: [number, number, number] | null;
    /** What one press does about it. */
    mend: { path: string; value: Record<string, unknown> } | null;
}

/** What weights are of: points of the prop unbroken, its pieces, or all points of these where their surface goes by maps. */
export type MapKind = 'points' | 'pieces' | 'skin';

/** How far a map reaches, frame by frame, as far as that is worked out: shares at none and at full, the least, the mean and the most. */
export interface MapTold {
    first: number;
    /** What the weights of each frame depend on. */
    keys: string[];
    coverage: ([number, number, number, number, number] | null)[];
    done: boolean;
    problem: Problem | null;
    findings: MapFinding[];
}

/** A drawing of lines; its longer side is 1, or it is in metres. */
export interface Outline {
    /** Width and height of the picture it was traced in. */
    frame?: [number, number];
    unit: 'box' | 'm';
    lines: { points: [number, number][]; closed: boolean; name?: string }[];
}

/** What something of a material is at first; of one's own (`own`) it may say more than the given ones do. */
export interface MaterialPreset extends Omit<Material, 'name'> {
    label: string;
    own?: boolean;
}

export interface Catalogue {
    shapes: Record<string, Entry>;
    steps: Record<string, Entry>;
    weights: Record<string, SourceEntry>;
    inTime: Record<string, Entry>;
    pushes: Record<string, Entry>;
    drifts: Record<string, Entry>;
    forces: Record<string, Entry>;
    /** What dust can come from. */
    dust: Record<string, Entry>;
    /** What chips look like. */
    chips: Record<string, ChipShape>;
    /** By kind of motion. */
    movers: Record<string, MoverEntry>;
    grounds: Record<string, Entry>;
    patterns: Record<string, Entry>;
    materials: Record<string, MaterialPreset>;
    /** What can be set of the world and of a prop. */
    settings: Record<'world' | 'place' | 'material' | 'camera' | 'plate' | 'relief' | 'force', Option[]>;
    /** How copies of a prop are strewn. */
    scatter: Option[];
    eases: { name: Exclude<Ease, unknown[]>; label: string; curve: number[] | null; shape: number[] }[];
    /** Frames and seconds. */
    rates: [number, number][];
}

export interface Fitness {
    faces: number;
    vertices: number;
    closed: boolean;
    oriented: boolean;
    parts: number;
    boundary_edges: number;
    nonmanifold_edges: number;
    doubled_faces: number;
    zero_area_faces: number;
    loose_points: number;
    area: number;
    volume: number;
    bounds: [number[], number[]];
    edges: { shortest: number; median: number; longest: number };
    can_break: boolean;
    /** Whether the surface was seen to pass through itself. */
    crosses: boolean;
    faults: { fault: string; repair: string | null; place: [number, number, number] | null }[];
}

export interface BreakFigures {
    pieces: number;
    volume: number;
    smallest: number;
    median: number;
    largest: number;
    largest_to_median: number;
    watertight: number;
    slivers: number[];
    giants: number[];
    heavy: number[];
    evenness: number;
    thinnest: number;
    interior_area: number;
    triangles: number;
}

export interface AssetView {
    asset: string;
    file: string;
    groups: string[];
    materials: string[];
    /** As the web writes it, or null where the file has none. */
    colour: string | null;
    fitness: Fitness;
}

/** A plate made of pictures, and the numbers that are not there. */
export interface PlateMade {
    plate: Plate;
    missing: number[];
}

export type BakeState = 'queued' | 'running' | 'done' | 'cancelled' | 'failed';

export interface BakeView {
    id: string;
    state: BakeState;
    first: number;
    last: number;
    framesDone: number;
    pieces: number;
    seconds: number;
    note: string;
    /** What of it was damaged on the disk and computed again, in words. */
    mended: string;
    problem: Problem | null;
    /** Pieces of each prop, and these by id. */
    counts: number[];
    /** Whether its frames have dust. */
    dusty: boolean;
    props: string[];
    /** Frames taken over from an earlier bake. */
    kept: number;
    /** Cues it found. */
    anchored: Record<string, number>;
    /** What a bake of the shot as it is now would find. */
    plan: BakePlan;
    fingerprint: string;
    startedAt: string;
    /** Why it gets no further, or nothing where it does. */
    stalled: string;
}

/** What is asked of a running bake again and again. */
export type BakeProgress = Pick<BakeView, 'id' | 'state' | 'first' | 'framesDone' | 'pieces' | 'counts' | 'seconds' | 'note' | 'problem' | 'stalled'>;

export interface BakePlan {
    /** Frames that need no computing. */
    kept: number;
    /** Frames of this bake that are still true. */
    same: number;
    /** What makes the next one another, in words; null where nothing does. */
    what: string | null;
    /** Seconds the others will take, as far as that can be told. */
    seconds: number | null;
}

/** The first contact of two props. */
export interface Mark {
    prop: string;
    other: string;
    speed: number;
    at: [number, number, number];
}

export interface FrameFigures {
    frame: number;
    /** Pieces let go so far, by prop. */
    released: Record<string, number>;
    moving: number;
    resting: number;
    energy: number;
    overlap: number;
    seconds: number;
    /** Seconds of those by what they were spent on, as far as that is told apart. */
    work?: Record<string, number>;
    /** Pairs of pieces whose bond broke at it, by prop. */
    cracks?: Record<string, [number, number][]>;
    /** Of dust. */
    grains?: number;
    /** Pieces slow for a second that do not rest; held back by a limit of speed; and gone so far. */
    twitching?: number;
    limited?: number;
    gone?: number;
    /** Share of its length that soft surfaces are drawn by, where most; and m³ that closed ones enclose. */
    stretch?: number;
    volume?: number;
    marks: Mark[];
}

export interface HandOffView {
    id: string;
    format: string;
    state: 'queued' | 'done' | 'failed';
    /** Of what is to be written, 0…1. */
    share: number;
    file: string | null;
    bytes: number;
    problem: Problem | null;
    at: string;
}

/** What the yard takes on the disk, in bytes, and what of it nothing refers to any more; that goes by itself after some seconds. */
export interface Space {
    bytes: number;
    clearable: number;
    after: number;
    /** What can be made again, and what that may take before what was used longest ago goes. */
    again: number;
    keep: number;
}

export interface Finding {
    level: 'wrong' | 'doubtful';
    path: string;
    prop: string;
    message: string;
    remedy: string;
    /** Pieces of the prop it is about. */
    pieces?: number[];
    /** Edits that mend it. */
    mends?: { label: string; patch: PatchStep[] }[];
}

const unreachable: Problem = { kind: 'network', message: 'Yard Break does not answer.', path: '', remedy: 'Check that bin/start is still running; what you typed is kept.', place: null };

/** Milliseconds between questions for what is still being made. */
const ASK_AGAIN = 400;

export async function ask(path: string, init: RequestInit = {}): Promise<Response> {
    const request = { ...init, headers: { Accept: 'application/json', 'X-Yard': '1', ...init.headers } };
    let response: Response;
    try {
        // What changes nothing is asked once more where the way broke: a worker of the server may have ended.
        response = await fetch(`api/${path}`, request).catch(async (e: unknown) => {
            if (init.method !== undefined || init.signal?.aborted) throw e;
            await new Promise((r) => setTimeout(r, ASK_AGAIN));
            return fetch(`api/${path}`, request);
        });
    } catch (e) {
        if (init.signal?.aborted) throw e;
        throw new ProblemError(unreachable, 0, null);
    }
    if (response.ok || response.status === 304) return response;
    const body: unknown = await response.json().catch(() => null);
    if (response.status === 401 && path !== 'sign-in') useDoor.setState({ closed: true });
    const problem = (body as { problem?: Problem } | null)?.problem ?? { ...unreachable, message: `The request was refused (${response.status}).`, remedy: 'Reload the page and try again.' };
    throw new ProblemError(problem, response.status, body);
}

/** Asks until it is there: what is still being made is answered with 202, and what such an answer says is told. */
export async function askUntilThere<T>(path: string, { signal, making, every = ASK_AGAIN }: { signal?: AbortSignal; making?: (said: T) => void; every?: number } = {}): Promise<Response> {
    for (;;) {
        const response = await ask(path, { signal: signal ?? null, cache: 'no-store' });
        if (response.status !== 202) return response;
        if (making !== undefined) {
            const said = (await response.json()) as T;
            signal?.throwIfAborted();
            making(said);
        }
        await new Promise((r) => setTimeout(r, every));
        signal?.throwIfAborted();
    }
}

/** The bytes of an answer. One that breaks off is as none: the server was out of reach. */
export async function bytesOf(response: Response): Promise<ArrayBuffer> {
    try {
        return await response.arrayBuffer();
    } catch (e) {
        if (e instanceof TypeError) throw new CutOff();
        throw e;
    }
}

/** What came is not all there is. */
export class CutOff extends ProblemError {
    constructor() {
        super(unreachable, 0, null);
    }
}

/** How often the way may break before that is said. */
const BREAKS = 20;

/** What is large may break off on its way: then it is asked for again. */
export async function untilWhole<T>(get: () => Promise<T>, signal: AbortSignal): Promise<T> {
    for (let broke = 1; ; broke++) {
        try {
            return await get();
        } catch (e) {
            if (signal.aborted || !(e instanceof CutOff) || broke === BREAKS) throw e;
            await new Promise((r) => setTimeout(r, 400));
        }
    }
}

async function json<T>(path: string, init: RequestInit = {}): Promise<T> {
    return (await (await ask(path, init)).json()) as T;
}

function send<T>(method: string, path: string, body: unknown = {}): Promise<T> {
    return json<T>(path, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } });
}

/** Brings a mesh in; a large one is read in the background, and asked after until that is done. */
async function bringIn(file: File): Promise<AssetView> {
    let got = await json<AssetView | { reading: string }>(`assets?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } });
    while ('reading' in got) {
        await new Promise((r) => setTimeout(r, 300));
        got = await json<AssetView | { reading: string }>(`assets/reading/${got.reading}`);
    }
    return got;
}

/** How far the reading of a file has got: what is known of it, and the share that is done, as far as it can be told. */
export interface ReadingTold {
    reading: string;
    what?: string;
    share?: number | null;
}

/** Brings a film in, which is taken apart in the background; nothing comes of it where it is called off. */
async function plateFilm(file: File, told: (so: ReadingTold) => void, calledOff: AbortSignal): Promise<PlateMade | null> {
    let got = await json<PlateMade | ReadingTold>(`plates/film?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' }, signal: calledOff });
    while ('reading' in got) {
        told(got);
        await new Promise((r) => setTimeout(r, 400));
        if (calledOff.aborted) {
            await ask(`assets/reading/${got.reading}`, { method: 'DELETE' });
            return null;
        }
        got = await json<PlateMade | ReadingTold>(`assets/reading/${got.reading}`);
    }
    return got;
}

export const api = {
    signIn: (pass: string) => send<{ signedIn: true }>('POST', 'sign-in', { pass }),
    catalogue: () => json<Catalogue>('catalogue'),
    shots: () => json<ShotCard[]>('shots'),
    space: () => json<Space>('space'),
    clear: () => send<Space & { cleared: number }>('DELETE', 'space'),
    newShot: (body: { from?: string; demo?: string } = {}) => send<ShotView>('POST', 'shots', body),
    shot: (id: string, opens = false) => json<ShotView>(`shots/${id}${opens ? '?opens=1' : ''}`),
    placeShot: (id: string, place: { folder?: string; tags?: readonly string[] }) => ask(`shots/${id}/place`, { method: 'PUT', body: JSON.stringify(place), headers: { 'Content-Type': 'application/json' } }),
    deletedShots: () => json<{ id: string; name: string; until: string }[]>('shots/deleted'),
    deleteShot: (id: string) => ask(`shots/${id}`, { method: 'DELETE' }),
    restoreShot: (id: string) => send<ShotView>('POST', `shots/${id}/restore`),
    importShot: (file: File) => json<ShotView>('shots/import', { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } }),
    keepPicture: (id: string, of: string, png: Blob) => ask(`shots/${id}/picture?of=${encodeURIComponent(of)}`, { method: 'PUT', body: png, headers: { 'Content-Type': 'application/octet-stream' } }),
    check: (id: string) => json<Finding[]>(`shots/${id}/check`),
    edit: (id: string, revision: number, patch: PatchStep[], label: string) => send<ShotView>('POST', `shots/${id}/edits`, { revision, patch, label }),
    punch: (id: string, prop: string, revision: number, others: string[]) => send<ShotView>('POST', `shots/${id}/props/${prop}/punch`, { revision, others }),
    paste: (id: string, revision: number, from: Copied, onto?: { onto: string; what: readonly string[] }) => send<ShotView & { made: string; left: string[] }>('POST', `shots/${id}/paste`, { revision, shot: from.shot, prop: from.prop, ...onto }),
    copyProp: (id: string, prop: string, revision: number) => send<ShotView & { made: string }>('POST', `shots/${id}/props/${prop}/copies`, { revision }),
    keepFrame: (id: string, prop: string, revision: number, frame: number) => send<ShotView>('POST', `shots/${id}/props/${prop}/cast`, { revision, frame }),
    history: (id: string) => json<History>(`shots/${id}/history`),
    goTo: (id: string, revision: number, edit: number) => send<ShotView>('POST', `shots/${id}/history/${edit}`, { revision }),
    keepStatePicture: (id: string, revision: number, jpeg: Blob) => ask(`shots/${id}/history/picture?revision=${revision}`, { method: 'PUT', body: jpeg, headers: { 'Content-Type': 'application/octet-stream' } }),
    nameState: (id: string, edit: number, name: string) => send<History>('PUT', `shots/${id}/history/${edit}/name`, { name }),
    undo: (id: string, revision: number) => send<ShotView>('POST', `shots/${id}/undo`, { revision }),
    redo: (id: string, revision: number) => send<ShotView>('POST', `shots/${id}/redo`, { revision }),
    bringIn,
    outline: (file: File) => json<Outline>(`outlines?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } }),
    bringPicture: (file: File) => json<{ asset: string; file: string }>(`pictures?name=${encodeURIComponent(file.name)}`, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } }),
    platePictures: (files: { name: string; asset: string }[]) => send<PlateMade>('POST', 'plates/pictures', { files }),
    plateFilm,
    rims: (id: string, prop: string) => json<Rims>(`shots/${id}/props/${prop}/rims`),
    names: (asset: string, file: string) => json<{ groups: string[]; materials: string[] }>(`assets/${asset}/names?name=${encodeURIComponent(file)}`),
    bake: (id: string) => json<{ bake: BakeView | null }>(`shots/${id}/bake`),
    bakeState: (bake: string) => json<BakeProgress>(`bakes/${bake}/state`),
    map: (id: string, map: string, frame: number, signal: AbortSignal, kind: MapKind = 'points') => json<MapTold>(`shots/${id}/maps/${map}?at=${frame}&kind=${kind}`, { signal }),
    moments: (id: string) => json<{ found: Record<string, number> }>(`shots/${id}/moments`),
    startBake: (id: string) => send<{ bake: BakeView }>('POST', `shots/${id}/bakes`),
    cancelBake: (bake: string) => send<{ bake: BakeView }>('POST', `bakes/${bake}/cancel`),
    resumeBake: (bake: string) => send<{ bake: BakeView }>('POST', `bakes/${bake}/resume`),
    bakedDocument: (bake: string) => json<ShotDocument>(`bakes/${bake}/document`),
    presets: () => json<PresetCard[]>('presets'),
    keepPreset: (shot: string, prop: string, bench: PresetBench, name: string) => send<PresetCard[]>('POST', 'presets', { shot, prop, bench, name }),
    keepMaterial: (shot: string, prop: string) => send<Catalogue['materials']>('POST', 'materials', { shot, prop }),
    forgetMaterial: (name: string) => json<Catalogue['materials']>(`materials/${encodeURIComponent(name)}`, { method: 'DELETE' }),
    removePreset: (id: string) => ask(`presets/${id}`, { method: 'DELETE' }),
    layPreset: (shot: string, revision: number, preset: string, onto: readonly string[]) => send<ShotView & { left: string[] }>('POST', `shots/${shot}/presets`, { revision, preset, onto }),
    help: async (page: string) => (await ask(`help/${page}`)).text(),
    lineUp: (shot: string, frame: number) => send<LinedUp>('POST', `shots/${shot}/line-up`, { frame }),
    values: (shot: string) => json<ShotValue[]>(`shots/${shot}/values`),
    planTrial: (shot: string, axes: readonly Tried[]) => send<TrialPlan>('POST', `shots/${shot}/trials/plan`, { axes }),
    beginTrial: (shot: string, axes: readonly Tried[]) => send<TrialView>('POST', `shots/${shot}/trials`, { axes }),
    trials: (shot: string) => json<TrialCard[]>(`shots/${shot}/trials`),
    trial: (id: string) => json<TrialView>(`trials/${id}`),
    lookAt: (trial: string, numbers: readonly number[]) => ask(`trials/${trial}/look`, { method: 'POST', body: JSON.stringify({ numbers }), headers: { 'Content-Type': 'application/json' } }),
    callOffTrial: (trial: string) => send<TrialView>('POST', `trials/${trial}/cancel`),
    goOnWithTrial: (trial: string) => send<TrialView>('POST', `trials/${trial}/resume`),
    removeTrial: (trial: string) => ask(`trials/${trial}`, { method: 'DELETE' }),
    chooseVariant: (variant: number, revision: number) => send<ShotView>('POST', `variants/${variant}/choose`, { revision }),
    keptBakes: (shot: string) => json<KeptBake[]>(`shots/${shot}/bakes`),
    against: (bake: string, before: string) => json<Against>(`bakes/${bake}/against/${before}`),
    documentOf: (of: string) => json<ShotDocument>(`${of}/document`),
    cloth: (bake: string, prop: string, frame: number) => json<ClothTold>(`bakes/${bake}/cloth/${prop}/${frame}`),
    figures: (bake: string, from: number) => json<FrameFigures[]>(`bakes/${bake}/figures?from=${from}`),
    handOffs: (bake: string) => json<{ sent: HandOffView[]; leaves: Record<string, string[]> }>(`bakes/${bake}/hand-offs`),
    handOff: (bake: string, format: string) => send<HandOffView>('POST', `bakes/${bake}/hand-offs`, { format }),
};

/** One step of a JSON Patch (RFC 6902). */
export type PatchStep = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string };
