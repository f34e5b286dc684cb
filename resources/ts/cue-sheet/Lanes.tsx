import type { Prop } from '../data/document';
import { useDocument, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { Contacts } from './Contacts';
import { KeyLane } from './KeyLane';
import { Playhead } from './Playhead';
import { Released, useReleasedShare } from './Released';
import { NAMES, ROW, type Scale } from './scale';

interface Lane {
    name: string;
    prop: Prop;
    kind: 'prop' | 'released' | 'keys';
}

/** The lanes of a prop: its own, with the contacts found; what is released; its keys. */
function lanesOf(prop: Prop, folded: boolean): Lane[] {
    const lanes: Lane[] = [{ name: prop.name, prop, kind: 'prop' }];
    if (folded) return lanes;
    if (prop.motion.kind === 'free') lanes.push({ name: 'released', prop, kind: 'released' });
    if ((prop.motion.keys?.length ?? 0) > 0 && prop.motion.kind !== 'fixed') lanes.push({ name: 'keys', prop, kind: 'keys' });
    return lanes;
}

export function Lanes({ scale, width }: { scale: Scale; width: number }) {
    const document = useDocument()!;
    const { frame, folded, set } = useUi();
    const lanes = visibleProps(document).flatMap((p) => lanesOf(p, folded.includes(p.id)));
    const share = useReleasedShare();
    const height = lanes.length * ROW;
    return (
        <div className="min-h-0 overflow-x-hidden overflow-y-auto">
            <div className="grid" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
                <div className="border-r border-line">
                    {lanes.map((l, i) => <LaneName key={i} lane={l} />)}
                    {lanes.length === 0 && <p className="p-3 text-soft">Props appear here.</p>}
                </div>
                <svg className="block touch-none" width={width} height={height} aria-label="Lanes" onPointerDown={(e) => e.target instanceof SVGRectElement && set({ keys: [] })}>
                    {lanes.map((l, i) => (
                        <g key={i} transform={`translate(0 ${i * ROW})`}>
                            <rect width={width} height={ROW} fill={l.kind === 'prop' ? 'var(--wash)' : 'transparent'} />
                            <line x2={width} y1={ROW - 0.5} y2={ROW - 0.5} stroke="var(--line)" opacity={0.6} />
                            {l.kind === 'released' && <Released prop={l.prop} curve={share[l.prop.id] ?? null} scale={scale} />}
                            {l.kind === 'keys' && <KeyLane prop={l.prop} scale={scale} />}
                            {l.kind === 'prop' && <Contacts prop={l.prop} x={scale.x} />}
                        </g>
                    ))}
                    <Playhead at={scale.x(frame)} height={height} />
                </svg>
            </div>
        </div>
    );
}

function LaneName({ lane }: { lane: Lane }) {
    const { chosen, folded, set } = useUi();
    const { prop, kind, name } = lane;
    if (kind !== 'prop') return <div className="h-[25px] truncate border-b border-line/60 pl-8 leading-[24px]">{name}</div>;
    const closed = folded.includes(prop.id);
    const more = lanesOf(prop, false).length > 1;
    return (
        <div className={`flex h-[25px] items-center border-b border-line/60 bg-[var(--wash)] leading-[24px] font-semibold ${prop.id === chosen ? 'border-l-[3px] border-l-ink pl-[1px]' : 'pl-1'}`}>
            {more ? (
                <button type="button" className="w-[22px] text-[11px] text-soft" aria-expanded={!closed} aria-label={closed ? `Unfold the lanes of ${name}` : `Fold the lanes of ${name}`} onClick={() => set({ folded: closed ? folded.filter((f) => f !== prop.id) : [...folded, prop.id] })}>{closed ? '▸' : '▾'}</button>
            ) : (
                <span className="w-[22px]" />
            )}
            <button type="button" className="min-w-0 flex-1 truncate text-left" onClick={() => set({ chosen: prop.id })}>{name}</button>
        </div>
    );
}
