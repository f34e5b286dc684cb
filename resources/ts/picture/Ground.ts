import { BufferAttribute, BufferGeometry, CircleGeometry, Color, Mesh, MeshStandardMaterial, Vector2, Vector3, type WebGLProgramParametersWithUniforms } from 'three';
import type { Ground as Made } from '../data/document';
import { askSheet, isDrawn, trianglesOf, type GroundSheet } from '../data/ground';
import { heavyStep } from './fit';
import { skinShader } from './skins';

const LOOKS = { day: { colour: '#b5b0a4', line: '#77746b' }, night: { colour: '#3a4043', line: '#8a9396' } } as const;

/** How many radii of the outermost ring the middle may lie off before the ground is asked for anew. */
const OFF = 0.01;

/** The ground: a disc that fades into the haze, with lines at a step that follows the zoom; where it is not flat, as the core has it. */
export class Ground {
    readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial>;
    private readonly disc = new CircleGeometry(1, 96).rotateX(-Math.PI / 2);
    private made: Made = { kind: 'flat' };
    /** What is drawn or asked for, where it is not the disc. */
    private sheet: { made: Made; x: number; z: number; radius: number } | null = null;
    private readonly uniforms = {
        haze: { value: new Color() },
        lineColour: { value: new Color() },
        /** Metres between fine lines, and between heavy ones. */
        steps: { value: new Vector2(1, 10) },
        middle: { value: new Vector3() },
        fades: { value: 1 },
        grainSize: { value: 1 },
    };

    /** @param changed called when it is to be drawn anew */
    constructor(haze: Color, plain: boolean, private readonly changed: () => void) {
        this.uniforms.haze.value = haze;
        const material = new MeshStandardMaterial({ roughness: 0.95, metalness: 0, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 8 });
        material.onBeforeCompile = (shader) => this.patch(shader, plain);
        this.mesh = new Mesh<BufferGeometry, MeshStandardMaterial>(this.disc, material);
        this.mesh.receiveShadow = true;
        this.mesh.frustumCulled = false;
        this.mesh.renderOrder = -5;
    }

    look(theme: 'day' | 'night'): void {
        this.mesh.material.color.set(LOOKS[theme].colour);
        this.uniforms.lineColour.value.set(LOOKS[theme].line);
    }

    show(made: Made, on: boolean): void {
        this.made = made;
        this.mesh.visible = on && isDrawn(made);
    }

    /**
     * @param step metres between lines
     */
    stand(middle: Vector3, radius: number, step: number, grain: number): void {
        if (this.mesh.visible) this.lay(middle.x, middle.z, radius);
        const flat = this.mesh.geometry === this.disc;
        this.mesh.position.set(flat ? middle.x : 0, 0, flat ? middle.z : 0);
        this.mesh.scale.setScalar(flat ? radius : 1);
        this.uniforms.middle.value.set(middle.x, 0, middle.z);
        this.uniforms.fades.value = radius;
        this.uniforms.steps.value.set(step, heavyStep(step));
        this.uniforms.grainSize.value = grain;
    }

    /** Takes the disc, or asks for the surface round there. */
    private lay(x: number, z: number, radius: number): void {
        if (this.made.kind === 'flat') {
            this.sheet = null;
            this.take(null);
            return;
        }
        const now = this.sheet;
        if (now !== null && now.made === this.made && radius < 1.5 * now.radius && now.radius < 1.5 * radius && Math.hypot(x - now.x, z - now.z) < OFF * radius) return;
        const asked = { made: this.made, x, z, radius };
        this.sheet = asked;
        void askSheet(this.made, x, z, radius, () => this.sheet === asked, (sheet) => this.take(sheet)).finally(this.changed);
    }

    private take(sheet: GroundSheet | null): void {
        if (sheet === null && this.mesh.geometry === this.disc) return;
        if (this.mesh.geometry !== this.disc) this.mesh.geometry.dispose();
        if (sheet === null) {
            this.mesh.geometry = this.disc;
            return;
        }
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(sheet.places, 3));
        geometry.setIndex(new BufferAttribute(trianglesOf(sheet), 1));
        geometry.computeVertexNormals();
        this.mesh.geometry = geometry;
    }

    dispose(): void {
        this.sheet = null;
        this.mesh.geometry.dispose();
        this.disc.dispose();
        this.mesh.material.dispose();
    }

    private patch(shader: WebGLProgramParametersWithUniforms, plain: boolean): void {
        Object.assign(shader.uniforms, this.uniforms);
        shader.vertexShader = shader.vertexShader.replace('#include <common>', '#include <common>\nvarying vec3 spot;').replace('#include <begin_vertex>', '#include <begin_vertex>\nspot = (modelMatrix * vec4(transformed, 1.0)).xyz;');
        shader.fragmentShader = shader.fragmentShader
            .replace('#include <common>', /* glsl */ `#include <common>
                varying vec3 spot; uniform vec3 haze, lineColour, middle; uniform vec2 steps; uniform float fades, grainSize;
                ${plain ? '' : skinShader('stone')}
                // A line one pixel and a half wide, as sharp as it can be without flicker.
                float lines(float step_, float wide) {
                    vec2 at = spot.xz / step_;
                    vec2 px = fwidth(at);
                    vec2 off = abs(fract(at - 0.5) - 0.5) / max(px, vec2(1e-9));
                    vec2 on = (1.0 - smoothstep(wide * 0.5, wide * 0.5 + 1.0, off)) * (1.0 - smoothstep(0.12, 0.4, px));
                    return max(on.x, on.y);
                }`)
            .replace('#include <color_fragment>', /* glsl */ `
                float away = distance(spot.xz, middle.xz) / fades;
                ${plain ? '' : 'vec3 yard = spot / (grainSize * 4.0); float yardPx = length(fwidth(yard)); diffuseColor.rgb *= 0.985 + 0.03 * cloud(yard * 14.0, yardPx * 14.0, 4); diffuseColor.rgb *= 0.86 + 0.28 * fine(yard * 110.0, yardPx * 110.0);'}
                float drawn_ = max(0.22 * lines(steps.x, 0.6), 0.42 * lines(steps.y, 1.0));
                diffuseColor.rgb = mix(diffuseColor.rgb, lineColour, drawn_ * (1.0 - smoothstep(0.03, 0.3, away)));`)
            // The rim has the colour of the sky's edge, whatever light falls there.
            .replace('#include <opaque_fragment>', '#include <opaque_fragment>\ngl_FragColor.rgb = mix(gl_FragColor.rgb, haze, smoothstep(0.08, 0.98, sqrt(away)) * smoothstep(0.0, 0.5, away));');
    }
}
