import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ProblemError, type Problem } from '../data/api';
import { useShot } from '../data/shot';
import { ago } from '../data/time';
import { valuesOf } from '../data/trials';
import { applyTheme, useUi } from '../data/ui';
import { MOST, useWall, type WallPicture } from '../data/wall';
import { plate, ThemeButton } from '../frame/ThemeButton';
import { Fault } from '../parts/controls';
import { Logo } from '../parts/Logo';
import { CompareBench } from './CompareBench';
import { PlayBar } from './PlayBar';
import { TrialBench } from './TrialBench';
import { Wall } from './Wall';

/** Milliseconds between questions how far a trial is, while it is not done. */
const EVERY = 700;

/** The variants of a trial as pictures in sync. */
export function TrialPage() {
    const { id = '', trial: of = '' } = useParams();
    const { data: trial, error } = useQuery({
        queryKey: ['trial', of],
        queryFn: () => api.trial(of),
        refetchInterval: (q) => (q.state.data?.variants.some((v) => (v.problem === null && v.bake === null) || v.bake?.state === 'queued' || v.bake?.state === 'running') ? EVERY : false),
    });
    const pictures = useMemo(() => trial?.variants.map((v): WallPicture => ({ key: `variant ${v.id}`, at: `variants/${v.id}`, words: v.words, short: valuesOf(trial.axes, v.number), problem: v.problem ?? (v.bake?.state === 'failed' ? v.bake.problem : null), bake: v.bake })) ?? null, [trial]);
    return (
        <Page shot={id} name={trial === undefined ? 'Trial' : `Trial: ${trial.name.charAt(0).toLowerCase()}${trial.name.slice(1)}`} pictures={pictures} problem={error instanceof ProblemError ? error.problem : null} first={pictures?.slice(0, MOST) ?? []}>
            {trial && pictures && <TrialBench trial={trial} pictures={pictures} />}
        </Page>
    );
}

/** Bakes of a shot beside each other. */
export function ComparePage() {
    const { id = '' } = useParams();
    const { data: kept, error } = useQuery({ queryKey: ['kept bakes', id], queryFn: () => api.keptBakes(id) });
    const pictures = useMemo(() => kept?.map((k): WallPicture => ({ key: `bake ${k.bake.id}`, at: `bakes/${k.bake.id}`, words: `${k.words} · ${k.latest ? 'the last' : ago(k.at)}`, short: k.words, problem: k.bake.problem, bake: k.bake })) ?? null, [kept]);
    return (
        <Page shot={id} name="Bakes compared" pictures={pictures} problem={error instanceof ProblemError ? error.problem : null} first={pictures?.slice(0, 2).reverse() ?? []}>
            {pictures && <CompareBench pictures={pictures} />}
        </Page>
    );
}

/** @param first what is shown at first */
function Page({ shot: id, name, pictures, problem, first, children }: { shot: string; name: string; pictures: readonly WallPicture[] | null; problem: Problem | null; first: readonly WallPicture[]; children: React.ReactNode }) {
    const shot = useShot((s) => (s.shot?.id === id ? s.shot : null));
    const theme = useUi((s) => s.theme);
    const [fault, setFault] = useState<Problem | null>(null);
    useEffect(() => applyTheme(theme), [theme]);
    useEffect(() => {
        useWall.getState().clear();
        const { frames } = useShot.getState().shot?.document ?? {};
        useUi.getState().set({ playing: false, frame: frames?.first ?? 0, range: null, show: null });
        useShot.getState().load(id).catch((e: unknown) => e instanceof ProblemError && setFault(e.problem));
        return () => useWall.getState().clear();
    }, [id]);
    useEffect(() => {
        if (pictures === null) return;
        useWall.getState().take(pictures);
        if (useWall.getState().shown.length === 0) useWall.getState().show(first.map((p) => p.key));
        // What is shown at first follows from the pictures.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [pictures]);
    const wrong = problem ?? fault;
    return (
        <div className="grid h-full grid-rows-[44px_1fr]">
            <header className="flex items-center gap-3 bg-bar px-3.5 text-[#f6f4ef]">
                <Link to="/" className="outline-offset-4"><Logo /></Link>
                <Link to="/" className="text-[#b9bdbb] hover:text-white">Yard ▸</Link>
                <Link to={`/shots/${id}`} className="max-w-[260px] truncate text-[#b9bdbb] hover:text-white">{shot?.document.name ?? 'Shot'} ▸</Link>
                <h1 className="min-w-0 truncate font-semibold">{name}</h1>
                <span className="flex-1" />
                <Link to={`/shots/${id}`} className={plate}>Back to the shot</Link>
                <ThemeButton />
            </header>
            {wrong !== null ? (
                <main className="grid place-items-center"><Fault message={wrong.message} remedy={wrong.remedy}><Link to={`/shots/${id}`} className="underline">Back to the shot</Link></Fault></main>
            ) : (
                <main className="grid min-h-0 grid-cols-[1fr_340px]">
                    <div className="grid min-h-0 min-w-0 grid-rows-[1fr_auto]">
                        <Wall shot={id} />
                        <PlayBar />
                    </div>
                    <section aria-label={name} className="overflow-y-auto border-l border-line bg-paper">{children}</section>
                </main>
            )}
        </div>
    );
}
