import { NeutralToneMapping, PCFShadowMap, PerspectiveCamera, Scene, Spherical, Vector3, WebGLRenderer } from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { Seat } from '../data/camera';
import type { View } from '../data/ui';
import type { Footage } from './Backdrop';
import { Daylight } from './Daylight';
import { Finish } from './Finish';
import { FILL, fit, roundStep } from './fit';
import { Ground } from './Ground';
import { Pace, STEPS, type Fineness } from './Pace';
import { grainOf } from './skins';
import type { Ground as GroundMade } from '../data/document';

/** Paced by what it measures, pinned to the finest, one of several pictures side by side, or with as few pixels as can be told apart. */
export type Drawing = 'paced' | 'fine' | 'beside' | 'plain';

const PLAIN: Fineness = { ratio: 0.5, occlusion: 0, shadow: 512 };

const BESIDE: Fineness = { ratio: 1, occlusion: 0, shadow: 1024 };

/** How bright light is drawn. */
const EXPOSURE = 1.12;

/** Degrees the artist's own camera sees from low to high. */
const OWN_FOV = 32;

/** A part of the picture in −1…1: left, low, right, high. */
export type Rect = [number, number, number, number];

/** Pixels between two lines of the ground, at least. */
const LINES_APART = 80;

const FROM: Record<Exclude<View, 'camera'>, Vector3> = {
    'three-quarter': new Vector3(0.72, 0.36, 1),
    front: new Vector3(0, 0.06, 1),
    side: new Vector3(1, 0.06, 0),
    top: new Vector3(0, 1, 0.0001),
};

/** What the picture is about: a ball round all props, and the radius of the smallest. */
export interface Action {
    centre: Vector3;
    radius: number;
    least: number;
}

/** Pixels of the picture covered by what lies over it. */
export interface Covered {
    top: number;
    bottom: number;
}

/**
 * Renderer, camera, daylight and ground: all of the picture but the props. Every length in it follows from the action
 * and from where the camera stands, so that a shot looks and handles alike at any size.
 */
export class Stagecraft {
    readonly scene = new Scene();
    readonly camera = new PerspectiveCamera(OWN_FOV, 1, 0.02, 400);
    readonly controls: OrbitControls;
    /** Whether the artist has moved the camera since it was last set. */
    moved = false;
    readonly pace = new Pace();
    readonly plain: boolean;
    private readonly renderer: WebGLRenderer;
    private readonly finish: Finish | null;
    private readonly daylight: Daylight;
    private readonly ground: Ground;
    private action: Action = { centre: new Vector3(0, 0.4, 0), radius: 1, least: 1 };
    private size = { width: 1, height: 1 };
    private covered: Covered = { top: 0, bottom: 0 };
    private step = 1;
    /** Where the artist's own camera stood before looking through the shot's. */
    private own: { position: Vector3; target: Vector3 } | null = null;
    /** Whether the artist is moving the camera just now. */
    private holding = false;
    private resting = false;

    constructor(
        canvas: HTMLCanvasElement,
        private readonly drawing: Drawing,
        /** The shot's camera was moved while looking through it. */
        private readonly steered: (position: Vector3, target: Vector3) => void = () => undefined,
        /** Something came that is to be drawn. */
        changed: () => void = () => undefined,
    ) {
        this.plain = drawing === 'plain';
        this.renderer = new WebGLRenderer({ canvas, antialias: drawing === 'beside', preserveDrawingBuffer: true });
        this.renderer.toneMapping = NeutralToneMapping;
        this.renderer.toneMappingExposure = EXPOSURE;
        this.renderer.shadowMap.enabled = true;
        this.renderer.shadowMap.type = PCFShadowMap;
        this.finish = this.plain || drawing === 'beside' ? null : new Finish(this.renderer);
        this.daylight = new Daylight(this.renderer, this.scene, this.plain);
        this.ground = new Ground(this.daylight.haze, this.plain, changed);
        this.scene.add(this.ground.mesh);
        this.controls = new OrbitControls(this.camera, canvas);
        this.controls.maxPolarAngle = Math.PI * 0.498;
        this.controls.zoomToCursor = true;
        this.controls.addEventListener('start', () => (this.moved = this.holding = true));
        this.controls.addEventListener('end', () => {
            this.holding = false;
            if (this.own !== null) this.steered(this.camera.position, this.controls.target);
        });
        this.refine();
    }

    look(theme: 'day' | 'night'): void {
        this.daylight.look(theme);
        this.ground.look(theme);
    }

    showGround(made: GroundMade, on = true): void {
        this.ground.show(made, on);
    }

    /** Whether it is drawn as finely as it can be. */
    get isFine(): boolean {
        return this.plain || this.drawing === 'fine' || this.drawing === 'beside' || this.resting || this.pace.fineness === STEPS[0];
    }

    /** Nothing moves: the time it takes to draw no longer counts. */
    rest(): void {
        this.resting = true;
        this.refine();
    }

    /** Something moves again. */
    move(): void {
        if (!this.resting) return;
        this.resting = false;
        this.refine();
    }

    /** Draws as finely as the pace allows. */
    refine(): void {
        const { ratio, shadow } = this.fineness();
        this.renderer.setPixelRatio(this.plain ? ratio : Math.min(ratio, window.devicePixelRatio));
        this.daylight.shadowSize(shadow);
    }

    resize(width: number, height: number): void {
        this.size = { width, height: Math.max(1, height) };
        this.renderer.setSize(width, height, false);
        this.camera.aspect = width / this.size.height;
        this.centre();
    }

    /**
     * Draws into parts of a canvas, all of one size, from now on: the camera sees one of them.
     *
     * @param width of the canvas, in pixels
     * @param part pixels of each
     */
    divide(width: number, height: number, part: { width: number; height: number }): void {
        this.renderer.setSize(width, height, false);
        this.renderer.setScissorTest(true);
        this.size = { width: part.width, height: Math.max(1, part.height) };
        this.camera.aspect = this.size.width / this.size.height;
        this.centre();
    }

    /**
     * Draws the scene as it is into a part.
     *
     * @param left pixels from the canvas's left and from its lower edge
     */
    drawInto(left: number, low: number): void {
        this.renderer.setViewport(left, low, this.size.width, this.size.height);
        this.renderer.setScissor(left, low, this.size.width, this.size.height);
        this.draw();
    }

    /** Makes all of the canvas clear. */
    wipe(): void {
        this.renderer.setScissorTest(false);
        this.renderer.setClearColor(0x000000, 0);
        this.renderer.clear();
        this.renderer.setScissorTest(true);
    }

    /** The camera turns about the middle of what is left free. */
    cover(covered: Covered): void {
        if (covered.top === this.covered.top && covered.bottom === this.covered.bottom) return;
        this.covered = covered;
        this.centre();
    }

    /** What the picture is about has changed. */
    about(action: Action): void {
        this.action = action;
        this.controls.minDistance = action.least * 0.02;
        this.controls.maxDistance = action.radius * 60;
    }

    /**
     * Sees points as large as they fit into the free area.
     *
     * @param points x, y, z of each
     */
    frame(points: Float32Array, view: View | null): void {
        const from = view === null || view === 'camera' ? this.camera.position.clone().sub(this.controls.target) : FROM[view];
        const half = Math.tan((this.camera.fov * Math.PI) / 360);
        const { width, height } = this.size;
        const free = Math.max(0.2 * height, height - this.covered.top - this.covered.bottom);
        const { position, target } = fit(points, from, (half * FILL * width) / height, (half * FILL * free) / height);
        this.moved = false;
        this.camera.position.copy(position);
        this.controls.target.copy(target);
        this.controls.update();
    }

    /**
     * Looks through the shot's camera, or no longer does.
     *
     * @returns where its picture lies, in −1…1 of what is drawn: left, low, right, high
     */
    through(seat: Seat | null): Rect | null {
        if (seat === null) {
            if (this.own !== null) {
                this.camera.fov = OWN_FOV;
                this.camera.position.copy(this.own.position);
                this.controls.target.copy(this.own.target);
                this.own = null;
                this.controls.update();
            }
            return null;
        }
        this.own ??= { position: this.camera.position.clone(), target: this.controls.target.clone() };
        const { width, height } = this.size;
        const free = Math.max(0.2 * height, height - this.covered.top - this.covered.bottom);
        const high = Math.min(free, width / seat.aspect) * 0.96;
        const wide = high * seat.aspect;
        this.camera.fov = (360 / Math.PI) * Math.atan((Math.tan((seat.height * Math.PI) / 360) * height) / high);
        if (!this.holding) {
            this.controls.target.set(...seat.target);
            this.camera.position.set(...seat.position);
            if (this.camera.position.distanceToSquared(this.controls.target) === 0) this.camera.position.z += 1e-3;
            this.camera.lookAt(this.controls.target);
            this.camera.rotateZ((-seat.roll * Math.PI) / 180);
        }
        const middle = (this.covered.bottom - this.covered.top) / height;
        return [-wide / width, middle - high / height, wide / width, middle + high / height];
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
            if (how === 'zoom') s.radius = Math.min(this.controls.maxDistance, Math.max(this.controls.minDistance, s.radius * (1 - 0.12 * y)));
            else {
                s.theta -= 0.12 * x;
                s.phi = Math.min(this.controls.maxPolarAngle, Math.max(0.02, s.phi - 0.1 * y));
            }
            this.camera.position.copy(target).add(arm.setFromSpherical(s));
        }
        this.controls.update();
    }

    /** How many pixels a metre takes at the point looked at. */
    get pixelsPerMetre(): number {
        return this.size.height / (2 * Math.tan((this.camera.fov * Math.PI) / 360) * this.distance);
    }

    /** Metres between two fine lines of the ground. */
    get gridStep(): number {
        return this.step;
    }

    /** @param footage what lies behind the scene */
    draw(footage: Footage | null = null): void {
        const { centre, radius } = this.action;
        const distance = this.distance;
        this.step = roundStep(LINES_APART / this.pixelsPerMetre, true);
        const reach = 60 * Math.max(radius, distance / 5);
        this.camera.far = distance + 1.3 * reach;
        const clear = this.camera.position.distanceTo(centre) - 1.1 * radius;
        this.camera.near = Math.max(0.02 * distance, 0.4 * clear, 2e-6 * this.camera.far);
        this.camera.updateProjectionMatrix();
        this.ground.stand(centre, reach, this.step, grainOf(2 * radius));
        this.shine(distance);
        if (this.finish === null) this.renderer.render(this.scene, this.camera);
        else {
            const seen = distance * Math.tan((this.camera.fov * Math.PI) / 360);
            this.finish.draw(this.scene, this.camera, Math.min(radius / 4, 0.22 * seen), this.fineness().occlusion, 12 * distance, footage);
        }
    }

    dispose(): void {
        this.controls.dispose();
        this.finish?.dispose();
        this.daylight.dispose();
        this.ground.dispose();
        this.renderer.dispose();
    }

    private get distance(): number {
        return this.camera.position.distanceTo(this.controls.target);
    }

    /** Of the sun's picture, a metre. */
    get texels(): number {
        return this.daylight.texels;
    }

    private fineness(): Fineness {
        return this.drawing === 'plain' ? PLAIN : this.drawing === 'beside' ? BESIDE : this.drawing === 'fine' || this.resting ? STEPS[0]! : this.pace.fineness;
    }

    /** Shadows are kept sharp where the camera is close, and cover all where it is not. */
    private shine(distance: number): void {
        const { centre, radius } = this.action;
        const all = 1.35 * radius;
        const seen = 2.5 * distance * Math.tan((this.camera.fov * Math.PI) / 360) * Math.max(1, this.camera.aspect);
        // In steps, so that shadow edges stand still while the camera comes closer.
        const steps = Math.max(0, Math.floor(Math.log2(all / seen)));
        const near = steps > 0 ? this.controls.target : centre;
        this.daylight.shine(near, all / 2 ** steps, all + near.distanceTo(centre));
    }

    private centre(): void {
        const { width, height } = this.size;
        this.camera.setViewOffset(width, height, 0, (this.covered.bottom - this.covered.top) / 2, width, height);
    }
}
