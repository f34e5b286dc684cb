import { Mesh, PlaneGeometry, ShaderMaterial, SRGBColorSpace, Texture, TextureLoader, Vector4, type Scene } from 'three';

// Footage is to look as it does by itself: what the mapping to the screen's colours takes away is given beforehand (the
// inverse of three's neutral mapping, but for its paling of what is brightest).
const FOOTAGE = /* glsl */ `
    uniform sampler2D picture; uniform float opacity, exposure; varying vec2 at;
    void main() {
        vec3 c = texture2D(picture, at).rgb;
        float peak = max(c.r, max(c.g, c.b));
        if (peak > 0.76) c *= (0.0576 / max(1.0 - peak, 0.02) + 0.52) / peak;
        float low = min(c.r, min(c.g, c.b));
        c += (low < 0.04 ? 0.4 * sqrt(low) : low + 0.04) - low;
        gl_FragColor = vec4(c / exposure, opacity);
        #include <tonemapping_fragment>
        #include <colorspace_fragment>
    }`;

/** Pictures held: those round the playhead. */
const HELD = 24;

/** The plate: footage behind everything, where the shot's camera sees it. */
export class Backdrop {
    private readonly mesh: Mesh<PlaneGeometry, ShaderMaterial>;
    private readonly pictures = new Map<string, Texture | null>();
    private readonly loader = new TextureLoader();

    /** @param changed a picture has come */
    constructor(
        private readonly scene: Scene,
        private readonly changed: () => void,
    ) {
        const material = new ShaderMaterial({
            uniforms: { picture: { value: null }, opacity: { value: 1 }, rect: { value: new Vector4(-1, -1, 1, 1) }, exposure: { value: 1 } },
            vertexShader: 'uniform vec4 rect; varying vec2 at; void main() { at = uv; gl_Position = vec4(mix(rect.xy, rect.zw, uv), 1.0, 1.0); }',
            fragmentShader: FOOTAGE,
            transparent: true,
            depthWrite: false,
        });
        this.mesh = new Mesh(new PlaneGeometry(2, 2), material);
        this.mesh.frustumCulled = false;
        this.mesh.renderOrder = -9;
        this.mesh.visible = false;
        scene.add(this.mesh);
    }

    get shown(): boolean {
        return this.mesh.visible;
    }

    hide(): void {
        this.mesh.visible = false;
    }

    /**
     * @param asset the picture
     * @param rect where it lies, in the picture's own −1…1: left, low, right, high
     * @param next pictures that come soon
     */
    show(asset: string, rect: readonly [number, number, number, number], opacity: number, exposure: number, next: readonly string[]): void {
        const u = this.mesh.material.uniforms;
        const picture = this.load(asset);
        // Until it is here the one before stays.
        if (picture !== null) u.picture!.value = picture;
        (u.rect!.value as Vector4).set(...rect);
        u.opacity!.value = opacity;
        u.exposure!.value = exposure;
        this.mesh.visible = u.picture!.value !== null && opacity > 0;
        next.forEach((n) => this.load(n));
        for (const [name, held] of this.pictures) {
            if (this.pictures.size <= HELD) break;
            if (name === asset || next.includes(name) || held === u.picture!.value) continue;
            held?.dispose();
            this.pictures.delete(name);
        }
    }

    dispose(): void {
        this.scene.remove(this.mesh);
        this.pictures.forEach((t) => t?.dispose());
        this.mesh.geometry.dispose();
        this.mesh.material.dispose();
    }

    private load(asset: string): Texture | null {
        const held = this.pictures.get(asset);
        if (held !== undefined) return held;
        this.pictures.set(asset, null);
        this.loader.load(`api/pictures/${asset}`, (texture) => {
            texture.colorSpace = SRGBColorSpace;
            this.pictures.set(asset, texture);
            this.changed();
        });
        return null;
    }
}
