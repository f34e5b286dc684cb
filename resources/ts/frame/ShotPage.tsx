import { lazy, Suspense, useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { CueSheet } from '../cue-sheet/CueSheet';
import { ProblemError, type Problem } from '../data/api';
import { pokeBake, useBake } from '../data/bake';
import { usePieces } from '../data/pieces';
import { useDocument, useShot, visibleProps } from '../data/shot';
import { applyTheme, useUi } from '../data/ui';
import { Fault } from '../parts/controls';
import { BakeStage } from '../stages/BakeStage';
import { BreakStage } from '../stages/BreakStage';
import { HandOffStage } from '../stages/HandOffStage';
import { MotionStage } from '../stages/MotionStage';
import { PropsStage } from '../stages/PropsStage';
import { Bar } from './Bar';
import { DropMesh } from './DropMesh';
import { Find } from './Find';
import { KeysWindow } from './KeysWindow';
import { PropStrip } from './PropStrip';
import { Spine, STAGES } from './Spine';
import { ViewControls } from './ViewControls';
import { useKeys } from './useKeys';
import { keepPicture } from './keepPicture';

const Picture = lazy(() => import('../picture/Picture'));

export function ShotPage() {
    const { id = '' } = useParams();
    const [problem, setProblem] = useState<Problem | null>(null);
    const document = useDocument();
    const loaded = useShot((s) => s.shot?.id === id);
    const theme = useUi((s) => s.theme);
    useEffect(() => applyTheme(theme), [theme]);
    useEffect(() => {
        usePieces.getState().clear();
        useUi.getState().set({ chosen: null, frame: 0, playing: false, lit: [], picked: [], spread: 0 });
        useShot.getState().load(id).catch((e: unknown) => e instanceof ProblemError && setProblem(e.problem));
        const stop = useBake.getState().watch(id);
        return () => {
            keepPicture(id);
            stop();
        };
    }, [id]);
    useFollow(id);
    const baked = useBake((s) => s.bake?.state === 'done' && s.loaded > 0);
    useEffect(() => {
        if (!baked) return;
        const timer = setTimeout(() => keepPicture(id), 1500);
        return () => clearTimeout(timer);
    }, [id, baked]);
    if (problem !== null) {
        return (
            <main className="grid h-full place-items-center">
                <Fault message={problem.message} remedy={problem.remedy}>
                    <Link to="/" className="underline">Back to the yard</Link>
                </Fault>
            </main>
        );
    }
    return (
        <div className="grid h-full grid-rows-[44px_1fr]">
            <Bar />
            {loaded && document ? <Frame /> : <p className="grid place-items-center text-soft">Opening the shot…</p>}
        </div>
    );
}

function Frame() {
    const stage = useUi((s) => s.stage);
    const [help, setHelp] = useState(false);
    useKeys();
    useHotkeys('shift+slash', () => setHelp(true));
    const Bench = { props: PropsStage, break: BreakStage, weights: PropsStage, motion: MotionStage, bake: BakeStage, 'hand-off': HandOffStage }[stage];
    return (
        <div className="grid min-h-0 grid-cols-[72px_1fr] overflow-hidden">
            <Spine />
            <div className="grid min-h-0 min-w-0 grid-rows-[1fr_auto]">
                <div className="grid min-h-0 min-w-0 grid-cols-[1fr_340px]">
                    <DropMesh>
                        <Suspense fallback={<p className="grid h-full place-items-center text-soft">Setting the stage…</p>}>
                            <Picture />
                        </Suspense>
                        <PropStrip />
                        <ViewControls />
                    </DropMesh>
                    <aside aria-label={STAGES.find((s) => s.id === stage)!.label} className="min-h-0 overflow-y-auto border-l border-line bg-paper">
                        <Bench />
                    </aside>
                </div>
                <CueSheet />
            </div>
            <Find />
            <KeysWindow open={help} onClose={() => setHelp(false)} />
        </div>
    );
}

/** Asks for new pieces whenever something they depend on has been saved. */
function useFollow(id: string): void {
    const shot = useShot((s) => (s.shot?.id === id ? s.shot : null));
    const revision = shot?.revision;
    useEffect(() => {
        if (shot === null) return;
        const props = visibleProps(shot.document);
        const { chosen, set } = useUi.getState();
        if (chosen === null || !shot.document.props.some((p) => p.id === chosen)) set({ chosen: props[0]?.id ?? null, stage: props.length === 0 ? 'props' : useUi.getState().stage });
        for (const prop of props) void usePieces.getState().refresh(id, prop.id);
        pokeBake();
        // Only a saved revision counts; the optimistic document in between does not.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [id, revision]);
}
