import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api } from '../data/api';
import type { Prop, ShotDocument } from '../data/document';
import { currentMoments } from '../data/moments';
import { heldBy, holdBy, standsFor, type Pinned, type Rims } from '../data/pins';
import type { Triple } from '../data/pieces';
import { inScene, poseAt } from '../data/pose';
import { useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { useLens } from './lens';

/** Corners and edges of a prop in the picture: a press holds it there, another lets it go. */
export default function PinMarks() {
    useLens((s) => s.seen);
    const document = useDocument();
    const { chosen, stage, frame, pinning, set } = useUi();
    const shot = useShot((s) => s.shot?.id);
    const prop = document?.props.find((p) => p.id === chosen);
    const on = prop !== undefined && !prop.hidden && stage === 'motion' && pinning === prop.id;
    useEffect(() => {
        if (!on && pinning !== null) set({ pinning: null });
    }, [on, pinning, set]);
    const rims = useQuery({ queryKey: ['rims', shot, prop?.id, JSON.stringify([prop?.source, prop?.prepare])], queryFn: () => api.rims(shot!, prop!.id), enabled: on && shot !== undefined, staleTime: Infinity }).data;
    if (!on || !document || !prop || rims === undefined) return null;
    return <Marks document={document} prop={prop} rims={rims} frame={frame} />;
}

function Marks({ document, prop, rims, frame }: { document: ShotDocument; prop: Prop; rims: Rims; frame: number }) {
    const pose = poseAt(prop, frame, currentMoments(), document.frames.first);
    const { project } = useLens.getState();
    const at = (p: Triple) => project(inScene(pose, p));
    const { pinned } = heldBy(prop);
    const middles = rims.lines.map((l) => l.middle);
    const corners = new Set(pinned.corners.map((p) => standsFor(p, rims.corners)));
    const edges = new Set(pinned.edges.map((p) => standsFor(p, middles)));
    const toggle = (kind: keyof Pinned, places: readonly Triple[], k: number, isOn: boolean) => {
        const word = kind === 'corners' ? 'corner' : 'edge';
        const rest = pinned[kind].filter((p) => standsFor(p, places) !== k);
        holdBy(document, prop, `${isOn ? 'Let go' : 'Hold'} ${word} ${k + 1} of ${prop.name}`, { ...pinned, [kind]: isOn ? rest : [...rest, places[k]!.map((v) => Number(v.toPrecision(7))) as Triple] });
    };
    return (
        <>
            <svg className="pointer-events-none absolute inset-0 size-full overflow-visible">
                {rims.lines.map((line, k) => {
                    const d = `M${line.points.map((p) => at(p).map((v) => v.toFixed(1)).join(' ')).join('L')}${line.closed ? 'Z' : ''}`;
                    const isOn = edges.has(k);
                    return (
                        <g key={k} className="group" onPointerDown={(e) => { e.preventDefault(); e.stopPropagation(); toggle('edges', middles, k, isOn); }}>
                            <title>{isOn ? 'Held: press to let it go' : 'Press to hold this edge'}</title>
                            <path d={d} fill="none" stroke={isOn ? 'var(--chosen)' : 'var(--ink)'} strokeWidth={isOn ? 4 : 1.6} strokeDasharray={isOn ? undefined : '5 4'} className={isOn ? '' : 'opacity-70 group-hover:opacity-100'} />
                            <path d={d} fill="none" stroke="transparent" strokeWidth={14} className="pointer-events-auto cursor-pointer" />
                        </g>
                    );
                })}
            </svg>
            {rims.lines.map((line, k) => {
                const [x, y] = at(line.middle);
                return <Mark key={`e${k}`} x={x} y={y} on={edges.has(k)} name={`Edge ${k + 1}`} onPress={() => toggle('edges', middles, k, edges.has(k))} />;
            })}
            {rims.corners.map((p, k) => {
                const [x, y] = at(p);
                return <Mark key={`c${k}`} round x={x} y={y} on={corners.has(k)} name={`Corner ${k + 1}`} onPress={() => toggle('corners', rims.corners, k, corners.has(k))} />;
            })}
        </>
    );
}

function Mark({ x, y, on, name, round = false, onPress }: { x: number; y: number; on: boolean; name: string; round?: boolean; onPress: () => void }) {
    return (
        <button
            type="button"
            aria-label={`${name}: ${on ? 'held' : 'free'}`}
            aria-pressed={on}
            title={on ? 'Held: press to let it go' : 'Press to hold it here'}
            className={`absolute -translate-1/2 border-2 border-ink ${round ? 'size-[17px] rounded-full' : 'size-[11px] rotate-45'} ${on ? 'bg-chosen' : 'bg-paper/80 hover:bg-paper'}`}
            style={{ left: x, top: y }}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={onPress}
        />
    );
}
