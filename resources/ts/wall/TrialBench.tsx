import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api } from '../data/api';
import { said } from '../data/said';
import { FIGURES, ordered, type FigureName, type TrialView } from '../data/trials';
import { MOST, ON_A_SHEET, useWall, type WallPicture } from '../data/wall';
import { Button, Choice, Section, Select } from '../parts/controls';
import { BenchHead } from '../stages/BenchHead';
import { Differences } from './Differences';
import { figureIn } from './FigureRow';
import { HowBeside } from './HowBeside';

/** Milliseconds after which it is told again which variants are looked at. */
const TELLS = 8000;

/** Everything of a trial: its variants in a list, which of them are seen, and how. */
export function TrialBench({ trial, pictures }: { trial: TrialView; pictures: readonly WallPicture[] }) {
    const { shown, sheet } = useWall();
    const [by, setBy] = useState<FigureName | 'number'>('number');
    const [page, setPage] = useState(0);
    const rows = ordered(pictures, by);
    const at = sheet ? ON_A_SHEET : MOST;
    const pages = Math.ceil(rows.length / at);
    const showFrom = (p: number, all: readonly WallPicture[] = rows, size = at) => {
        setPage(p);
        useWall.getState().show(all.slice(p * size, (p + 1) * size).map((r) => r.key));
    };
    useLookedAt(trial, pictures, shown);
    const done = trial.variants.filter((v) => v.bake?.state === 'done').length;
    const waits = trial.variants.filter((v) => (v.problem === null && v.bake === null) || v.bake?.state === 'queued' || v.bake?.state === 'running').length;
    const failed = trial.variants.length - done - waits;
    return (
        <>
            <BenchHead help="trials" title={`${trial.variants.length} variants`} under={`${done} baked${waits > 0 ? `, ${waits} to come` : ''}${failed > 0 ? `, ${failed} not` : ''}`} />
            <Section title="Seen">
                <Choice<'wall' | 'sheet'>
                    label="Seen"
                    value={sheet ? 'sheet' : 'wall'}
                    onChange={(v) => {
                        useWall.setState({ sheet: v === 'sheet' });
                        showFrom(0, rows, v === 'sheet' ? ON_A_SHEET : MOST);
                    }}
                    options={[{ value: 'wall', label: 'In sync', hint: `Up to ${MOST}, one playhead` }, { value: 'sheet', label: 'Contact sheet', hint: 'Each at the frame that tells most' }]}
                />
                {pages > 1 && (
                    <div className="mt-2 flex items-center gap-2">
                        <Button disabled={page === 0} onClick={() => showFrom(page - 1)}>Before</Button>
                        <span className="figure text-[12px]">{page + 1} of {pages}</span>
                        <Button disabled={page >= pages - 1} onClick={() => showFrom(page + 1)}>Next</Button>
                    </div>
                )}
                <HowBeside />
            </Section>
            <Differences pictures={pictures} />
            <Section title="Variants" aside={`${shown.length} seen`}>
                <Select<FigureName | 'number'>
                    label="In order of"
                    value={by}
                    onChange={(v) => {
                        setBy(v);
                        const now = ordered(pictures, v);
                        if (shown.length === Math.min(at, rows.length)) showFrom(0, now);
                        else useWall.getState().show(now.filter((r) => shown.includes(r.key)).map((r) => r.key));
                    }}
                    options={[{ value: 'number', label: 'their values' }, ...FIGURES.map((f) => ({ value: f.name, label: f.label }))]}
                />
                <ul aria-label="Variants" className="mt-1">
                    {rows.map((r) => (
                        <li key={r.key} className="border-b border-dotted border-line">
                            <label className="flex items-center gap-2 py-1">
                                <input
                                    type="checkbox"
                                    checked={shown.includes(r.key)}
                                    disabled={!shown.includes(r.key) && shown.length >= at}
                                    onChange={(e) => useWall.getState().show(rows.filter((o) => (o.key === r.key ? e.target.checked : shown.includes(o.key))).map((o) => o.key))}
                                    className="size-4 shrink-0 accent-[var(--ink)]"
                                />
                                <span className="min-w-0 flex-1 truncate" title={r.words}>{r.short}</span>
                                <span className={`figure shrink-0 text-[11px] ${r.problem !== null ? 'text-wrong' : 'text-soft'}`}>{stateOf(r, by)}</span>
                            </label>
                        </li>
                    ))}
                </ul>
            </Section>
            <Actions trial={trial} waits={waits} failed={failed} />
        </>
    );
}

function stateOf(picture: WallPicture, by: FigureName | 'number'): string {
    const { bake, problem } = picture;
    if (problem !== null) return '✕ not baked';
    if (bake === null) return '◔';
    if (bake.outcome !== null) return by === 'number' ? '●' : figureIn(bake.outcome, by);
    if (bake.state === 'cancelled') return '◐ called off';
    return `◔ ${Math.round((100 * bake.framesDone) / (bake.last - bake.first + 1))} %`;
}

/** What is looked at is baked first. */
function useLookedAt(trial: TrialView, pictures: readonly WallPicture[], shown: readonly string[]): void {
    const numbers = pictures.flatMap((p, k) => (shown.includes(p.key) && p.bake?.state !== 'done' ? [trial.variants[k]!.number] : []));
    const key = numbers.join();
    useEffect(() => {
        if (key === '') return;
        const tell = () => void api.lookAt(trial.id, key.split(',').map(Number)).catch(said);
        tell();
        const again = setInterval(tell, TELLS);
        return () => clearInterval(again);
    }, [trial.id, key]);
}

function Actions({ trial, waits, failed }: { trial: TrialView; waits: number; failed: number }) {
    const client = useQueryClient();
    const go = useNavigate();
    const { id } = useParams();
    const does = (work: (trial: string) => Promise<unknown>) => async () => {
        try {
            await work(trial.id);
            await client.invalidateQueries({ queryKey: ['trial', trial.id] });
        } catch (e) {
            said(e);
        }
    };
    return (
        <Section title="This trial">
            <div className="flex flex-wrap gap-2">
                {waits > 0 && <Button onClick={() => void does(api.callOffTrial)()}>Call off</Button>}
                {failed > 0 && <Button onClick={() => void does(api.goOnWithTrial)()}>Go on</Button>}
                <Button onClick={() => void does(async (t) => { await api.removeTrial(t); await go(`/shots/${id}`); })()} title="Its bakes go a day later; the shot stays as it is">Remove</Button>
            </div>
        </Section>
    );
}
