import { BackSide, Color, DirectionalLight, HemisphereLight, Mesh, PMREMGenerator, Scene, ShaderMaterial, SphereGeometry, Vector3, type Texture, type WebGLRenderer } from 'three';

const LOOKS = {
    day: { zenith: '#a9bccb', haze: '#e3e4df', earth: '#b5b0a4', bright: 1.35, sun: 2.5, sky: 0.8, sunColour: '#fff3df' },
    night: { zenith: '#18222b', haze: '#46535d', earth: '#23282b', bright: 1.7, sun: 1.5, sky: 1.0, sunColour: '#d6e2f2' },
} as const;

/** Where the sun stands, seen from what it shines on. */
const SUN = new Vector3(-0.55, 1.25, 0.7).normalize();

/** Sky, the light it gives from all sides, and a sun whose shadow is fitted to what is looked at. */
export class Daylight {
    /** Colour the ground fades to. */
    readonly haze = new Color();
    readonly dome: Mesh<SphereGeometry, ShaderMaterial>;
    readonly sun = new DirectionalLight();
    /** Stands for the light of the sky where mirroring it would take too long. */
    private readonly fill: HemisphereLight | null;
    private readonly made = new Map<string, Texture>();
    private theme: 'day' | 'night' | null = null;
    private reach = 1;

    constructor(
        private readonly renderer: WebGLRenderer,
        private readonly scene: Scene,
        plain: boolean,
    ) {
        this.fill = plain ? new HemisphereLight() : null;
        if (this.fill) scene.add(this.fill);
        this.dome = new Mesh(
            new SphereGeometry(1, 32, 16),
            new ShaderMaterial({
                side: BackSide,
                depthTest: false,
                depthWrite: false,
                uniforms: { zenith: { value: new Color() }, haze: { value: this.haze }, earth: { value: new Color() }, sunward: { value: SUN }, bright: { value: 1 }, patch_: { value: 0 } },
                vertexShader: 'varying vec3 way; void main() { way = position; gl_Position = (projectionMatrix * vec4(mat3(modelViewMatrix) * position, 1.0)).xyww; }',
                fragmentShader: /* glsl */ `
                    varying vec3 way;
                    uniform vec3 zenith, haze, earth, sunward; uniform float bright, patch_;
                    void main() {
                        vec3 w = normalize(way);
                        vec3 c = mix(haze, zenith, pow(smoothstep(0.0, 0.75, w.y), 0.65));
                        // Only what lights the props sees the earth and the bright patch; in the picture the ground covers one, and the other would glare.
                        c = mix(c, mix(haze, earth, smoothstep(0.0, 0.25, -w.y)), patch_);
                        c += patch_ * bright * vec3(1.0, 0.95, 0.86) * pow(max(0.0, dot(w, sunward)), 24.0) * 3.0;
                        gl_FragColor = vec4(c, 1.0);
                        #include <tonemapping_fragment>
                        #include <colorspace_fragment>
                    }`,
            }),
        );
        this.dome.frustumCulled = false;
        this.dome.renderOrder = -10;
        this.sun.castShadow = true;
        this.sun.shadow.radius = 2.5;
        scene.add(this.dome, this.sun, this.sun.target);
    }

    look(theme: 'day' | 'night'): void {
        if (theme === this.theme) return;
        this.theme = theme;
        const l = LOOKS[theme];
        const u = this.dome.material.uniforms;
        u.zenith!.value.set(l.zenith);
        u.earth!.value.set(l.earth);
        u.bright!.value = l.bright;
        this.haze.set(l.haze);
        this.sun.color.set(l.sunColour);
        this.sun.intensity = l.sun;
        if (this.fill !== null) {
            this.fill.color.set(l.zenith);
            this.fill.groundColor.set(l.earth);
            this.fill.intensity = 2 * l.sky;
            return;
        }
        this.scene.environment = this.surroundings(theme);
        this.scene.environmentIntensity = l.sky;
    }

    /** Of its picture, a metre. */
    get texels(): number {
        return this.sun.shadow.mapSize.x / (2 * this.reach);
    }

    shadowSize(pixels: number): void {
        if (this.sun.shadow.mapSize.x === pixels) return;
        this.sun.shadow.mapSize.set(pixels, pixels);
        this.sun.shadow.map?.dispose();
        this.sun.shadow.map = null;
    }

    /**
     * Shadows cover a ball that is looked at, cast by all within another.
     *
     * @param reach radius of the first, in metres
     * @param all radius of the second, about the same middle
     */
    shine(centre: Vector3, reach: number, all: number): void {
        this.reach = reach;
        const back = Math.max(reach, all) * 1.05;
        this.sun.position.copy(centre).addScaledVector(SUN, back * 1.5);
        this.sun.target.position.copy(centre);
        const c = this.sun.shadow.camera;
        c.left = c.bottom = -reach;
        c.right = c.top = reach;
        c.near = back * 0.4;
        c.far = back * 2.6;
        c.updateProjectionMatrix();
        // Some texels, or what the sun grazes would be stippled by its own shadow.
        const texel = (2 * reach) / this.sun.shadow.mapSize.x;
        this.sun.shadow.normalBias = 2.5 * texel;
        this.sun.shadow.bias = -(0.6 * texel) / (c.far - c.near);
    }

    dispose(): void {
        this.made.forEach((t) => t.dispose());
        this.dome.geometry.dispose();
        this.dome.material.dispose();
        this.sun.dispose();
    }

    /** What mirrors in the props, drawn once a theme. */
    private surroundings(theme: string): Texture {
        const known = this.made.get(theme);
        if (known) return known;
        const sky = new Scene();
        const dome = new Mesh(this.dome.geometry, this.dome.material.clone());
        dome.material.uniforms.patch_!.value = 1;
        dome.frustumCulled = false;
        sky.add(dome);
        const maker = new PMREMGenerator(this.renderer);
        const made = maker.fromScene(sky, 0.02).texture;
        maker.dispose();
        dome.material.dispose();
        this.made.set(theme, made);
        return made;
    }
}
