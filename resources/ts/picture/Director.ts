import { Raycaster, Vector2, Vector3 } from 'three';
import { framesFit, useBake } from '../data/bake';
import { currentSeat, look, moveCamera, plateAt } from '../data/camera';
import { useClothAt } from '../data/clothAt';
import { useContact } from '../data/contact';
import type { Prop, ShotDocument } from '../data/document';
import { valueAt } from '../data/track';
import { evaluatedAt, goesByMaps, useEvaluated } from '../data/evaluated';
import { frameShown, useMaps } from '../data/maps';
import { brokenAt, useMortar } from '../data/mortar';
import { useOrder } from '../data/order';
import { usePieces, type PropPieces } from '../data/pieces';
import { useShot, visibleProps } from '../data/shot';
import { isMaking, useUi, type Show, type Stage } from '../data/ui';
import { useWorn, wornAt } from '../data/worn';
import { Aim } from './Aim';
import { boxOf, withinBox, type Box } from '../data/pickPieces';
import { chooseBoxed, choosePicked } from './choosePicked';
import { Clock } from './Clock';
import { placeGrip, pointsOf, type Grip } from './grips';
import { Handles } from './Handles';
import { useLens } from './lens';
import { currentMoments } from '../data/moments';
import { poseAt } from '../data/pose';
import { startsThere } from '../data/motion';
import { Scenery, type Baked } from './Scenery';
import { Stagecraft, type Covered, type Drawing, type Rect } from './Stagecraft';
import { StatePictures } from './StatePictures';
import { Backdrop } from './Backdrop';
import { CameraMark } from './CameraMark';
import { Dusts } from './DustCloud';
import { Seams } from './Seams';

/** Pixels the pointer may wander between down and up for it to be a click. */
const CLICK = 4;

const NOTHING: readonly number[] = [];

/** Ticks without a change after which the picture is drawn finely. */
const STILL = 12;

export interface PictureEvents {
    /** Something has changed: what is drawn is of before, until it is drawn again. */
    outdated: () => void;
    /** Where the picture of the shot's camera lies while it is looked through, in −1…1. */
    through: (rect: Rect | null) => void;
    /** A frame was drawn; pixels a metre takes, metres between lines of the ground, pieces on the stage, and milliseconds of script it took. */
    drawn: (frame: number, metre: number, step: number, pieces: number, milliseconds: number) => void;
    /** Frames drawn a second while playing, or null. */
    speed: (drawn: number | null) => void;
    /** A box is being drawn over the picture, or no longer is. */
    boxed: (box: Box | null) => void;
    /** What the handle being dragged would set, and where on the canvas to say so; null when let go. */
    dragged: (words: string | null, x: number, y: number) => void;
}

/** Draws the stage and keeps it in step with the document, the pieces, the bake and the playhead. */
export class Director {
    private readonly craft: Stagecraft;
    private readonly scenery: Scenery;
    private readonly handles: Handles;
    private readonly clock: Clock;
    private readonly aim: Aim;
    private readonly backdrop: Backdrop;
    private readonly mark: CameraMark;
    private readonly seams: Seams;
    private readonly dust: Dusts;
    private readonly states = new StatePictures();
    private dirty = true;
    private drewAt = 0;
    private still = 0;
    private lens = '';
    private rect: Rect | null = null;
    private handle = 0;
    private readonly off: (() => void)[] = [];

    constructor(
        private readonly canvas: HTMLCanvasElement,
        drawing: Drawing,
        private readonly events: PictureEvents,
    ) {
        const touch = () => {
            if (!this.dirty) events.outdated();
            this.dirty = true;
        };
        this.craft = new Stagecraft(canvas, drawing, moveCamera, touch);
        this.backdrop = new Backdrop(this.craft.scene, this.craft.plain, touch);
        this.mark = new CameraMark(this.craft.scene);
        this.seams = new Seams(this.craft.scene);
        this.dust = new Dusts(this.craft.scene);
        this.scenery = new Scenery(this.craft.scene, this.craft.plain, touch);
        this.aim = new Aim(this.craft, this.scenery);
        this.clock = new Clock(events.speed);
        this.craft.controls.addEventListener('change', touch);
        this.handles = new Handles(this.craft, canvas, {
            changed: touch,
            dragged: events.dragged,
            cloud: (id) => this.scenery.clouds.get(id),
        });
        this.off.push(this.listenForBoxes(), useShot.subscribe(touch), useUi.subscribe(touch), useBake.subscribe(touch), usePieces.subscribe(touch), useContact.subscribe(touch), useMaps.subscribe(touch), useWorn.subscribe(touch), useOrder.subscribe(touch), useMortar.subscribe(touch), useEvaluated.subscribe(touch), useClothAt.subscribe(touch), this.listenForClicks());
        const tick = (now: number) => {
            this.handle = requestAnimationFrame(tick);
            this.clock.tick();
            if (!this.dirty) {
                this.craft.pace.rest();
                this.drewAt = 0;
                // Only what moves is drawn coarser: once it stands still it is drawn as finely as it can be.
                const rested = ++this.still > STILL && !this.craft.isFine;
                if (rested) this.craft.rest();
                if (rested || this.states.wanted) {
                    this.draw();
                    this.dirty = false;
                    // What was drawn can be read in the same turn only.
                    this.states.take(canvas);
                }
                return;
            }
            this.still = 0;
            this.craft.move();
            if (this.drewAt > 0 && this.craft.pace.took(now - this.drewAt)) this.craft.refine();
            this.drewAt = now;
            this.draw();
        };
        this.handle = requestAnimationFrame(tick);
    }

    resize(width: number, height: number, covered: Covered): void {
        this.events.outdated();
        this.craft.resize(width, height);
        this.craft.cover(covered);
        this.aim.forget();
        this.dirty = true;
    }

    dispose(): void {
        cancelAnimationFrame(this.handle);
        this.off.forEach((f) => f());
        this.handles.dispose();
        this.backdrop.dispose();
        this.mark.dispose();
        this.seams.dispose();
        this.dust.dispose();
        this.scenery.dispose();
        this.craft.dispose();
        useLens.setState({ project: () => [0, 0], surface: () => null, foot: () => null, paint: () => {}, facesNear: () => [], mark: () => {}, top: () => null, weight: () => null });
    }

    /** With Ctrl held a drag draws a box, and chooses what lies in it. */
    private listenForBoxes(): () => void {
        let from: [number, number] | null = null;
        const at = (e: PointerEvent): [number, number] => {
            const box = this.canvas.getBoundingClientRect();
            return [e.clientX - box.left, e.clientY - box.top];
        };
        const down = (e: PointerEvent) => {
            if (e.button !== 0 || !(e.ctrlKey || e.metaKey) || this.handles.busy) return;
            from = at(e);
            // Before the camera hears of it.
            e.stopImmediatePropagation();
            this.canvas.setPointerCapture(e.pointerId);
        };
        const move = (e: PointerEvent) => from !== null && this.events.boxed(boxOf(from, at(e)));
        const up = (e: PointerEvent) => {
            if (from === null) return;
            const [begun, ended] = [from, at(e)];
            from = null;
            this.events.boxed(null);
            e.stopImmediatePropagation();
            // A click with Ctrl held adds what it hits.
            if (Math.hypot(ended[0] - begun[0], ended[1] - begun[1]) < CLICK) {
                const hit = this.scenery.hit(this.sight(...ended));
                choosePicked(hit, true, hit === null ? 1 : this.scenery.clouds.get(hit.prop)!.count);
            } else this.chooseIn(boxOf(begun, ended), e.shiftKey);
        };
        this.canvas.addEventListener('pointerdown', down, { capture: true });
        this.canvas.addEventListener('pointermove', move);
        this.canvas.addEventListener('pointerup', up, { capture: true });
        return () => {
            this.canvas.removeEventListener('pointerdown', down, { capture: true });
            this.canvas.removeEventListener('pointermove', move);
            this.canvas.removeEventListener('pointerup', up, { capture: true });
        };
    }

    private chooseIn(box: Box, add: boolean): void {
        const { camera } = this.craft;
        const [width, height] = [this.canvas.clientWidth, this.canvas.clientHeight];
        const v = new Vector3();
        const project = (x: number, y: number, z: number) => {
            v.set(x, y, z).project(camera);
            return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height, v.z] as const;
        };
        const clouds = [...this.scenery.clouds];
        chooseBoxed(
            Object.fromEntries(clouds.map(([id, cloud]) => [id, withinBox(cloud.middles(), box, project)])),
            Object.fromEntries(clouds.map(([id, cloud]) => [id, cloud.count])),
            add,
        );
    }

    /** A click that is no drag chooses what it hits. */
    private listenForClicks(): () => void {
        let from: { x: number; y: number } | null = null;
        const down = (e: PointerEvent) => (from = e.button === 0 && !this.handles.busy ? { x: e.clientX, y: e.clientY } : null);
        const up = (e: PointerEvent) => {
            if (from !== null && !this.handles.busy && Math.hypot(e.clientX - from.x, e.clientY - from.y) < CLICK) {
                const box = this.canvas.getBoundingClientRect();
                const hit = this.scenery.hit(this.sight(e.clientX - box.left, e.clientY - box.top));
                choosePicked(hit, e.shiftKey || e.ctrlKey || e.metaKey, hit === null ? 1 : this.scenery.clouds.get(hit.prop)!.count);
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

    /** Stands where the shot's camera does, with the plate behind; or shows where that is. */
    private lookThrough(document: ShotDocument): void {
        const ui = useUi.getState();
        const seat = currentSeat(document);
        const through = ui.view.name === 'camera' ? seat : null;
        const rect = this.craft.through(through);
        this.events.through(rect);
        this.rect = rect;
        if (seat !== null && through === null && (ui.stage === 'motion' || ui.stage === 'shot')) this.mark.stand(seat, ui.theme);
        else this.mark.hide();
        const { plate } = document;
        const asset = plate === undefined || rect === null ? null : plateAt(plate, ui.frame);
        if (plate === undefined || rect === null || asset === null) {
            this.backdrop.hide();
            return;
        }
        const [left, low, right, high] = rect;
        const scale = plate.scale ?? 1;
        const [ox, oy] = plate.offset ?? [0, 0];
        const wide = ((right - left) / 2) * scale;
        // As wide as the camera's picture, and as high as its own shape makes it.
        const tall = wide * (plate.height / plate.width) * (this.canvas.clientWidth / this.canvas.clientHeight);
        const [x, y] = [(left + right) / 2 + ox * (right - left), (low + high) / 2 + oy * (right - left) * (this.canvas.clientWidth / this.canvas.clientHeight)];
        const soon = [1, 2, 3].flatMap((k) => plateAt(plate, ui.frame + k) ?? []);
        this.backdrop.show(asset, [x - wide, y - tall, x + wide, y + tall], valueAt(plate.opacity ?? 1, ui.frame, currentMoments()), soon);
    }

    /** What props give off, as the bake has it. */
    private showDust(props: Prop[], baked: Baked | null): void {
        const at = useUi.getState().frame - (useBake.getState().bake?.first ?? 0);
        const frame = baked?.get(Math.min(baked.loaded - 1, Math.max(0, at))) ?? null;
        this.dust.show(props, frame, this.craft.camera, this.canvas.height, this.craft.texels, !this.craft.isFine);
    }

    /** The bonds of the chosen prop, where they are looked at. */
    private showSeams(baked: Baked | null, first: number): void {
        const { show, chosen, frame } = useUi.getState();
        const { prop, sections } = useMortar.getState();
        const cloud = chosen === null ? undefined : this.scenery.clouds.get(chosen);
        if (show !== 'mortar' || cloud === undefined || prop !== chosen) {
            this.seams.hide();
            return;
        }
        const { bake, figures } = useBake.getState();
        this.seams.show(cloud, sections, baked === null ? new Map() : brokenAt(figures, prop!), frame, baked === null || frame <= (bake?.first ?? first));
    }

    /** The line of sight through a pixel of the picture. */
    private sight(x: number, y: number) {
        const caster = new Raycaster();
        caster.setFromCamera(new Vector2((x / this.canvas.clientWidth) * 2 - 1, 1 - (y / this.canvas.clientHeight) * 2), this.craft.camera);
        return caster.ray;
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
        this.lookThrough(document);
        this.craft.showGround(document.world.ground, !this.backdrop.shown);
        const props = visibleProps(document);
        this.scenery.match(props, piecesShown(ui));
        const baked = this.place(props);
        this.showSeams(baked, document.frames.first);
        this.showDust(props, baked);
        this.craft.about(this.scenery.action(props, document.frames.first, currentMoments()));
        this.aim.at(document, props, baked);
        this.handles.show(this.gripOf(props.find((p) => p.id === ui.chosen), baked !== null, document.frames.first));
        this.craft.draw(this.backdrop.footage);
        this.tellLens();
        this.clock.drew();
        this.events.drawn(ui.frame, this.craft.pixelsPerMetre, this.craft.gridStep, this.scenery.total, performance.now() - begun);
    }

    /** What is drawn over the picture follows the camera. */
    private tellLens(): void {
        const { camera } = this.craft;
        look.now = () => ({ position: camera.position.clone(), target: this.craft.controls.target.clone(), height: camera.fov });
        const width = this.canvas.clientWidth;
        const height = this.canvas.clientHeight;
        camera.updateMatrixWorld();
        const key = [...camera.matrixWorld.elements, ...camera.projectionMatrix.elements, width, height, ...(this.rect ?? [])].join();
        if (key === this.lens) return;
        this.lens = key;
        useLens.setState((s) => ({
            seen: s.seen + 1,
            metre: this.craft.pixelsPerMetre,
            frame: this.rect === null ? null : [((this.rect[0] + 1) / 2) * width, ((1 - this.rect[3]) / 2) * height, ((this.rect[2] - this.rect[0]) / 2) * width, ((this.rect[3] - this.rect[1]) / 2) * height],
            project: (p) => {
                const v = new Vector3(...p).project(camera);
                return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height];
            },
            cast: (x, y) => {
                const ray = this.sight(x, y);
                return { from: ray.origin.toArray(), towards: ray.direction.toArray() };
            },
            foot: (prop, x, y) => this.scenery.clouds.get(prop)?.footOf(this.sight(x, y)) ?? null,
            paint: (prop, stroke, dab) => {
                this.scenery.clouds.get(prop)?.paint(stroke, dab);
                this.dirty = true;
            },
            facesNear: (prop, at, normal, size) => this.scenery.clouds.get(prop)?.facesNear(at, normal, size) ?? [],
            mark: (prop, faces) => {
                this.scenery.clouds.get(prop)?.mark(faces);
                this.dirty = true;
            },
            top: (prop) => {
                const points = this.scenery.clouds.get(prop)?.outline();
                let best: [number, number, number] | null = null;
                for (let i = 0; points !== undefined && i < points.length; i += 3) if (best === null || points[i + 1]! > best[1]) best = [points[i]!, points[i + 1]!, points[i + 2]!];
                return best;
            },
            weight: (prop, x, y) => this.scenery.clouds.get(prop)?.weightAt(this.sight(x, y)) ?? null,
            surface: (prop, x, y) => {
                const ray = this.sight(x, y);
                const hit = this.scenery.clouds.get(prop)?.hit(ray) ?? null;
                return hit === null ? null : ray.at(hit.distance, new Vector3()).toArray();
            },
        }));
    }

    /** What can be taken hold of on this stage: places where placing is the work. */
    private gripOf(prop: Prop | undefined, baked: boolean, first: number): Grip | null {
        const { stage, handles, frame, pinning } = useUi.getState();
        if (prop === undefined || handles === 'off' || pinning === prop.id) return null;
        // Where a bake moves the prop, there is nothing to take hold of after its start.
        const placed = stage === 'props' || (stage === 'motion' && (!baked || !startsThere(prop.motion) || frame <= first));
        return placed ? placeGrip(prop, handles, frame) : null;
    }

    /** Stands every prop where the bake has it, or where the document does, and shows it as the stage wants. */
    private place(props: Prop[]): Baked | null {
        const ui = useUi.getState();
        const { bake, store, loaded } = useBake.getState();
        const all = props.every((p) => this.scenery.clouds.has(p.id));
        // Where props are made and broken they stand as the document has them, whatever a bake has done to them since.
        const making = isMaking(ui);
        const baked = !making && all && store !== null && loaded > 0 && framesFit(bake, props.map((p) => ({ id: p.id, pieces: this.scenery.clouds.get(p.id)!.count }))) ? { get: (k: number) => store.get(k), loaded } : null;
        const moments = currentMoments();
        const first = useShot.getState().shot?.document.frames.first ?? 0;
        const drifting = (prop: Prop) => !making && goesByMaps(prop, baked !== null);
        this.scenery.stand(props, ui.frame, moments, first, baked, ui.frame - (bake?.first ?? 0), (prop) => {
            // What is steered by hand is shown as steered, also when the bake is older.
            const steered = ui.stage === 'motion' && prop.id === ui.chosen && !startsThere(prop.motion);
            const held = this.handles.poseOf(prop.id);
            if (baked !== null) return (steered || drifting(prop)) ? (held ?? poseAt(prop, ui.frame, moments, first)) : null;
            return held;
        }, (prop) => {
            // Where a prop is made or broken all of it is seen.
            const now = making && prop.id === ui.chosen ? null : evaluatedAt(prop.id, ui.frame);
            return now === null ? null : { now, first: drifting(prop) };
        });
        const show = ui.show ?? (ui.stage === 'break' ? 'pieces' : 'surface');
        const weights = (ui.effect ? wornAt(ui.frame) : frameShown(ui.frame))?.weights ?? null;
        const order = useOrder.getState();
        const cloth = useClothAt.getState();
        const onCloth = show === 'stretch' || show === 'pressure' ? show : null;
        for (const prop of props) {
            const chosen = ui.chosen === prop.id;
            const drawn = onCloth !== null && cloth.of === prop.id ? (cloth.found?.[onCloth]?.weights ?? null) : null;
            this.scenery.dress(prop, { show: onCloth === null ? show : drawn === null ? 'surface' : 'weight', lit: chosen ? ui.lit : NOTHING, picked: chosen ? ui.picked : NOTHING, spread: chosen && ui.stage === 'break' ? ui.spread : 0, spreadBy: ui.spreadBy, from: pointsOf(prop)[0]?.at, weights: drawn ?? (chosen && ui.stage === 'weights' ? weights : null), order: order.prop === prop.id ? order.frames : null });
        }
        return baked;
    }
}

/** What collides, of the props of which that is known and of which there are still as many pieces. */
function colliding(byProp: Readonly<Record<string, PropPieces>>): Record<string, PropPieces> {
    return Object.fromEntries(Object.entries(useContact.getState().byProp).filter(([id, c]) => byProp[id]?.pieces.length === c.pieces.pieces.length).map(([id, c]) => [id, c.pieces]));
}

/** Where maps are made, the prop they are of is shown unbroken. */
function piecesShown({ stage, effect, chosen, show }: { stage: Stage; effect: boolean; chosen: string | null; show: Show | null }): Readonly<Record<string, PropPieces>> {
    const { byProp } = usePieces.getState();
    if (show === 'contact') return { ...byProp, ...colliding(byProp) };
    const whole = stage === 'weights' && !effect && chosen !== null ? useMaps.getState().wholes[chosen] : undefined;
    return whole === undefined || chosen === null ? byProp : { ...byProp, [chosen]: whole };
}
