import { useBake } from '../data/bake';
import { playSpan } from '../data/play';
import { perSecond } from '../data/time';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';

/** Moves the playhead while playing, in real time: where drawing is slow, frames are skipped, never stretched, unless every one is asked for. */
export class Clock {
    private from: { at: number; frame: number } | null = null;
    private spedBy = 1;
    private paced = { since: 0, drawn: 0 };

    /** @param speed frames drawn a second, or null when playing has stopped */
    constructor(private readonly speed: (drawn: number | null) => void) {}

    drew(): void {
        this.paced.drawn++;
    }

    tick(): void {
        const ui = useUi.getState();
        const document = useShot.getState().shot?.document;
        if (!ui.playing || !document) {
            if (this.from !== null) this.speed(null);
            this.from = null;
            this.spedBy = ui.speed;
            return;
        }
        const { loaded, bake } = useBake.getState();
        const [first, last] = playSpan(document.frames, ui.range, bake !== null && loaded > 0 ? bake.first + loaded - 1 : null);
        const now = performance.now();
        if (this.spedBy !== ui.speed) {
            this.spedBy = ui.speed;
            if (this.from !== null) this.from = { at: now, frame: ui.frame };
        }
        if (this.from === null) {
            const ended = ui.speed < 0 ? ui.frame <= first || ui.frame > last : ui.frame >= last || ui.frame < first;
            this.from = { at: now, frame: ended ? (ui.speed < 0 ? last : first) : ui.frame };
            this.paced = { since: now, drawn: 0 };
        }
        const passed = Math.floor(((now - this.from.at) / 1000) * perSecond(document.frames) * Math.abs(ui.speed));
        const back = ui.speed < 0;
        let frame = this.from.frame + (back ? -passed : passed);
        if (ui.everyFrame && passed > 1) {
            frame = ui.frame + (back ? -1 : 1);
            this.from = { at: now, frame };
        }
        if (back ? frame < first : frame > last) {
            const busy = !back && (bake?.state === 'running' || bake?.state === 'queued');
            const end = back ? first : last;
            if (ui.loop && !busy) {
                frame = back ? last : first;
                this.from = { at: now, frame };
            } else {
                frame = end;
                if (busy) this.from = { at: now, frame: end };
                else ui.set({ playing: false });
            }
        }
        if (frame !== ui.frame) ui.set({ frame });
        if (now - this.paced.since > 1000) {
            this.speed(Math.round((1000 * this.paced.drawn) / (now - this.paced.since)));
            this.paced = { since: now, drawn: 0 };
        }
    }
}
