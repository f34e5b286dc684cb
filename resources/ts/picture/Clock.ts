import { useBake } from '../data/bake';
import { playSpan } from '../data/play';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';

/** Moves the playhead while playing, in real time: where drawing is slow, frames are skipped, never stretched. */
export class Clock {
    private from: { at: number; frame: number } | null = null;
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
            return;
        }
        const { loaded, bake } = useBake.getState();
        const [first, last] = playSpan(document.frames, ui.range, bake !== null && loaded > 0 ? bake.first + loaded - 1 : null);
        const now = performance.now();
        if (this.from === null) {
            this.from = { at: now, frame: ui.frame >= last || ui.frame < first ? first : ui.frame };
            this.paced = { since: now, drawn: 0 };
        }
        const passed = Math.floor(((now - this.from.at) / 1000) * document.frames.rate);
        let frame = this.from.frame + passed;
        if (frame > last) {
            const busy = bake?.state === 'running' || bake?.state === 'queued';
            if (ui.loop && !busy) {
                this.from = { at: now, frame: first };
                frame = first;
            } else {
                frame = last;
                if (busy) this.from = { at: now, frame: last };
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
