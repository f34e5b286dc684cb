import {
    AmbientLight,
    Color,
    DirectionalLight,
    Fog,
    HemisphereLight,
    LineBasicMaterial,
    LineSegments,
    BufferAttribute,
    BufferGeometry,
    Mesh,
    MeshLambertMaterial,
    PCFShadowMap,
    PerspectiveCamera,
    PlaneGeometry,
    Scene,
    Spherical,
    Vector3,
    WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { View } from '../data/ui';

const LOOKS = {
    day: { sky: '#dcdad3', ground: '#c4c0b5', line: '#aaa597', sun: 2.9, fill: 1.6 },
    night: { sky: '#1a1f23', ground: '#2a2f31', line: '#3b4245', sun: 2.3, fill: 0.9 },
} as const;

/** Renderer, camera, daylight and ground: all of the picture but the props. */
export class Stagecraft {
    readonly scene = new Scene();
    readonly camera = new PerspectiveCamera(32, 1, 0.02, 400);
    readonly controls: OrbitControls;
    /** Whether the artist has moved the camera since it was last set. */
    moved = false;
    private readonly renderer: WebGLRenderer;
    private readonly sun = new DirectionalLight('#fff9ef');
    private readonly fill = new HemisphereLight('#eef1f4', '#b5aea0');
    private readonly ambient = new AmbientLight('#ffffff', 0.25);
    private readonly ground: Mesh<PlaneGeometry, MeshLambertMaterial>;
    private readonly grid: LineSegments<BufferGeometry, LineBasicMaterial>;

    constructor(canvas: HTMLCanvasElement, quality: { smooth: boolean; ratio: number; shadow: number }) {
        this.renderer = new WebGLRenderer({ canvas, antialias: quality.smooth, preserveDrawingBuffer: true });
        this.renderer.setPixelRatio(quality.ratio);
        this.renderer.shadowMap.enabled = true;
        this.renderer.shadowMap.type = PCFShadowMap;
        this.ground = new Mesh(new PlaneGeometry(300, 300), new MeshLambertMaterial());
        this.ground.rotation.x = -Math.PI / 2;
        this.ground.position.y = -0.002;
        this.ground.receiveShadow = true;
        this.grid = new LineSegments(metreGrid(20), new LineBasicMaterial());
        this.grid.position.y = -0.001;
        this.sun.castShadow = true;
        this.sun.shadow.mapSize.set(quality.shadow, quality.shadow);
        this.sun.shadow.radius = 3;
        this.sun.shadow.bias = -0.0006;
        this.scene.add(this.ground, this.grid, this.sun, this.sun.target, this.fill, this.ambient);
        this.controls = new OrbitControls(this.camera, canvas);
        this.controls.maxPolarAngle = Math.PI * 0.498;
        this.controls.minDistance = 0.05;
        this.controls.maxDistance = 120;
        this.controls.zoomToCursor = true;
        this.controls.addEventListener('start', () => (this.moved = true));
    }

    look(theme: 'day' | 'night'): void {
        const l = LOOKS[theme];
        this.scene.background = new Color(l.sky);
        this.scene.fog = new Fog(l.sky, 9, 26);
        this.ground.material.color.set(l.ground);
        this.grid.material.color.set(l.line);
        this.sun.intensity = l.sun;
        this.fill.intensity = l.fill;
    }

    showGround(on: boolean): void {
        this.ground.visible = this.grid.visible = on;
    }

    resize(width: number, height: number): void {
        this.renderer.setSize(width, height, false);
        this.camera.aspect = width / Math.max(1, height);
        this.camera.updateProjectionMatrix();
    }

    /** Looks at a ball of the given centre and radius from one of the set views. */
    frame(centre: Vector3, radius: number, view: View | null): void {
        const from = {
            'three-quarter': new Vector3(0.72, 0.42, 1),
            front: new Vector3(0, 0.04, 1),
            side: new Vector3(1, 0.04, 0),
            top: new Vector3(0, 1, 0.0001),
        };
        const direction = view === null ? this.camera.position.clone().sub(this.controls.target) : from[view];
        const fit = Math.min(this.camera.aspect, 1);
        const distance = (radius * 1.25) / Math.sin((this.camera.fov * Math.PI) / 360) / fit;
        this.moved = false;
        this.controls.target.copy(centre);
        this.camera.position.copy(centre).addScaledVector(direction.normalize(), distance);
        this.controls.update();
    }

    /** Moves the camera by keyboard: orbit and pan by shares of a full push, zoom by `y`. */
    nudge(how: 'orbit' | 'pan' | 'zoom', x: number, y: number): void {
        const target = this.controls.target;
        const arm = this.camera.position.clone().sub(target);
        this.moved = true;
        if (how === 'pan') {
            const reach = arm.length() * 0.06;
            const by = new Vector3().setFromMatrixColumn(this.camera.matrix, 0).multiplyScalar(x * reach).addScaledVector(new Vector3().setFromMatrixColumn(this.camera.matrix, 1), y * reach);
            target.add(by);
            this.camera.position.add(by);
        } else {
            const s = new Spherical().setFromVector3(arm);
            if (how === 'zoom') s.radius *= 1 - 0.12 * y;
            else {
                s.theta -= 0.12 * x;
                s.phi = Math.min(this.controls.maxPolarAngle, Math.max(0.02, s.phi - 0.1 * y));
            }
            this.camera.position.copy(target).add(arm.setFromSpherical(s));
        }
        this.controls.update();
    }

    /** The sun's shadow covers what is on the stage and no more, so that it stays sharp. */
    light(centre: Vector3, radius: number): void {
        const reach = Math.max(0.5, radius * 1.6);
        this.sun.position.copy(centre).add(new Vector3(-0.55, 1.25, 0.7).multiplyScalar(reach * 2.2));
        this.sun.target.position.copy(centre);
        // A few texels of the shadow map, or surfaces the sun grazes would be stippled by their own shadow.
        this.sun.shadow.normalBias = Math.min(0.03, 0.02 * reach);
        const c = this.sun.shadow.camera;
        c.left = c.bottom = -reach;
        c.right = c.top = reach;
        c.near = reach * 0.3;
        c.far = reach * 8;
        c.updateProjectionMatrix();
    }

    /** How many pixels a metre takes at the point looked at. */
    pixelsPerMetre(height: number): number {
        const distance = this.camera.position.distanceTo(this.controls.target);
        return height / (2 * Math.tan((this.camera.fov * Math.PI) / 360) * distance);
    }

    draw(): void {
        this.renderer.render(this.scene, this.camera);
    }

    dispose(): void {
        this.controls.dispose();
        this.renderer.dispose();
    }
}

function metreGrid(reach: number): BufferGeometry {
    const points: number[] = [];
    for (let k = -reach; k <= reach; k++) points.push(k, 0, -reach, k, 0, reach, -reach, 0, k, reach, 0, k);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(points), 3));
    return geometry;
}
