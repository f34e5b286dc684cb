import { useEffect, useMemo, useRef, useState } from 'react';
import { useDocument } from '../data/shot';
import { rateInWords } from '../data/time';
import { useUi } from '../data/ui';
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
    const [first, last] = [frames?.first ?? 0, frames?.last ?? 1];
    const scale = useMemo((): Scale => {
        const room = width - 2 * PAD - 8;
        return {
            x: (frame) => PAD + ((frame - first) / (last - first)) * room,
            frameAt: (px) => Math.min(last, Math.max(first, Math.round(first + ((px - PAD) / room) * (last - first)))),
            framesIn: (px) => Math.round((px / room) * (last - first)),
        };
    }, [width, first, last]);
    if (!frames) return null;
    return (
        <section aria-label="Cue sheet" className={`grid h-full min-h-0 bg-paper ${drawer ? 'grid-rows-[33px_29px_minmax(50px,1fr)_minmax(120px,1.1fr)]' : 'grid-rows-[33px_29px_1fr]'}`}>
            <div className="grid" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                <div className="flex items-center gap-1 border-r border-b border-line pr-2 pl-3">
                    <button type="button" className="font-semibold" aria-expanded={!folded} onClick={onFold} title={`${rateInWords(frames.rate)}; ${folded ? 'unfold' : 'fold to the ruler'}`}>{folded ? 'Cues ▸' : 'Cues'}</button>
                    <span className="flex-1" />
                    <Transport frames={frames} />
                </div>
                <div ref={track} className="relative min-w-0 border-b border-line">
                    <Ruler scale={scale} frames={frames} />
                </div>
            </div>
            {!folded && <Tools />}
            {!folded && <Lanes scale={scale} width={width} />}
            {!folded && drawer && <CurveDrawer scale={scale} width={width} />}
        </section>
    );
}
