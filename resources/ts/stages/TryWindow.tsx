import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ProblemError } from '../data/api';
import { show, showNumber } from '../data/quantity';
import { said } from '../data/said';
import { useUi } from '../data/ui';
import { useShot } from '../data/shot';
import type { ShotValue, Tried, TrialPlan } from '../data/trials';
import { Button, Fault, Window } from '../parts/controls';

/** Values tried with each other at most. */
const MOST = 3;

/** Milliseconds of rest after which it is worked out what a trial would take. */
const RESTS = 350;

/** Chooses what is tried as what, and says what that takes before it starts. */
export function TryWindow({ shot, onClose }: { shot: string; onClose: () => void }) {
    const revision = useShot((s) => s.shot?.revision);
    const { data } = useQuery({ queryKey: ['values', shot, revision], queryFn: () => api.values(shot) });
    const all = data?.filter((v) => !v.keyed);
    const [axes, setAxes] = useState<Tried[]>([]);
    const [begins, setBegins] = useState(false);
    const go = useNavigate();
    const { plan, problem } = usePlan(shot, axes);
    const begin = async () => {
        setBegins(true);
        try {
            const trial = await api.beginTrial(shot, axes);
            void go(`/shots/${shot}/trials/${trial.id}`);
        } catch (e) {
            setBegins(false);
            said(e);
        }
    };
    const set = (k: number, values: string) => setAxes(axes.map((a, j) => (j === k ? { ...a, values } : a)));
    return (
        <Window open onClose={onClose} title="Try values" wide>
            {all === undefined ? <p className="text-soft">…</p> : (
                <>
                    {axes.map((axis, k) => {
                        const what = all.find((t) => t.path === axis.path);
                        return what === undefined ? null : <AxisRow key={axis.path} what={what} values={axis.values} onChange={(v) => set(k, v)} onRemove={() => setAxes(axes.filter((_, j) => j !== k))} />;
                    })}
                    {axes.length < MOST && <Picker all={all.filter((t) => !axes.some((a) => a.path === t.path))} again={axes.length > 0} onPick={(t) => setAxes([...axes, { path: t.path, values: begun(t) }])} />}
                    {problem !== null && <div className="mt-3"><Fault message={problem.message} remedy={problem.remedy} /></div>}
                    {plan !== null && problem === null && axes.length > 0 && <PlanTable plan={plan} />}
                    <div className="mt-4 flex justify-end gap-2">
                        <Button onClick={onClose}>Leave it</Button>
                        <Button tone="loud" disabled={plan === null || problem !== null || axes.length === 0 || begins} onClick={() => void begin()}>{plan === null || axes.length === 0 ? 'Bake' : `Bake ${plan.count.toLocaleString('en')}`}</Button>
                    </div>
                </>
            )}
        </Window>
    );
}

/** Something to begin with: what there is, and more of it. */
function begun(t: ShotValue): string {
    if (t.kind === 'choice') return Object.values(t.choices).slice(0, 9).join(', ');
    if (t.kind === 'pattern') return t.choices[String(t.now)] ?? '';
    const now = Number(t.now ?? t.least) / t.times;
    if (t.label === 'Seed') return '1–6';
    const fits = (v: number) => v * t.times >= t.least && v * t.times <= t.most && (t.kind !== 'whole' || Number.isInteger(v));
    const tried = now === 0 ? [0, 1] : [0.5, 1, 2].map((f) => (t.kind === 'whole' ? Math.round(now * f) : Number((now * f).toPrecision(6)))).filter(fits);
    return tried.map((v) => showNumber(v, 6)).join(', ');
}

function usePlan(shot: string, axes: readonly Tried[]): { plan: TrialPlan | null; problem: { message: string; remedy: string } | null } {
    const [told, setTold] = useState<{ plan: TrialPlan | null; problem: { message: string; remedy: string } | null }>({ plan: null, problem: null });
    useEffect(() => {
        if (axes.length === 0) return setTold({ plan: null, problem: null });
        let on = true;
        const wait = setTimeout(async () => {
            try {
                const plan = await api.planTrial(shot, axes);
                if (on) setTold({ plan, problem: null });
            } catch (e) {
                if (!(e instanceof ProblemError)) throw e;
                if (on) setTold({ plan: null, problem: e.problem });
            }
        }, RESTS);
        return () => {
            on = false;
            clearTimeout(wait);
        };
    }, [shot, axes]);
    return told;
}

function AxisRow({ what, values, onChange, onRemove }: { what: ShotValue; values: string; onChange: (values: string) => void; onRemove: () => void }) {
    const name = `${what.label}${what.of === '' ? '' : ` of ${what.of}`}`;
    const choices = Object.entries(what.choices);
    const chosen = values.split(',').map((v) => v.trim());
    return (
        <div className="border-b border-line py-2">
            <div className="flex items-center gap-2">
                <span className="min-w-0 flex-1 truncate"><b className="font-semibold">{name}</b> <span className="text-soft">{what.part}</span></span>
                <span className="figure text-[11px] text-soft">{what.now === null ? '' : `now ${what.choices[String(what.now)] ?? `${showNumber(Number(what.now) / what.times)}${what.unit === '' ? '' : ` ${what.unit}`}`}`}</span>
                <button type="button" aria-label={`Do not try ${name}`} onClick={onRemove} className="p-1 text-soft hover:text-ink"><X size={14} /></button>
            </div>
            {choices.length === 0 ? (
                <label className="mt-1 flex items-center gap-2">
                    <span className="w-[60px] shrink-0">As</span>
                    <input aria-label={`Values of ${name}`} value={values} onChange={(e) => onChange(e.target.value)} onKeyDown={(e) => e.stopPropagation()} className="figure h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" placeholder="1, 2, 5 or 1–12 or 0.1–0.6 by 0.1" />
                    <span className="w-[40px] text-soft">{what.unit}</span>
                </label>
            ) : (
                <div role="group" aria-label={`Values of ${name}`} className="mt-1 flex flex-wrap gap-x-4">
                    {choices.map(([value, called]) => (
                        <label key={value} className="flex h-[26px] items-center gap-1.5">
                            <input type="checkbox" checked={chosen.includes(called)} onChange={(e) => onChange(choices.map(([, c]) => c).filter((c) => (c === called ? e.target.checked : chosen.includes(c))).join(', '))} className="size-4 accent-[var(--ink)]" />
                            {called}
                        </label>
                    ))}
                </div>
            )}
        </div>
    );
}

/** Finds a value by name. */
function Picker({ all, again, onPick }: { all: readonly ShotValue[]; again: boolean; onPick: (t: ShotValue) => void }) {
    const [search, setSearch] = useState('');
    const chosen = useUi((s) => s.chosen);
    const own = useShot((s) => s.shot?.document.props.find((p) => p.id === chosen)?.name);
    const words = search.trim().toLowerCase().split(/\s+/);
    // Of the chosen prop first, and what is most often tried before the rest.
    const rank = (t: ShotValue) => (t.of === own ? 0 : 4) + (t.label === 'Seed' ? 0 : t.part === 'break' ? 1 : t.part === 'motion' ? 2 : 3);
    const found = all.filter((t) => words.every((w) => `${t.label} ${t.of} ${t.part}`.toLowerCase().includes(w))).sort((a, b) => rank(a) - rank(b));
    return (
        <div className="pt-3">
            <label className="flex items-center gap-2">
                <span className="w-[60px] shrink-0">{again ? 'And also' : 'Try'}</span>
                <input autoFocus={!again} aria-label="Find a value to try" placeholder="seed, pieces, friction, gravity …" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => {
                    e.stopPropagation();
                    if (e.key === 'Enter' && found[0] !== undefined) onPick(found[0]);
                }} className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
            </label>
            <ul aria-label="Values that can be tried" className="mt-1 max-h-[172px] overflow-y-auto border border-line bg-raised">
                {found.map((t) => (
                    <li key={t.path}>
                        <button type="button" onClick={() => onPick(t)} className="flex w-full items-baseline gap-2 px-2 py-1 text-left hover:bg-[var(--wash)]">
                            <span className="min-w-0 flex-1 truncate">{t.label}{t.of !== '' && <span className="text-soft"> of {t.of}</span>}</span>
                            <span className="text-[12px] text-soft">{t.part}</span>
                        </button>
                    </li>
                ))}
                {found.length === 0 && <li className="px-2 py-1 text-soft">Nothing of that name. What is keyed is tried by its keys: set it to one value first.</li>}
            </ul>
        </div>
    );
}

/** What each variant takes, and all of them. */
function PlanTable({ plan }: { plan: TrialPlan }) {
    const bad = plan.variants.filter((v) => v.problem !== null).length;
    return (
        <div className="mt-3">
            <div className="max-h-[176px] overflow-y-auto border border-line">
                <table className="figure w-full text-[12px]">
                    <thead className="sticky top-0 bg-paper text-left text-soft">
                        <tr><th className="px-2 font-normal">variant</th><th className="px-2 text-right font-normal">pieces</th><th className="px-2 text-right font-normal">computing</th><th className="px-2 text-right font-normal">on the disk</th></tr>
                    </thead>
                    <tbody>
                        {plan.variants.map((v, k) => (
                            <tr key={k} className="border-t border-dotted border-line">
                                <td className="max-w-[280px] truncate px-2" title={v.words}>{v.words}</td>
                                {v.problem !== null ? <td colSpan={3} className="max-w-[260px] truncate px-2 text-wrong" title={v.problem}>✕ {v.problem}</td> : (
                                    <>
                                        <td className="px-2 text-right">{v.pieces.toLocaleString('en')}</td>
                                        <td className="px-2 text-right">{v.seconds === 0 ? 'baked already' : show(v.seconds, 's', 2)}</td>
                                        <td className="px-2 text-right">{v.seconds === 0 ? '–' : show(v.bytes, 'B', 2)}</td>
                                    </>
                                )}
                            </tr>
                        ))}
                    </tbody>
                </table>
            </div>
            <p role="status" className="mt-2">
                {plan.count.toLocaleString('en')} variants{plan.count > plan.variants.length ? ` (the first ${plan.variants.length} are listed)` : ''}: about <b>{show(plan.seconds, 's', 2)}</b> of computing, shared by all workers, and <b>{show(plan.bytes, 'B', 2)}</b> on the disk{plan.known ? '' : ', roughly: the shot has not been baked yet'}.
                {bad > 0 && <span className="text-doubt"> {bad} cannot be baked; the others can.</span>}
            </p>
        </div>
    );
}
