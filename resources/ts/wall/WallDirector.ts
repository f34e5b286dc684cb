import { Group } from 'three';
import type { Prop } from '../data/document';
import { framesFit } from '../data/bake';
import { evaluatedIn, goesByMaps, isEvaluated, isWorkedOutIn, useEvaluated, type Told } from '../data/evaluated';
import { poseAt } from '../data/pose';
import { visibleProps } from '../data/shot';
import { useUi, type Show } from '../data/ui';
import { frameOf, partsOf, useWall, type Drawn, type WallPicture } from '../data/wall';
import { Clock } from '../picture/Clock';
import { drawingAsked } from '../picture/drawingAsked';
import { Dusts } from '../picture/DustCloud';
import { Scenery, type Baked } from '../picture/Scenery';
import { Stagecraft } from '../picture/Stagecraft';

const NOTHING: readonly number[] = [];

/** What is on the stage of one picture. */
class Stand {
    readonly group = new Group();
    readonly scenery: Scenery;
    readonly dust: Dusts;
    private readonly props: Prop[];

    constructor(
        private readonly craft: Stagecraft,
        private readonly drawn: Drawn,
        changed: () => void,
    ) {
        this.scenery = new Scenery(this.group, craft.plain, changed);
        this.dust = new Dusts(this.group);
        this.props = visibleProps(drawn.document);
        this.scenery.match(this.props, drawn.pieces);
        this.group.visible = false;
        craft.scene.add(this.group);
    }

    get of(): Drawn {
        return this.drawn;
    }

    /** Whether what is to be seen of it at a frame is not here yet. */
    waits(picture: WallPicture, told: Told | null, frame: number): boolean {
        const at = frameOf(picture, frame);
        return this.drawn.store.get(at) === null || (picture.bake?.state === 'done' && this.props.some((p) => isEvaluated(p) && told?.props[p.id]?.problem == null && !isWorkedOutIn(told, p.id, picture.bake!.first + at)));
    }

    pose(picture: WallPicture, loaded: number, told: Told | null, frame: number, show: Show, height: number): void {
        const { document, store, moments } = this.drawn;
        const fits = framesFit(picture.bake, this.props.map((p) => ({ id: p.id, pieces: this.scenery.clouds.get(p.id)?.count ?? 0 })));
        const baked: Baked | null = fits ? { get: (k) => store.get(k), loaded } : null;
        const at = frameOf(picture, frame);
        const shown = picture.bake!.first + at;
        this.scenery.stand(this.props, shown, moments, document.frames.first, baked, at, (prop) => (goesByMaps(prop, baked !== null) ? poseAt(prop, shown, moments, document.frames.first) : null), (prop) => {
            const now = evaluatedIn(told, prop.id, shown);
            return now === null ? null : { now, first: goesByMaps(prop, baked !== null) };
        });
        for (const prop of this.props) this.scenery.dress(prop, { show, lit: NOTHING, picked: NOTHING, spread: 0, spreadBy: 'distance', from: undefined, weights: null, order: null });
        this.dust.show(this.props, baked?.get(at) ?? null, this.craft.camera, height, this.craft.texels, false);
    }

    /** What is to be seen of it, all of its way through the shot. */
    outline(loaded: number): Float32Array {
        const moving = this.props.filter((p) => p.motion.kind !== 'fixed');
        // What stands still is told apart by nothing.
        const acting = moving.length > 0 ? moving : this.scenery.acting(this.props);
        const { store } = this.drawn;

        return store.get(0) === null ? this.scenery.outline(acting) : this.scenery.path(this.props, acting, { get: (k) => store.get(k), loaded });
    }

    about(): void {
        this.craft.about(this.scenery.action(this.props, this.drawn.document.frames.first, this.drawn.moments));
        this.craft.showGround(this.drawn.document.world.ground);
    }

    dispose(): void {
        this.craft.scene.remove(this.group);
        this.scenery.dispose();
        this.dust.dispose();
    }
}

/** Draws several pictures into parts of one canvas: one playhead, one camera, one light. */
export class WallDirector {
    private readonly craft: Stagecraft;
    private readonly clock: Clock;
    private readonly stands = new Map<string, Stand>();
    private readonly off: (() => void)[] = [];
    private handle = 0;
    private dirty = true;
    private framed = '';
    private turned = 0;
    private asked = 0;

    /**
     * @param parts the elements pictures are drawn over, in their order
     * @param told what was drawn: pieces in all pictures, and milliseconds
     */
    constructor(
        private readonly canvas: HTMLCanvasElement,
        private readonly parts: () => HTMLElement[],
        private readonly told: (pieces: number, ms: number, waits: boolean) => void,
    ) {
        const touch = () => (this.dirty = true);
        this.craft = new Stagecraft(canvas, drawingAsked() === 'plain' ? 'plain' : 'beside', undefined, touch);
        this.craft.controls.zoomToCursor = false;
        this.craft.controls.addEventListener('change', touch);
        this.clock = new Clock(() => undefined);
        this.turned = useUi.getState().turned.asked;
        this.asked = useUi.getState().frameAsked;
        this.off.push(useUi.subscribe(touch), useWall.subscribe(touch), useEvaluated.subscribe(touch));
        const tick = () => {
            this.handle = requestAnimationFrame(tick);
            this.clock.tick();
            if (this.dirty) this.draw();
        };
        this.handle = requestAnimationFrame(tick);
    }

    resize(): void {
        this.dirty = true;
        if (!this.craft.moved) this.framed = '';
    }

    dispose(): void {
        cancelAnimationFrame(this.handle);
        this.off.forEach((f) => f());
        this.stands.forEach((s) => s.dispose());
        this.craft.dispose();
    }

    private draw(): void {
        const begun = performance.now();
        this.dirty = false;
        const ui = useUi.getState();
        const wall = useWall.getState();
        this.craft.look(ui.theme);
        this.match(wall.drawn);
        const places = this.parts();
        const box = this.canvas.getBoundingClientRect();
        const first = places[0]?.getBoundingClientRect();
        if (first === undefined || first.width < 1) return;
        this.craft.divide(this.canvas.clientWidth, this.canvas.clientHeight, first);
        this.craft.wipe();
        const parts = partsOf(wall);
        this.aim(parts);
        let pieces = 0;
        let waits = false;
        parts.forEach((keys, k) => {
            const place = places[k]?.getBoundingClientRect();
            if (place === undefined) return;
            // What lies outside of what is scrolled to is not drawn.
            const seen = place.bottom > box.top && place.top < box.bottom;
            const shown = seen ? keys.filter((key) => this.stands.has(key)) : [];
            waits ||= seen && shown.length < keys.length;
            if (shown.length === 0) return;
            shown.forEach((key, n) => {
                const stand = this.stands.get(key)!;
                const picture = wall.pictures.find((p) => p.key === key)!;
                const { loaded, told } = wall.drawn[key]!;
                waits ||= stand.waits(picture, told, ui.frame);
                stand.group.visible = true;
                stand.pose(picture, loaded, told, ui.frame, shown.length > 1 && n === 0 ? 'clear' : 'surface', place.height);
                pieces += stand.scenery.total;
            });
            this.stands.get(shown.at(-1)!)!.about();
            this.craft.drawInto(place.left - box.left, box.bottom - place.bottom);
            shown.forEach((key) => (this.stands.get(key)!.group.visible = false));
        });
        this.clock.drew();
        this.told(pieces, performance.now() - begun, waits);
    }

    /** Has what is to be drawn on the stage, and nothing else. */
    private match(drawn: Readonly<Record<string, Drawn>>): void {
        for (const [key, stand] of this.stands) {
            if (drawn[key]?.store !== stand.of.store) {
                stand.dispose();
                this.stands.delete(key);
            }
        }
        for (const [key, of] of Object.entries(drawn)) {
            if (!this.stands.has(key)) this.stands.set(key, new Stand(this.craft, of, () => (this.dirty = true)));
        }
    }

    /** Looks at all of what happens in the first, and stays there for as long as nobody has moved the camera. */
    private aim(parts: readonly (readonly string[])[]): void {
        const { turned, frameAsked } = useUi.getState();
        if (turned.asked !== this.turned) {
            this.turned = turned.asked;
            this.craft.nudge(turned.how, turned.x, turned.y);
        }
        const wall = useWall.getState();
        const key = wall.shown.find((k) => this.stands.has(k));
        const stand = key === undefined ? undefined : this.stands.get(key);
        if (key === undefined || stand === undefined) return;
        const asked = frameAsked !== this.asked;
        this.asked = frameAsked;
        const loaded = wall.drawn[key]!.loaded;
        const whole = stand.of.store.get(loaded - 1) !== null && stand.of.store.get(0) !== null;
        const now = `${key} ${parts.length} ${whole ? 'whole' : ''}`;
        if (now === this.framed || (this.craft.moved && !asked)) return;
        const points = stand.outline(loaded);
        if (points.length === 0 || !points.every(Number.isFinite)) return;
        this.craft.frame(points, asked ? null : 'three-quarter');
        this.framed = now;
    }
}
