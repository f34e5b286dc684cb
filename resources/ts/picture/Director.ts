import { Raycaster, Vector2, Vector3 } from 'three';
import { framesFit, STRIDE, useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { playSpan } from '../data/play';
import { useShot, visibleProps } from '../data/shot';
import { useUi, type Show } from '../data/ui';
import { sizeColour, sizeShare } from '../parts/sizes';
import { placeGrip, pointGrip, pointsOf, type Grip } from './grips';
import { Handles } from './Handles';
import { choosePicked } from './choosePicked';
import { useLens } from './lens';
import { PieceCloud } from './PieceCloud';
import { poseAt, turnOf } from './pose';
import { Stagecraft } from './Stagecraft';

const LIT = [0xf2, 0xa9, 0x1e] as const;

/** Pixels the pointer may wander between down and up for it to be a click. */
const CLICK = 4;

export interface PictureEvents {
    /** A frame was drawn; pixels a metre takes, and milliseconds of script it took. */
    drawn: (frame: number, metre: number, milliseconds: number) => void;
    /** Frames drawn a second while playing, or null. */
    speed: (drawn: number | null) => void;
    /** What the handle being dragged would set, and where on the canvas to say so; null when let go. */
    dragged: (words: string | null, x: number, y: number) => void;
}

/** Draws the stage and keeps it in step with the document, the pieces, the bake and the playhead. */
export class Director {
    private readonly craft: Stagecraft;
    private readonly handles: Handles;
    private readonly clouds = new Map<string, PieceCloud>();
    private readonly dressed = new WeakMap<PieceCloud, readonly unknown[]>();
    private dirty = true;
    private framed = '';
    private lens = '';
    private seen = { view: 0, frame: 0, turn: 0 };
    private playFrom: { at: number; frame: number } | null = null;
    private paced = { since: 0, drawn: 0 };
    private handle = 0;
    private readonly off: (() => void)[] = [];

    constructor(
        private readonly canvas: HTMLCanvasElement,
        private readonly events: PictureEvents,
    ) {
        // Browsers under automation draw in software, where every pixel counts; they may still ask for the full picture.
        const plain = navigator.webdriver && localStorage.getItem('picture') !== 'fine';
        this.craft = new Stagecraft(canvas, { smooth: !plain, ratio: plain ? 0.5 : Math.min(2, window.devicePixelRatio), shadow: plain ? 512 : 2048 });
        const touch = () => (this.dirty = true);
        this.craft.controls.addEventListener('change', touch);
        this.handles = new Handles(this.craft, canvas, {
            changed: touch,
            dragged: events.dragged,
            cloud: (id) => this.clouds.get(id),
        });
        this.off.push(useShot.subscribe(touch), useUi.subscribe(touch), useBake.subscribe(touch), usePieces.subscribe(touch), this.listenForClicks());
        const tick = () => {
            this.handle = requestAnimationFrame(tick);
            this.play();
            if (this.dirty) this.draw();
        };
        tick();
    }

    resize(width: number, height: number): void {
        this.craft.resize(width, height);
        this.dirty = true;
    }

    dispose(): void {
        cancelAnimationFrame(this.handle);
        this.off.forEach((f) => f());
        this.handles.dispose();
        this.clouds.forEach((c) => c.dispose());
        this.craft.dispose();
    }

    /** A click that is no drag chooses what it hits. */
    private listenForClicks(): () => void {
        let from: { x: number; y: number } | null = null;
        const down = (e: PointerEvent) => (from = e.button === 0 && !this.handles.busy ? { x: e.clientX, y: e.clientY } : null);
        const up = (e: PointerEvent) => {
            if (from !== null && !this.handles.busy && Math.hypot(e.clientX - from.x, e.clientY - from.y) < CLICK) {
                const hit = this.hit(e);
                choosePicked(hit, e.shiftKey || e.ctrlKey || e.metaKey, hit === null ? 1 : this.clouds.get(hit.prop)!.count);
            }
            from = null;
        };
        this.canvas.addEventListener('pointerdown', down);
        this.canvas.addEventListener('pointerup', up);
        return () => {
            this.canvas.removeEventListener('pointerdown', down);
            this.canvas.removeEventListener('pointerup', up);
        };
    }

    private hit(e: PointerEvent): { prop: string; piece: number } | null {
        const box = this.canvas.getBoundingClientRect();
        const caster = new Raycaster();
        caster.setFromCamera(new Vector2(((e.clientX - box.left) / box.width) * 2 - 1, 1 - ((e.clientY - box.top) / box.height) * 2), this.craft.camera);
        let best: { prop: string; piece: number } | null = null;
        let nearest = Infinity;
        for (const [prop, cloud] of this.clouds) {
            const hit = cloud.hit(caster.ray);
            if (hit !== null && hit.distance < nearest) {
                nearest = hit.distance;
                best = { prop, piece: hit.piece };
            }
        }
        return best;
    }

    /** Real time: where drawing is slow, frames are skipped, never stretched. */
    private play(): void {
        const ui = useUi.getState();
        const document = useShot.getState().shot?.document;
        if (!ui.playing || !document) {
            if (this.playFrom !== null) this.events.speed(null);
            this.playFrom = null;
            return;
        }
        const { loaded, bake } = useBake.getState();
        const [first, last] = playSpan(document.frames, ui.range, bake !== null && loaded > 0 ? bake.first + loaded - 1 : null);
        const now = performance.now();
        if (this.playFrom === null) {
            this.playFrom = { at: now, frame: ui.frame >= last || ui.frame < first ? first : ui.frame };
            this.paced = { since: now, drawn: 0 };
        }
        const passed = Math.floor(((now - this.playFrom.at) / 1000) * document.frames.rate);
        let frame = this.playFrom.frame + passed;
        if (frame > last) {
            const busy = bake?.state === 'running' || bake?.state === 'queued';
            if (ui.loop && !busy) {
                this.playFrom = { at: now, frame: first };
                frame = first;
            } else {
                frame = last;
                if (busy) this.playFrom = { at: now, frame: last };
                else ui.set({ playing: false });
            }
        }
        if (frame !== ui.frame) ui.set({ frame });
        if (now - this.paced.since > 1000) {
            this.events.speed(Math.round((1000 * this.paced.drawn) / (now - this.paced.since)));
            this.paced = { since: now, drawn: 0 };
        }
    }

    private draw(): void {
        const begun = performance.now();
        this.dirty = false;
        const document = useShot.getState().shot?.document;
        const ui = useUi.getState();
        this.craft.look(ui.theme);
        if (!document) {
            this.craft.draw();
            return;
        }
        this.craft.showGround(document.world.ground.on);
        const props = visibleProps(document);
        this.match(props);
        const baked = this.place(props);
        this.aim(props);
        this.handles.show(this.gripOf(props.find((p) => p.id === ui.chosen), baked, document.frames.first));
        this.craft.draw();
        this.tellLens();
        this.paced.drawn++;
        this.events.drawn(ui.frame, this.craft.pixelsPerMetre(this.canvas.clientHeight), performance.now() - begun);
    }

    /** What is drawn over the picture follows the camera. */
    private tellLens(): void {
        const { camera } = this.craft;
        const width = this.canvas.clientWidth;
        const height = this.canvas.clientHeight;
        camera.updateMatrixWorld();
        const key = [...camera.matrixWorld.elements, ...camera.projectionMatrix.elements, width, height].join();
        if (key === this.lens) return;
        this.lens = key;
        useLens.setState((s) => ({
            seen: s.seen + 1,
            project: (p) => {
                const v = new Vector3(...p).project(camera);
                return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height];
            },
            cast: (x, y) => {
                const v = new Vector3((x / width) * 2 - 1, 1 - (y / height) * 2, 0.5).unproject(camera);
                const from = camera.position.clone();
                return { from: from.toArray(), towards: v.sub(from).normalize().toArray() };
            },
        }));
    }

    /** What can be taken hold of on this stage. */
    private gripOf(prop: Prop | undefined, baked: boolean, first: number): Grip | null {
        const { stage, handles, frame } = useUi.getState();
        if (prop === undefined || handles === 'off') return null;
        if (stage === 'break') {
            return prop.break ? pointGrip(prop, useUi.getState().point, frame) : null;
        }
        // Where a bake moves the prop, there is nothing to take hold of after its start.
        const placed = stage === 'props' || (stage === 'motion' && (!baked || prop.motion.kind !== 'free' || frame <= first));
        return placed ? placeGrip(prop, handles, frame) : null;
    }

    /** Stands every prop where the bake has it, or where the document does. */
    private place(props: Prop[]): boolean {
        const ui = useUi.getState();
        const { bake, frames, loaded } = useBake.getState();
        const total = [...this.clouds.values()].reduce((n, c) => n + c.count, 0);
        const all = props.every((p) => this.clouds.has(p.id));
        // Where props are made and broken they stand as the document has them, whatever a bake has done to them since.
        const making = ui.stage === 'props' || ui.stage === 'break';
        const baked = !making && all && loaded > 0 && framesFit(bake, total);
        let offset = baked ? Math.min(loaded - 1, Math.max(0, ui.frame - bake!.first)) * total * STRIDE : 0;
        for (const prop of props) {
            const cloud = this.clouds.get(prop.id);
            if (!cloud) continue;
            // What is steered by hand is shown as steered, also when the bake is older.
            const steered = ui.stage === 'motion' && prop.id === ui.chosen && prop.motion.kind !== 'free';
            if (baked && !steered) cloud.placeFrom(frames, offset);
            else {
                const pose = this.handles.poseOf(prop.id) ?? poseAt(prop, ui.frame);
                cloud.placeWhole(turnOf(pose.turn), pose.position);
            }
            offset += cloud.count * STRIDE;
            this.dress(prop, cloud);
        }
        return baked;
    }

    private match(props: Prop[]): void {
        const pieces = usePieces.getState().byProp;
        for (const [id, cloud] of this.clouds) {
            if (!props.some((p) => p.id === id) || pieces[id] !== cloud.pieces) {
                this.craft.scene.remove(cloud.mesh);
                cloud.dispose();
                this.clouds.delete(id);
            }
        }
        for (const prop of props) {
            const p = pieces[prop.id];
            if (p && !this.clouds.has(prop.id)) {
                const cloud = new PieceCloud(p);
                this.clouds.set(prop.id, cloud);
                this.craft.scene.add(cloud.mesh);
            }
        }
    }

    private dress(prop: Prop, cloud: PieceCloud): void {
        const ui = useUi.getState();
        const chosen = ui.chosen === prop.id;
        const hit = pointsOf(prop)[0]?.at;
        const spread = chosen && ui.stage === 'break' ? ui.spread : 0;
        if (ui.spreadBy === 'ring' && cloud.pieces.rings !== null) cloud.spreadRings(spread);
        else cloud.spread(spread, hit);
        const show = ui.show ?? (ui.stage === 'break' ? 'pieces' : 'surface');
        const wear = [prop.material, show, chosen ? ui.lit : null, chosen ? ui.picked : null] as const;
        const worn = this.dressed.get(cloud);
        if (worn !== undefined && wear.every((w, i) => w === worn[i])) return;
        this.dressed.set(cloud, wear);
        cloud.colour(prop.material.colour, prop.material.inner);
        this.tint(prop, cloud, show, chosen ? new Set([...ui.lit, ...ui.picked]) : new Set());
        cloud.surface(prop.material.name, show, prop.material.roughness, prop.material.innerRoughness);
        const { picture, innerPicture } = prop.material;
        const touch = () => (this.dirty = true);
        cloud.picture('outer', picture ? `/api/pictures/${picture.asset}` : null, 1, touch);
        cloud.picture('inner', innerPicture ? `/api/pictures/${innerPicture.asset}` : null, innerPicture?.metres ?? 1, touch);
    }

    private tint(prop: Prop, cloud: PieceCloud, show: Show, lit: Set<number>): void {
        if (cloud.count === 1 || (show !== 'pieces' && show !== 'wire' && lit.size === 0)) {
            cloud.tint(null);
            return;
        }
        const own = hex(prop.material.colour);
        const largest = cloud.pieces.figures.largest;
        cloud.tint(cloud.pieces.pieces.map((p, i) => (lit.has(i) ? LIT : show === 'pieces' || show === 'wire' ? sizeColour(sizeShare(p.volume, largest)) : own)));
    }

    /** Sets the camera when asked to, and with the stage for as long as the artist has not moved it. */
    private aim(props: Prop[]): void {
        const ui = useUi.getState();
        const [wholeCentre, wholeRadius] = this.extent(props);
        this.craft.light(wholeCentre, wholeRadius);
        if (ui.turned.asked !== this.seen.turn) {
            this.seen.turn = ui.turned.asked;
            this.craft.nudge(ui.turned.how, ui.turned.x, ui.turned.y);
        }
        if (props.length === 0 && this.framed === '') {
            this.framed = 'nothing yet';
            this.craft.frame(wholeCentre, wholeRadius, ui.view.name);
        }
        if (this.clouds.size < props.length || props.length === 0) return;
        const close = ui.stage === 'props' || ui.stage === 'break';
        const chosen = props.filter((p) => p.id === ui.chosen);
        const key = `${props.map((p) => p.id).join()} ${close ? ui.chosen : 'all'}`;
        const asked = ui.view.asked !== this.seen.view;
        const focus = ui.frameAsked !== this.seen.frame;
        if (asked || focus || (key !== this.framed && !this.craft.moved)) {
            const [centre, radius] = chosen.length > 0 && (focus || close) ? this.extent(chosen) : [wholeCentre, wholeRadius];
            this.craft.frame(centre, radius, focus ? null : ui.view.name);
        }
        this.framed = key;
        this.seen.view = ui.view.asked;
        this.seen.frame = ui.frameAsked;
    }

    /** A ball round props as the document places them, with their way down: the camera does not chase debris. */
    private extent(props: Prop[]): [Vector3, number] {
        const low = new Vector3(Infinity, Infinity, Infinity);
        const high = low.clone().negate();
        const document = useShot.getState().shot!.document;
        // A slab others stand on would push everything into the distance.
        const moving = props.filter((p) => p.motion.kind !== 'fixed');
        for (const prop of moving.length > 0 && props.length > 1 ? moving : props) {
            const cloud = this.clouds.get(prop.id);
            if (!cloud) continue;
            const place = poseAt(prop, document.frames.first);
            const p = new Vector3(...place.position);
            const ball = cloud.ball();
            const c = p.clone().add(ball.centre.applyQuaternion(turnOf(place.turn)));
            low.min(c.clone().subScalar(ball.radius));
            high.max(c.clone().addScalar(ball.radius));
            if (props.length > 1 && document.world.ground.on && prop.motion.kind === 'free' && prop.motion.held === 'whole') low.y = Math.min(low.y, 0);
        }
        if (!Number.isFinite(low.x)) return [new Vector3(0, 0.4, 0), 1];
        const size = high.clone().sub(low);
        return [low.clone().add(high).multiplyScalar(0.5), Math.max(0.05, Math.max(size.x, size.y, size.z) * 0.62)];
    }
}

function hex(colour: string): [number, number, number] {
    return [1, 3, 5].map((k) => parseInt(colour.slice(k, k + 2), 16)) as [number, number, number];
}
