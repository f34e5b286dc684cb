import { useMemo, useRef, useState } from 'react';
import type { Prop, ShotDocument, Value } from '../data/document';
import { keyName } from '../data/keys';
import { axesOf, framesOf, lanesOf, type Lane } from '../data/lanes';
import { useMoments } from '../data/moments';
import { useDocument, visibleProps } from '../data/shot';
import type { Moments } from '../data/track';
import { useCatalogue } from '../data/useCatalogue';
import { useUi } from '../data/ui';
import { startsThere } from '../data/motion';
import { followPointer } from '../parts/drag';
import { Contacts } from './Contacts';
import { CueRow } from './CueRow';
import { KeyLane } from './KeyLane';
import { Playhead } from './Playhead';
import { Released } from './Released';
import { NAMES, ROW, type Scale } from './scale';

type Row =
    | { kind: 'prop'; prop: Prop; more: boolean }
    | { kind: 'world' }
    | { kind: 'released'; prop: Prop }
    | { kind: 'keys'; lane: Lane; of: string; axes: readonly Value[] };

/** Rows from top to bottom: each prop, what lets it go, and its values in time; last the world. */
function rowsOf(document: ShotDocument, lanes: readonly Lane[], folded: readonly string[], shown: { keyed: boolean; search: string }): Row[] {
    const wanted = shown.search.trim().toLowerCase();
    const keyed = (prop: string | null, of: string): Row[] =>
        lanes.flatMap((lane): Row[] => {
            const axes = lane.prop === prop ? axesOf(document, lane) : undefined;
            if (axes === undefined || (shown.keyed && !axes.some((v) => typeof v === 'object'))) return [];
            return wanted === '' || `${of} ${lane.label}`.toLowerCase().includes(wanted) ? [{ kind: 'keys', lane, of, axes }] : [];
        });
    const rows: Row[] = [];
    for (const prop of visibleProps(document)) {
        const more: Row[] = [...(startsThere(prop.motion) && wanted === '' ? [{ kind: 'released' as const, prop }] : []), ...keyed(prop.id, prop.name)];
        if (wanted !== '' && more.length === 0 && !prop.name.toLowerCase().includes(wanted)) continue;
        rows.push({ kind: 'prop', prop, more: more.length > 0 }, ...(folded.includes(prop.id) ? [] : more));
    }
    const world = keyed(null, 'Shot');
    return world.length > 0 ? [...rows, { kind: 'world' }, ...world] : rows;
}

/** Cues as they stand while one of them is dragged. */
function useShownMoments(): Moments {
    const moments = useMoments();
    const shift = useUi((s) => s.cueShift);
    return useMemo(() => (shift === null ? moments : { ...moments, frames: { ...moments.frames, [shift.id]: (moments.frames[shift.id] ?? 0) + shift.by } }), [moments, shift]);
}

export function Lanes({ scale, width }: { scale: Scale; width: number }) {
    const document = useDocument()!;
    const catalogue = useCatalogue();
    const folded = useUi((s) => s.folded);
    const shown = useUi((s) => s.lanes);
    const frame = useUi((s) => s.frame);
    const moments = useShownMoments();
    const rows = useMemo(() => (catalogue ? rowsOf(document, lanesOf(document, catalogue), folded, shown) : []), [document, catalogue, folded, shown]);
    const cued = (document.cues?.length ?? 0) + (document.notes?.length ?? 0) > 0;
    const height = rows.length * ROW;
    const cues = (document.cues ?? []).flatMap((c) => moments.frames[c.id] ?? []);
    return (
        <div className="grid min-h-0 grid-rows-[auto_1fr]">
            {cued ? (
                <div className="grid border-b border-line" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                    <div className="border-r border-line pl-3 leading-[24px] font-semibold">Cues and notes</div>
                    <CueRow document={document} moments={moments} scale={scale} />
                </div>
            ) : <span />}
            <div className="min-h-0 overflow-x-hidden overflow-y-auto">
                <div className="grid" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                    <div className="border-r border-line">
                        {rows.map((r, i) => <RowName key={i} row={r} />)}
                        {document.props.length === 0 && <p className="p-3 text-soft">Props appear here.</p>}
                        {document.props.length > 0 && rows.length === 0 && <p className="p-3 text-soft">Nothing of that name.</p>}
                    </div>
                    <BoxPicking rows={rows} moments={moments} scale={scale} width={width} height={height}>
                        {rows.map((r, i) => (
                            <g key={i} transform={`translate(0 ${i * ROW})`}>
                                <rect width={width} height={ROW} fill={r.kind === 'prop' || r.kind === 'world' ? 'var(--wash)' : 'transparent'} />
                                <line x2={width} y1={ROW - 0.5} y2={ROW - 0.5} stroke="var(--line)" opacity={0.6} />
                            </g>
                        ))}
                        {cues.map((at, i) => <line key={i} x1={scale.x(at)} x2={scale.x(at)} y1={0} y2={height} stroke="#b5422b" strokeDasharray="4 3" pointerEvents="none" />)}
                        <Playhead at={scale.x(frame)} height={height} />
                        {/* What is written and what can be taken hold of lies over the lines of the playhead and the cues. */}
                        {rows.map((r, i) => (
                            <g key={i} transform={`translate(0 ${i * ROW})`}>
                                {r.kind === 'released' && <Released prop={r.prop} moments={moments} scale={scale} />}
                                {r.kind === 'keys' && <KeyLane lane={r.lane} of={r.of} axes={r.axes} moments={moments} scale={scale} />}
                                {r.kind === 'prop' && <Contacts prop={r.prop} x={scale.x} />}
                            </g>
                        ))}
                    </BoxPicking>
                </div>
            </div>
        </div>
    );
}

/** Dragging over lanes picks all keys in the box; a click on nothing lets go of them. */
function BoxPicking({ rows, moments, scale, width, height, children }: { rows: readonly Row[]; moments: Moments; scale: Scale; width: number; height: number; children: React.ReactNode }) {
    const [box, setBox] = useState<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
    const svg = useRef<SVGSVGElement>(null);
    const down = (e: React.PointerEvent) => {
        const { left, top } = svg.current!.getBoundingClientRect();
        const { keys: before, set } = useUi.getState();
        const [x, y] = [e.clientX - left, e.clientY - top];
        let now = { x0: x, y0: y, x1: x, y1: y };
        followPointer(
            (m) => setBox((now = { x0: Math.min(x, m.clientX - left), y0: Math.min(y, m.clientY - top), x1: Math.max(x, m.clientX - left), y1: Math.max(y, m.clientY - top) })),
            (m) => {
                setBox(null);
                const inside = now.x1 - now.x0 < 3 && now.y1 - now.y0 < 3 ? [] : rows.flatMap((r, i) => {
                    if (r.kind !== 'keys' || (i + 1) * ROW - 6 < now.y0 || i * ROW + 6 > now.y1) return [];
                    return framesOf(r.axes, moments).filter((k) => scale.x(k.frame) >= now.x0 && scale.x(k.frame) <= now.x1).map((k) => keyName(r.lane.id, k.frame));
                });
                set({ keys: m.shiftKey ? [...new Set([...before, ...inside])] : inside });
            },
        );
    };
    return (
        <svg ref={svg} className="block touch-none" width={width} height={height} aria-label="Lanes" onPointerDown={down}>
            {children}
            {box && <rect x={box.x0} y={box.y0} width={box.x1 - box.x0} height={box.y1 - box.y0} fill="var(--ink)" fillOpacity={0.08} stroke="var(--ink)" strokeDasharray="3 2" pointerEvents="none" />}
        </svg>
    );
}

function RowName({ row }: { row: Row }) {
    const { chosen, folded, lane, set } = useUi();
    if (row.kind === 'world') return <div className="h-[25px] border-b border-line/60 bg-[var(--wash)] pl-[26px] leading-[24px] font-semibold">World and camera</div>;
    if (row.kind === 'released') return <div className="h-[25px] truncate border-b border-line/60 pl-8 leading-[24px]">released</div>;
    if (row.kind === 'keys') {
        const on = row.lane.id === lane;
        return (
            <button type="button" aria-pressed={on} aria-label={`Curve of ${row.of}: ${row.lane.label.toLowerCase()}`} title="Show its curve" className={`block h-[25px] w-full truncate border-b border-line/60 pl-8 text-left leading-[24px] ${on ? 'bg-chosen text-on-chosen' : ''}`} onClick={() => set({ lane: on ? null : row.lane.id, drawer: !on, ...(row.lane.prop === null ? {} : { chosen: row.lane.prop }) })}>
                {row.lane.label.toLowerCase()}
            </button>
        );
    }
    const { prop, more } = row;
    const closed = folded.includes(prop.id);
    return (
        <div className={`flex h-[25px] items-center border-b border-line/60 bg-[var(--wash)] leading-[24px] font-semibold ${prop.id === chosen ? 'border-l-[3px] border-l-ink pl-[1px]' : 'pl-1'}`}>
            {more ? (
                <button type="button" className="w-[22px] text-[11px] text-soft" aria-expanded={!closed} aria-label={closed ? `Unfold the lanes of ${prop.name}` : `Fold the lanes of ${prop.name}`} onClick={() => set({ folded: closed ? folded.filter((f) => f !== prop.id) : [...folded, prop.id] })}>{closed ? '▸' : '▾'}</button>
            ) : (
                <span className="w-[22px]" />
            )}
            <button type="button" className="min-w-0 flex-1 truncate text-left" onClick={() => set({ chosen: prop.id })}>{prop.name}</button>
        </div>
    );
}
