import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useUi } from '../data/ui';
import { partsOf, useWall, type WallPicture } from '../data/wall';
import { Fault } from '../parts/controls';
import { FigureRow } from './FigureRow';
import { useChoose } from './useChoose';
import { WallDirector } from './WallDirector';

/** Pictures side by side, with what is to be known of each below it. */
export function Wall({ shot }: { shot: string }) {
    const box = useRef<HTMLDivElement>(null);
    const canvas = useRef<HTMLCanvasElement>(null);
    const director = useRef<WallDirector | null>(null);
    const [broken, setBroken] = useState(false);
    const { shown, how, flipped, sheet, pictures } = useWall();
    useEffect(() => {
        const place = box.current!;
        try {
            director.current = new WallDirector(canvas.current!, () => [...place.querySelectorAll<HTMLElement>('[data-part]')], (pieces, ms, waits) => {
                place.dataset.pieces = String(pieces);
                place.dataset.drawMs = ms.toFixed(2);
                place.dataset.waits = waits ? 'yes' : '';
                place.dataset.frameDrawn = String(useUi.getState().frame);
            });
        } catch {
            setBroken(true);
            return;
        }
        const watch = new ResizeObserver(() => director.current?.resize());
        watch.observe(place);
        return () => {
            watch.disconnect();
            director.current?.dispose();
        };
    }, []);
    const parts = partsOf({ shown, how, flipped });
    useEffect(() => director.current?.resize(), [parts.length, sheet]);
    useHotkeys('x', () => useWall.setState({ flipped: true }), { keydown: true, keyup: false });
    useHotkeys('x', () => useWall.setState({ flipped: false }), { keydown: false, keyup: true });
    const columns = parts.length <= 1 ? 1 : parts.length <= 4 ? 2 : parts.length <= 9 ? 3 : 4;
    const of = (key: string) => pictures.find((p) => p.key === key);
    return (
        <div ref={box} id="wall" className="relative min-h-0 min-w-0 overflow-hidden bg-ground">
            <canvas ref={canvas} className="absolute inset-0 size-full touch-none" aria-label="All pictures: drag to orbit, right-drag to pan, scroll to zoom" />
            {broken && <p className="absolute inset-0 grid place-items-center p-8 text-center">This browser cannot draw in 3D (WebGL 2 is off or missing). The figures are beside it.</p>}
            <ol aria-label="Pictures" className="pointer-events-none absolute inset-0 grid gap-1.5 p-1.5" style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gridTemplateRows: `repeat(${Math.max(1, Math.ceil(parts.length / columns))}, minmax(0, 1fr))` }}>
                {parts.map((keys, k) => <Part key={shown[k] ?? keys.join()} shot={shot} pictures={keys.flatMap((key) => of(key) ?? [])} room={parts.length > 9 ? 'little' : parts.length > 4 ? 'some' : 'much'} />)}
            </ol>
            {shown.length === 0 && pictures.length > 0 && <p className="absolute inset-0 grid place-items-center text-soft">Choose what is to be seen in the list beside this.</p>}
        </div>
    );
}

/** One picture, or two in the same place. */
function Part({ shot, pictures, room }: { shot: string; pictures: readonly WallPicture[]; room: 'little' | 'some' | 'much' }) {
    const choose = useChoose(shot);
    const last = pictures.at(-1);
    const fault = useWall((s) => (last === undefined ? undefined : s.problems[last.key]));
    if (last === undefined) return null;
    const { bake } = last;
    const problem = last.problem ?? fault ?? null;
    const open = bake === null ? problem === null : bake.state === 'queued' || bake.state === 'running';
    return (
        <li className="flex min-h-0 flex-col border border-line">
            <div data-part={last.key} className="relative min-h-0 flex-1">
                {problem !== null && <div className="pointer-events-auto absolute inset-x-2 top-2"><Fault message={problem.message} remedy={problem.remedy} /></div>}
                {open && problem === null && (
                    <p role="status" className="figure absolute right-2 bottom-2 bg-paper/85 px-1.5 text-[11px]">{bake === null ? '◔ not begun' : bake.state === 'queued' && bake.framesDone === 0 ? '◔ waiting' : `◔ ${Math.max(0, bake.first + bake.framesDone - 1)} of ${bake.last}`}</p>
                )}
            </div>
            <div className="pointer-events-auto border-t border-line bg-paper px-2 py-1">
                <div className="flex items-center gap-2">
                    <p className="min-w-0 flex-1 truncate font-medium" title={pictures.map((p) => p.words).join(' through ')}>{pictures.map((p) => (room === 'much' ? p.words : p.short)).join(' through ')}</p>
                    {last.at.startsWith('variants/') && <button type="button" onClick={() => void choose(last)} title="Make it the shot, as one step that can be undone" className="quick shrink-0 border border-line bg-raised px-1.5 text-[12px] hover:border-ink" aria-label={`Choose ${last.words}`}>Choose</button>}
                </div>
                {room !== 'little' && <FigureRow outcome={bake?.outcome ?? null} small={room === 'some'} />}
            </div>
        </li>
    );
}
