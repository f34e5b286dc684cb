import { CustomBlending, Mesh, OneMinusSrcAlphaFactor, PlaneGeometry, ShaderMaterial, SRGBColorSpace, Texture, TextureLoader, Vector4, ZeroFactor, type Scene } from 'three';

// Drawn straight to the screen, footage needs no mapping to the screen's colours: it has them.
const FOOTAGE = /* glsl */ `
    uniform sampler2D picture; uniform float opacity; varying vec2 at;
    void main() {
        gl_FragColor = vec4(texture2D(picture, at).rgb, opacity);
        #include <colorspace_fragment>
    }`;

// Where the scene's colours are still to be mapped, it only leaves room: the finish puts it there as it is.
const ROOM = /* glsl */ `
    uniform float opacity;
    void main() { gl_FragColor = vec4(0.0, 0.0, 0.0, opacity); }`;

/** The picture of the plate that is shown, and where it lies in the picture's own −1…1. */
export interface Footage {
    picture: Texture;
    rect: Vector4;
}

/** Pictures held: those round the playhead. */
const HELD = 24;

/** The plate: footage behind everything, where the shot's camera sees it. */
export class Backdrop {
    private readonly mesh: Mesh<PlaneGeometry, ShaderMaterial>;
    private readonly pictures = new Map<string, Texture | null>();
    private readonly loader = new TextureLoader();

    /**
     * @param plain whether the scene is drawn straight to the screen
     * @param changed a picture has come
     */
    constructor(
        private readonly scene: Scene,
        private readonly plain: boolean,
        private readonly changed: () => void,
    ) {
        const material = new ShaderMaterial({
            uniforms: { picture: { value: null }, opacity: { value: 1 }, rect: { value: new Vector4(-1, -1, 1, 1) } },
            vertexShader: 'uniform vec4 rect; varying vec2 at; void main() { at = uv; gl_Position = vec4(mix(rect.xy, rect.zw, uv), 1.0, 1.0); }',
            fragmentShader: plain ? FOOTAGE : ROOM,
            transparent: true,
            depthWrite: false,
            toneMapped: false,
            // What is there already is taken away by as much as the footage covers it, its alpha too.
            ...(plain ? {} : { blending: CustomBlending, blendSrc: ZeroFactor, blendDst: OneMinusSrcAlphaFactor, blendSrcAlpha: ZeroFactor, blendDstAlpha: OneMinusSrcAlphaFactor }),
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

    /** What the finish is to put where it has left room. */
    get footage(): Footage | null {
        const u = this.mesh.material.uniforms;
        return this.shown && !this.plain ? { picture: u.picture!.value as Texture, rect: u.rect!.value as Vector4 } : null;
    }

    hide(): void {
        this.mesh.visible = false;
    }

    /**
     * @param asset the picture
     * @param rect where it lies, in the picture's own −1…1: left, low, right, high
     * @param next pictures that come soon
     */
    show(asset: string, rect: readonly [number, number, number, number], opacity: number, next: readonly string[]): void {
        const u = this.mesh.material.uniforms;
        const picture = this.load(asset);
        // Until it is here the one before stays.
        if (picture !== null) u.picture!.value = picture;
        (u.rect!.value as Vector4).set(...rect);
        u.opacity!.value = opacity;
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
