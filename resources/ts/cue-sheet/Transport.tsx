import { Pause, Play, Repeat } from 'lucide-react';
import { timeShown, type Clock } from '../data/time';
import type { Frames } from '../data/document';
import { useUi } from '../data/ui';

const SPEEDS: readonly [number, string][] = [[0.25, '¼ ×'], [0.5, '½ ×'], [1, '1 ×'], [2, '2 ×'], [-1, '◂ 1 ×'], [-0.5, '◂ ½ ×']];

const CLOCKS: Record<Clock, Clock> = { frames: 'seconds', seconds: 'timecode', timecode: 'frames' };

export function Transport({ frames }: { frames: Frames }) {
    const { playing, loop, frame, speed, everyFrame, clock, set } = useUi();
    const turn = () => {
        localStorage.setItem('clock', CLOCKS[clock]);
        set({ clock: CLOCKS[clock] });
    };
    return (
        <>
            <select aria-label="Speed" title="How fast it plays" value={everyFrame ? 'every' : speed} className="h-[24px] w-[54px] border border-line bg-raised text-[11px]" onChange={(e) => set(e.target.value === 'every' ? { everyFrame: true, speed: 1 } : { everyFrame: false, speed: Number(e.target.value) })}>
                {SPEEDS.map(([v, words]) => <option key={v} value={v}>{words}</option>)}
                <option value="every">every frame</option>
            </select>
            <button type="button" aria-label={playing ? 'Stop' : 'Play'} title="Space" onClick={() => set({ playing: !playing })} className="grid size-[24px] place-items-center border border-line bg-raised hover:border-ink">{playing ? <Pause size={12} fill="currentColor" /> : <Play size={12} fill="currentColor" />}</button>
            <button type="button" aria-label="Loop" aria-pressed={loop} title="Loop" onClick={() => set({ loop: !loop })} className={`grid size-[24px] place-items-center border ${loop ? 'border-ink' : 'border-line text-soft'} bg-raised`}><Repeat size={12} /></button>
            <button type="button" className={`figure text-right ${clock === 'frames' ? 'w-[38px] text-[13px]' : 'w-[80px] text-[12px]'}`} aria-label={`Frame ${timeShown(frame, clock, frames.rate)}`} data-frame={frame} title="Frames, seconds or timecode" onClick={turn}>{timeShown(frame, clock, frames.rate)}</button>
        </>
    );
}
