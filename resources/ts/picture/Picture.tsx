import { useEffect, useRef, useState } from 'react';
import { useBake } from '../data/bake';
import { perSecond } from '../data/time';
import { useDocument, useShot } from '../data/shot';
import type { Box } from '../data/pickPieces';
import { waitingFor } from '../data/waiting';
import { show } from '../data/quantity';
import { Director } from './Director';
import type { Covered, Rect } from './Stagecraft';
import { drawingAsked } from './drawingAsked';

/** Pixels left between what lies over the picture and what is framed. */
const CLEARANCE = 8;

export default function Picture() {
    const canvas = useRef<HTMLCanvasElement>(null);
    const box = useRef<HTMLDivElement>(null);
    const [scale, setScale] = useState({ metre: 100, step: 1 });
    const [broken, setBroken] = useState(false);
    const [speed, setSpeed] = useState<number | null>(null);
    const [boxed, setBoxed] = useState<Box | null>(null);
    const [waits, setWaits] = useState<string[]>([]);
    const [through, setThrough] = useState<Rect | null>(null);
    const [dragged, setDragged] = useState<{ words: string; x: number; y: number } | null>(null);
    const frames = useDocument()?.frames;
    const rate = frames ? Number(perSecond(frames).toFixed(3)) : 24;
    useEffect(() => {
        let director: Director;
        const place = box.current!;
        try {
            director = new Director(canvas.current!, drawingAsked(), {
                outdated: () => (place.dataset.waits = 'the drawing'),
                drawn: (frame, metre, step, pieces, ms) => {
                    place.dataset.frameDrawn = String(frame);
                    place.dataset.drawMs = ms.toFixed(2);
                    place.dataset.pixelsPerMetre = metre.toPrecision(6);
                    place.dataset.pieces = String(pieces);
                    place.dataset.bakedFrames = String(useBake.getState().loaded);
                    place.dataset.revision = String(useShot.getState().shot?.revision ?? '');
                    const waits = waitingFor();
                    place.dataset.waits = waits.join(', ');
                    setWaits((was) => (was.join() === waits.join() ? was : waits));
                    setScale((was) => (was.metre === metre && was.step === step ? was : { metre, step }));
                },
                through: (rect) => setThrough((was) => (JSON.stringify(was) === JSON.stringify(rect) ? was : rect)),
                speed: setSpeed,
                boxed: setBoxed,
                dragged: (words, x, y) => setDragged(words === null ? null : { words, x, y }),
            });
        } catch {
            setBroken(true);
            return;
        }
        const fit = () => director.resize(place.clientWidth, place.clientHeight, coveredIn(place));
        const watch = new ResizeObserver(fit);
        watch.observe(place);
        for (const over of place.parentElement!.querySelectorAll('[data-over]')) watch.observe(over);
        return () => {
            watch.disconnect();
            director.dispose();
        };
    }, []);
    return (
        <div ref={box} id="picture" className="absolute inset-0">
            <canvas ref={canvas} className="block size-full touch-none" aria-label="The stage: drag to orbit, right-drag to pan, scroll to zoom, click to choose" />
            {through && <ShotFrame rect={through} />}
            {boxed && <div aria-hidden className="pointer-events-none absolute border border-dashed border-ink bg-[#c8f031]/15" style={{ left: boxed[0], top: boxed[1], width: boxed[2] - boxed[0], height: boxed[3] - boxed[1] }} />}
            {broken && <p className="absolute inset-0 grid place-items-center p-8 text-center">This browser cannot draw in 3D (WebGL 2 is off or missing). Everything else works; turn on hardware acceleration to see the stage.</p>}
            {dragged && <output className="figure pointer-events-none absolute -translate-x-1/2 border border-ink bg-paper px-2 py-0.5 text-[12px] whitespace-pre" style={{ left: dragged.x, top: Math.max(60, dragged.y - 110) }}>{dragged.words}</output>}
            <Waits for={waits} />
            <div className="figure pointer-events-none absolute right-3 bottom-3 flex flex-col items-end gap-1 empty:hidden bg-paper/80 px-1.5 py-1 text-right text-[11px]" aria-hidden>
                {speed !== null && <span data-speed={speed} className={speed < 0.9 * rate ? 'text-doubt' : ''}>{Math.min(speed, rate)} of {rate} fps</span>}
                {!through && <span data-scale={scale.step}>
                    {show(scale.step, 'm')}
                    <span className="mt-0.5 block h-[6px] border-x-2 border-b-2 border-ink" style={{ width: scale.step * scale.metre }} />
                </span>}
            </div>
        </div>
    );
}

/** Milliseconds after which it is said what the picture waits for. */
const PATIENCE = 350;

/** What of the picture is not yet as it will be. */
function Waits({ for: words }: { for: readonly string[] }) {
    const [late, setLate] = useState(false);
    const any = words.length > 0;
    useEffect(() => {
        setLate(false);
        const timer = any ? setTimeout(() => setLate(true), PATIENCE) : undefined;
        return () => clearTimeout(timer);
    }, [any]);
    if (!any || !late) return null;
    return <p role="status" className="pointer-events-none absolute right-3 bottom-[62px] border border-line bg-paper/90 px-2 py-0.5 text-[12px]" data-working="">◔ Working out {words[0]}{words.length > 1 && ` and ${words.length - 1} more`}…</p>;
}

/** What the shot's camera sees, with all else dimmed. */
function ShotFrame({ rect: [left, low, right, high] }: { rect: Rect }) {
    const share = (v: number) => `${50 * (v + 1)}%`;
    return (
        <div className="pointer-events-none absolute inset-0 overflow-hidden" data-through="">
            <div className="absolute border border-[#f6f4ef] shadow-[0_0_0_4000px_rgba(20,24,27,0.45)]" style={{ left: share(left), right: share(-right), bottom: share(low), top: share(-high) }} />
        </div>
    );
}

/** What of the picture lies under the strip of props and the buttons of the view. */
function coveredIn(picture: HTMLElement): Covered {
    const frame = picture.getBoundingClientRect();
    const covered: Covered = { top: 0, bottom: 0 };
    for (const over of picture.parentElement!.querySelectorAll<HTMLElement>('[data-over]')) {
        const r = over.getBoundingClientRect();
        if (over.dataset.over === 'top') covered.top = Math.max(covered.top, r.bottom - frame.top + CLEARANCE);
        else covered.bottom = Math.max(covered.bottom, frame.bottom - r.top + CLEARANCE);
    }
    return covered;
}
