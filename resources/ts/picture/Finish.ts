import { DepthTexture, FloatType, HalfFloatType, Mesh, NearestFilter, OrthographicCamera, PlaneGeometry, RedFormat, Scene, ShaderMaterial, UnsignedByteType, Vector2, Vector4, WebGLRenderTarget, type Camera, type PerspectiveCamera, type WebGLRenderer } from 'three';
import type { Footage } from './Backdrop';

const VERTEX = 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }';

const DEPTH = /* glsl */ `
    uniform sampler2D depthMap; uniform mat4 unproject; uniform vec2 texel;
    vec3 spotAt(vec2 uv) { vec4 p = unproject * vec4(2.0 * vec3(uv, texture2D(depthMap, uv).r) - 1.0, 1.0); return p.xyz / p.w; }
`;

/**
 * Draws the scene with light that fails to reach corners taken away, and its colours mapped to the screen's.
 * Occlusion from depth alone, by the estimator of McGuire, Mara & Luebke 2012, "Scalable Ambient Obscurance".
 */
export class Finish {
    private readonly sheet = new Scene();
    private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
    private readonly quad = new Mesh(new PlaneGeometry(2, 2));
    private readonly drawn: WebGLRenderTarget;
    private readonly shade: WebGLRenderTarget;
    private readonly occlude: ShaderMaterial;
    private readonly join: ShaderMaterial;

    constructor(private readonly renderer: WebGLRenderer) {
        this.drawn = new WebGLRenderTarget(1, 1, { type: HalfFloatType, samples: 4, depthTexture: new DepthTexture(1, 1, FloatType) });
        this.shade = new WebGLRenderTarget(1, 1, { type: UnsignedByteType, format: RedFormat, depthBuffer: false, magFilter: NearestFilter, minFilter: NearestFilter });
        this.occlude = new ShaderMaterial({
            depthTest: false,
            depthWrite: false,
            uniforms: { depthMap: { value: this.drawn.depthTexture }, unproject: { value: null }, texel: { value: new Vector2() }, reach: { value: 1 }, scale: { value: 1 }, far: { value: 1 }, samples: { value: 16 } },
            vertexShader: VERTEX,
            fragmentShader: /* glsl */ `
                varying vec2 at; ${DEPTH}
                uniform float reach, scale, far; uniform int samples;
                void main() {
                    vec3 p = spotAt(at);
                    float spread = reach * scale / -p.z;
                    gl_FragColor = vec4(1.0);
                    if (-p.z > far || spread < 2.0) return;
                    // The nearer neighbour on each side lies on the same surface.
                    vec3 r = spotAt(at + vec2(texel.x, 0.0)) - p, l = p - spotAt(at - vec2(texel.x, 0.0));
                    vec3 u = spotAt(at + vec2(0.0, texel.y)) - p, d = p - spotAt(at - vec2(0.0, texel.y));
                    vec3 n = normalize(cross(abs(r.z) < abs(l.z) ? r : l, abs(u.z) < abs(d.z) ? u : d));
                    // A pattern of four by four, which the blur of four by four takes out again.
                    ivec2 cell = ivec2(gl_FragCoord.xy) & 3;
                    float turn = 6.2832 * float((5 * (cell.x + 4 * cell.y)) & 15) / 16.0;
                    float sum = 0.0, r2 = reach * reach, bias = 0.012 * reach;
                    for (int k = 0; k < samples; k++) {
                        float share = (float(k) + 0.5) / float(samples);
                        float a = turn + 6.2832 * 7.0 * share;
                        vec3 v = spotAt(at + min(spread, 160.0) * share * vec2(cos(a), sin(a)) * texel) - p;
                        float vv = dot(v, v);
                        float f = max(0.0, r2 - vv) / r2;
                        sum += f * f * f * max(0.0, dot(v, n) - bias) / (sqrt(vv) + 0.02 * reach);
                    }
                    gl_FragColor = vec4(max(0.0, 1.0 - 2.6 * sum / float(samples)));
                }`,
        });
        this.join = new ShaderMaterial({
            depthTest: false,
            depthWrite: false,
            uniforms: { depthMap: { value: this.drawn.depthTexture }, unproject: { value: null }, texel: { value: new Vector2() }, picture: { value: this.drawn.texture }, shade: { value: this.shade.texture }, reach: { value: 1 }, shaded: { value: 1 }, footage: { value: null }, rect: { value: new Vector4(-1, -1, 1, 1) } },
            vertexShader: VERTEX,
            fragmentShader: /* glsl */ `
                varying vec2 at; ${DEPTH}
                uniform sampler2D picture, shade, footage; uniform float reach, shaded; uniform vec4 rect;
                void main() {
                    vec4 c = texture2D(picture, at);
                    if (shaded > 0.5) {
                        float z = spotAt(at).z, sum = 0.0, all = 1e-4;
                        for (int x = -2; x < 2; x++) for (int y = -2; y < 2; y++) {
                            vec2 uv = at + vec2(float(x), float(y)) * texel;
                            float same = max(0.0, 1.0 - abs(spotAt(uv).z - z) / (0.15 * reach));
                            sum += same * texture2D(shade, uv).r; all += same;
                        }
                        // What is bright stays brighter: corners of white plaster are never black.
                        float ao = all > 0.001 ? sum / all : 1.0;
                        c.rgb *= ao + (1.0 - ao) * 0.35 * c.rgb;
                    }
                    // Of what is seen, as much as alpha says is the scene; the rest is footage, which has its colours already.
                    float own = clamp(c.a, 0.0, 1.0);
                    gl_FragColor = vec4(c.rgb / max(own, 1e-3), 1.0);
                    #include <tonemapping_fragment>
                    if (own < 1.0) {
                        vec2 spot = (2.0 * at - 1.0 - rect.xy) / (rect.zw - rect.xy);
                        gl_FragColor.rgb = mix(texture2D(footage, spot).rgb, gl_FragColor.rgb, own);
                    }
                    #include <colorspace_fragment>
                }`,
        });
        this.quad.frustumCulled = false;
        this.sheet.add(this.quad);
    }

    /**
     * @param reach metres from which something takes light away
     * @param samples how many places are looked at for that; none leaves it out
     * @param far metres from the camera beyond which nothing is taken away
     * @param footage what stands where the scene has left room
     */
    draw(scene: Scene, camera: PerspectiveCamera, reach: number, samples: number, far: number, footage: Footage | null): void {
        const size = this.renderer.getDrawingBufferSize(new Vector2());
        if (this.drawn.width !== size.x || this.drawn.height !== size.y) {
            this.drawn.setSize(size.x, size.y);
            this.shade.setSize(size.x, size.y);
        }
        this.renderer.setRenderTarget(this.drawn);
        this.renderer.render(scene, camera);
        for (const material of [this.occlude, this.join]) {
            material.uniforms.unproject!.value = camera.projectionMatrixInverse;
            material.uniforms.texel!.value.set(1 / size.x, 1 / size.y);
            material.uniforms.reach!.value = reach;
        }
        this.join.uniforms.footage!.value = footage?.picture ?? null;
        if (footage !== null) (this.join.uniforms.rect!.value as Vector4).copy(footage.rect);
        this.join.uniforms.shaded!.value = samples > 0 ? 1 : 0;
        if (samples > 0) {
            this.occlude.uniforms.samples!.value = samples;
            this.occlude.uniforms.far!.value = far;
            this.occlude.uniforms.scale!.value = size.y / (2 * Math.tan((camera.fov * Math.PI) / 360));
            this.pass(this.occlude, this.shade, this.flat);
        }
        this.pass(this.join, null, this.flat);
    }

    dispose(): void {
        this.drawn.depthTexture?.dispose();
        this.drawn.dispose();
        this.shade.dispose();
        this.occlude.dispose();
        this.join.dispose();
        this.quad.geometry.dispose();
    }

    private pass(material: ShaderMaterial, target: WebGLRenderTarget | null, camera: Camera): void {
        this.quad.material = material;
        this.renderer.setRenderTarget(target);
        this.renderer.render(this.sheet, camera);
    }
}
