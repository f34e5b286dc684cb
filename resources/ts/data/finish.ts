/** How the surface of a prop follows from points that move by themselves, as the server sends it: see app/Yard/PropPicture.php. */
export interface Finish {
    /** How many points move. */
    moving: number;
    /** Points and entries of each round. */
    rounds: [number, number][];
    points: number;
    faces: number;
    /** Metres. */
    thickness: number;
    smooth: boolean;
}

interface Round {
    first: Uint32Array;
    from: Uint32Array;
    share: Float32Array;
}

/** The surface of a prop where its points are. */
export class FinishedSurface {
    private readonly looks: Int8Array;
    private readonly rounds: Round[] = [];
    private readonly rows: Uint32Array;
    private readonly sides: Float32Array;
    private readonly faces: Uint32Array;
    /** @param at where it begins; how many vertices are drawn, and which of its points each is */
    constructor(
        buffer: ArrayBuffer,
        at: number,
        private readonly pointOf: Uint32Array,
        readonly finish: Finish,
    ) {
        let here = at;
        const take = (bytes: number): ArrayBuffer => buffer.slice(here, (here += bytes));
        this.looks = new Int8Array(take(pointOf.length));
        here += (4 - (pointOf.length % 4)) % 4;
        for (const [count, entries] of finish.rounds) this.rounds.push({ first: new Uint32Array(take(4 * count + 4)), from: new Uint32Array(take(4 * entries)), share: new Float32Array(take(4 * entries)) });
        this.rows = new Uint32Array(take(4 * finish.points));
        this.sides = new Float32Array(take(4 * finish.points));
        this.faces = new Uint32Array(take(12 * finish.faces));
    }

    /** Whether values, so many of each, are as many as the points that move. */
    isOf(values: ArrayLike<number>, each = 3): boolean {
        return values.length === each * this.finish.moving;
    }

    /** Where the vertices are that are drawn, and the way the surface looks there. */
    at(points: Float32Array): { corners: Float32Array; normals: Float32Array } {
        let here = points;
        for (const round of this.rounds) here = applied(round, here, 3);
        const ways = this.ways(here);
        const n = this.pointOf.length;
        const corners = new Float32Array(3 * n);
        const normals = new Float32Array(3 * n);
        const { thickness, smooth } = this.finish;
        for (let v = 0; v < n; v++) {
            const p = this.pointOf[v]!;
            const row = 3 * this.rows[p]!;
            const out = thickness * this.sides[p]!;
            for (let a = 0; a < 3; a++) {
                corners[3 * v + a] = here[row + a]! + out * ways[row + a]!;
                normals[3 * v + a] = this.looks[v]! * ways[row + a]!;
            }
        }
        for (let v = 0; v < n; v += 3) if (!smooth || this.looks[v] === 0) flatten(corners, normals, v);
        return { corners, normals };
    }

    /** Values of the points that move, so many of each, at the vertices that are drawn. */
    carried(values: Uint8Array, each: number): Uint8Array {
        let here: Float32Array = Float32Array.from(values);
        for (const round of this.rounds) here = applied(round, here, each);
        const out = new Uint8Array(each * this.pointOf.length);
        for (let v = 0; v < this.pointOf.length; v++) {
            const row = each * this.rows[this.pointOf[v]!]!;
            for (let a = 0; a < each; a++) out[each * v + a] = Math.round(here[row + a]!);
        }
        return out;
    }

    /** The way the surface looks at each point: the faces round it, each by its angle there. */
    private ways(at: Float32Array): Float32Array {
        const out = new Float32Array(at.length);
        const f = this.faces;
        for (let k = 0; k < f.length; k += 3) {
            const [a, b, c] = [3 * f[k]!, 3 * f[k + 1]!, 3 * f[k + 2]!];
            const ux = at[b]! - at[a]!;
            const uy = at[b + 1]! - at[a + 1]!;
            const uz = at[b + 2]! - at[a + 2]!;
            const vx = at[c]! - at[a]!;
            const vy = at[c + 1]! - at[a + 1]!;
            const vz = at[c + 2]! - at[a + 2]!;
            const nx = uy * vz - uz * vy;
            const ny = uz * vx - ux * vz;
            const nz = ux * vy - uy * vx;
            const l = Math.hypot(nx, ny, nz);
            if (l <= 0) continue;
            const [uv, uu, vv] = [ux * vx + uy * vy + uz * vz, ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz];
            const angles = [Math.atan2(l, uv), Math.atan2(l, uu - uv), Math.atan2(l, vv - uv)];
            [a, b, c].forEach((p, i) => {
                out[p] = out[p]! + (angles[i]! * nx) / l;
                out[p + 1] = out[p + 1]! + (angles[i]! * ny) / l;
                out[p + 2] = out[p + 2]! + (angles[i]! * nz) / l;
            });
        }
        for (let p = 0; p < out.length; p += 3) {
            const l = Math.hypot(out[p]!, out[p + 1]!, out[p + 2]!) || 1;
            out[p] = out[p]! / l;
            out[p + 1] = out[p + 1]! / l;
            out[p + 2] = out[p + 2]! / l;
        }
        return out;
    }
}

function applied({ first, from, share }: Round, values: Float32Array, each: number): Float32Array {
    const n = first.length - 1;
    const out = new Float32Array(each * n);
    for (let p = 0, k = 0; p < n; p++) {
        for (const end = first[p + 1]!; k < end; k++) {
            const w = share[k]!;
            const q = each * from[k]!;
            for (let a = 0; a < each; a++) out[each * p + a] = out[each * p + a]! + w * values[q + a]!;
        }
    }
    return out;
}

/** A face that looks the same way all over. */
function flatten(at: Float32Array, normals: Float32Array, v: number): void {
    const k = 3 * v;
    const [ux, uy, uz] = [at[k + 3]! - at[k]!, at[k + 4]! - at[k + 1]!, at[k + 5]! - at[k + 2]!];
    const [vx, vy, vz] = [at[k + 6]! - at[k]!, at[k + 7]! - at[k + 1]!, at[k + 8]! - at[k + 2]!];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const l = Math.hypot(...n) || 1;
    for (let i = 0; i < 9; i++) normals[k + i] = n[i % 3]! / l;
}
