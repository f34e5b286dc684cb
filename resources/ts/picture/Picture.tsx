import { useEffect, useRef, useState } from 'react';
import { useBake } from '../data/bake';
import { useDocument } from '../data/shot';
import { showLength } from '../parts/number';
import { Director } from './Director';

const SCALE_STEPS = [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];

export default function Picture() {
    const canvas = useRef<HTMLCanvasElement>(null);
    const box = useRef<HTMLDivElement>(null);
    const [metre, setMetre] = useState(100);
    const [broken, setBroken] = useState(false);
    const [speed, setSpeed] = useState<number | null>(null);
    const [dragged, setDragged] = useState<{ words: string; x: number; y: number } | null>(null);
    const rate = useDocument()?.frames.rate ?? 24;
    useEffect(() => {
        let director: Director;
        try {
            director = new Director(canvas.current!, {
                drawn: (frame, m, ms) => {
                    box.current!.dataset.frameDrawn = String(frame);
                    box.current!.dataset.drawMs = ms.toFixed(2);
                    box.current!.dataset.pixelsPerMetre = m.toFixed(2);
                    box.current!.dataset.bakedFrames = String(useBake.getState().loaded);
                    setMetre(m);
                },
                speed: setSpeed,
                dragged: (words, x, y) => setDragged(words === null ? null : { words, x, y }),
            });
        } catch {
            setBroken(true);
            return;
        }
        const watch = new ResizeObserver(() => director.resize(box.current!.clientWidth, box.current!.clientHeight));
        watch.observe(box.current!);
        return () => {
            watch.disconnect();
            director.dispose();
        };
    }, []);
    const step = SCALE_STEPS.find((s) => s * metre > 64) ?? 50;
    return (
        <div ref={box} id="picture" className="absolute inset-0">
            <canvas ref={canvas} className="block size-full touch-none" aria-label="The stage: drag to orbit, right-drag to pan, scroll to zoom, click to choose" />
            {broken && <p className="absolute inset-0 grid place-items-center p-8 text-center">This browser cannot draw in 3D (WebGL 2 is off or missing). Everything else works; turn on hardware acceleration to see the stage.</p>}
            {dragged && <output className="figure pointer-events-none absolute -translate-x-1/2 border border-ink bg-paper px-2 py-0.5 text-[12px] whitespace-pre" style={{ left: dragged.x, top: Math.max(60, dragged.y - 110) }}>{dragged.words}</output>}
            <div className="figure pointer-events-none absolute right-3 bottom-3 flex items-end gap-4 text-right text-[11px]" aria-hidden>
                {speed !== null && <span data-speed={speed} className={speed < 0.9 * rate ? 'text-doubt' : ''}>{Math.min(speed, rate)} of {rate} fps</span>}
                <span>
                    {showLength(step)}
                    <span className="mt-0.5 block h-[6px] border-x-2 border-b-2 border-ink" style={{ width: step * metre }} />
                </span>
            </div>
        </div>
    );
}
