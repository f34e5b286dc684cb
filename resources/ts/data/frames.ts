import { ask, bytesOf } from './api';
import { readChips, readDust, type ChipFrame, type DustFrame } from './dust';

/** Floats a piece in a stream of poses: position (3), state (0 held, 1 moving, 2 resting), turn (4). */
export const STRIDE = 8;

/** What of a prop a baked frame says. */
export interface PropFrame {
    poses: Float32Array;
    /** Of each piece, as a share of its full size; null where all are whole. */
    sizes: Float32Array | null;
    seen: boolean;
    /** How dull the outside is (below 0: as usual), and how much of the tint is mixed in; null for the usual look. */
    looks: readonly [number, number] | null;
    /** Of points of its surface that move by themselves: x, y, z of each in the scene, the pieces one after the other. */
    points: Float32Array | null;
    /** Of faces that fly one by one: x, y, z of each corner in the scene. */
    corners: Float32Array | null;
    /** Where its surface goes by weight maps. */
    skin: SkinFrame | null;
    /** Of each piece, the share of its size that a weight map has brought into view; null where all of it is seen. */
    shares: Float32Array | null;
    /** What it gives off. */
    dust: DustFrame | null;
    chips: ChipFrame | null;
}

export interface SkinFrame {
    /** Metres its relief stands out in full. */
    depth: number;
    /** Of each point of its pieces: how much of the second surface, how much it is seen, how far its relief stands out; 255 for full. */
    weights: Uint8Array;
}

/** A baked frame, by number of the prop. */
export type BakedFrame = readonly PropFrame[];

/** What reads a stream into the frame of its prop, by the number of its kind; each kind the core writes has one. */
export const READERS: Readonly<Record<number, (own: PropFrame, bytes: ArrayBuffer, from: number, size: number) => void>> = {
    1: (own, bytes, from, size) => { own.poses = new Float32Array(bytes, from, size / 4); },
    2: (own, bytes, from, size) => { own.points = new Float32Array(bytes, from, size / 4); },
    3: (own, bytes, from, size) => { own.dust = readDust(bytes, from, size); },
    11: (own, bytes, from, size) => { own.chips = readChips(bytes, from, size); },
    5: (own, bytes, from) => { own.seen = new Uint8Array(bytes)[from] !== 0; },
    6: (own, bytes, from, size) => { own.sizes = new Float32Array(bytes, from, size / 4); },
    7: (own, bytes, from) => { const [dull, tint] = new Float32Array(bytes, from, 2); own.looks = [dull!, tint!]; },
    8: (own, bytes, from, size) => { own.skin = { depth: new Float32Array(bytes, from, 1)[0]!, weights: new Uint8Array(bytes, from + 4, size - 4) }; },
    9: (own, bytes, from, size) => { own.shares = new Float32Array(bytes, from, size / 4); },
    10: (own, bytes, from, size) => { own.corners = new Float32Array(bytes, from, size / 4); },
};

/** Bytes asked for at once, about, and kept in all. */
const CHUNK = 1_500_000;
const KEPT = 96_000_000;

/** Frames asked for at once, at most. */
const MOST = 48;
const DUSTY = 3;

const NONE = new Float32Array(0);

/**
 * Reads frames from the records they come in, one after the other. A frame that is not whole is left out.
 *
 * @param props how many props the bake has
 * @throws where they are of a kind this page does not know
 */
export function readFrames(bytes: ArrayBuffer, props: number): BakedFrame[] {
    const out: BakedFrame[] = [];
    const view = new DataView(bytes);
    for (let at = 0; at + 16 <= bytes.byteLength; ) {
        if (view.getUint32(at) !== 0x59424631) throw new Error('These are no baked frames.');
        const length = view.getUint32(at + 4, true);
        if (length < 16 || at + length > bytes.byteLength) break;
        const frame: PropFrame[] = Array.from({ length: props }, () => ({ poses: NONE, sizes: null, seen: true, looks: null, points: null, corners: null, skin: null, shares: null, dust: null, chips: null }));
        for (let k = 0, n = view.getUint32(at + 12, true); k < n; k++) {
            const entry = at + 16 + 16 * k;
            const own = frame[view.getUint16(entry, true)];
            const kind = view.getUint16(entry + 2, true);
            const from = at + view.getUint32(entry + 8, true);
            const size = view.getUint32(entry + 12, true);
            const read = READERS[kind];
            if (read === undefined) throw new Error('A frame holds something this page does not know. Reload the page.');
            if (own !== undefined) read(own, bytes, from, size);
        }
        out.push(frame);
        at += length;
    }
    return out;
}

interface Chunk {
    from: number;
    frames: BakedFrame[];
    bytes: number;
}

/** Frames of one bake: those round the playhead are held, far ones are dropped when there are too many. */
export class FrameStore {
    private readonly chunks = new Map<number, Chunk>();
    private readonly asked = new Set<number>();
    private readonly length: number;
    private bytes = 0;
    private round = 0;
    private gone = false;

    /**
     * @param counts pieces of each prop
     * @param came frames have come
     * @param dusty whether it has dust, of which there may be half a million grains a frame
     * @param kept bytes kept in all
     */
    constructor(
        readonly bake: string,
        private readonly counts: readonly number[],
        private readonly came: () => void,
        dusty = false,
        private readonly kept = KEPT,
    ) {
        const size = counts.reduce((n, c) => n + 16 + 32 * c, 16);
        this.length = Math.max(1, Math.min(dusty ? DUSTY : MOST, Math.floor(CHUNK / size)));
    }

    /** A frame, counted from the bake's first, if it is held. */
    get(frame: number): BakedFrame | null {
        const chunk = this.chunks.get(Math.floor(frame / this.length));
        return chunk?.frames[frame - chunk.from] ?? null;
    }

    /** Bytes held. */
    get held(): number {
        return this.bytes;
    }

    /** Frames held, from the first on without a gap. */
    get run(): number {
        let n = 0;
        for (let k = 0; this.chunks.has(k); k++) {
            n += this.chunks.get(k)!.frames.length;
            if (this.chunks.get(k)!.frames.length < this.length) break;
        }
        return n;
    }

    /**
     * Asks for what is not held yet of the frames round one, nearest first.
     *
     * @param done frames there are
     * @param most parts of them that are asked for, at most
     */
    async fill(frame: number, done: number, most = Infinity): Promise<void> {
        const round = ++this.round;
        const last = Math.floor((done - 1) / this.length);
        const here = Math.min(last, Math.max(0, Math.floor(frame / this.length)));
        const order = Array.from({ length: last + 1 }, (_, k) => k).sort((a, b) => distance(a, here) - distance(b, here)).slice(0, most);
        let room = this.kept;
        for (const k of order) {
            const want = Math.min(this.length, done - k * this.length);
            const chunk = this.chunks.get(k);
            if (room <= 0) {
                if (chunk) this.drop(k);
                continue;
            }
            if ((chunk?.frames.length ?? 0) < want && !this.asked.has(k)) {
                this.asked.add(k);
                try {
                    await this.load(k, want);
                } finally {
                    this.asked.delete(k);
                }
                if (round !== this.round || this.gone) return;
            }
            room -= this.chunks.get(k)?.bytes ?? 0;
        }
    }

    dispose(): void {
        this.gone = true;
        this.chunks.clear();
    }

    private async load(k: number, want: number): Promise<void> {
        const from = k * this.length;
        const frames: BakedFrame[] = [];
        let size = 0;
        // Of large frames fewer come at once than were asked for.
        while (frames.length < want) {
            const bytes = await bytesOf(await ask(`bakes/${this.bake}/frames?from=${from + frames.length}&count=${want - frames.length}`));
            if (this.gone) return;
            const came = readFrames(bytes, this.counts.length);
            if (came.length === 0) break;
            frames.push(...came);
            size += bytes.byteLength;
            this.drop(k);
            this.chunks.set(k, { from, frames, bytes: size });
            this.bytes += size;
            this.came();
        }
    }

    private drop(k: number): void {
        this.bytes -= this.chunks.get(k)?.bytes ?? 0;
        this.chunks.delete(k);
    }
}

/** What lies ahead counts as nearer. */
function distance(chunk: number, here: number): number {
    return chunk >= here ? chunk - here : 2 * (here - chunk);
}
