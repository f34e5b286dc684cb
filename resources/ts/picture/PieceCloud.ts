import {
    Box3,
    BufferAttribute,
    BufferGeometry,
    Color,
    DataTexture,
    DoubleSide,
    FloatType,
    FrontSide,
    Mesh,
    MeshStandardMaterial,
    NearestFilter,
    Quaternion,
    Ray,
    RepeatWrapping,
    RGBAFormat,
    SRGBColorSpace,
    TextureLoader,
    Triangle,
    UnsignedByteType,
    Vector3,
} from 'three';
import { mirrored, type Stroke } from '../data/brush';
import { STRIDE, type PropFrame, type SkinFrame } from '../data/frames';
import type { PropPieces } from '../data/pieces';
import type { Show } from '../data/ui';
import { cloudMaterial, cloudUniforms, ROW, type CloudMaterial } from './cloudShader';
import { directions } from './fit';
import { grainOf, skinOf } from './skins';

/** How rough a surface is unless the prop says, and how much light it lets through. */
const SURFACES: Record<string, { roughness: number; clear: number }> = {
    glass: { roughness: 0.03, clear: 0.88 },
    ice: { roughness: 0.1, clear: 0.5 },
    slate: { roughness: 0.6, clear: 0 },
    terracotta: { roughness: 0.78, clear: 0 },
    metal: { roughness: 0.35, clear: 0 },
};

/** Points kept of a prop's outline, and of each piece of it, for framing. */
const OUTLINE = directions(160);
const PIECE_OUTLINE = directions(14);

/** Opacity of a prop that is seen through. */
const CLEAR = 0.28;

/**
 * All pieces of a prop in one buffer. Where each stands comes from a small float texture, so that a frame of a
 * bake is one copy of an array, whatever the number of pieces.
 */
export class PieceCloud {
    readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial>;
    readonly count: number;
    private readonly pictures = { outer: null as string | null, inner: null as string | null };
    private joined = false;
    /** Whether only its outside is looked at. */
    private solid = true;
    private extents: PieceExtent[] | null = null;
    private outermost: number | null = null;
    private around: { centre: Vector3; size: Vector3 } | null = null;
    private readonly places: DataTexture;
    private readonly placeData: Float32Array;
    private readonly tints: DataTexture;
    private readonly uniforms = cloudUniforms();
    private readonly material: CloudMaterial;
    private points: Float32Array | null = null;
    /** The weights worn, one a point of the mesh, or null where those of the pieces themselves are. */
    private worn: Uint8Array | null = null;
    private skin: SkinFrame | null = null;
    private flown: Float32Array | null = null;
    private waved: { points: Float32Array; corners: Float32Array; normals: Float32Array } | null = null;

    /** @param plain without the grain of its material */
    constructor(
        readonly pieces: PropPieces,
        plain = false,
    ) {
        this.count = pieces.pieces.length;
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(pieces.positions, 3));
        geometry.setAttribute('shading', new BufferAttribute(pieces.normals, 4, true));
        geometry.setAttribute('place', new BufferAttribute(pieces.places ?? new Float32Array(2 * pieces.pieceOf.length).fill(-1), 2));
        geometry.setAttribute('piece', new BufferAttribute(Float32Array.from(pieces.pieceOf), 1));
        if (pieces.skinned) geometry.setAttribute('skin', new BufferAttribute(new Uint8Array(3 * pieces.pieceOf.length).map((_, k) => (k % 3 === 1 ? 255 : 0)), 3, true));
        geometry.setAttribute('weight', new BufferAttribute(pieces.weights?.slice() ?? new Uint8Array(pieces.pieceOf.length), 1, true));
        const rows = Math.max(1, Math.ceil((this.count * 2) / ROW));
        this.placeData = new Float32Array(ROW * rows * 4);
        this.places = new DataTexture(this.placeData, ROW, rows, RGBAFormat, FloatType);
        this.tints = new DataTexture(new Uint8Array(ROW * rows * 4), ROW, rows, RGBAFormat, UnsignedByteType);
        this.places.minFilter = this.places.magFilter = this.tints.minFilter = this.tints.magFilter = NearestFilter;
        this.uniforms.placeMap.value = this.places;
        this.uniforms.tintMap.value = this.tints;
        this.uniforms.homeMap.value = homes(pieces);
        this.material = cloudMaterial(this.uniforms, plain, pieces.skinned);
        this.mesh = new Mesh(geometry, this.material.surface);
        this.mesh.frustumCulled = false;
        this.mesh.castShadow = this.mesh.receiveShadow = true;
        this.mesh.customDepthMaterial = this.material.depth;
    }

    /** Wears the weights of a map: a byte a point of its mesh or of its skin where it has those, else a byte a piece. */
    weigh(weights: Uint8Array | null): void {
        const { pointOf, pieceOf } = this.pieces;
        // Those of other pieces, before they were made anew.
        if (weights === this.worn || (weights !== null && pointOf === null && weights.length !== this.count)) return;
        this.worn = weights;
        const shown = this.mesh.geometry.getAttribute('weight') as BufferAttribute;
        const into = shown.array as Uint8Array;
        const of = pointOf !== null && weights?.length !== this.count ? pointOf : pieceOf;
        if (weights !== null && this.pieces.finished?.isOf(weights, 1) === true) into.set(this.pieces.finished.carried(weights, 1));
        else if (weights !== null) for (let v = 0; v < of.length; v++) into[v] = weights[of[v]!]!;
        else if (this.pieces.weights !== null) into.set(this.pieces.weights);
        else into.fill(0);
        shown.needsUpdate = true;
    }

    /** Lays a dab on the weights worn, until they are worked out anew. */
    paint({ how, size, strength, mirror }: Stroke, dab: readonly number[]): void {
        if (how === 'smooth') return;
        const { positions, normals, pieceOf, pieces } = this.pieces;
        const shown = this.mesh.geometry.getAttribute('weight') as BufferAttribute;
        const into = shown.array as Uint8Array;
        const full = how === 'paint' ? 255 : 0;
        const most = size * size;
        for (const [x, y, z, nx, ny, nz] of mirrored(dab, mirror) as [number, number, number, number, number, number][]) {
            const [cx, cy, cz] = pieces[0]!.centre;
            for (let v = 0, p = 0, n = 0, end = pieceOf.length; v < end; v++, p += 3, n += 4) {
                const dx = positions[p]! + cx - x;
                const dy = positions[p + 1]! + cy - y;
                const dz = positions[p + 2]! + cz - z;
                const d = (dx * dx + dy * dy + dz * dz) / most;
                if (d < 1 && normals[n]! * nx + normals[n + 1]! * ny + normals[n + 2]! * nz > 0) into[v] = into[v]! + (1 - d) * (1 - d) * strength * (full - into[v]!);
            }
        }
        shown.needsUpdate = true;
    }

    /** Faces of the unbroken prop about a place that look its way. */
    facesNear(at: readonly number[], normal: readonly number[], size: number): number[] {
        const { positions, normals, pieceOf, pieces } = this.pieces;
        const c = pieces[0]!.centre;
        const out: number[] = [];
        for (let f = 0, v = 0; v < pieceOf.length; f++, v += 3) {
            let far = 0;
            let facing = 0;
            for (let a = 0; a < 3; a++) {
                far += ((positions[3 * v + a]! + positions[3 * v + 3 + a]! + positions[3 * v + 6 + a]!) / 3 + c[a]! - at[a]!) ** 2;
                facing += normals[4 * v + a]! * normal[a]!;
            }
            if (far < size * size && facing > 0) out.push(f);
        }
        return out;
    }

    /** Shows just these faces as full, until the weights are worked out. */
    mark(faces: ReadonlySet<number>): void {
        const shown = this.mesh.geometry.getAttribute('weight') as BufferAttribute;
        (shown.array as Uint8Array).fill(0);
        for (const f of faces) (shown.array as Uint8Array).fill(255, 3 * f, 3 * f + 3);
        shown.needsUpdate = true;
    }

    /** Wears what weight maps make of its surface, or nothing of it. */
    wearSkin(skin: SkinFrame | null): void {
        const { pointOf, skinned, finished } = this.pieces;
        if (skin === this.skin || !skinned || pointOf === null) return;
        this.skin = skin;
        const shown = this.mesh.geometry.getAttribute('skin') as BufferAttribute;
        const into = shown.array as Uint8Array;
        if (skin !== null && finished?.isOf(skin.weights) === true) into.set(finished.carried(skin.weights, 3));
        else for (let v = 0, at = 0; v < pointOf.length; v++) {
            const from = 3 * pointOf[v]!;
            into[at++] = skin?.weights[from] ?? 0;
            into[at++] = skin?.weights[from + 1] ?? 255;
            into[at++] = skin?.weights[from + 2] ?? 0;
        }
        this.uniforms.reliefDepth.value = skin?.depth ?? 0;
        shown.needsUpdate = true;
    }

    /** The corners of its faces where the points of its surface are in the scene; null where those are of another one. */
    cornersOf(points: Float32Array | null): Float32Array | null {
        const { finished } = this.pieces;
        if (points === null || finished === null || !finished.isOf(points)) return null;
        if (points !== this.waved?.points) this.waved = { points, ...finished.at(points) };
        return this.waved.corners;
    }

    /** Lets its faces stand where their corners are in the scene, or its pieces as they are. */
    fly(points: Float32Array | null): void {
        const flies = points !== null && points.length === this.pieces.positions.length;
        if (points === this.flown || (!flies && this.flown === null)) return;
        this.flown = flies ? points : null;
        this.uniforms.flies.value = flies ? 1 : 0;
        const normals = flies && points === this.waved?.corners ? this.waved.normals : null;
        this.material.fly(flies ? (normals === null ? 'flat' : 'shaded') : 'not');
        this.mesh.material.side = flies || this.pieces.skinned ? DoubleSide : FrontSide;
        if (!flies) return;
        const corners = this.mesh.geometry.getAttribute('corner') as BufferAttribute | undefined;
        if (corners === undefined) this.mesh.geometry.setAttribute('corner', new BufferAttribute(points, 3));
        else {
            corners.array = points;
            corners.needsUpdate = true;
        }
        if (normals !== null) {
            const own = this.mesh.geometry.getAttribute('cornerNormal') as BufferAttribute | undefined;
            if (own === undefined) this.mesh.geometry.setAttribute('cornerNormal', new BufferAttribute(normals, 3));
            else {
                own.array = normals;
                own.needsUpdate = true;
            }
        }
        this.joined = false;
        this.closeCracks();
    }

    /** Shows pieces at a share of the size they stand at. */
    resize(shares: Float32Array | null): void {
        if (shares === null || shares.length !== this.count) return;
        for (let i = 0; i < this.count; i++) this.sizeTurn(i, shares[i]!);
        this.places.needsUpdate = true;
        this.joined = this.joined && shares.every((s) => s === 1);
        this.closeCracks();
    }

    /** What its outside turns into where the skin says. */
    second(surface: { name: string; colour: string; roughness?: number } | null): void {
        this.uniforms.seconded.value = surface === null ? 0 : 1;
        if (surface === null) return;
        this.uniforms.secondColour.value.set(surface.colour);
        this.uniforms.secondRoughness.value = surface.roughness ?? SURFACES[surface.name]?.roughness ?? 0.85;
        this.material.turnInto(surface.name);
    }

    /** Whether there are weights to be shown. */
    get isWeighed(): boolean {
        return this.pieces.weights !== null || this.worn !== null;
    }

    /** The weight where a ray meets it first, 0…1, or null where it misses. */
    weightAt(ray: Ray): number | null {
        const hit = this.hit(ray);
        if (hit === null || !this.isWeighed) return null;
        const weights = (this.mesh.geometry.getAttribute('weight') as BufferAttribute).array;
        const [b, c] = hit.shares;
        return ((1 - b - c) * weights[hit.vertex]! + b * weights[hit.vertex + 1]! + c * weights[hit.vertex + 2]!) / 255;
    }

    /** The place of the unbroken prop that a ray meets first, the way the surface looks there, and the number of the face and the piece. */
    footOf(ray: Ray): { at: [number, number, number]; normal: [number, number, number]; face: number; piece: number } | null {
        const hit = this.hit(ray);
        if (hit === null) return null;
        const { positions, normals, pieces } = this.pieces;
        const [b, c] = hit.shares;
        const corners = [1 - b - c, b, c];
        const mixed = (from: ArrayLike<number>, stride: number, axis: number) => corners.reduce((sum, share, k) => sum + share * from[stride * (hit.vertex + k) + axis]!, 0);
        const centre = pieces[hit.piece]!.centre;
        const normal = new Vector3(mixed(normals, 4, 0), mixed(normals, 4, 1), mixed(normals, 4, 2)).normalize();
        return { at: [0, 1, 2].map((a) => mixed(positions, 3, a) + centre[a]!) as [number, number, number], normal: normal.toArray(), face: hit.vertex / 3, piece: hit.piece };
    }

    /** Places all pieces as a baked frame has them. */
    placeFrom({ poses, sizes, seen }: PropFrame): void {
        this.placeData.set(poses.length === this.count * STRIDE ? poses : poses.subarray(0, this.count * STRIDE));
        if (sizes !== null) for (let i = 0; i < this.count; i++) this.sizeTurn(i, sizes[i] ?? 1);
        this.mesh.visible = seen;
        this.places.needsUpdate = true;
        this.joined = this.standsAsOne();
    }

    /** Stands the unbroken prop at one place, at a share of its full size. */
    placeWhole(turn: Quaternion, position: readonly number[], size = 1, seen = true): void {
        const v = new Vector3();
        this.pieces.pieces.forEach((p, i) => {
            v.set(...p.centre).multiplyScalar(size).applyQuaternion(turn);
            this.placeData.set([v.x + position[0]!, v.y + position[1]!, v.z + position[2]!, this.ringShare(i), turn.x, turn.y, turn.z, turn.w], i * STRIDE);
            if (size !== 1) this.sizeTurn(i, size);
        });
        this.mesh.visible = seen;
        this.places.needsUpdate = true;
        this.joined = true;
    }

    /** The length of a turn carries the size. */
    private sizeTurn(piece: number, size: number): void {
        const root = Math.sqrt(Math.max(0, size));
        for (let k = piece * STRIDE + 4, end = k + 4; k < end; k++) this.placeData[k]! *= root;
    }

    /** Where a piece is, and its turn; and the share of its full size it has. */
    poseOf(piece: number, at: Vector3, turn: Quaternion): number {
        at.fromArray(this.placeData, piece * STRIDE);
        return this.turnOf(piece, turn);
    }

    /** The turn of a piece, and the share of its full size it has. */
    private turnOf(piece: number, into: Quaternion): number {
        into.fromArray(this.placeData, piece * STRIDE + 4);
        const size = into.lengthSq();
        into.normalize();
        return size;
    }

    /** Whether the pieces stand to each other as they did before the break. */
    private standsAsOne(): boolean {
        const d = this.placeData;
        const turn = new Quaternion();
        const size = this.turnOf(0, turn);
        const first = this.pieces.pieces[0]?.centre;
        const at = new Vector3();
        const slack = 1e-4 * this.ball().radius;
        return this.pieces.pieces.every(({ centre }, i) => {
            const k = i * STRIDE;
            at.set(centre[0] - first![0], centre[1] - first![1], centre[2] - first![2]).multiplyScalar(size).applyQuaternion(turn);
            return Math.abs(d[k]! - d[0]! - at.x) + Math.abs(d[k + 1]! - d[1]! - at.y) + Math.abs(d[k + 2]! - d[2]! - at.z) < slack;
        });
    }

    /** Whether what a break has laid open is left out. */
    get hidesInner(): boolean {
        return this.uniforms.hideInner.value > 0;
    }

    /** Cracks must not show before the pieces part: what lies within is left out. What is laid open of a lone piece is its surface. */
    private closeCracks(): void {
        this.uniforms.hideInner.value = this.count > 1 && this.joined && this.solid && this.uniforms.spread.value <= 0 && this.uniforms.ringWay.value.lengthSq() === 0 ? 1 : 0;
    }

    /** Shows the prop larger or smaller about a point, until its pieces are made anew at that size. */
    scaleAbout(point: Vector3, scale: number): void {
        this.mesh.scale.setScalar(scale);
        this.mesh.position.copy(point).multiplyScalar(1 - scale);
    }

    /** The first piece a ray meets where they stand now, how far along the ray, the first vertex of the face, and the shares of its two others there. */
    hit(ray: Ray): Hit | null {
        const { positions } = this.pieces;
        this.extents ??= pieceExtents(this.pieces);
        const spread = this.uniforms.spread.value;
        const from = this.uniforms.spreadFrom.value;
        const local = new Ray();
        const place = new Vector3();
        const turn = new Quaternion();
        const [a, b, c, at, shares] = [new Vector3(), new Vector3(), new Vector3(), new Vector3(), new Vector3()];
        let best: Hit | null = null;
        for (let piece = 0; piece < this.count; piece++) {
            const k = piece * STRIDE;
            place.fromArray(this.placeData, k);
            place.addScaledVector(at.copy(place).sub(from), spread).addScaledVector(this.uniforms.ringWay.value, this.placeData[k + 3]!);
            const size = this.turnOf(piece, turn);
            if (!this.mesh.visible || size <= 0 || ray.distanceSqToPoint(place) > (size * this.extents[piece]!.radius) ** 2) continue;
            turn.invert();
            local.origin.copy(ray.origin).sub(place).divideScalar(size).applyQuaternion(turn);
            local.direction.copy(ray.direction).applyQuaternion(turn);
            for (let v = 3 * this.extents[piece]!.first, end = 3 * this.extents[piece]!.end; v < end; v += 9) {
                if (local.intersectTriangle(a.fromArray(positions, v), b.fromArray(positions, v + 3), c.fromArray(positions, v + 6), true, at) === null) continue;
                const distance = size * at.distanceTo(local.origin);
                if (best === null || distance < best.distance) {
                    Triangle.getBarycoord(at, a, b, c, shares);
                    best = { piece, distance, vertex: v / 3, shares: [shares.y, shares.z] };
                }
            }
        }
        return best;
    }

    /** A ball round the unbroken prop, in its own coordinates. */
    ball(): { centre: Vector3; radius: number } {
        const { centre, size } = this.box();
        return { centre: centre.clone(), radius: size.length() / 2 };
    }

    /** Points of its outline as it stands now, x, y, z of each: enough of them to frame it by. */
    outline(): Float32Array {
        this.points ??= outlinePoints(this.pieces);
        const out = new Float32Array((this.points.length / 4) * 3);
        const turn = new Quaternion();
        const v = new Vector3();
        for (let i = 0, o = 0; i < this.points.length; i += 4, o += 3) {
            const k = this.points[i]! * STRIDE;
            const size = this.turnOf(this.points[i]!, turn);
            v.fromArray(this.points, i + 1).multiplyScalar(size).applyQuaternion(turn);
            out[o] = v.x + this.placeData[k]!;
            out[o + 1] = v.y + this.placeData[k + 1]!;
            out[o + 2] = v.z + this.placeData[k + 2]!;
        }
        return out;
    }

    /** Where the middles of its pieces are as they stand: x, y, z of each. */
    middles(): Float32Array {
        const out = new Float32Array(3 * this.count);
        const at = new Vector3();
        const turn = new Quaternion();
        for (let k = 0; k < this.count; k++) {
            this.poseOf(k, at, turn);
            at.toArray(out, 3 * k);
        }
        return out;
    }

    /** Metres from the middle of a piece to its farthest point. */
    radiusOf(piece: number): number {
        this.extents ??= pieceExtents(this.pieces);
        return this.extents[piece]!.radius;
    }

    private box(): { centre: Vector3; size: Vector3 } {
        if (this.around === null) {
            const { positions, pieceOf, pieces } = this.pieces;
            const box = new Box3();
            const v = new Vector3();
            for (let i = 0; i < pieceOf.length; i++) {
                const c = pieces[pieceOf[i]!]!.centre;
                box.expandByPoint(v.set(positions[3 * i]! + c[0], positions[3 * i + 1]! + c[1], positions[3 * i + 2]! + c[2]));
            }
            this.around = { centre: box.getCenter(new Vector3()), size: box.getSize(new Vector3()) };
        }
        return this.around;
    }

    /** How far out of the way it was hit a piece goes when rings move apart: 1 in the middle, 0 in the outermost ring. */
    private ringShare(piece: number): number {
        const { rings } = this.pieces;
        if (rings === null) return 0;
        this.outermost ??= Math.max(1, ...rings.of);
        return 1 - rings.of[piece]! / this.outermost;
    }

    centre(): Vector3 {
        const sum = new Vector3();
        for (let i = 0; i < this.count; i++) sum.add(new Vector3().fromArray(this.placeData, i * STRIDE));
        return sum.divideScalar(Math.max(1, this.count));
    }

    /** Moves pieces apart ring by ring along the way they were hit, where they lie in rings. */
    spreadRings(amount: number): void {
        this.uniforms.spread.value = 0;
        const { rings } = this.pieces;
        if (rings === null) return;
        const turn = new Quaternion();
        this.turnOf(0, turn);
        this.uniforms.ringWay.value.set(...rings.axis).applyQuaternion(turn).multiplyScalar(amount * this.ball().radius);
        this.closeCracks();
    }

    /** Moves pieces apart from a point of the prop as it stands unbroken, or from the middle of them all. */
    spread(amount: number, from?: readonly number[]): void {
        this.uniforms.ringWay.value.set(0, 0, 0);
        this.uniforms.spread.value = amount;
        this.closeCracks();
        if (amount <= 0) return;
        const at = this.uniforms.spreadFrom.value;
        if (from === undefined) at.copy(this.centre());
        else {
            // Where the first piece stands tells how the whole prop is turned and placed.
            const turn = new Quaternion().fromArray(this.placeData, 4);
            const first = this.pieces.pieces[0]!.centre;
            at.set(from[0]! - first[0], from[1]! - first[1], from[2]! - first[2]).applyQuaternion(turn);
            at.add(new Vector3().fromArray(this.placeData, 0));
        }
    }

    colour(outer: string, inner: string): void {
        this.mesh.material.color.set(outer);
        this.uniforms.innerColour.value.set(inner);
    }

    /** Lays a picture on the outside or on what the break has laid open, or takes it off. */
    picture(side: 'outer' | 'inner', url: string | null, metres: number, loaded: () => void): void {
        const key = url === null ? null : `${url} ${metres}`;
        if (key === this.pictures[side]) return;
        this.pictures[side] = key;
        const [shown, map] = side === 'outer' ? [this.uniforms.pictured, this.uniforms.pictureMap] : [this.uniforms.innerPictured, this.uniforms.innerPictureMap];
        shown.value = 0;
        if (url === null) return;
        new TextureLoader().load(url, (texture) => {
            if (key !== this.pictures[side]) return texture.dispose();
            texture.colorSpace = SRGBColorSpace;
            texture.wrapS = texture.wrapT = RepeatWrapping;
            texture.anisotropy = 4;
            map.value?.dispose();
            map.value = texture;
            // How many pictures make a metre.
            shown.value = 1 / metres;
            loaded();
        });
    }

    /** How the material takes the light, and what of the prop is shown. */
    surface(name: string, show: Show, roughness?: number, innerRoughness?: number): void {
        const m = this.mesh.material;
        const look = SURFACES[name] ?? { roughness: 0.85, clear: 0 };
        const { size } = this.box();
        const [x, y, z] = size.toArray();
        const most = skinOf(name).along === 'longest' ? Math.max(x, y, z) : Math.min(x, y, z);
        this.material.wear(name);
        this.uniforms.grainSize.value = grainOf(Math.max(x, y, z));
        this.uniforms.fibre.value.set(...(most === x ? [1, 0, 0] : most === y ? [0, 1, 0] : [0, 0, 1]) as [number, number, number]);
        m.roughness = roughness ?? look.roughness;
        this.uniforms.innerRoughness.value = innerRoughness ?? Math.max(look.clear > 0 ? 0 : 0.9, m.roughness);
        this.uniforms.weighed.value = show === 'weight' && this.isWeighed ? 1 : 0;
        const glassy = show !== 'clear' && this.uniforms.tinted.value === 0 && this.uniforms.weighed.value === 0 ? look.clear : 0;
        this.uniforms.glassy.value = glassy;
        const clear = show === 'clear' || glassy > 0;
        if (m.transparent !== clear || m.wireframe !== (show === 'wire')) {
            m.transparent = clear;
            m.depthWrite = !clear;
            m.wireframe = show === 'wire';
            m.needsUpdate = true;
        }
        m.opacity = show === 'clear' ? CLEAR : 1;
        // Where its surface is cut one looks inside.
        m.side = show === 'inside' || this.pieces.skinned || this.flown !== null ? DoubleSide : FrontSide;
        this.uniforms.onlyInner.value = show === 'inside' ? 1 : 0;
        this.solid = show === 'surface' || show === 'pieces' || show === 'weight' || show === 'order' || show === 'mortar';
        this.closeCracks();
    }

    /** A colour a piece (sRGB, 0…255), or null for the material's own. */
    tint(colours: (readonly [number, number, number])[] | null): void {
        this.uniforms.tinted.value = colours === null ? 0 : 1;
        if (colours !== null) {
            const data = this.tints.image.data as Uint8Array;
            const c = new Color();
            colours.forEach(([r, g, b], i) => {
                c.setRGB(r / 255, g / 255, b / 255, 'srgb');
                data.set([c.r * 255, c.g * 255, c.b * 255, 255], i * 8);
            });
            this.tints.needsUpdate = true;
        }
    }

    dispose(): void {
        this.mesh.geometry.dispose();
        this.material.surface.dispose();
        this.material.depth.dispose();
        this.uniforms.homeMap.value?.dispose();
        this.places.dispose();
        this.tints.dispose();
        this.uniforms.pictureMap.value?.dispose();
        this.uniforms.innerPictureMap.value?.dispose();
    }
}

export interface Hit {
    piece: number;
    distance: number;
    vertex: number;
    shares: readonly [number, number];
}

interface PieceExtent {
    /** First vertex, and the one after the last. */
    first: number;
    end: number;
    /** Metres from the piece's centre to its farthest point. */
    radius: number;
}

export function pieceExtents(pieces: Pick<PropPieces, 'positions' | 'pieceOf' | 'pieces'>): PieceExtent[] {
    const out: PieceExtent[] = pieces.pieces.map(() => ({ first: Infinity, end: 0, radius: 0 }));
    const p = pieces.positions;
    pieces.pieceOf.forEach((piece, v) => {
        const e = out[piece]!;
        e.first = Math.min(e.first, v);
        e.end = v + 1;
        e.radius = Math.max(e.radius, Math.hypot(p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!));
    });
    return out;
}

/** Where the middle of each piece is in the unbroken prop. */
function homes(pieces: PropPieces): DataTexture {
    const rows = Math.max(1, Math.ceil(pieces.pieces.length / ROW));
    const data = new Float32Array(4 * ROW * rows);
    pieces.pieces.forEach((p, i) => data.set(p.centre, 4 * i));
    const texture = new DataTexture(data, ROW, rows, RGBAFormat, FloatType);
    texture.minFilter = texture.magFilter = NearestFilter;
    texture.needsUpdate = true;
    return texture;
}

/** Points on the outline of each piece, about its middle: number of the piece, x, y, z. */
function outlinePoints(pieces: Pick<PropPieces, 'positions' | 'pieceOf' | 'pieces'>): Float32Array {
    const p = pieces.positions;
    const extents = pieceExtents(pieces);
    const ways = pieces.pieces.length === 1 ? OUTLINE : PIECE_OUTLINE;
    const out: number[] = [];
    extents.forEach(({ first, end }, piece) => {
        const farthest = new Set<number>();
        for (const d of ways) {
            let best = -Infinity;
            let at = first;
            for (let v = first; v < end; v++) {
                const reach = p[3 * v]! * d.x + p[3 * v + 1]! * d.y + p[3 * v + 2]! * d.z;
                if (reach > best) {
                    best = reach;
                    at = v;
                }
            }
            farthest.add(at);
        }
        for (const v of farthest) if (v < end) out.push(piece, p[3 * v]!, p[3 * v + 1]!, p[3 * v + 2]!);
    });
    return new Float32Array(out);
}
