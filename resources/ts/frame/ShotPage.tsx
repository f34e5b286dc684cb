import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels';
import { Link, useParams } from 'react-router';
import { CueSheet } from '../cue-sheet/CueSheet';
import { ProblemError, type Problem } from '../data/api';
import { foresee, pokeBake, staleFrom, useBake, useBaked } from '../data/bake';
import { fillEvaluated, followEvaluated } from '../data/evaluated';
import { useNotes } from '../data/notes';
import { said } from '../data/said';
import { useContactShown } from '../stages/release/ContactFacts';
import { usePieces } from '../data/pieces';
import { useDocument, useShot, visibleProps } from '../data/shot';
import { applyTheme, useUi } from '../data/ui';
import { Fault } from '../parts/controls';
import { BakeStage } from '../stages/BakeStage';
import { BreakStage } from '../stages/BreakStage';
import { HandOffStage } from '../stages/HandOffStage';
import { MotionStage } from '../stages/MotionStage';
import { PropsStage } from '../stages/PropsStage';
import { ShotBench } from '../stages/ShotBench';
import { WeightsStage } from '../stages/WeightsStage';
import { Bar } from './Bar';
import { DropMesh } from './DropMesh';
import { Find } from './Find';
import { KeysWindow } from './KeysWindow';
import { QuestionWindow } from './QuestionWindow';
import { PropStrip } from './PropStrip';
import { Spine, STAGES } from './Spine';
import { ViewControls } from './ViewControls';
import { useKeys } from './useKeys';

const Picture = lazy(() => import('../picture/Picture'));
const OverPicture = lazy(() => import('../picture/OverPicture'));

export function ShotPage() {
    const { id = '' } = useParams();
    const [problem, setProblem] = useState<Problem | null>(null);
    const document = useDocument();
    const loaded = useShot((s) => s.shot?.id === id);
    const theme = useUi((s) => s.theme);
    useEffect(() => applyTheme(theme), [theme]);
    useEffect(() => {
        usePieces.getState().clear();
        useUi.getState().set({ chosen: null, frame: 0, playing: false, lit: [], picked: [], spread: 0, drawing: null, range: null, keys: [], folded: [], map: null, layer: 0, show: null, lining: null });
        useNotes.setState({ drawing: false, lines: [], shown: null });
        useShot.getState().load(id).catch((e: unknown) => e instanceof ProblemError && setProblem(e.problem));
        const stop = useBake.getState().watch(id);
        return stop;
    }, [id]);
    useFollow(id);
    usePlayOnOpening(id);
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

/** Pixels of the cue sheet when only its ruler shows. */
const CUES_FOLDED = 33;

/** Pixels of it with curves. */
const CURVES_TAKE = 350;

function keptSize(name: string, usual: number): number {
    return Number(localStorage.getItem(`size ${name}`)) || usual;
}

function keepSize(name: string, pixels: number): void {
    localStorage.setItem(`size ${name}`, String(Math.round(pixels)));
}

function Frame() {
    const stage = useUi((s) => s.stage);
    const [help, setHelp] = useState(false);
    const [folded, setFolded] = useState(false);
    const cues = usePanelRef();
    useRoomForCurves(cues);
    useKeys();
    useContactShown();
    useHotkeys('shift+slash', () => setHelp(true));
    useEffect(() => {
        const show = () => setHelp(true);
        window.addEventListener('yard-keys', show);
        return () => window.removeEventListener('yard-keys', show);
    }, []);
    const Bench = { props: PropsStage, break: BreakStage, weights: WeightsStage, motion: MotionStage, bake: BakeStage, 'hand-off': HandOffStage, shot: ShotBench }[stage];
    return (
        <div className="grid min-h-0 grid-cols-[72px_1fr] overflow-hidden">
            <Spine />
            <main className="h-full min-h-0 min-w-0">
                <Group orientation="vertical">
                    <Panel minSize={260}>
                        <Group orientation="horizontal">
                            <Panel minSize={360}>
                                <DropMesh>
                                    <Suspense fallback={<p className="grid h-full place-items-center text-soft">Setting the stage…</p>}>
                                        <Picture />
                                    </Suspense>
                                    <Suspense fallback={null}>
                                        <OverPicture />
                                    </Suspense>
                                    <PropStrip />
                                    <ViewControls />
                                </DropMesh>
                            </Panel>
                            <Separator className="w-px bg-line hover:bg-ink data-[separator=active]:bg-ink" aria-label="Width of the bench" />
                            <Panel defaultSize={keptSize('bench', 340)} minSize={300} maxSize={560} groupResizeBehavior="preserve-pixel-size" onResize={(size) => keepSize('bench', size.inPixels)}>
                                <section key={stage} aria-label={STAGES.find((s) => s.id === stage)?.label ?? 'The shot'} className="h-full overflow-y-auto bg-paper">
                                    <Bench />
                                </section>
                            </Panel>
                        </Group>
                    </Panel>
                    <Separator className="h-px bg-line hover:bg-ink data-[separator=active]:bg-ink" aria-label="Height of the cue sheet" />
                    <Panel
                        panelRef={cues}
                        defaultSize={keptSize('cues', 210)}
                        minSize={84}
                        collapsible
                        collapsedSize={CUES_FOLDED}
                        groupResizeBehavior="preserve-pixel-size"
                        onResize={(size) => {
                            setFolded(size.inPixels <= CUES_FOLDED + 1);
                            // With curves it takes more room for as long as they are there.
                            if (!useUi.getState().drawer) keepSize('cues', size.inPixels);
                        }}
                    >
                        <CueSheet folded={folded} onFold={() => (folded ? cues.current?.expand() : cues.current?.collapse())} />
                    </Panel>
                </Group>
            </main>
            <Find />
            <QuestionWindow />
            <KeysWindow open={help} onClose={() => setHelp(false)} />
        </div>
    );
}

/** Curves need more height than lanes; when they are put away it is given back. */
function useRoomForCurves(cues: ReturnType<typeof usePanelRef>): void {
    const drawer = useUi((s) => s.drawer);
    const before = useRef<number | null>(null);
    useEffect(() => {
        const now = cues.current?.getSize().inPixels ?? 0;
        if (drawer && now < CURVES_TAKE) {
            before.current = now;
            cues.current?.resize(CURVES_TAKE);
        } else if (!drawer && before.current !== null) {
            cues.current?.resize(before.current);
            before.current = null;
        }
    }, [drawer, cues]);
}

/** A shot that is baked shows what happens in it as soon as it is opened. */
function usePlayOnOpening(id: string): void {
    const opened = useRef<string | null>(null);
    const loaded = useShot((s) => s.shot?.id === id);
    const asked = useBake((s) => s.asked === id);
    useEffect(() => {
        if (!loaded || !asked || opened.current === id) return;
        opened.current = id;
        const { bake } = useBake.getState();
        if (bake?.state === 'done' && staleFrom(bake) === null) useUi.getState().set({ stage: 'bake', frame: bake.first, playing: true });
    }, [id, loaded, asked]);
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
        followEvaluated(id);
        if (shot.document.cues?.some((c) => c.at.on !== 'frame')) void foresee(id).catch(said);
        // Only a saved revision counts; the optimistic document in between does not.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [id, revision]);
    const found = useBake((s) => s.found);
    const baked = useBaked();
    const frame = useUi((s) => s.frame);
    useEffect(() => {
        if (shot !== null) followEvaluated(id);
        // Touches that were found meanwhile move what is tied to them.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [found, baked]);
    useEffect(() => void fillEvaluated(), [frame]);
}
