import { api } from '../data/api';
import { framesFit } from '../data/bake';
import { FrameStore } from '../data/frames';
import type { Prop, ShotDocument } from '../data/document';
import { loadPieces, type PropPieces } from '../data/pieces';
import { visibleProps } from '../data/shot';
import { perSecond } from '../data/time';
import { momentsOf, type Moments } from '../data/track';
import { drawingAsked } from './drawingAsked';
import { Dusts } from './DustCloud';
import { Scenery, type Baked } from './Scenery';
import { Stagecraft } from './Stagecraft';

const NOTHING: readonly number[] = [];

/** A shot on its own, small: one frame of it, or its bake played over and over. */
export class Reel {
    private readonly craft: Stagecraft;
    private readonly scenery: Scenery;
    private readonly dust: Dusts;
    private readonly props: Prop[];
    private handle = 0;

    private constructor(
        private readonly canvas: HTMLCanvasElement,
        private readonly document: ShotDocument,
        pieces: Record<string, PropPieces>,
        private readonly baked: Baked | null,
        private readonly moments: Moments,
        private readonly first: number,
        telling: number | null,
    ) {
        this.craft = new Stagecraft(canvas, drawingAsked());
        this.scenery = new Scenery(this.craft.scene, this.craft.plain, () => undefined);
        this.dust = new Dusts(this.craft.scene);
        this.props = visibleProps(document).filter((p) => pieces[p.id] !== undefined);
        this.scenery.match(this.props, pieces);
        this.craft.resize(canvas.clientWidth || canvas.width, canvas.clientHeight || canvas.height);
        this.craft.look('day');
        this.craft.showGround(document.world.ground);
        this.craft.about(this.scenery.action(this.props, document.frames.first, moments));
        this.stand(telling ?? document.frames.first);
        const acting = this.scenery.acting(this.props);
        if (acting.length > 0) this.craft.frame(this.scenery.outline(acting), 'three-quarter');
    }

    /** @throws ProblemError where a prop of it cannot be made */
    static async of(canvas: HTMLCanvasElement, shot: string, telling: number | null, signal: AbortSignal): Promise<Reel> {
        const [{ document }, { bake }] = await Promise.all([api.shot(shot), api.bake(shot)]);
        const pieces: Record<string, PropPieces> = {};
        await Promise.all(visibleProps(document).map(async (p) => (pieces[p.id] = await loadPieces(`shots/${shot}`, p.id, signal))));
        const fits = bake !== null && bake.state === 'done' && framesFit(bake, visibleProps(document).map((p) => ({ id: p.id, pieces: pieces[p.id]!.pieces.length })));
        const store = fits ? new FrameStore(bake.id, bake.counts, () => undefined, bake.dusty) : null;
        await store?.fill((telling ?? bake!.first) - bake!.first, bake!.framesDone);
        signal.throwIfAborted();
        const baked = store === null ? null : { get: (k: number) => store.get(k), loaded: bake!.framesDone };
        return new Reel(canvas, document, pieces, baked, momentsOf(document, bake?.anchored ?? {}), bake?.first ?? 0, baked === null ? null : telling);
    }

    draw(frame: number): void {
        this.stand(frame);
        this.craft.draw();
    }

    /** @param drawn after each frame */
    play(drawn: (frame: number) => void): void {
        const { first, last } = this.document.frames;
        const rate = perSecond(this.document.frames);
        const begun = performance.now();
        let shown = -1;
        let before = 0;
        const tick = (now: number) => {
            this.handle = requestAnimationFrame(tick);
            const frame = first + (Math.floor(((now - begun) / 1000) * rate) % (last - first + 1));
            if (frame === shown) return;
            if (before > 0 && this.craft.pace.took(now - before - 1000 / rate + 16)) this.craft.refine();
            before = now;
            shown = frame;
            this.draw(frame);
            drawn(frame);
        };
        this.handle = requestAnimationFrame(tick);
    }

    dispose(): void {
        cancelAnimationFrame(this.handle);
        this.scenery.dispose();
        this.dust.dispose();
        this.craft.dispose();
    }

    private stand(frame: number): void {
        this.scenery.stand(this.props, frame, this.moments, this.document.frames.first, this.baked, frame - this.first, () => null);
        for (const prop of this.props) this.scenery.dress(prop, { show: 'surface', lit: NOTHING, picked: NOTHING, spread: 0, spreadBy: 'distance', from: undefined, weights: null, order: null });
        const { baked } = this;
        this.dust.show(this.props, baked?.get(Math.min(baked.loaded - 1, Math.max(0, frame - this.first))) ?? null, this.craft.camera, this.canvas.height, this.craft.texels, false);
    }
}
