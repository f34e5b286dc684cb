import { useEffect, useRef, useState } from 'react';
import { APART, brushSize, dabOf, useBrush, type Stroke } from '../data/brush';
import type { Prop, WeightSource } from '../data/document';
import { shownMap, useMaps } from '../data/maps';
import type { Triple } from '../data/pieces';
import { editProp, useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { followPointer } from '../parts/drag';
import { useLens } from './lens';

/** Pixels an arrow key moves the brush, and with Shift. */
const STEP = { near: 6, far: 48 } as const;

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Over the picture while a brush, or a region, is worked on: presses paint the map, or pick faces, instead of choosing props. */
export default function BrushBoard() {
    const document = useDocument();
    const { stage, effect, chosen, map, layer } = useUi();
    const on = useBrush((s) => s.on);
    const shown = stage === 'weights' && !effect ? shownMap(document, chosen, map) : null;
    const at = shown === null ? -1 : Math.min(layer, shown.map.sources.length - 1);
    const source = shown?.map.sources[at];
    if (!on || shown === null || source === undefined || (source.source !== 'brush' && source.source !== 'region')) return null;
    return <Board key={`${shown.map.id} ${at}`} prop={shown.prop} source={source} path={`/weights/${shown.at}/sources/${at}/values`} />;
}

function Board({ prop, source, path }: { prop: Prop; source: WeightSource; path: string }) {
    useLens((s) => s.seen);
    const box = useRef<HTMLDivElement>(null);
    const [here, setHere] = useState<{ x: number; y: number } | null>(null);
    const brush = useBrush();
    const pieces = useMaps((s) => s.wholes[prop.id]);
    const size = brush.size ?? brushSize(pieces);
    const { foot, metre } = useLens.getState();
    const painting = source.source === 'brush';
    const values = source.values as { strokes?: Stroke[]; faces?: number[] };
    const stroke = useRef<Stroke | null>(null);
    const faces = useRef<Set<number> | null>(null);
    const dab = (x: number, y: number) => {
        const place = foot(prop.id, x, y);
        if (place === null) return;
        if (painting) {
            const s = (stroke.current ??= { how: brush.how, size: Number(size.toPrecision(4)), strength: brush.strength, mirror: brush.mirror, dabs: [] });
            const last = s.dabs.at(-1);
            if (last !== undefined && Math.hypot(...place.at.map((v, k) => v - last[k]!)) < APART * s.size) return;
            s.dabs.push(dabOf(place.at, place.normal));
            useLens.getState().paint(prop.id, s, s.dabs.at(-1)!);
        } else {
            const picked = (faces.current ??= new Set(values.faces ?? []));
            for (const f of useLens.getState().facesNear(prop.id, place.at as Triple, place.normal as Triple, size)) {
                if (brush.how === 'erase') picked.delete(f);
                else picked.add(f);
            }
            useLens.getState().mark(prop.id, picked);
        }
    };
    const finish = () => {
        if (stroke.current !== null && stroke.current.dabs.length > 0) void editProp(prop.id, { paint: 'Paint', erase: 'Erase', smooth: 'Smooth' }[stroke.current.how], { [`${path}/strokes`]: [...(values.strokes ?? []), stroke.current] });
        if (faces.current !== null) void editProp(prop.id, brush.how === 'erase' ? 'Take faces out of the region' : 'Pick faces', { [`${path}/faces`]: [...faces.current].sort((a, b) => a - b) });
        stroke.current = faces.current = null;
    };
    const within = (e: { clientX: number; clientY: number }) => {
        const r = box.current!.getBoundingClientRect();
        return { x: e.clientX - r.left, y: e.clientY - r.top };
    };
    // What lies beside the prop is still for orbiting.
    useEffect(() => {
        const picture = document.getElementById('picture');
        if (picture === null) return;
        const down = (e: PointerEvent) => {
            const p = within(e);
            if (e.button !== 0 || e.altKey || foot(prop.id, p.x, p.y) === null) return;
            e.preventDefault();
            e.stopPropagation();
            dab(p.x, p.y);
            followPointer((m) => {
                const q = within(m);
                setHere(q);
                dab(q.x, q.y);
            }, finish);
        };
        const move = (e: PointerEvent) => {
            const p = within(e);
            setHere(e.target instanceof HTMLCanvasElement && foot(prop.id, p.x, p.y) !== null ? p : null);
        };
        const leave = () => setHere(null);
        picture.addEventListener('pointerdown', down, true);
        picture.addEventListener('pointermove', move);
        picture.addEventListener('pointerleave', leave);
        return () => {
            picture.removeEventListener('pointerdown', down, true);
            picture.removeEventListener('pointermove', move);
            picture.removeEventListener('pointerleave', leave);
        };
    });
    const key = (e: React.KeyboardEvent) => {
        const way = ARROWS[e.key];
        const r = box.current!.getBoundingClientRect();
        const p = here ?? { x: r.width / 2, y: r.height / 2 };
        if (way !== undefined) {
            const by = e.shiftKey ? STEP.far : STEP.near;
            setHere({ x: p.x + by * way[0], y: p.y + by * way[1] });
        } else if (e.key === 'Enter' || e.key === ' ') {
            dab(p.x, p.y);
            finish();
        } else return;
        e.preventDefault();
        e.stopPropagation();
    };
    return (
        <div ref={box} className="pointer-events-none absolute inset-0">
            <div role="application" tabIndex={0} aria-label={painting ? 'Brush: arrow keys move it, Enter paints' : 'Picking faces: arrow keys move, Enter picks'} className="pointer-events-none absolute inset-0" onKeyDown={key} />
            {here !== null && <div className={`absolute -translate-1/2 rounded-full border-2 ${brush.how === 'erase' ? 'border-wrong' : 'border-ink'} shadow-[0_0_0_1px_#f6f4ef]`} style={{ left: here.x, top: here.y, width: 2 * size * metre, height: 2 * size * metre }} />}
        </div>
    );
}
