import { useState } from 'react';
import type { BakeView, FrameFigures } from '../data/api';
import { staleFrom, useBake } from '../data/bake';
import type { Frames } from '../data/document';
import { pressMark } from '../data/cues';
import { cracksAt } from '../data/mortar';
import { bakeShot } from '../data/fall';
import { usePieces } from '../data/pieces';
import { useDocument, useShot, visibleProps } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Fact, Fault, Section } from '../parts/controls';
import { show } from '../data/quantity';
import { rateInWords } from '../data/time';
import { KeepFrame } from './KeepFrame';
import { BenchHead } from './BenchHead';
import { ClothFacts } from './ClothFacts';
import { estimate } from './estimate';
import { OverlapFacts } from './OverlapFacts';
import { SaveGlb } from './SaveGlb';
import { Trials } from './Trials';
import { Work } from './Work';

export function BakeStage() {
    const { bake, cancel, resume, figures, firstFrameAfter } = useBake();
    const document = useDocument();
    const byProp = usePieces((s) => s.byProp);
    const shot = useShot((s) => s.shot?.id);
    const busy = bake?.state === 'running' || bake?.state === 'queued';
    if (!document || !shot) return null;
    const pieces = visibleProps(document).reduce((n, p) => n + (byProp[p.id]?.pieces.length ?? 1), 0);
    const frames = document.frames.last - document.frames.first + 1;
    const upToDate = bake !== null && bake.state === 'done' && bake.plan.kept >= frames && staleFrom(bake) === null && bake.last >= document.frames.last;
    return (
        <>
            <BenchHead help="trials#baking" title="Bake" under="Computed in the background; watch it as it comes" />
            <Section title={busy ? 'Under way' : 'Next bake'}>
                {busy && bake ? (
                    <>
                        <div className="mb-1 flex justify-between">
                            <span role="status">{bake.stalled || bake.note || `Frame ${bake.first + bake.framesDone - 1} of ${bake.last}`}</span>
                            <span className="figure text-[12px]">{Math.round((100 * bake.framesDone) / (bake.last - bake.first + 1))} %</span>
                        </div>
                        <div className="mb-2.5 h-[8px] bg-line" role="progressbar" aria-label="Bake" aria-valuenow={bake.framesDone} aria-valuemax={bake.last - bake.first + 1}>
                            <div className="h-full bg-fine" style={{ width: `${(100 * bake.framesDone) / (bake.last - bake.first + 1)}%` }} />
                        </div>
                        <Button onClick={() => void cancel()}>Cancel</Button>
                    </>
                ) : (
                    <>
                        <NextBake bake={bake} frames={document.frames} pieces={pieces} />
                        <div className="flex gap-2">
                            <Button tone="loud" disabled={upToDate} onClick={() => void bakeShot()}>{bake === null ? 'Bake' : upToDate ? 'Baked' : bake.plan.kept >= frames ? 'Take up that bake' : bake.plan.kept > 0 ? `Bake from frame ${document.frames.first + bake.plan.kept}` : 'Bake again'}</Button>
                            {bake?.state === 'done' && <SaveGlb bake={bake.id} />}
                            {bake !== null && (bake.state === 'cancelled' || bake.state === 'failed') && staleFrom(bake) === null && <Button onClick={() => void resume()}>Resume at frame {bake.first + bake.framesDone}</Button>}
                        </div>
                    </>
                )}
                {bake !== null && bake.mended !== '' && <p className="mt-2 border-l-4 border-doubt bg-raised px-3 py-1.5" role="status">{bake.mended}</p>}
                {bake?.problem && <div className="mt-3"><Fault message={bake.problem.message} remedy={bake.problem.remedy} /></div>}
            </Section>
            <Section title="Frames">
                <div className="flex items-center justify-between">
                    <span className="figure text-[12px]">{document.frames.first} – {document.frames.last}, {rateInWords(document.frames.rate)}</span>
                    <Button onClick={() => useUi.getState().set({ stage: 'shot' })}>Change</Button>
                </div>
            </Section>
            <Trials />
            {bake !== null && bake.framesDone > 0 && <KeepFrame />}
            <ClothFacts />
            {bake && figures.length > 1 && (
                <Section title="Docket" aside={bake.fingerprint}>
                    <p className="mb-1.5 text-soft">The record of this bake: its figures over the frames, and what touched what.</p>
                    <Figures figures={figures} />
                    <Work figures={figures} />
                    <Fact name="pieces">{bake.pieces}</Fact>
                    <Fact name="frames">{bake.framesDone}{bake.kept > 0 && `, ${bake.kept} of them kept`}</Fact>
                    <Fact name="computing">{show(bake.seconds, 's')}</Fact>
                    <Fact name="a frame">{show(bake.seconds / Math.max(1, bake.framesDone - bake.kept), 's')}</Fact>
                    {firstFrameAfter !== null && <Fact name="first frame after">{show(firstFrameAfter / 1000, 's', 2)}</Fact>}
                    {figures.flatMap((f) => f.marks.map((m) => ({ ...m, frame: f.frame }))).map((m, i) => (
                        <Fact key={i} name={`frame\u00a0${m.frame}`}><button type="button" className="text-right whitespace-normal hover:underline" title="Press to go there; once there, press again for a cue that follows it" onClick={() => pressMark(m.frame, m)}>{nameOf(m.prop)} touches {nameOf(m.other)}, {show(m.speed, 'm/s', 2)}</button></Fact>
                    ))}
                    <Cracked figures={figures} />
                    <OverlapFacts bake={bake} />
                </Section>
            )}
        </>
    );
}

/** What a bake would keep and compute, and why. */
function NextBake({ bake, frames, pieces }: { bake: BakeView | null; frames: Frames; pieces: number }) {
    const all = frames.last - frames.first + 1;
    if (bake === null) return <p className="mb-2 text-soft">{all} frames, nothing baked yet.</p>;
    const { kept, what, seconds } = bake.plan;
    const from = frames.first + kept;
    const takes = seconds ?? (bake.framesDone > 0 && bake.seconds > 0 ? estimate(bake, all - kept, pieces) : null);
    if (kept >= all && staleFrom(bake) === null) return <p className="mb-2 text-soft">Up to date: nothing that moves has changed since the last bake.</p>;
    return (
        <div className="mb-2.5">
            <div className="mb-1.5 flex h-[8px] bg-line" aria-hidden>
                <div className="h-full bg-fine" style={{ width: `${(100 * kept) / all}%` }} />
            </div>
            <p>
                {kept >= all ? `All ${all} frames are there from an earlier bake; nothing is computed.` : kept > 0 ? `Frames ${frames.first}–${from - 1} stay, ${from}–${frames.last} are computed` : `All frames ${frames.first}–${frames.last} are computed`}
                {kept < all && (takes !== null ? `, about ${show(takes, 's', 2)}.` : '.')}
            </p>
            {what !== null && <p className="text-soft">Because of: {what}{kept > 0 && kept < all && `, from frame ${from} on`}.</p>}
        </div>
    );
}

/** Frames listed of those at which mortar broke. */
const LISTED = 12;

/** Which bonds of mortar broke when: a press goes there and picks the pieces they held. */
function Cracked({ figures }: { figures: readonly FrameFigures[] }) {
    const [all, setAll] = useState(false);
    const set = useUi((s) => s.set);
    const byProp = usePieces((s) => s.byProp);
    const rows = figures.flatMap((f) => Object.entries(f.cracks ?? {}).map(([prop, pairs]) => ({ frame: f.frame, prop, pairs })));
    if (rows.length === 0) return null;
    const name = (prop: string, piece: number) => byProp[prop]?.pieces[piece]?.name ?? `piece ${piece + 1}`;
    return (
        <>
            {(all ? rows : rows.slice(0, LISTED)).map(({ frame, prop, pairs }) => (
                <Fact key={`${frame} ${prop}`} name={`frame\u00a0${frame}`}>
                    <button type="button" className="text-right whitespace-normal hover:underline" title="Press to go there and pick what they held" onClick={() => set({ frame, chosen: prop, picked: [...new Set(pairs.flat())] })}>
                        {nameOf(prop)}: {pairs.length === 1 ? `the bond of ${name(prop, pairs[0]![0])} and ${name(prop, pairs[0]![1])} broke` : `${pairs.length} bonds broke, first that of ${name(prop, pairs[0]![0])} and ${name(prop, pairs[0]![1])}`}
                    </button>
                </Fact>
            ))}
            {rows.length > LISTED && <button type="button" className="text-soft hover:text-ink" onClick={() => setAll(!all)}>{all ? 'Fewer' : `${rows.length - LISTED} more frames`}</button>}
        </>
    );
}

function nameOf(id: string): string {
    return id === 'ground' ? 'the ground' : (useShot.getState().shot?.document.props.find((p) => p.id === id)?.name ?? id);
}

/** Curves that are there whatever moves; of the others those that tell something. */
const ALWAYS = 4;

const CURVES: { name: string; of: (f: FrameFigures) => number; show: (v: number) => string }[] = [
    { name: 'moving', of: (f) => f.moving, show: (v) => String(v) },
    { name: 'at rest', of: (f) => f.resting, show: (v) => String(v) },
    { name: 'energy', of: (f) => f.energy, show: (v) => show(v, 'J') },
    { name: 'deepest contact', of: (f) => f.overlap, show: (v) => show(v, 'm') },
    { name: 'bonds that break', of: cracksAt, show: (v) => String(v) },
    { name: 'drawn most', of: (f) => f.stretch ?? 0, show: (v) => `${(100 * v).toFixed(1)} %` },
    { name: 'volume', of: (f) => f.volume ?? 0, show: (v) => show(v, 'm³') },
    { name: 'twitching', of: (f) => f.twitching ?? 0, show: (v) => String(v) },
    { name: 'held back by a limit', of: (f) => f.limited ?? 0, show: (v) => String(v) },
    { name: 'pieces gone', of: (f) => f.gone ?? 0, show: (v) => String(v) },
    { name: 'grains', of: (f) => f.grains ?? 0, show: (v) => v.toLocaleString('en') },
];

function Figures({ figures }: { figures: FrameFigures[] }) {
    const frame = useUi((s) => s.frame);
    const at = figures.find((f) => f.frame === frame) ?? figures[figures.length - 1]!;
    const first = figures[0]!.frame;
    const span = Math.max(1, figures[figures.length - 1]!.frame - first);
    return (
        <div className="mb-2 space-y-1.5">
            {CURVES.filter((c, k) => k < ALWAYS || figures.some((f) => c.of(f) > 0)).map((c) => {
                const values = figures.map(c.of);
                const top = Math.max(1e-12, ...values);
                const points = figures.map((f, i) => `${(300 * (f.frame - first)) / span},${26 - (24 * values[i]!) / top}`).join(' ');
                return (
                    <div key={c.name}>
                        <div className="figure flex justify-between text-[11px]"><span className="text-soft">{c.name}</span><span>{c.show(c.of(at))}</span></div>
                        <svg viewBox="0 0 300 28" preserveAspectRatio="none" className="block h-[28px] w-full border-b border-line" role="img" aria-label={`${c.name} over the frames`}>
                            <polygon points={`0,27 ${points} 300,27`} fill="var(--fine)" opacity={0.28} />
                            <polyline points={points} fill="none" stroke="var(--fine)" vectorEffect="non-scaling-stroke" />
                            <line x1={(300 * (at.frame - first)) / span} x2={(300 * (at.frame - first)) / span} y1={0} y2={28} stroke="var(--ink)" vectorEffect="non-scaling-stroke" />
                        </svg>
                    </div>
                );
            })}
        </div>
    );
}
