import { Pause, Play, Repeat } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { readTime, timeShown, type Clock } from '../data/time';
import type { Frames } from '../data/document';
import { useUi } from '../data/ui';

const SPEEDS: readonly [number, string][] = [[0.25, '¼ ×'], [0.5, '½ ×'], [1, '1 ×'], [2, '2 ×'], [-1, '◂ 1 ×'], [-0.5, '◂ ½ ×']];

const CLOCKS: Record<Clock, Clock> = { frames: 'seconds', seconds: 'timecode', timecode: 'frames' };

export function Transport({ frames }: { frames: Frames }) {
    const { playing, loop, speed, everyFrame, clock, set } = useUi();
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
            <Counter frames={frames} />
            <button type="button" aria-label={`Counted in ${clock}; another way`} title={`Counted in ${clock}; press for ${CLOCKS[clock]}`} onClick={turn} className="figure grid h-[24px] w-[22px] place-items-center border border-line bg-raised text-[11px] text-soft hover:border-ink">{SIGNS[clock]}</button>
        </>
    );
}

const SIGNS: Record<Clock, string> = { frames: 'f', seconds: 's', timecode: ':' };

/** Where the playhead is; another frame, seconds or a timecode typed there takes it there. */
function Counter({ frames }: { frames: Frames }) {
    const { frame, clock, set } = useUi();
    const [text, setText] = useState<string | null>(null);
    const putBack = useRef(false);
    const now = timeShown(frame, clock, frames.rate);
    const take = () => {
        if (!putBack.current && text !== null) {
            const to = readTime(text, frames.rate);
            if (to === null) toast.error(`"${text}" is no moment.`, { description: 'Type a frame (48), seconds (2 s) or a timecode (00:02:00).' });
            else if (to < frames.first || to > frames.last) toast.error(`The shot goes from frame ${frames.first} to ${frames.last}.`, { description: `Frame ${to} is not in it.` });
            else set({ frame: to, playing: false });
        }
        putBack.current = false;
        setText(null);
    };
    return (
        <input
            aria-label="Frame"
            data-frame={frame}
            title="Type a frame, seconds (2 s) or a timecode"
            value={text ?? now}
            onFocus={(e) => e.currentTarget.select()}
            onChange={(e) => setText(e.target.value)}
            onBlur={take}
            onKeyDown={(e) => {
                e.stopPropagation();
                if (e.key === 'Enter') e.currentTarget.blur();
                if (e.key === 'Escape') {
                    putBack.current = true;
                    e.currentTarget.blur();
                }
            }}
            className={`figure h-[24px] border border-transparent bg-transparent px-1 text-right outline-none hover:border-line focus:border-ink focus:bg-raised ${clock === 'frames' ? 'w-[44px] text-[13px]' : 'w-[84px] text-[12px]'}`}
        />
    );
}
