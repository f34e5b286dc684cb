import { Pause, Play, Repeat } from 'lucide-react';
import { useUi } from '../data/ui';

export function Transport() {
    const { playing, loop, frame, set } = useUi();
    return (
        <>
            <button type="button" aria-label={playing ? 'Stop' : 'Play'} title="Space" onClick={() => set({ playing: !playing })} className="grid size-[24px] place-items-center border border-line bg-raised hover:border-ink">{playing ? <Pause size={12} fill="currentColor" /> : <Play size={12} fill="currentColor" />}</button>
            <button type="button" aria-label="Loop" aria-pressed={loop} title="Loop" onClick={() => set({ loop: !loop })} className={`grid size-[24px] place-items-center border ${loop ? 'border-ink' : 'border-line text-soft'} bg-raised`}><Repeat size={12} /></button>
            <span className="figure w-[34px] text-right text-[13px]" aria-label="Frame" data-frame={frame}>{frame}</span>
        </>
    );
}
