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
    MeshDepthMaterial,
    MeshStandardMaterial,
    NearestFilter,
    Quaternion,
    Ray,
    RepeatWrapping,
    RGBADepthPacking,
    RGBAFormat,
    SRGBColorSpace,
    TextureLoader,
    UnsignedByteType,
    Vector3,
    type Texture,
    type WebGLProgramParametersWithUniforms,
} from 'three';
import { STRIDE } from '../data/bake';
import type { PropPieces } from '../data/pieces';
import type { Show } from '../data/ui';

// Texels a row; two texels hold one piece.
const ROW = 1024;

const SURFACES: Record<string, { roughness: number; opacity: number }> = {
    glass: { roughness: 0.08, opacity: 0.5 },
    ice: { roughness: 0.2, opacity: 0.82 },
    slate: { roughness: 0.6, opacity: 1 },
    terracotta: { roughness: 0.78, opacity: 1 },
};

/** Opacity of a prop that is seen through. */
const CLEAR = 0.28;

const PLACE = /* glsl */ `
    ivec2 pieceAt = ivec2((int(piece) * 2) % ${ROW}, (int(piece) * 2) / ${ROW});
    vec4 pieceTurn = texelFetch(placeMap, pieceAt + ivec2(1, 0), 0);
    vec4 pieceStand = texelFetch(placeMap, pieceAt, 0);
    vec3 piecePlace = pieceStand.xyz + (pieceStand.xyz - spreadFrom) * spread + ringWay * pieceStand.w;
`;

// Straw to bitumen by way of ochre, with lines at a quarter, a half and three quarters.
const WEIGHT_COLOUR = /* glsl */ `
    vec3 weightColour(float w) {
        vec3 c = w < 0.5 ? mix(vec3(0.87, 0.80, 0.60), vec3(0.62, 0.29, 0.06), 2.0 * w) : mix(vec3(0.62, 0.29, 0.06), vec3(0.055, 0.035, 0.045), 2.0 * w - 1.0);
        vec3 off = abs(vec3(w) - vec3(0.25, 0.5, 0.75)) / max(fwidth(w), 1e-5);
        float line = 1.0 - smoothstep(0.6, 1.4, min(off.x, min(off.y, off.z)));
        return mix(c, w > 0.6 ? vec3(0.9) : vec3(0.03), 0.75 * line);
    }
`;

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
    private around: { centre: Vector3; radius: number } | null = null;
    private readonly places: DataTexture;
    private readonly placeData: Float32Array;
    private readonly tints: DataTexture;
    private readonly uniforms = {
        placeMap: { value: null as DataTexture | null },
        tintMap: { value: null as DataTexture | null },
        spread: { value: 0 },
        spreadFrom: { value: new Vector3() },
        ringWay: { value: new Vector3() },
        tinted: { value: 0 },
        innerColour: { value: new Color() },
        onlyInner: { value: 0 },
        hideInner: { value: 0 },
        pictured: { value: 0 },
        pictureMap: { value: null as Texture | null },
        innerPictured: { value: 0 },
        innerPictureMap: { value: null as Texture | null },
        innerRoughness: { value: 0.95 },
        weighed: { value: 0 },
    };

    constructor(readonly pieces: PropPieces) {
        this.count = pieces.pieces.length;
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(pieces.positions, 3));
        geometry.setAttribute('shading', new BufferAttribute(pieces.normals, 4, true));
        geometry.setAttribute('place', new BufferAttribute(pieces.places ?? new Float32Array(2 * pieces.pieceOf.length).fill(-1), 2));
        geometry.setAttribute('piece', new BufferAttribute(Float32Array.from(pieces.pieceOf), 1));
        geometry.setAttribute('weight', new BufferAttribute(pieces.weights ?? new Uint8Array(pieces.pieceOf.length), 1, true));
        const rows = Math.max(1, Math.ceil((this.count * 2) / ROW));
        this.placeData = new Float32Array(ROW * rows * 4);
        this.places = new DataTexture(this.placeData, ROW, rows, RGBAFormat, FloatType);
        this.tints = new DataTexture(new Uint8Array(ROW * rows * 4), ROW, rows, RGBAFormat, UnsignedByteType);
        this.places.minFilter = this.places.magFilter = this.tints.minFilter = this.tints.magFilter = NearestFilter;
        this.uniforms.placeMap.value = this.places;
        this.uniforms.tintMap.value = this.tints;
        const material = new MeshStandardMaterial({ roughness: 0.82, metalness: 0 });
        // Back faces in the shadow map would draw every crack of an unbroken prop as a line.
        material.shadowSide = FrontSide;
        material.onBeforeCompile = (shader) => this.patch(shader);
        this.mesh = new Mesh(geometry, material);
        this.mesh.frustumCulled = false;
        this.mesh.castShadow = this.mesh.receiveShadow = true;
        const depth = new MeshDepthMaterial({ depthPacking: RGBADepthPacking });
        depth.onBeforeCompile = (shader) => this.patchDepth(shader);
        this.mesh.customDepthMaterial = depth;
    }

    /** Copies the places of all pieces from a baked frame. */
    placeFrom(frames: Float32Array, offset: number): void {
        this.placeData.set(frames.subarray(offset, offset + this.count * STRIDE));
        this.places.needsUpdate = true;
        this.joined = this.standsAsOne();
    }

    /** Stands the unbroken prop at one place: a rotation matrix (row-major) with its quaternion, and a position. */
    placeWhole(turn: { x: number; y: number; z: number; w: number }, position: readonly number[]): void {
        const v = new Vector3();
        this.pieces.pieces.forEach((p, i) => {
            v.set(...p.centre).applyQuaternion(turn as never);
            this.placeData.set([v.x + position[0]!, v.y + position[1]!, v.z + position[2]!, this.ringShare(i), turn.x, turn.y, turn.z, turn.w], i * STRIDE);
        });
        this.places.needsUpdate = true;
        this.joined = true;
    }

    /** Whether the pieces stand to each other as they did before the break. */
    private standsAsOne(): boolean {
        const d = this.placeData;
        const turn = new Quaternion().fromArray(d, 4);
        const first = this.pieces.pieces[0]?.centre;
        const at = new Vector3();
        const slack = 1e-4 * (1 + this.ball().radius);
        return this.pieces.pieces.every(({ centre }, i) => {
            const k = i * STRIDE;
            at.set(centre[0] - first![0], centre[1] - first![1], centre[2] - first![2]).applyQuaternion(turn);
            return Math.abs(d[k]! - d[0]! - at.x) + Math.abs(d[k + 1]! - d[1]! - at.y) + Math.abs(d[k + 2]! - d[2]! - at.z) < slack;
        });
    }

    /** Cracks must not show before the pieces part: what lies within is left out. */
    private closeCracks(): void {
        this.uniforms.hideInner.value = this.joined && this.solid && this.uniforms.spread.value <= 0 && this.uniforms.ringWay.value.lengthSq() === 0 ? 1 : 0;
    }

    /** Shows the prop larger or smaller about a point, until its pieces are made anew at that size. */
    scaleAbout(point: Vector3, scale: number): void {
        this.mesh.scale.setScalar(scale);
        this.mesh.position.copy(point).multiplyScalar(1 - scale);
    }

    /** The first piece a ray meets where they stand now, and how far along the ray. */
    hit(ray: Ray): { piece: number; distance: number } | null {
        const { positions } = this.pieces;
        this.extents ??= pieceExtents(this.pieces);
        const spread = this.uniforms.spread.value;
        const from = this.uniforms.spreadFrom.value;
        const local = new Ray();
        const place = new Vector3();
        const turn = new Quaternion();
        const [a, b, c, at] = [new Vector3(), new Vector3(), new Vector3(), new Vector3()];
        let best: { piece: number; distance: number } | null = null;
        for (let piece = 0; piece < this.count; piece++) {
            const k = piece * STRIDE;
            place.fromArray(this.placeData, k);
            place.addScaledVector(at.copy(place).sub(from), spread).addScaledVector(this.uniforms.ringWay.value, this.placeData[k + 3]!);
            if (ray.distanceSqToPoint(place) > this.extents[piece]!.radius ** 2) continue;
            turn.fromArray(this.placeData, k + 4).invert();
            local.origin.copy(ray.origin).sub(place).applyQuaternion(turn);
            local.direction.copy(ray.direction).applyQuaternion(turn);
            for (let v = 3 * this.extents[piece]!.first, end = 3 * this.extents[piece]!.end; v < end; v += 9) {
                if (local.intersectTriangle(a.fromArray(positions, v), b.fromArray(positions, v + 3), c.fromArray(positions, v + 6), true, at) === null) continue;
                const distance = at.distanceTo(local.origin);
                if (best === null || distance < best.distance) best = { piece, distance };
            }
        }
        return best;
    }

    /** A ball round the unbroken prop, in its own coordinates. */
    ball(): { centre: Vector3; radius: number } {
        if (this.around !== null) return { centre: this.around.centre.clone(), radius: this.around.radius };
        const { positions, pieceOf, pieces } = this.pieces;
        const box = new Box3();
        const v = new Vector3();
        for (let i = 0; i < pieceOf.length; i++) {
            const c = pieces[pieceOf[i]!]!.centre;
            box.expandByPoint(v.set(positions[3 * i]! + c[0], positions[3 * i + 1]! + c[1], positions[3 * i + 2]! + c[2]));
        }
        this.around = { centre: box.getCenter(new Vector3()), radius: box.getSize(new Vector3()).length() / 2 };
        return { centre: this.around.centre.clone(), radius: this.around.radius };
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
        const turn = new Quaternion().fromArray(this.placeData, 4);
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
        const look = SURFACES[name] ?? { roughness: 0.85, opacity: 1 };
        m.roughness = roughness ?? look.roughness;
        this.uniforms.innerRoughness.value = innerRoughness ?? Math.max(0.9, m.roughness);
        this.uniforms.weighed.value = show === 'weight' && this.pieces.weights !== null ? 1 : 0;
        const opacity = show === 'clear' ? CLEAR : look.opacity;
        const clear = opacity < 1 && (show === 'clear' || this.uniforms.tinted.value === 0);
        if (m.transparent !== clear || m.wireframe !== (show === 'wire')) {
            m.transparent = clear;
            m.depthWrite = !clear || show !== 'clear';
            m.wireframe = show === 'wire';
            m.needsUpdate = true;
        }
        m.opacity = clear ? opacity : 1;
        m.side = show === 'inside' ? DoubleSide : FrontSide;
        this.uniforms.onlyInner.value = show === 'inside' ? 1 : 0;
        this.solid = show === 'surface' || show === 'pieces' || show === 'weight';
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
        this.mesh.material.dispose();
        this.mesh.customDepthMaterial?.dispose();
        this.places.dispose();
        this.tints.dispose();
        this.uniforms.pictureMap.value?.dispose();
        this.uniforms.innerPictureMap.value?.dispose();
    }

    private patch(shader: WebGLProgramParametersWithUniforms): void {
        Object.assign(shader.uniforms, this.uniforms);
        shader.vertexShader = shader.vertexShader
            .replace('#include <common>', `#include <common>
                attribute vec4 shading; attribute float piece; attribute vec2 place; attribute float weight;
                uniform highp sampler2D placeMap; uniform sampler2D tintMap; uniform float spread; uniform vec3 spreadFrom; uniform vec3 ringWay; uniform float hideInner;
                varying float inner; varying float weightHere; varying vec3 pieceTint; varying vec2 atPlace;
                vec3 turned(vec3 v, vec4 q) { return v + 2.0 * cross(q.xyz, cross(q.xyz, v) + q.w * v); }`)
            .replace('#include <beginnormal_vertex>', `${PLACE} inner = shading.w; weightHere = weight; atPlace = place; pieceTint = texelFetch(tintMap, pieceAt, 0).rgb; vec3 objectNormal = turned(shading.xyz, pieceTurn);`)
            .replace('#include <begin_vertex>', `vec3 transformed = turned(position, pieceTurn) + piecePlace;
                if (hideInner > 0.5 && shading.w > 0.9) transformed = vec3(0.0);`);
        shader.fragmentShader = shader.fragmentShader
            .replace('#include <common>', `#include <common>
                uniform float tinted; uniform float onlyInner; uniform float weighed; uniform float innerRoughness;
                uniform float pictured; uniform sampler2D pictureMap; uniform float innerPictured; uniform sampler2D innerPictureMap;
                uniform vec3 innerColour; varying float inner; varying float weightHere; varying vec3 pieceTint; varying vec2 atPlace;
                ${WEIGHT_COLOUR}`)
            .replace('#include <color_fragment>', `float isInner = step(0.9, inner);
                if (onlyInner > 0.5 && isInner < 0.5) discard;
                if (pictured > 0.0 && isInner < 0.5 && atPlace.x > -0.5) diffuseColor.rgb = texture2D(pictureMap, atPlace).rgb;
                vec3 within = innerPictured > 0.0 ? texture2D(innerPictureMap, atPlace * innerPictured).rgb : innerColour;
                diffuseColor.rgb = mix(diffuseColor.rgb, within, inner);
                if (tinted > 0.5) diffuseColor.rgb = mix(pieceTint, mix(pieceTint, innerColour, 0.55), inner);
                if (weighed > 0.5) diffuseColor.rgb = mix(weightColour(weightHere), innerColour, 0.7 * isInner);`)
            .replace('#include <roughnessmap_fragment>', 'float roughnessFactor = mix(roughness, innerRoughness, step(0.9, inner));');
    }

    private patchDepth(shader: WebGLProgramParametersWithUniforms): void {
        Object.assign(shader.uniforms, this.uniforms);
        shader.vertexShader = shader.vertexShader
            .replace('#include <common>', `#include <common>
                attribute float piece; uniform highp sampler2D placeMap; uniform float spread; uniform vec3 spreadFrom; uniform vec3 ringWay;
                vec3 turned(vec3 v, vec4 q) { return v + 2.0 * cross(q.xyz, cross(q.xyz, v) + q.w * v); }`)
            .replace('#include <begin_vertex>', `${PLACE} vec3 transformed = turned(position, pieceTurn) + piecePlace;`);
    }
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
