import { Trash2 } from 'lucide-react';
import type { Drift, DriftEnd, Ease, Prop } from '../../data/document';
import { useEvaluated } from '../../data/evaluated';
import { pieceNumber } from '../../data/driftMotion';
import { defaultsOf } from '../../data/options';
import { usePieces } from '../../data/pieces';
import { fullAt } from '../../data/maps';
import { editProp, useShot } from '../../data/shot';
import { useUi } from '../../data/ui';
import { useCatalogue } from '../../data/useCatalogue';
import { AddMenu } from '../../parts/AddMenu';
import { Button, Choice, Fault, Section, Select, Toggle } from '../../parts/controls';
import { NumberField, TripleField } from '../../parts/NumberField';
import { Options } from '../Options';

const ORDERS: readonly { value: NonNullable<Drift['order']>; label: string }[] = [
    { value: 'none', label: 'all by their weight' },
    { value: 'near', label: 'nearest to its origin first' },
    { value: 'small', label: 'the small first' },
    { value: 'large', label: 'the large first' },
    { value: 'random', label: 'in any order' },
];

/** How the pieces of a prop drift by a weight map. */
export function DriftBench({ prop }: { prop: Prop }) {
    const catalogue = useCatalogue();
    const drift = prop.motion.drift;
    const problem = useEvaluated((s) => s.told?.props[prop.id]?.problem ?? null);
    const missing = useEvaluated((s) => s.told?.props[prop.id]?.keys.filter((k) => k === null).length ?? 0);
    const path = useUi((s) => s.path);
    if (!drift || !catalogue) return null;
    const maps = prop.weights ?? [];
    const set = (label: string, change: Partial<Drift>) => void editProp(prop.id, label, Object.fromEntries(Object.entries(change).map(([name, value]) => [`/motion/drift/${name}`, value])));
    return (
        <>
            <Section title="Drift" aside={missing > 0 && problem === null ? <span role="status">working out {missing}…</span> : undefined}>
                {problem !== null && <Fault message={problem.message} remedy={problem.remedy} />}
                <Select label="By the map" value={drift.map} options={[...(maps.some((m) => m.id === drift.map) ? [] : [{ value: drift.map, label: 'choose…' }]), ...maps.map((m) => ({ value: m.id, label: m.name }))]} onChange={(map) => set('Drift by another map', { map })} />
                <div className="flex min-h-[33px] items-center gap-2">
                    <span className="w-[108px] shrink-0">As it fills</span>
                    <Choice label="As the map fills" value={drift.assemble ? 'assemble' : 'apart'} options={[{ value: 'apart', label: 'they go', hint: 'From their places to where the moves take them' }, { value: 'assemble', label: 'they come', hint: 'From there to their places, exactly' }]} onChange={(v) => set(v === 'assemble' ? 'Assemble' : 'Drift apart', { assemble: v === 'assemble' })} />
                </div>
                <Select label="Ease" value={typeof drift.ease === 'string' ? drift.ease : drift.ease === undefined ? 'smooth' : 'own'} options={[...catalogue.eases.map((e) => ({ value: e.name as string, label: e.label })), ...(Array.isArray(drift.ease) ? [{ value: 'own', label: 'Own curve' }] : [])]} onChange={(ease) => ease !== 'own' && set('Ease of the drift', { ease: ease as Ease })} />
                <Select label="Order" value={drift.order ?? 'none'} options={ORDERS} onChange={(order) => set('Order of the drift', { order, ...(order !== 'none' && (drift.stagger ?? 0) === 0 ? { stagger: 1 } : {}) })} />
                {(drift.order ?? 'none') !== 'none' && <NumberField slider label="Stagger" hint="0: all at once; 1: the last begins as the first is done" least={0} most={4} value={drift.stagger ?? 0} onChange={(stagger) => set('Stagger of the drift', { stagger })} />}
                {drift.order === 'random' && <NumberField whole label="Seed" least={0} most={999999} value={drift.seed ?? 1} onChange={(seed) => set('Another order', { seed })} />}
                <div className="flex min-h-[33px] items-center gap-2">
                    <span className="w-[108px] shrink-0">What flies</span>
                    <Choice label="What flies" value={drift.by ?? 'pieces'} options={[{ value: 'pieces', label: 'pieces', hint: 'Each keeps its form' }, { value: 'faces', label: 'faces', hint: 'Its faces one by one' }]} onChange={(by) => set(by === 'faces' ? 'Face by face' : 'Piece by piece', by === 'faces' ? { by, handOver: false } : { by })} />
                </div>
                {drift.by === 'faces' && <NumberField slider label="Stretch" hint="How far a face is drawn out as it goes. 0: it keeps its form; 100 %: each corner goes by its own weight" unit="%" least={0} most={1} value={drift.stretch ?? 0} onChange={(stretch) => set('Stretch of the faces', { stretch })} />}
                {drift.by !== 'faces' && <Toggle label="Hand over to physics" hint="What its release lets go goes on as a rigid body, as fast as it came" value={drift.handOver ?? false} onChange={(on) => void handOver(prop, on)} />}
            </Section>
            <Section title="Moves" aside={<AddMenu label="move" entries={catalogue.drifts} onAdd={(move) => set(`Drift: ${catalogue.drifts[move]!.label.toLowerCase()}`, { moves: [...drift.moves, { move, values: defaultsOf(catalogue.drifts[move]) }] })} />}>
                {drift.moves.length === 0 && <p className="text-soft">Nothing moves them yet. Add an offset, a turn, or a path.</p>}
                {drift.moves.map((move, k) => {
                    const entry = catalogue.drifts[move.move];
                    return (
                        <div key={k} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
                            <div className="flex items-center gap-2">
                                <span className="font-medium">{entry?.label ?? move.move}</span>
                                <span className="min-w-0 flex-1 truncate text-soft">{entry?.meaning}</span>
                                <button type="button" aria-label={`Remove the move ${entry?.label ?? move.move}`} className="text-soft hover:text-ink" onClick={() => set('Remove a move', { moves: drift.moves.filter((_, i) => i !== k) })}><Trash2 size={13} aria-hidden /></button>
                            </div>
                            {move.move === 'path' && (move.values as { kind?: string }).kind === 'line' && <Button className="my-1 w-full" aria-pressed={path === k} onClick={() => useUi.getState().set({ path: path === k ? null : k })}>{path === k ? 'The path is drawn' : 'Draw it in the picture'}</Button>}
                            <Options prop={prop} path={`motion/drift/moves/${k}`} options={entry?.options ?? []} values={move.values as Record<string, unknown>} label={entry?.label ?? move.move} />
                        </div>
                    );
                })}
            </Section>
            <Ends prop={prop} ends={drift.ends ?? []} onChange={(label, ends) => set(label, { ends })} />
        </>
    );
}

/** What is handed over is let go, unless that is said already, at the frame at which its map is full. */
async function handOver(prop: Prop, on: boolean): Promise<void> {
    const changes: Record<string, unknown> = { '/motion/drift/handOver': on };
    const { shot } = useShot.getState();
    if (on && shot && prop.motion.release === undefined) changes['/motion/release'] = { on: 'frame', frame: await fullAt(shot.id, prop.motion.drift!.map, shot.document.frames) };
    await editProp(prop.id, 'Hand over to physics', changes);
}

/** Pieces placed by hand: where they fly to, or come from. */
function Ends({ prop, ends, onChange }: { prop: Prop; ends: readonly DriftEnd[]; onChange: (label: string, ends: DriftEnd[]) => void }) {
    const picked = useUi((s) => (s.chosen === prop.id ? s.picked : NONE));
    const set = useUi((s) => s.set);
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces);
    const names = picked.flatMap((k) => pieces?.[k]?.name ?? []);
    const fresh = names.filter((n) => !ends.some((e) => e.piece === n));
    const size = pieces === undefined ? 1 : Math.max(...[0, 1, 2].map((a) => Math.max(...pieces.map((p) => p.centre[a]!)) - Math.min(...pieces.map((p) => p.centre[a]!))), 0.1);
    const own = ends.filter((e) => names.includes(e.piece));
    const all = (label: string, change: (e: DriftEnd) => DriftEnd) => onChange(label, ends.map((e) => (names.includes(e.piece) ? change(e) : e)));
    return (
        <Section title="Placed by hand" aside={ends.length === 0 ? undefined : `${ends.length}`}>
            {ends.length === 0 && fresh.length === 0 && <p className="text-soft">Pick pieces in the picture, then drag where they fly to or come from.</p>}
            {fresh.length > 0 && <Button className="w-full" onClick={() => onChange(`Place ${fresh.length} by hand`, [...ends, ...fresh.map((piece): DriftEnd => ({ piece, by: [0, Number((0.5 * size).toPrecision(2)), 0], turn: [0, 0, 0], size: 1 }))])}>Place {fresh.length === 1 ? 'the picked piece' : `the ${fresh.length} picked`} by hand</Button>}
            {own.length > 0 && (
                <>
                    <TripleField label="Off its place" unit="m" step={0.01} value={own[0]!.by} onChange={(by) => all('Where picked pieces fly', (e) => ({ ...e, by }))} />
                    <TripleField label="Turned" unit="°" step={1} value={own[0]!.turn ?? [0, 0, 0]} onChange={(turn) => all('How picked pieces are turned', (e) => ({ ...e, turn }))} />
                    <NumberField label="Size" least={0} most={1000} step={0.05} value={own[0]!.size ?? 1} onChange={(s) => all('Size of picked pieces', (e) => ({ ...e, size: s }))} />
                    <Button onClick={() => onChange('Place them by the moves again', ends.filter((e) => !names.includes(e.piece)))}>By the moves again</Button>
                </>
            )}
            {ends.length > 0 && own.length === 0 && <Button onClick={() => set({ picked: ends.flatMap((e) => { const k = pieceNumber(prop.id, e.piece); return k < 0 ? [] : [k]; }) })}>Pick all {ends.length} that are</Button>}
        </Section>
    );
}

const NONE: readonly number[] = [];
