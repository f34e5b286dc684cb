import { Vector3, type Object3D, type Ray } from 'three';
import type { Prop } from '../data/document';
import { isEvaluated } from '../data/evaluated';
import { STRIDE, type BakedFrame, type PropFrame } from '../data/frames';
import type { PropPieces } from '../data/pieces';
import type { Show } from '../data/ui';
import { spanOf } from '../data/order';
import { orderColour, sizeColour, sizeShares, UNTOLD } from '../parts/sizes';
import { directions } from './fit';
import { PieceCloud } from './PieceCloud';
import { isSeen, poseAt, turnOf, type Pose } from '../data/pose';
import { valueAt, type Moments } from '../data/track';
import type { Action } from './Stagecraft';

const LIT = [0xf2, 0xa9, 0x1e] as const;

const WAYS = directions(48);

/** Fixed props so many times as large as what moves are a stage, not part of the action. */
const STAGE_TIMES = 4;

/** Frames looked at of a bake's whole path. */
const LOOKED_AT = 48;

/** Baked frames of all props on the stage, counted from the first. */
export interface Baked {
    get: (frame: number) => BakedFrame | null;
    loaded: number;
}

/** How a prop is shown. */
export interface Wear {
    show: Show;
    lit: readonly number[];
    picked: readonly number[];
    spread: number;
    spreadBy: 'distance' | 'ring';
    /** The point pieces spread from, in the prop's own coordinates. */
    from: readonly number[] | undefined;
    /** A byte a point of its mesh, where a map is looked at. */
    weights: Uint8Array | null;
    /** By piece the frame at which it is let go, where that is looked at. */
    order: readonly (number | null)[] | null;
}

/** The props on the stage: their pieces, where they stand and what they wear. */
export class Scenery {
    readonly clouds = new Map<string, PieceCloud>();
    /** How dull and how tinted each prop is at the frame shown. */
    private readonly looks = new Map<string, readonly [number, number] | null>();
    private readonly worn = new WeakMap<PieceCloud, readonly unknown[]>();

    /** @param changed something has come that must be drawn */
    constructor(
        private readonly scene: Object3D,
        private readonly plain: boolean,
        private readonly changed: () => void,
    ) {}

    /** Pieces on the stage, all props together. */
    get total(): number {
        return [...this.clouds.values()].reduce((n, c) => n + c.count, 0);
    }

    /** Has what is to be seen on the stage, and nothing else. */
    match(props: readonly Prop[], pieces: Readonly<Record<string, PropPieces>>): void {
        for (const [id, cloud] of this.clouds) {
            if (!props.some((p) => p.id === id) || pieces[id] !== cloud.pieces) {
                this.scene.remove(cloud.mesh);
                cloud.dispose();
                this.clouds.delete(id);
            }
        }
        for (const prop of props) {
            const p = pieces[prop.id];
            if (p && !this.clouds.has(prop.id)) {
                const cloud = new PieceCloud(p, this.plain);
                this.clouds.set(prop.id, cloud);
                this.scene.add(cloud.mesh);
            }
        }
    }

    /**
     * Stands every prop where a frame of a bake has it; where there is none, or where `pose` gives one, there. A frame that
     * is not here yet leaves what stands as it is.
     *
     * @param evaluated what weight maps decide of a prop, and whether that goes before the bake
     */
    stand(props: readonly Prop[], frame: number, moments: Moments, first: number, baked: Baked | null, bakedFrame: number, pose: (prop: Prop) => Pose | null, evaluated: (prop: Prop) => { now: PropFrame; first: boolean } | null = () => null): void {
        const there = baked?.get(Math.min(baked.loaded - 1, Math.max(0, bakedFrame))) ?? null;
        props.forEach((prop, k) => {
            const cloud = this.clouds.get(prop.id);
            if (!cloud) return;
            const own = pose(prop);
            const maps = evaluated(prop);
            if (maps !== null && maps.first && maps.now.poses.length === cloud.count * STRIDE) {
                cloud.placeFrom({ ...maps.now, seen: isSeen(prop, frame, moments) });
                cloud.resize(maps.now.shares);
                this.looks.set(prop.id, looksAt(prop, frame, moments));
            } else if (baked !== null && own === null) {
                if (there !== null) {
                    cloud.placeFrom(there[k]!);
                    this.looks.set(prop.id, there[k]!.looks);
                    cloud.resize(maps?.now.shares ?? null);
                }
            } else {
                const { turn, position, size } = own ?? poseAt(prop, frame, moments, first);
                cloud.placeWhole(turnOf(turn), position, size ?? 1, isSeen(prop, frame, moments));
                this.looks.set(prop.id, looksAt(prop, frame, moments));
                cloud.resize(maps?.now.shares ?? null);
            }
            cloud.fly(maps?.now.corners ?? cloud.cornersOf(maps?.now.points ?? (own === null && maps?.first !== true ? (there?.[k]?.points ?? null) : null)));
            cloud.wearSkin(maps?.now.skin ?? null);
        });
    }

    dress(prop: Prop, wear: Wear): void {
        const cloud = this.clouds.get(prop.id);
        if (!cloud) return;
        if (wear.spreadBy === 'ring' && cloud.pieces.rings !== null) cloud.spreadRings(wear.spread);
        else cloud.spread(wear.spread, wear.from);
        const [dull, tinted] = this.looks.get(prop.id) ?? [-1, 0];
        cloud.weigh(wear.weights);
        const key = [prop.material, wear.show, wear.lit, wear.picked, dull, tinted, cloud.isWeighed, wear.order];
        const worn = this.worn.get(cloud);
        if (worn !== undefined && key.every((w, i) => w === worn[i])) return;
        this.worn.set(cloud, key);
        const m = prop.material;
        const colour = tinted > 0 && m.tintColour ? mixed(m.colour, m.tintColour, tinted) : m.colour;
        cloud.colour(colour, m.inner);
        if (wear.show === 'order' && wear.order !== null && wear.order.length === cloud.count) cloud.tint(inOrder(wear.order, new Set([...wear.lit, ...wear.picked])));
        else this.tint(colour, cloud, wear.show, new Set([...wear.lit, ...wear.picked]));
        cloud.second(m.second ?? null);
        cloud.surface(m.name, wear.show, dull < 0 ? undefined : dull, m.innerRoughness);
        cloud.picture('outer', m.picture ? `api/pictures/${m.picture.asset}` : null, 1, this.changed);
        cloud.picture('inner', m.innerPicture ? `api/pictures/${m.innerPicture.asset}` : null, m.innerPicture?.metres ?? 1, this.changed);
    }

    /** The nearest piece of all that a ray meets. */
    hit(ray: Ray): { prop: string; piece: number; distance: number } | null {
        let best: { prop: string; piece: number; distance: number } | null = null;
        for (const [prop, cloud] of this.clouds) {
            const hit = cloud.hit(ray);
            if (hit !== null && hit.distance < (best?.distance ?? Infinity)) best = { prop, ...hit };
        }
        return best;
    }

    /** Points on the outline of props as they stand, x, y, z of each. */
    outline(props: readonly Prop[]): Float32Array {
        return joined(props.map((p) => this.clouds.get(p.id)?.outline() ?? new Float32Array(0)));
    }

    /** Points round all the places the pieces of some of the props go in a bake. */
    path(all: readonly Prop[], props: readonly Prop[], baked: Baked): Float32Array {
        const far = WAYS.map(() => -Infinity);
        const at = new Float32Array(3 * WAYS.length);
        const take = (x: number, y: number, z: number, r: number) => {
            for (let w = 0; w < WAYS.length; w++) {
                const d = WAYS[w]!;
                const reach = x * d.x + y * d.y + z * d.z + r;
                if (reach <= far[w]!) continue;
                far[w] = reach;
                at[3 * w] = x + r * d.x;
                at[3 * w + 1] = y + r * d.y;
                at[3 * w + 2] = z + r * d.z;
            }
        };
        const stride = Math.max(1, Math.floor(baked.loaded / LOOKED_AT));
        for (let f = 0; f < baked.loaded; f = f === baked.loaded - 1 ? baked.loaded : Math.min(f + stride, baked.loaded - 1)) {
            const there = baked.get(f);
            if (there === null) continue;
            all.forEach((prop, number) => {
                const cloud = this.clouds.get(prop.id)!;
                const { poses, points } = there[number]!;
                if (!props.includes(prop)) return;
                if (points !== null) {
                    for (let k = 0; k < points.length; k += 3) take(points[k]!, points[k + 1]!, points[k + 2]!, 0);
                    return;
                }
                for (let i = 0, k = 0; i < cloud.count; i++, k += STRIDE) take(poses[k]!, poses[k + 1]!, poses[k + 2]!, cloud.radiusOf(i));
            });
        }
        return at;
    }

    /** What the picture is about: all props, where the document has them at a frame. */
    action(props: readonly Prop[], frame: number, moments: Moments): Action {
        const low = new Vector3(Infinity, Infinity, Infinity);
        const high = low.clone().negate();
        let least = Infinity;
        for (const prop of props) {
            const cloud = this.clouds.get(prop.id);
            if (!cloud) continue;
            const place = poseAt(prop, frame, moments, frame);
            const { centre, radius } = cloud.ball();
            const c = centre.applyQuaternion(turnOf(place.turn)).add(new Vector3(...place.position));
            low.min(c.clone().subScalar(radius));
            high.max(c.clone().addScalar(radius));
            least = Math.min(least, radius);
        }
        if (!Number.isFinite(least) || least <= 0) return { centre: new Vector3(0, 0.4, 0), radius: 1, least: 1 };
        return { centre: low.clone().add(high).multiplyScalar(0.5), radius: high.sub(low).length() / 2, least };
    }

    /** Props without the slabs others stand on, which would push everything into the distance. */
    acting(props: readonly Prop[]): Prop[] {
        const size = (p: Prop) => this.clouds.get(p.id)?.ball().radius ?? 0;
        // What comes or changes by a map acts too, though it stands still.
        const acts = (p: Prop) => p.motion.kind !== 'fixed' || isEvaluated(p);
        const moving = props.filter(acts).reduce((n, p) => n + size(p), 0);
        return props.filter((p) => moving === 0 || acts(p) || size(p) <= STAGE_TIMES * moving);
    }

    dispose(): void {
        this.clouds.forEach((c) => c.dispose());
    }

    private tint(colour: string, cloud: PieceCloud, show: Show, lit: Set<number>): void {
        if (cloud.count === 1 || (show !== 'pieces' && show !== 'wire' && show !== 'contact' && lit.size === 0)) {
            cloud.tint(null);
            return;
        }
        const own = hex(colour);
        const shares = sizeShares(cloud.pieces.pieces.map((p) => p.volume));
        cloud.tint(shares.map((share, i) => (lit.has(i) ? LIT : show === 'pieces' || show === 'wire' || show === 'contact' ? sizeColour(share) : own)));
    }
}

/** A colour a piece, from the first that goes to the last. */
function inOrder(order: readonly (number | null)[], lit: ReadonlySet<number>): (readonly [number, number, number])[] {
    const [first, last] = spanOf(order) ?? [0, 1];
    return order.map((frame, k) => (lit.has(k) ? LIT : frame === null ? UNTOLD : orderColour((frame - first) / Math.max(1, last - first))));
}

export function joined(parts: readonly Float32Array[]): Float32Array {
    const out = new Float32Array(parts.reduce((n, p) => n + p.length, 0));
    let at = 0;
    for (const p of parts) {
        out.set(p, at);
        at += p.length;
    }
    return out;
}

/** How dull a prop is by its keys (below 0: as usual), and how much of its tint is mixed in. */
function looksAt(prop: Prop, frame: number, moments: Moments): readonly [number, number] {
    const { roughness, tint } = prop.material;
    return [roughness === undefined ? -1 : valueAt(roughness, frame, moments), valueAt(tint ?? 0, frame, moments)];
}

/** Two colours mixed, as paint would look: in light, not in numbers. */
function mixed(one: string, other: string, share: number): string {
    const [a, b] = [hex(one), hex(other)];
    return `#${a.map((v, i) => Math.round(255 * (((1 - share) * (v / 255) ** 2.2 + share * (b[i]! / 255) ** 2.2) ** (1 / 2.2))).toString(16).padStart(2, '0')).join('')}`;
}

function hex(colour: string): [number, number, number] {
    return [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16)) as [number, number, number];
}
