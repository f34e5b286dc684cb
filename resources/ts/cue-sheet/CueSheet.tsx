import { useEffect, useRef, useState } from 'react';
import { useDocument } from '../data/shot';
import { Lanes } from './Lanes';
import { Ruler } from './Ruler';
import { Transport } from './Transport';
import { NAMES, type Scale } from './scale';

const PAD = 14;

/** What happens when: the ruler, and for each prop its keys, releases and contacts. */
export function CueSheet({ folded, onFold }: { folded: boolean; onFold: () => void }) {
    const document = useDocument();
    const [width, setWidth] = useState(800);
    const track = useRef<HTMLDivElement>(null);
    useEffect(() => {
        const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
        if (track.current) watch.observe(track.current);
        return () => watch.disconnect();
    }, [document === null]);
    if (!document) return null;
    const { first, last } = document.frames;
    const room = width - 2 * PAD - 8;
    const scale: Scale = {
        x: (frame) => PAD + ((frame - first) / (last - first)) * room,
        frameAt: (px) => Math.min(last, Math.max(first, Math.round(first + ((px - PAD) / room) * (last - first)))),
        framesIn: (px) => Math.round((px / room) * (last - first)),
    };
    return (
        <section aria-label="Cue sheet" className="grid h-full min-h-0 grid-rows-[33px_1fr] bg-paper">
            <div className="grid" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                <div className="flex items-center gap-1 border-r border-b border-line pr-2 pl-3">
                    <button type="button" className="font-semibold" aria-expanded={!folded} onClick={onFold} title={folded ? 'Unfold' : 'Fold to the ruler'}>{folded ? 'Cues ▸' : 'Cues'}</button>
                    <span className="ml-1 flex-1 font-narrow text-[12px] text-soft">{document.frames.rate} fps</span>
                    <Transport />
                </div>
                <div ref={track} className="relative min-w-0 border-b border-line">
                    <Ruler scale={scale} frames={document.frames} />
                </div>
            </div>
            {!folded && <Lanes scale={scale} width={width} />}
        </section>
    );
}
