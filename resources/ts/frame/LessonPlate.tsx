import { Check, X } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { useBake } from '../data/bake';
import { useLesson } from '../data/lesson';
import { LESSONS, stepAt, type Lesson, type Step } from '../data/lessons';
import { currentMoments } from '../data/moments';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';
import { onBench, pointTo } from './pointing';
import { useBeginLesson } from './useBeginLesson';

/** Milliseconds for the eye to see what came of the step before. */
const BREATH = 600;

/** The lesson that is being done, beside the work: what to do next, until it has been done. */
export function LessonPlate() {
    const on = useLesson((s) => s.on);
    const { pathname } = useLocation();
    const lesson = LESSONS.find((l) => l.id === on?.id);
    const here = on !== null && pathname.startsWith(`/shots/${on.shot}`);
    useProgress(here ? lesson : undefined, on?.step ?? 0, pathname);
    if (!here || lesson === undefined) return null;
    const ended = on.step >= lesson.steps.length;
    return (
        <aside aria-label="Lesson" className={`corner fixed z-40 w-[286px] ${pathname === `/shots/${on.shot}` ? 'top-[150px] left-[84px]' : 'right-6 bottom-6'} border border-ink bg-paper p-3 shadow-[0_2px_0_var(--line)]`}>
            <div className="flex items-baseline gap-2">
                <h2 className="flex-1 font-semibold">{lesson.name}</h2>
                <span className="figure text-[11px] text-soft">{ended ? 'done' : `${on.step + 1} of ${lesson.steps.length}`}</span>
                <button type="button" aria-label="Leave the lesson" title="Leave the lesson" onClick={() => useLesson.getState().leave()} className="self-start text-soft hover:text-ink"><X size={14} /></button>
            </div>
            {ended ? <Ended lesson={lesson} /> : <Now lesson={lesson} step={on.step} />}
        </aside>
    );
}

function where(step: Step): HTMLElement | undefined {
    return step.at !== undefined ? (document.querySelector<HTMLElement>(step.at) ?? undefined) : step.named !== undefined ? onBench(step.named) : undefined;
}

function Now({ lesson, step: at }: { lesson: Lesson; step: number }) {
    const step = lesson.steps[at]!;
    useEffect(() => {
        const timer = setTimeout(() => pointTo(() => where(step), false), BREATH);
        return () => clearTimeout(timer);
    }, [step]);
    return (
        <>
            <p role="status" className="mt-1.5">{step.words}</p>
            <div className="mt-2.5 flex items-center gap-2">
                {(step.at ?? step.named) !== undefined && <Button onClick={() => pointTo(() => where(step))}>Show me where</Button>}
                <span className="flex-1" />
                <button type="button" className="text-soft hover:text-ink" onClick={() => useLesson.getState().goOn(at + 1)}>{step.done === undefined ? 'I have seen it' : 'Skip this step'}</button>
            </div>
        </>
    );
}

function Ended({ lesson }: { lesson: Lesson }) {
    const go = useNavigate();
    const done = useLesson((s) => s.done);
    const next = LESSONS.find((l) => !done.includes(l.id));
    const begin = useBeginLesson();
    return (
        <>
            <p role="status" className="mt-1.5 flex gap-1.5"><Check size={15} aria-hidden className="mt-0.5 shrink-0 text-fine" /> That was {lesson.name.toLowerCase()}. The shot is yours to go on with.</p>
            <div className="mt-2.5 flex items-center gap-2">
                {next && <Button tone="loud" onClick={() => void begin(next)}>Next: {next.name.toLowerCase()}</Button>}
                <span className="flex-1" />
                <button type="button" className="text-soft hover:text-ink" onClick={() => { useLesson.getState().leave(); void go('/'); }}>To the yard</button>
            </div>
        </>
    );
}

/** Goes on as soon as a step has been done. */
function useProgress(lesson: Lesson | undefined, at: number, path: string): void {
    const shot = useShot((s) => s.shot);
    const { stage, frame, playing, spread } = useUi();
    const bake = useBake((s) => s.bake);
    const on = useLesson((s) => s.on?.shot);
    const seen = useMemo(
        () => (shot === null || shot.id !== on ? null : { document: shot.document, moments: currentMoments(), undo: shot.undo, stage, frame, playing, spread, bake, path }),
        [shot, on, stage, frame, playing, spread, bake, path],
    );
    useEffect(() => {
        if (lesson !== undefined && seen !== null) useLesson.getState().goOn(stepAt(lesson, at, seen));
    }, [lesson, at, seen]);
}
