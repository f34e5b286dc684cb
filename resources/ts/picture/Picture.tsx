import { useEffect, useRef, useState } from 'react';
import { Vector3 } from 'three';
import { framesFit, STRIDE, useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { useShot, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { sizeColour, sizeShare } from '../parts/sizes';
import { showLength } from '../parts/number';
import { PieceCloud } from './PieceCloud';
import { poseAt, turnOf } from './pose';
import { Stagecraft } from './Stagecraft';

const SCALE_STEPS = [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];

/** Draws the stage and keeps it in step with the document, the pieces, the bake and the playhead. */
class Director {
    private readonly craft: Stagecraft;
    private readonly clouds = new Map<string, PieceCloud>();
    private dirty = true;
    private framed = '';
    private seen = { view: 0, frame: 0 };
    private playFrom: { at: number; frame: number } | null = null;
    private handle = 0;
    private readonly off: (() => void)[] = [];

    constructor(
        private readonly canvas: HTMLCanvasElement,
        private readonly onDrawn: (frame: number, metre: number, milliseconds: number) => void,
    ) {
        // Browsers under automation draw in software, where every pixel counts; they may still ask for the full picture.
        const plain = navigator.webdriver && localStorage.getItem('picture') !== 'fine';
        this.craft = new Stagecraft(canvas, { smooth: !plain, ratio: plain ? 0.5 : Math.min(2, window.devicePixelRatio), shadow: plain ? 512 : 2048 });
        this.craft.controls.addEventListener('change', () => (this.dirty = true));
        const touch = () => (this.dirty = true);
        this.off.push(useShot.subscribe(touch), useUi.subscribe(touch), useBake.subscribe(touch), usePieces.subscribe(touch));
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
        this.clouds.forEach((c) => c.dispose());
        this.craft.dispose();
    }

    /** Real time: where drawing is slow, frames are skipped, never stretched. */
    private play(): void {
        const ui = useUi.getState();
        const document = useShot.getState().shot?.document;
        if (!ui.playing || !document) {
            this.playFrom = null;
            return;
        }
        const { loaded, bake } = useBake.getState();
        const first = document.frames.first;
        const last = bake !== null && loaded > 0 ? Math.min(document.frames.last, bake.first + loaded - 1) : document.frames.last;
        this.playFrom ??= { at: performance.now(), frame: ui.frame >= last ? first : ui.frame };
        const passed = Math.floor(((performance.now() - this.playFrom.at) / 1000) * document.frames.rate);
        let frame = this.playFrom.frame + passed;
        if (frame > last) {
            const busy = bake?.state === 'running' || bake?.state === 'queued';
            if (ui.loop && !busy) {
                this.playFrom = { at: performance.now(), frame: first };
                frame = first;
            } else {
                frame = last;
                if (busy) this.playFrom = { at: performance.now(), frame: last };
                else ui.set({ playing: false });
            }
        }
        if (frame !== ui.frame) ui.set({ frame });
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
            if (baked) cloud.placeFrom(frames, offset);
            else {
                const pose = poseAt(prop, ui.frame);
                cloud.placeWhole(turnOf(pose.turn), pose.position);
            }
            offset += cloud.count * STRIDE;
            this.dress(prop, cloud);
        }
        this.aim(props);
        this.craft.draw();
        this.onDrawn(ui.frame, this.craft.pixelsPerMetre(this.canvas.clientHeight), performance.now() - begun);
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
        const show = ui.show ?? (ui.stage === 'break' ? 'pieces' : 'surface');
        cloud.colour(prop.material.colour, prop.material.inner);
        cloud.surface(prop.material.name);
        cloud.spread(chosen && ui.stage === 'break' ? ui.spread : 0);
        const broken = cloud.count > 1;
        const lit = chosen ? new Set([...ui.lit, ...ui.picked]) : new Set<number>();
        if (show === 'pieces' && broken) {
            const largest = cloud.pieces.figures.largest;
            cloud.tint(cloud.pieces.pieces.map((p, i) => (lit.has(i) ? [0xf2, 0xa9, 0x1e] : sizeColour(sizeShare(p.volume, largest)))));
        } else if (lit.size > 0 && broken) {
            const own = hex(prop.material.colour);
            cloud.tint(cloud.pieces.pieces.map((_, i) => (lit.has(i) ? [0xf2, 0xa9, 0x1e] : own)));
        } else {
            cloud.tint(null);
        }
    }

    /** Sets the camera when asked to, and with the stage for as long as the artist has not moved it. */
    private aim(props: Prop[]): void {
        const ui = useUi.getState();
        const [wholeCentre, wholeRadius] = this.extent(props);
        this.craft.light(wholeCentre, wholeRadius);
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
        this.seen = { view: ui.view.asked, frame: ui.frameAsked };
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

export default function Picture() {
    const canvas = useRef<HTMLCanvasElement>(null);
    const box = useRef<HTMLDivElement>(null);
    const [metre, setMetre] = useState(100);
    const [broken, setBroken] = useState(false);
    useEffect(() => {
        let director: Director;
        try {
            director = new Director(canvas.current!, (frame, m, ms) => {
                box.current!.dataset.frameDrawn = String(frame);
                box.current!.dataset.drawMs = ms.toFixed(2);
                setMetre(m);
            });
        } catch {
            setBroken(true);
            return;
        }
        const watch = new ResizeObserver(() => director.resize(box.current!.clientWidth, box.current!.clientHeight));
        watch.observe(box.current!);
        return () => {
            watch.disconnect();
            director.dispose();
        };
    }, []);
    const step = SCALE_STEPS.find((s) => s * metre > 64) ?? 50;
    return (
        <div ref={box} id="picture" className="absolute inset-0">
            <canvas ref={canvas} className="block size-full touch-none" aria-label="The stage: drag to orbit, right-drag to pan, scroll to zoom" />
            {broken && <p className="absolute inset-0 grid place-items-center p-8 text-center">This browser cannot draw in 3D (WebGL 2 is off or missing). Everything else works; turn on hardware acceleration to see the stage.</p>}
            <div className="figure pointer-events-none absolute right-3 bottom-3 text-right text-[11px]" aria-hidden>
                {showLength(step)}
                <div className="mt-0.5 h-[6px] border-x-2 border-b-2 border-ink" style={{ width: step * metre }} />
            </div>
        </div>
    );
}
