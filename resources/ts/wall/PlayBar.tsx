import { Pause, Play } from 'lucide-react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { useWall } from '../data/wall';
import { useCameraKeys } from '../frame/useCameraKeys';

/** One playhead for all pictures. */
export function PlayBar() {
    const frames = useDocument()?.frames;
    const { frame, playing, set } = useUi();
    const sheet = useWall((s) => s.sheet);
    const go = (to: number) => frames && set({ frame: Math.min(frames.last, Math.max(frames.first, to)), playing: false });
    const keys = { preventDefault: true, enableOnFormTags: ['slider', 'radio'] } as const;
    useHotkeys('space', () => !sheet && set({ playing: !useUi.getState().playing }), keys);
    useHotkeys('left,right', (e) => go(useUi.getState().frame + (e.key === 'ArrowLeft' ? -1 : 1)), { preventDefault: true });
    useHotkeys('home,end', (e) => frames && go(e.key === 'Home' ? frames.first : frames.last), keys);
    useHotkeys('f', () => set({ frameAsked: useUi.getState().frameAsked + 1 }), keys);
    useCameraKeys(keys.enableOnFormTags);
    if (frames === undefined) return <div className="h-[44px] border-t border-line bg-paper" />;
    const share = `${(100 * (Math.min(frames.last, frame) - frames.first)) / Math.max(1, frames.last - frames.first)}%`;
    return (
        <div className="flex h-[44px] items-center gap-3 border-t border-line bg-paper px-3">
            <button type="button" disabled={sheet} aria-label={playing ? 'Stop' : 'Play'} title={sheet ? 'On a contact sheet each stands at a frame of its own' : 'Play all (space)'} onClick={() => set({ playing: !playing })} className="quick grid size-[29px] place-items-center border border-line bg-raised hover:border-ink disabled:text-soft">{playing ? <Pause size={14} /> : <Play size={14} />}</button>
            <span data-frame={frame} className="figure w-[52px] text-right text-[12px]">{sheet ? '–' : frame}</span>
            <input type="range" aria-label="Frame" disabled={sheet} min={frames.first} max={frames.last} value={Math.min(frames.last, Math.max(frames.first, frame))} onChange={(e) => go(Number(e.target.value))} className="slide min-w-0 flex-1" style={{ '--at': share } as React.CSSProperties} />
            <span className="figure text-[12px] text-soft">{frames.last}</span>
        </div>
    );
}
