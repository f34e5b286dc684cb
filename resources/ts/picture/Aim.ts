import { useBake } from '../data/bake';
import type { Prop, ShotDocument } from '../data/document';
import { framesOf } from '../data/lanes';
import { currentMoments } from '../data/moments';
import { inScene, poseAt } from '../data/pose';
import { useUi } from '../data/ui';
import { startsThere } from '../data/motion';
import { joined, type Baked, type Scenery } from './Scenery';
import type { Stagecraft } from './Stagecraft';

/** Where the camera looks: at what is worked on, until the artist moves it. */
export class Aim {
    private framed = '';
    private seen = { view: 0, frame: 0, turn: 0, look: 0 };

    constructor(
        private readonly craft: Stagecraft,
        private readonly scenery: Scenery,
    ) {}

    /** What was framed for another size is framed anew, unless the artist has moved the camera. */
    forget(): void {
        if (!this.craft.moved) this.framed = '';
    }

    /** Sets the camera when asked to, and with the stage for as long as the artist has not moved it. */
    at(document: ShotDocument, props: Prop[], baked: Baked | null): void {
        const ui = useUi.getState();
        if (ui.turned.asked !== this.seen.turn) {
            this.seen.turn = ui.turned.asked;
            this.craft.nudge(ui.turned.how, ui.turned.x, ui.turned.y);
        }
        if (ui.look.asked !== this.seen.look) {
            this.seen.look = ui.look.asked;
            const { at: [x, y, z], across } = ui.look;
            const r = 0.5 * across;
            this.craft.frame(new Float32Array([x - r, y - r, z - r, x + r, y + r, z + r]), null);
            this.craft.moved = true;
            return;
        }
        if (ui.view.name === 'camera' && document.camera) return;
        if (props.length === 0 && this.framed === '') {
            this.framed = 'nothing yet';
            // A metre of the yard, to have something to stand on.
            this.craft.frame(new Float32Array([-0.5, 0, -0.5, 0.5, 0, 0.5, -0.5, 0.8, 0.5, 0.5, 0.8, -0.5]), ui.view.name);
        }
        if (props.length === 0 || !props.every((p) => this.scenery.clouds.has(p.id))) return;
        const close = ui.stage === 'props' || ui.stage === 'break';
        const { bake } = useBake.getState();
        const whole = baked !== null && ui.stage === 'bake' && bake?.state === 'done' && baked.get(0) !== null && baked.get(baked.loaded - 1) !== null ? baked : null;
        // Which prop is chosen does not count: choosing one moves no view.
        const key = `${props.map((p) => p.id).join()} ${close ? 'close' : 'all'} ${whole === null ? '' : bake!.id} ${this.coming(props) ? '' : 'there'}`;
        const asked = ui.view.asked !== this.seen.view;
        const focus = ui.frameAsked !== this.seen.frame;
        if (asked || focus || (key !== this.framed && !this.craft.moved)) {
            const chosen = props.filter((p) => p.id === ui.chosen);
            const of = chosen.length > 0 && (focus || close) ? chosen : this.scenery.acting(props);
            const points = this.outline(document, props, of, baked, focus && !close);
            // What has no size yet is framed once it has.
            if (points.length === 0 || !points.every(Number.isFinite)) return;
            this.craft.frame(points, focus ? null : ui.view.name);
        }
        this.framed = key;
        this.seen.view = ui.view.asked;
        this.seen.frame = ui.frameAsked;
    }

    /** Whether only a first look at some of them is here, and the whole comes after. */
    private coming(props: Prop[]): boolean {
        return props.some((p) => this.scenery.clouds.get(p.id)?.pieces.first === true);
    }

    /** What is to be seen of some props: where they stand now, or all of their way through the shot. */
    private outline(document: ShotDocument, all: Prop[], props: Prop[], baked: Baked | null, now: boolean): Float32Array {
        const ui = useUi.getState();
        // Not only the moment that is shown: all of their way.
        if (baked !== null && (ui.stage === 'bake' || ((ui.stage === 'motion' || ui.stage === 'weights') && !now))) return this.scenery.path(all, props, baked);
        const standing = this.scenery.outline(props);
        if (now || ui.stage === 'props' || ui.stage === 'break') return standing;
        const more = [standing];
        const { first, last } = document.frames;
        for (const prop of props) {
            const cloud = this.scenery.clouds.get(prop.id)!;
            // What is let fall comes down to the ground; what is keyed goes where its keys lead.
            if (document.world.ground.kind !== 'none' && startsThere(prop.motion)) more.push(this.scenery.outline([prop]).map((v, i) => (i % 3 === 1 ? Math.max(0, v - Math.max(0, lowest(standing))) : v)));
            const moments = currentMoments();
            for (const { frame } of prop.motion.kind === 'fixed' ? [] : framesOf(prop.place.position, moments)) {
                if (frame < first || frame > last) continue;
                const { centre, radius } = cloud.ball();
                const [x, y, z] = inScene(poseAt(prop, frame, moments), centre.toArray());
                more.push(new Float32Array([x - radius, y, z, x + radius, y, z, x, y - radius, z, x, y + radius, z, x, y, z - radius, x, y, z + radius]));
            }
        }
        return joined(more);
    }
}

function lowest(points: Float32Array): number {
    let low = Infinity;
    for (let i = 1; i < points.length; i += 3) low = Math.min(low, points[i]!);
    return low;
}
