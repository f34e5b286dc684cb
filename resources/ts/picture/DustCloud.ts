import { BufferGeometry, Color, Points, ShaderMaterial, Uint16BufferAttribute, Vector3, type PerspectiveCamera, type Scene } from 'three';
import type { Prop } from '../data/document';
import type { DustFrame } from '../data/dust';
import type { BakedFrame } from '../data/frames';

/** Grains drawn while the picture moves; all of them once it stands still. */
const WHILE_MOVING = 60_000;

/** The grains of one prop: round, lit by sun and sky, and where they are smaller than a pixel as much fainter. */
class DustCloud {
    private readonly geometry = new BufferGeometry();
    private readonly material = new ShaderMaterial({
        uniforms: {
            low: { value: new Vector3() },
            sides: { value: new Vector3() },
            largest: { value: 0 },
            /** Pixels a metre takes at a distance of one. */
            scale: { value: 1 },
            ends: { value: [1, 1, 1, 1] },
            colours: { value: [new Color(), new Color(), new Color(), new Color()] },
            sun: { value: new Vector3(0.45, 0.75, 0.5).normalize() },
        },
        vertexShader: /* glsl */ `
            attribute vec4 grain;
            uniform vec3 low, sides;
            uniform float largest, scale, ends[4];
            uniform vec3 colours[4];
            varying vec3 tone;
            varying float seen;
            void main() {
                int bits = int(grain.w + 0.5);
                float age = float(bits & 255) / 255.0;
                int dust = (bits >> 8) & 3;
                float root = float(bits >> 10) / 63.0;
                float end = dust == 0 ? ends[0] : dust == 1 ? ends[1] : dust == 2 ? ends[2] : ends[3];
                tone = dust == 0 ? colours[0] : dust == 1 ? colours[1] : dust == 2 ? colours[2] : colours[3];
                vec4 view = modelViewMatrix * vec4(low + sides * grain.xyz / 65535.0, 1.0);
                gl_Position = projectionMatrix * view;
                float pixels = scale * largest * root * root * mix(1.0, end, age) / max(1e-6, -view.z);
                gl_PointSize = max(1.5, pixels);
                // What is smaller than a pixel covers a part of it; in the last tenth of its life it fades.
                seen = min(1.0, pixels / 1.5) * min(1.0, 10.0 * (1.0 - age));
                seen = max(seen, 0.08 * step(0.02, pixels)) * step(0.001, seen);
            }`,
        fragmentShader: /* glsl */ `
            uniform vec3 sun;
            varying vec3 tone;
            varying float seen;
            void main() {
                vec2 p = 2.0 * gl_PointCoord - 1.0;
                float r = dot(p, p);
                if (r > 1.0) discard;
                vec3 normal = vec3(p.x, -p.y, sqrt(1.0 - r));
                float light = 0.62 + 0.5 * max(0.0, dot(normal, normalize((viewMatrix * vec4(sun, 0.0)).xyz)));
                gl_FragColor = vec4(tone * light, seen * (1.0 - 0.5 * r * r));
                #include <tonemapping_fragment>
                #include <colorspace_fragment>
            }`,
        transparent: true,
        depthWrite: false,
    });
    private readonly points = new Points(this.geometry, this.material);
    private shown: DustFrame | null = null;
    private few = false;

    constructor(private readonly scene: Scene) {
        this.points.frustumCulled = false;
        this.points.visible = false;
        this.points.renderOrder = 2;
        scene.add(this.points);
    }

    /**
     * @param colours of each dust, as colours of the web
     * @param ends share of its size that each has at its end
     * @param moving whether the picture moves: then a fair share of them is drawn
     */
    show(frame: DustFrame | null, colours: readonly string[], ends: readonly number[], camera: PerspectiveCamera, height: number, moving: boolean): void {
        this.points.visible = frame !== null && frame.count > 0;
        if (frame === null || frame.count === 0) return;
        const u = this.material.uniforms;
        u.scale!.value = height / (2 * Math.tan((camera.fov * Math.PI) / 360));
        colours.slice(0, 4).forEach((c, k) => (u.colours!.value as Color[])[k]!.set(c));
        ends.slice(0, 4).forEach((e, k) => ((u.ends!.value as number[])[k] = e));
        const few = moving && frame.count > WHILE_MOVING;
        if (frame === this.shown && few === this.few) return;
        this.shown = frame;
        this.few = few;
        (u.low!.value as Vector3).fromArray(frame.box);
        (u.sides!.value as Vector3).fromArray(frame.box, 3);
        u.largest!.value = frame.largest;
        const grains = few ? everySoManieth(frame.grains, Math.ceil(frame.count / WHILE_MOVING)) : frame.grains;
        this.geometry.setAttribute('grain', new Uint16BufferAttribute(grains, 4));
        this.geometry.setDrawRange(0, grains.length / 4);
    }

    dispose(): void {
        this.scene.remove(this.points);
        this.geometry.dispose();
        this.material.dispose();
    }
}

/** What all props of a shot give off. */
export class Dusts {
    private readonly clouds = new Map<string, DustCloud>();

    constructor(private readonly scene: Scene) {}

    /**
     * @param frame as a bake has it, by number of the prop; null where nothing is baked
     * @param height of the canvas, in pixels
     */
    show(props: readonly Prop[], frame: BakedFrame | null, camera: PerspectiveCamera, height: number, moving: boolean): void {
        props.forEach((prop, k) => {
            const own = frame?.[k]?.dust ?? null;
            let cloud = this.clouds.get(prop.id);
            if (own !== null && cloud === undefined) this.clouds.set(prop.id, (cloud = new DustCloud(this.scene)));
            const kinds = prop.dust ?? [];
            cloud?.show(frame?.[k]?.seen === false ? null : own, kinds.map((d) => (d.from === 'cracks' ? prop.material.inner : prop.material.colour)), kinds.map((d) => Number(d.values.ends ?? 0.4)), camera, height, moving);
        });
        for (const [id, cloud] of this.clouds) {
            if (!props.some((p) => p.id === id)) {
                cloud.dispose();
                this.clouds.delete(id);
            }
        }
    }

    dispose(): void {
        this.clouds.forEach((c) => c.dispose());
        this.clouds.clear();
    }
}

/** A fair sample: they come in the order they were born, by lot where many are at once. */
export function everySoManieth(grains: Uint16Array, step: number): Uint16Array {
    const out = new Uint16Array(4 * Math.ceil(grains.length / 4 / step));
    for (let i = 0, o = 0; i < grains.length; i += 4 * step, o += 4) out.set(grains.subarray(i, i + 4), o);
    return out;
}
