import { useEffect, useMemo, useRef, useState } from 'react';
import type { Frames } from '../data/document';
import { along, zoomed } from '../data/play';
import { useDocument } from '../data/shot';
import { rateInWords } from '../data/time';
import { useUi } from '../data/ui';
import { Coverage } from './Coverage';
import { CurveDrawer } from './CurveDrawer';
import { Lanes } from './Lanes';
import { Ruler } from './Ruler';
import { Tools } from './Tools';
import { Transport } from './Transport';
import { NAMES, type Scale } from './scale';

const PAD = 14;

/** What happens when: the ruler, named cues, for each prop its keys, releases and contacts, and the curves of a lane. */
export function CueSheet({ folded, onFold }: { folded: boolean; onFold: () => void }) {
    const frames = useDocument()?.frames;
    const drawer = useUi((s) => s.drawer);
    const [width, setWidth] = useState(800);
    const track = useRef<HTMLDivElement>(null);
    useEffect(() => {
        const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
        if (track.current) watch.observe(track.current);
        return () => watch.disconnect();
    }, [frames === undefined]);
    const stretch = useUi((s) => s.stretch);
    const [first, last] = stretch ?? [frames?.first ?? 0, frames?.last ?? 1];
    const scale = useMemo((): Scale => {
        // A shot of one frame has a place on the sheet too.
        const span = Math.max(1, last - first);
        const room = width - 2 * PAD - 8;
        return {
            x: (frame) => PAD + ((frame - first) / span) * room,
            frameAt: (px) => Math.min(last, Math.max(first, Math.round(first + ((px - PAD) / room) * span))),
            framesIn: (px) => Math.round((px / room) * span),
        };
    }, [width, first, last]);
    const covered = useUi((s) => s.stage === 'weights');
    const section = useRef<HTMLElement>(null);
    useZoom(section, scale, frames);
    if (!frames) return null;
    return (
        <section ref={section} aria-label="Cue sheet" className={`grid h-full min-h-0 bg-paper ${drawer ? 'grid-rows-[33px_auto_29px_minmax(50px,1fr)_minmax(120px,1.1fr)]' : 'grid-rows-[33px_auto_29px_1fr]'}`}>
            <div className="grid" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                <div className="flex items-center gap-1 border-r border-b border-line pr-2 pl-3">
                    <button type="button" className="font-semibold" aria-expanded={!folded} onClick={onFold} title={`${rateInWords(frames.rate)}; ${folded ? 'unfold' : 'fold to the ruler'}`}>{folded ? 'Cues ▸' : 'Cues'}</button>
                    <span className="flex-1" />
                    <Transport frames={frames} />
                </div>
                <div ref={track} className="relative min-w-0 border-b border-line">
                    <Ruler scale={scale} frames={frames} shown={[first, last]} />
                </div>
            </div>
            {covered ? <Coverage scale={scale} width={width} /> : <span />}
            {!folded && <Tools />}
            {!folded && <Lanes scale={scale} width={width} />}
            {!folded && drawer && <CurveDrawer scale={scale} width={width} />}
        </section>
    );
}

/** Ctrl and the wheel show less or more of the shot about the pointer, Shift and the wheel go along it. */
function useZoom(section: React.RefObject<HTMLElement | null>, scale: Scale, frames: Frames | undefined): void {
    useEffect(() => {
        const element = section.current;
        if (!element || !frames) return;
        const turn = (e: WheelEvent) => {
            if (!e.ctrlKey && !e.metaKey && !e.shiftKey) return;
            e.preventDefault();
            const [from, to] = useUi.getState().stretch ?? [frames.first, frames.last];
            const way = Math.sign(e.deltaY || e.deltaX);
            const at = scale.frameAt(e.clientX - element.getBoundingClientRect().left - NAMES);
            useUi.getState().set({ stretch: e.shiftKey ? along(frames, [from, to], way * Math.max(1, Math.round((to - from) / 8))) : zoomed(frames, [from, to], at, way > 0 ? 1.25 : 0.8) });
        };
        element.addEventListener('wheel', turn, { passive: false });
        return () => element.removeEventListener('wheel', turn);
    }, [section, scale, frames]);
}
