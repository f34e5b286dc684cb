import { BufferGeometry, Color, CustomBlending, DataTexture, FloatType, LinearFilter, OneFactor, OneMinusSrcAlphaFactor, Points, RGBAFormat, ShaderMaterial, Uint16BufferAttribute, Vector3, type PerspectiveCamera, type Object3D } from 'three';
import type { Catalogue } from '../data/api';
import type { Prop } from '../data/document';
import { courseAt, looksOf, type DustFrame, type DustLooks } from '../data/dust';
import type { BakedFrame } from '../data/frames';
import { queryClient } from '../data/queries';
import { ChipCloud } from './ChipCloud';

/** Grains drawn while the picture moves; all of them once it stands still. */
const WHILE_MOVING = 60_000;

/** Kinds of dust a prop may give off, and samples of how each goes over its life. */
const KINDS = 4;
const SAMPLES = 64;

/** What both its materials know of a grain: how old it is, of which dust, and how large. */
const GRAIN = /* glsl */ `
    attribute vec4 grain;
    uniform vec3 low, sides;
    uniform float largest;
    uniform sampler2D courses;
    /** How large it is, how much it shows, and how much of the colour it turns to it has. */
    vec3 life(out int dust, out float across) {
        int bits = int(grain.w + 0.5);
        dust = (bits >> 8) & 3;
        float root = float(bits >> 10) / 63.0;
        vec3 at = texture2D(courses, vec2((float(bits & 255) / 255.0 * ${(SAMPLES - 1).toFixed(1)} + 0.5) / ${SAMPLES.toFixed(1)}, (float(dust) + 0.5) / ${KINDS.toFixed(1)})).xyz;
        across = largest * root * root * at.x;
        return at;
    }
    vec3 home() { return low + sides * grain.xyz / 65535.0; }`;

/** The grains of one prop: round, lit by sun and sky, casting a soft shadow, and where they are smaller than a pixel as much fainter. */
class DustCloud {
    private readonly geometry = new BufferGeometry();
    private readonly courseData = new Float32Array(4 * SAMPLES * KINDS);
    private readonly courses = new DataTexture(this.courseData, SAMPLES, KINDS, RGBAFormat, FloatType);
    private readonly shared = { low: { value: new Vector3() }, sides: { value: new Vector3() }, largest: { value: 0 }, courses: { value: this.courses } };
    private readonly material = new ShaderMaterial({
        uniforms: {
            ...this.shared,
            /** Pixels a metre takes at a distance of one. */
            scale: { value: 1 },
            adds: { value: [0, 0, 0, 0] },
            colours: { value: Array.from({ length: KINDS }, () => new Color()) },
            turns: { value: Array.from({ length: KINDS }, () => new Color()) },
            sun: { value: new Vector3(-0.55, 1.25, 0.7).normalize() },
        },
        vertexShader: /* glsl */ `
            ${GRAIN}
            uniform float scale, adds[${KINDS}];
            uniform vec3 colours[${KINDS}], turns[${KINDS}];
            varying vec3 tone;
            varying float seen, added;
            void main() {
                int dust; float across;
                vec3 at = life(dust, across);
                vec3 born = dust == 0 ? colours[0] : dust == 1 ? colours[1] : dust == 2 ? colours[2] : colours[3];
                vec3 turned = dust == 0 ? turns[0] : dust == 1 ? turns[1] : dust == 2 ? turns[2] : turns[3];
                added = dust == 0 ? adds[0] : dust == 1 ? adds[1] : dust == 2 ? adds[2] : adds[3];
                tone = mix(born, turned, at.z);
                vec4 view = modelViewMatrix * vec4(home(), 1.0);
                gl_Position = projectionMatrix * view;
                float pixels = scale * across / max(1e-6, -view.z);
                gl_PointSize = max(1.5, pixels);
                // What is smaller than a pixel covers a part of it.
                seen = max(min(1.0, pixels / 1.5), 0.08 * step(0.02, pixels)) * at.y;
            }`,
        fragmentShader: /* glsl */ `
            uniform vec3 sun;
            varying vec3 tone;
            varying float seen, added;
            void main() {
                vec2 p = 2.0 * gl_PointCoord - 1.0;
                float r = dot(p, p);
                if (r > 1.0) discard;
                vec3 normal = vec3(p.x, -p.y, sqrt(1.0 - r));
                // What adds its light glows by itself.
                float light = mix(0.62 + 0.5 * max(0.0, dot(normal, normalize((viewMatrix * vec4(sun, 0.0)).xyz))), 1.6, added);
                float alpha = seen * (1.0 - 0.5 * r * r);
                gl_FragColor = vec4(tone * light, 1.0);
                #include <tonemapping_fragment>
                #include <colorspace_fragment>
                gl_FragColor = vec4(gl_FragColor.rgb * alpha, alpha * (1.0 - added));
            }`,
        transparent: true,
        depthWrite: false,
        // Colours come multiplied by how much they cover, so that what only adds light covers nothing.
        blending: CustomBlending,
        blendSrc: OneFactor,
        blendDst: OneMinusSrcAlphaFactor,
    });
    /** In the sun's picture a grain smaller than a point is there by chance, as often as it would cover it. */
    private readonly shade = new ShaderMaterial({
        uniforms: { ...this.shared, texels: { value: 1 } },
        vertexShader: /* glsl */ `
            ${GRAIN}
            uniform float texels;
            void main() {
                int dust; float across;
                vec3 at = life(dust, across);
                float size = texels * across;
                gl_PointSize = max(1.0, size);
                gl_Position = projectionMatrix * modelViewMatrix * vec4(home(), 1.0);
                float chance = fract(sin(dot(grain.xyz, vec3(12.9898, 78.233, 37.719))) * 43758.5453);
                if (chance > min(1.0, size * size) * at.y) gl_Position = vec4(2.0, 2.0, 2.0, 1.0);
            }`,
        fragmentShader: /* glsl */ `
            #include <packing>
            void main() {
                vec2 p = 2.0 * gl_PointCoord - 1.0;
                if (dot(p, p) > 1.0) discard;
                gl_FragColor = packDepthToRGBA(gl_FragCoord.z);
            }`,
    });
    private readonly points = new Points(this.geometry, this.material);
    private shown: DustFrame | null = null;
    private looks: readonly DustLooks[] = [];
    private few = false;

    constructor(private readonly scene: Object3D) {
        this.courses.minFilter = this.courses.magFilter = LinearFilter;
        this.points.frustumCulled = false;
        this.points.visible = false;
        this.points.renderOrder = 2;
        this.points.castShadow = true;
        this.points.customDepthMaterial = this.shade;
        scene.add(this.points);
    }

    /**
     * @param looks of each dust
     * @param texels of the sun's picture a metre takes
     * @param moving whether the picture moves: then a fair share of them is drawn
     */
    show(frame: DustFrame | null, looks: readonly DustLooks[], camera: PerspectiveCamera, height: number, texels: number, moving: boolean): void {
        this.points.visible = frame !== null && frame.count > 0;
        if (frame === null || frame.count === 0) return;
        const u = this.material.uniforms;
        u.scale!.value = height / (2 * Math.tan((camera.fov * Math.PI) / 360));
        this.shade.uniforms.texels!.value = texels;
        this.wear(looks);
        const few = moving && frame.count > WHILE_MOVING;
        if (frame === this.shown && few === this.few) return;
        this.shown = frame;
        this.few = few;
        this.shared.low.value.fromArray(frame.box);
        this.shared.sides.value.fromArray(frame.box, 3);
        this.shared.largest.value = frame.largest;
        const grains = few ? everySoManieth(frame.grains, Math.ceil(frame.count / WHILE_MOVING)) : frame.grains;
        this.geometry.setAttribute('grain', new Uint16BufferAttribute(grains, 4));
        this.geometry.setDrawRange(0, grains.length / 4);
    }

    private wear(looks: readonly DustLooks[]): void {
        if (looks.length === this.looks.length && looks.every((l, k) => same(l, this.looks[k]!))) return;
        this.looks = looks;
        const u = this.material.uniforms;
        looks.slice(0, KINDS).forEach((l, k) => {
            (u.colours!.value as Color[])[k]!.set(l.colour);
            (u.turns!.value as Color[])[k]!.set(l.turns === '' ? l.colour : l.turns);
            (u.adds!.value as number[])[k] = l.adds ? 1 : 0;
            for (let n = 0; n < SAMPLES; n++) {
                const age = n / (SAMPLES - 1);
                this.courseData.set([courseAt(l.sizes, age), courseAt(l.shows, age), courseAt(l.turning, age), 0], 4 * (k * SAMPLES + n));
            }
        });
        this.courses.needsUpdate = true;
    }

    dispose(): void {
        this.scene.remove(this.points);
        this.geometry.dispose();
        this.material.dispose();
        this.shade.dispose();
        this.courses.dispose();
    }
}

const same = (one: DustLooks, other: DustLooks): boolean => (Object.keys(one) as (keyof DustLooks)[]).every((k) => one[k] === other[k]);

/** What all props of a shot give off. */
export class Dusts {
    private readonly clouds = new Map<string, DustCloud>();
    private readonly chips = new Map<string, ChipCloud>();

    constructor(private readonly scene: Object3D) {}

    /**
     * @param frame as a bake has it, by number of the prop; null where nothing is baked
     * @param height of the canvas, in pixels
     * @param texels of the sun's picture a metre takes
     */
    show(props: readonly Prop[], frame: BakedFrame | null, camera: PerspectiveCamera, height: number, texels: number, moving: boolean): void {
        const shapes = queryClient.getQueryData<Catalogue>(['catalogue'])?.chips ?? NONE;
        props.forEach((prop, k) => {
            const own = frame?.[k]?.seen === false ? undefined : frame?.[k];
            if (own?.dust && !this.clouds.has(prop.id)) this.clouds.set(prop.id, new DustCloud(this.scene));
            if (own?.chips && !this.chips.has(prop.id)) this.chips.set(prop.id, new ChipCloud(this.scene));
            this.clouds.get(prop.id)?.show(own?.dust ?? null, (prop.dust ?? []).map((_, of) => looksOf(prop, of)), camera, height, texels, moving);
            this.chips.get(prop.id)?.show(own?.chips ?? null, prop, shapes, moving);
        });
        for (const clouds of [this.clouds, this.chips]) {
            for (const [id, cloud] of clouds) {
                if (!props.some((p) => p.id === id)) {
                    cloud.dispose();
                    clouds.delete(id);
                }
            }
        }
    }

    dispose(): void {
        for (const clouds of [this.clouds, this.chips]) {
            clouds.forEach((c) => c.dispose());
            clouds.clear();
        }
    }
}

const NONE: Readonly<Record<string, never>> = {};

/** A fair sample: they come in the order they were born, by lot where many are at once. */
export function everySoManieth(grains: Uint16Array, step: number): Uint16Array {
    const out = new Uint16Array(4 * Math.ceil(grains.length / 4 / step));
    for (let i = 0, o = 0; i < grains.length; i += 4 * step, o += 4) out.set(grains.subarray(i, i + 4), o);
    return out;
}
