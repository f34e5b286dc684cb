import { Euler, Object3D } from 'three';
import { TransformControls } from 'three/addons/controls/TransformControls.js';
import { rounded, type Grip } from './grips';
import { snapped } from './lens';
import type { PieceCloud } from './PieceCloud';
import { turnOf, type Pose } from '../data/pose';
import type { Stagecraft } from './Stagecraft';

const MODES = { move: 'translate', turn: 'rotate', size: 'scale' } as const;

interface HandleEvents {
    changed: () => void;
    dragged: (words: string | null, x: number, y: number) => void;
    cloud: (prop: string) => PieceCloud | undefined;
}

/** The handles drawn in the picture on whatever grip is shown. */
export class Handles {
    /** Whether one is being dragged, or the pointer is over one. */
    get busy(): boolean {
        return this.controls.dragging || this.controls.axis !== null;
    }

    private readonly controls: TransformControls;
    private readonly stand = new Object3D();
    private grip: Grip | null = null;

    constructor(
        private readonly craft: Stagecraft,
        private readonly canvas: HTMLCanvasElement,
        private readonly events: HandleEvents,
    ) {
        this.controls = new TransformControls(craft.camera, canvas);
        this.controls.setColors('#b5422b', '#1f7a5c', '#2f6690', '#e39a00');
        this.controls.setSize(0.9);
        this.stand.rotation.order = 'ZYX';
        craft.scene.add(this.stand, this.controls.getHelper());
        this.controls.addEventListener('change', events.changed);
        this.controls.addEventListener('dragging-changed', (e) => {
            craft.controls.enabled = e.value !== true;
            if (e.value !== true) this.letGo();
        });
        this.controls.addEventListener('objectChange', () => this.follow());
    }

    show(grip: Grip | null): void {
        if (this.controls.dragging) return;
        this.grip = grip;
        if (grip === null) {
            if (this.controls.object) this.controls.detach();
            return;
        }
        this.stand.position.set(...grip.pose.position);
        this.stand.quaternion.copy(turnOf(grip.pose.turn));
        this.stand.scale.setScalar(1);
        this.stand.updateMatrixWorld();
        this.controls.setMode(MODES[grip.mode]);
        if (!this.controls.object) this.controls.attach(this.stand);
    }

    /** Where the handle has a prop while it is being dragged. */
    poseOf(prop: string): Pose | null {
        return this.controls.dragging && this.grip?.carries === true && this.grip.prop === prop ? this.pose() : null;
    }

    dispose(): void {
        this.controls.detach();
        this.controls.dispose();
    }

    private pose(): Pose {
        const e = new Euler().setFromQuaternion(this.stand.quaternion, 'ZYX');
        const degrees = (v: number) => rounded((v * 180) / Math.PI, 10);
        const p = this.stand.position;
        const metres = (v: number) => snapped(v, this.craft.pixelsPerMetre);
        return { position: [metres(p.x), metres(p.y), metres(p.z)], turn: [degrees(e.x), degrees(e.y), degrees(e.z)] };
    }

    private follow(): void {
        if (this.grip === null) return;
        if (this.grip.mode === 'size') {
            // One size for all axes: the one that was pulled.
            const s = this.stand.scale.toArray().reduce((best, v) => (Math.abs(v - 1) > Math.abs(best - 1) ? v : best), 1);
            this.stand.scale.setScalar(Math.max(0.01, Math.abs(s)));
            this.events.cloud(this.grip.prop)?.scaleAbout(this.stand.position, this.stand.scale.x);
        }
        const at = this.stand.position.clone().project(this.craft.camera);
        this.events.dragged(this.grip.words(this.pose(), this.stand.scale.x), ((at.x + 1) / 2) * this.canvas.clientWidth, ((1 - at.y) / 2) * this.canvas.clientHeight);
        this.events.changed();
    }

    private letGo(): void {
        this.events.dragged(null, 0, 0);
        this.grip?.set(this.pose(), this.stand.scale.x);
    }
}
